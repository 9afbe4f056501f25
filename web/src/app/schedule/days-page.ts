import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import type { JobDays, JobSchedule, Schedule } from '@near-spoke/contracts';
import { clockWords, dayAfter, isDay, linkToDo, SKILLS, type DayPlan, type LinkToDo } from '@near-spoke/core';
import { Store } from '@ngrx/store';
import { Api } from '../api/api';
import { ProblemNote } from '../drawing/problem-note';
import { Header } from '../header';
import { jobStations } from '../jobs/job-stations';
import { JobEvents, jobsFeature } from '../jobs/jobs.state';
import { pulledLinks } from '../materials/pulled-links';
import { spoiltBy } from '../materials/spoilt';
import { ReelsStore } from '../reels/reels-store';
import { sessionFeature } from '../session/session.state';
import { Asking } from '../ui/asking';
import { saveFile } from '../ui/save-file';
import {
  dayWords,
  hoursWords,
  nextDay,
  somebody,
  unsaid,
  type PersonSaid,
  type WindowSaid,
} from './days-draft';
import { DayStrips } from './day-strips';
import { LOCAL_NOW } from './local-now';
import { PersonForm, type PersonAsked } from './person-form';
import { Scheduling, type DaysAnswer } from './scheduling';
import { WindowForm, type WindowAsked } from './window-form';

/** A job's work that is left, laid over days and people. */
@Component({
  selector: 'ns-days-page',
  imports: [
    RouterLink,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatProgressBarModule,
    DayStrips,
    ProblemNote,
  ],
  providers: [Scheduling],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './days-page.html',
  styleUrl: './days-page.scss',
})
export class DaysPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly dialog = inject(MatDialog);
  private readonly reels = inject(ReelsStore);
  private readonly scheduling = inject(Scheduling);
  readonly jobId = input.required<string>();

  private readonly jobs = this.store.selectSignal(jobsFeature.selectJobEntities);
  private readonly linksOf = this.store.selectSignal(jobsFeature.selectLinksOf);
  private readonly allLinks = this.store.selectSignal(jobsFeature.selectAllLinks);
  private readonly kit = this.store.selectSignal(jobsFeature.selectKit);
  private readonly failed = this.store.selectSignal(jobsFeature.selectProblem);
  private readonly worker = this.store.selectSignal(sessionFeature.selectMayWork);
  private readonly asking = new Asking();
  protected readonly problem = computed(() => this.asking.problem() ?? this.failed());
  protected readonly job = computed(() => this.jobs()[this.jobId()]);
  protected readonly mayWork = computed(() => this.worker() && this.job()?.closedAt === undefined);
  protected readonly links = computed(() => (this.linksOf() === this.jobId() ? this.allLinks() : null));
  private readonly spoils = rxResource({ stream: () => this.api.call('spoilCounts', {}) });

  /** What is known of the job's days, as it was read last. */
  private readonly known = signal<JobDays | null>(null);
  protected readonly said = computed((): Schedule | null => {
    const known = this.known();
    return known && (known.schedule ?? unsaid(known.crew));
  });
  protected readonly nobodySaid = computed(() => this.known()?.schedule === null);
  /** The first day: the one that was said, unless it is past; else the next of which nothing is over. */
  protected readonly begins = computed(() => {
    const { day, minute } = this.now;
    const said = this.said();
    if (!said) return day;
    if (said.begins !== null && said.begins >= day) return nextDay(said.begins, said.people);
    const begun = said.people.some(({ from }) => from < minute);
    return nextDay(begun ? dayAfter(day, 1) : day, said.people);
  });
  private readonly now = inject(LOCAL_NOW)();

  private readonly toDo = computed((): LinkToDo[] | null => {
    const [links, kit, known, spoils] = [this.links(), this.kit(), this.known(), this.spoils.value()];
    if (!links || !kit || !known || !spoils || !this.reels.loaded()) return null;
    const cables = new Map(kit.cables.map((cable) => [cable.id, cable]));
    const connectors = new Map(kit.connectors.map((connector) => [connector.id, connector]));
    const pulled = pulledLinks(links, this.reels.reels());
    return links.map(({ id, label, near, far, cableTypeId, stage }) =>
      linkToDo(
        {
          label,
          hub: near.hub,
          room: far.room,
          cable: cables.get(cableTypeId),
          near: { connector: connectors.get(near.connectorId), done: near.done },
          far: { connector: connectors.get(far.connectorId), done: far.done },
          pulled: pulled.has(id),
          proved: stage === 'proved' || stage === 'handed-over',
        },
        { times: known.times, spoilt: spoiltBy(spoils) },
      ),
    );
  });
  /** Where work is: the rooms at either end of links. */
  private readonly places = computed(() => [
    ...new Set((this.links() ?? []).flatMap(({ near, far }) => [near.hub, far.room])),
  ]);

  private readonly answer = signal<DaysAnswer | null>(null);
  protected readonly searched = this.scheduling.searched;
  protected readonly plan = computed((): DayPlan | null => {
    const answer = this.answer();
    return answer?.say === 'days' ? answer.plan : null;
  });
  protected readonly trouble = computed(() => {
    const answer = this.answer();
    if (this.said()?.people.length === 0) return 'Nobody is on the job yet: say who works on it.';
    return answer?.say === 'bad' ? answer.message : '';
  });
  protected readonly ends = computed(() => {
    const answer = this.answer();
    if (answer?.say !== 'days' || !answer.plan.ends) return null;
    const { ends, atLeast } = answer.plan;
    const late = answer.carefully;
    return {
      by: `${dayWords(ends.day)}, ${clockWords(ends.minute)}`,
      nine: late ? `${dayWords(late.day)}, ${clockWords(late.minute)}` : null,
      least: atLeast !== null && atLeast < ends.day ? dayWords(atLeast) : null,
    };
  });
  protected readonly paceWords = computed(() => {
    const known = this.known()?.times.reduce((sum, time) => sum + time.known, 0) ?? 0;
    return known === 0
      ? 'Ends take what their kit sheets say: nothing is known of the crew’s own pace yet.'
      : `Ends take what ${known} of the crew’s own took, where there are enough of their kind.`;
  });
  /** Somebody whose days alone are looked at. */
  protected readonly only = signal<string | null>(null);
  protected readonly lit = signal<string | null>(null);

  protected readonly hoursWords = hoursWords;
  protected skillWords = ({ skills }: PersonSaid): string => skills.map((skill) => SKILLS[skill]).join(', ');
  protected windowWords = (window: WindowSaid): string => {
    const { notBefore, notAfter } = window;
    const from = notBefore === null ? '' : `, from ${dayWords(notBefore)}`;
    return `${hoursWords(window)}${from}${notAfter === null ? '' : `, until ${dayWords(notAfter)}`}`;
  };

  constructor() {
    const header = inject(Header);
    effect(() => {
      const jobId = this.jobId();
      untracked(() => {
        this.store.dispatch(JobEvents.jobOpened({ jobId }));
        this.store.dispatch(JobEvents.kitNeeded());
        void this.reels.load();
        this.asking.ask(this.api.call('readSchedule', { params: { jobId } }), (known) =>
          this.known.set(known),
        );
      });
    });
    effect(() => {
      const job = this.job();
      if (job)
        header.show(
          [{ name: job.site, link: '/jobs' }, { name: job.title, link: ['/jobs', job.id] }, { name: 'Days' }],
          jobStations(job.id, this.links() ?? [], 'plan'),
        );
    });
    // What somebody else said meanwhile is what holds; what was refused is said again over it.
    effect(() => {
      const refused = this.asking.problem();
      if (refused?.status === 409 && refused.current)
        untracked(() =>
          this.known.update((known) => known && { ...known, ...(refused.current as JobSchedule) }),
        );
    });
    effect(() => {
      const [links, said, known, begins] = [this.toDo(), this.said(), this.known(), this.begins()];
      if (!links || !said || !known || said.people.length === 0) return;
      const asked = {
        begins,
        workers: said.people,
        access: said.access,
        walkMinutes: known.walkS / 60,
      };
      untracked(() =>
        this.scheduling.ask({ links, minutes: said.minutes, times: known.times, asked }, (answer) =>
          this.answer.set(answer),
        ),
      );
    });
  }

  /** Says it anew; what somebody else said meanwhile is shown instead, and nothing is written over. */
  private say(change: Partial<Schedule>): void {
    const [known, said] = [this.known(), this.said()];
    if (!known || !said) return;
    const take = (kept: JobSchedule): void => this.known.set({ ...known, ...kept });
    const body = { schedule: { ...said, ...change }, version: known.version };
    this.asking.ask(this.api.call('keepSchedule', { params: { jobId: this.jobId() }, body }), take);
  }

  protected sayBegins(day: string): void {
    if (day === '' || isDay(day)) this.say({ begins: day === '' ? null : day });
  }

  protected sayMinutes(which: keyof Schedule['minutes'], text: string): void {
    const minutes = Number(text.replace(',', '.'));
    const said = this.said();
    if (said && minutes > 0 && minutes <= 10_000)
      this.say({ minutes: { ...said.minutes, [which]: minutes } });
  }

  protected askPerson(person: PersonSaid | null): void {
    const { people = [] } = this.said() ?? {};
    const others = people.filter((one) => one !== person).map(({ name }) => name);
    const crew = this.known()?.crew.filter((name) => !others.includes(name)) ?? [];
    const data: PersonAsked = { person: person ?? somebody(''), isNew: person === null, crew, taken: others };
    this.dialog
      .open<PersonForm, PersonAsked, PersonSaid | null>(PersonForm, {
        data,
        width: '520px',
        maxWidth: '96vw',
      })
      .afterClosed()
      .subscribe((kept) => {
        if (kept !== undefined) this.say({ people: replaced(people, person, kept) });
      });
  }

  protected askWindow(window: WindowSaid | null): void {
    const { access = [] } = this.said() ?? {};
    const [place = ''] = this.places();
    const begun = { place, days: [1, 2, 3, 4, 5], from: 480, to: 990, notBefore: null, notAfter: null };
    const data: WindowAsked = { window: window ?? begun, isNew: window === null, places: this.places() };
    this.dialog
      .open<WindowForm, WindowAsked, WindowSaid | null>(WindowForm, {
        data,
        width: '520px',
        maxWidth: '96vw',
      })
      .afterClosed()
      .subscribe((kept) => {
        if (kept !== undefined) this.say({ access: replaced(access, window, kept) });
      });
  }

  protected print(): void {
    window.print();
  }

  /** The days as a calendar, of everybody or of one. */
  protected async saveCalendar(): Promise<void> {
    const [plan, job, only] = [this.plan(), this.job(), this.only()];
    if (!plan || !job) return;
    const { calendarFile } = await import('./calendar-file');
    const visits = plan.visits.filter(({ people }) => only === null || people.includes(only));
    const text = calendarFile(visits, {
      jobId: job.id,
      title: `${job.site}: ${job.title}`,
      made: new Date(),
    });
    const name = `days${only === null ? '' : `-${only.replace(/[^\p{L}\p{N}]+/gu, '-')}`}.ics`;
    saveFile(name, new Blob([text], { type: 'text/calendar' }));
  }
}

/** A list with one of it exchanged, taken away (null), or put behind (where there was none). */
function replaced<T>(all: readonly T[], old: T | null, kept: T | null): T[] {
  if (old === null) return kept === null ? [...all] : [...all, kept];
  return all.flatMap((one) => (one !== old ? [one] : kept === null ? [] : [kept]));
}
