import { InjectionToken } from '@angular/core';
import type { EndpointId, Problem } from '@near-spoke/contracts';
import type { DBSchema, IDBPDatabase } from 'idb';

/** What was answered by an address, as it is known on this device. */
export interface Kept {
  person: string;
  address: string;
  answer: unknown;
  /** When, by this device's clock. */
  at: string;
}

/** What was done without the server, and is still to be sent. */
export interface Waiting {
  /** The order in which it was done: no clock has a say in it. */
  sequence: number;
  person: string;
  id: EndpointId;
  params: Record<string, string>;
  body: unknown;
  /** What is sent one after the other, and held up by what is refused: a link, or a job's round. */
  lane: string;
  /** The job of its link; of what was done by an earlier version it is not known. */
  jobId?: string;
  /** What was done, in words. */
  words: string;
  /** When, by this device's clock. */
  at: string;
  /** The verdict that this device gave, until the server's is there. */
  verdict?: string;
  /** Why the server did not take it. */
  refused?: Problem;
}

/** A job that is kept on this device, whole. */
export interface TakenJob {
  person: string;
  jobId: string;
  at: string;
  links: number;
}

/** A verdict of this device that the server did not share. */
export interface Unlike {
  person: string;
  words: string;
  here: string;
  server: string;
  lane: string;
}

interface Field extends DBSchema {
  kept: { key: [string, string]; value: Kept; indexes: { person: string } };
  waiting: { key: number; value: Waiting; indexes: { person: string } };
  jobs: { key: [string, string]; value: TakenJob };
  unlike: { key: number; value: Unlike };
}

const NAME = 'near-spoke-field';
const VERSION = 1;

/** What a projection and what waits are changed by, in one go. */
export interface Change {
  keep?: readonly Pick<Kept, 'address' | 'answer'>[];
  /** What is made of answers that are there, by whatever they are at that moment: several at once lose nothing of each other. */
  revise?: readonly { address: string; by: (answer: unknown) => unknown }[];
  wait?: Omit<Waiting, 'sequence' | 'person'>;
  /** What was taken by the server, or thrown away. */
  done?: number;
  unlike?: Omit<Unlike, 'person'>;
}

/** Kept on the device: what the server answered, what was done since, and what of it is still to be sent. */
export class FieldStore {
  private readonly database: Promise<IDBPDatabase<Field>>;

  constructor(name = NAME) {
    this.database = import('idb').then(({ openDB }) =>
      openDB<Field>(name, VERSION, {
        upgrade(database) {
          database
            .createObjectStore('kept', { keyPath: ['person', 'address'] })
            .createIndex('person', 'person');
          database
            .createObjectStore('waiting', { keyPath: 'sequence', autoIncrement: true })
            .createIndex('person', 'person');
          database.createObjectStore('jobs', { keyPath: ['person', 'jobId'] });
          database.createObjectStore('unlike', { autoIncrement: true });
        },
      }),
    );
  }

  async read(person: string, address: string): Promise<Kept | undefined> {
    return (await this.database).get('kept', [person, address]);
  }

  /**
   * All or nothing of it; a device without room keeps nothing, and says so by an error. Answers what waits from now on, with its
   * place among the others.
   */
  async change(
    person: string,
    { keep = [], revise = [], wait, done, unlike }: Change,
  ): Promise<Waiting | undefined> {
    const transaction = (await this.database).transaction(['kept', 'waiting', 'unlike'], 'readwrite', {
      // What was done has to outlive a device that is switched off; what is taken away too late is sent again, and kept once.
      durability: wait ? 'strict' : 'relaxed',
    });
    const at = new Date().toISOString();
    const kept = transaction.objectStore('kept');
    const steps: Promise<unknown>[] = [
      ...keep.map(({ address, answer }) => kept.put({ person, address, answer, at })),
      ...revise.map(async ({ address, by }) => {
        const known = await kept.get([person, address]);
        if (known) await kept.put({ ...known, answer: by(known.answer) });
      }),
    ];
    if (done !== undefined) steps.push(transaction.objectStore('waiting').delete(done));
    if (unlike) steps.push(transaction.objectStore('unlike').add({ ...unlike, person }));
    // The number is given by the database: the key is no field of it yet.
    const added = wait && transaction.objectStore('waiting').add({ ...wait, person } as Waiting);
    await Promise.all([...steps, added, transaction.done]);
    return wait && { ...wait, person, sequence: (await added) as number };
  }

  /** What waits, in the order in which it was done. */
  async waiting(person: string): Promise<Waiting[]> {
    return (await this.database).getAllFromIndex('waiting', 'person', person);
  }

  async refuse(one: Waiting, refused: Problem | undefined): Promise<void> {
    const { refused: _, ...rest } = one;
    await (await this.database).put('waiting', refused ? { ...rest, refused } : rest);
  }

  /** Another body in the place of what was refused: it is sent again. */
  async mend(one: Waiting, body: unknown): Promise<void> {
    const { refused: _, ...rest } = one;
    await (await this.database).put('waiting', { ...rest, body });
  }

  async jobs(person: string): Promise<TakenJob[]> {
    return (await (await this.database).getAll('jobs')).filter((job) => job.person === person);
  }

  async takeJob(job: TakenJob): Promise<void> {
    await (await this.database).put('jobs', job);
  }

  /** Forgets a job, and what was kept under these addresses. */
  async leaveJob(person: string, jobId: string, addresses: readonly string[]): Promise<void> {
    const transaction = (await this.database).transaction(['kept', 'jobs'], 'readwrite');
    await Promise.all([
      ...addresses.map((address) => transaction.objectStore('kept').delete([person, address])),
      transaction.objectStore('jobs').delete([person, jobId]),
      transaction.done,
    ]);
  }

  async unlike(person: string): Promise<{ key: number; one: Unlike }[]> {
    const transaction = (await this.database).transaction('unlike');
    const [keys, all] = await Promise.all([transaction.store.getAllKeys(), transaction.store.getAll()]);
    return all.map((one, n) => ({ key: keys[n] as number, one })).filter(({ one }) => one.person === person);
  }

  async unlikeRead(key: number): Promise<void> {
    await (await this.database).delete('unlike', key);
  }

  /** Somebody leaves this device: what was kept for reading goes, what is still to be sent stays. */
  async forget(person: string): Promise<void> {
    const transaction = (await this.database).transaction(['kept', 'jobs'], 'readwrite');
    const [kept, jobs] = await Promise.all([
      transaction.objectStore('kept').index('person').getAllKeys(person),
      transaction.objectStore('jobs').getAllKeys(),
    ]);
    await Promise.all([
      ...kept.map((key) => transaction.objectStore('kept').delete(key)),
      ...jobs.filter(([whose]) => whose === person).map((key) => transaction.objectStore('jobs').delete(key)),
      transaction.done,
    ]);
  }

  async close(): Promise<void> {
    (await this.database).close();
  }
}

export const FIELD_STORE = new InjectionToken<FieldStore>('field store', {
  providedIn: 'root',
  factory: () => new FieldStore(),
});
