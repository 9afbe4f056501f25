import type { Link, LinkChange, NewLink } from '@near-spoke/contracts';
import { hubsOf, portKey, portsOf } from '@near-spoke/core';
import { and, asc, eq, inArray, isNull, max, sql } from 'drizzle-orm';
import { logActivity } from '../activity.js';
import { changesInWords } from '../changes.js';
import type { Sql } from '../db/open.js';
import { cableType, connectorType, job, link, linkEnd, place } from '../db/schema.js';
import { badField, changedSince, idTaken, jobClosed, notFound, refuseOther, Refusal } from '../problems.js';
import { refreshSearch } from '../search/refresh.js';
import { refreshStanding } from './standing.js';
import { readLink, readLinks } from './store.js';
import { labelTaken, placesOf, PORT_FIELDS, portTaken, refuseTaken, type PlanChange } from './taken.js';

/** A link's plan as it is sent. */
function plannedAs({ near, far, ...kept }: Link): Record<string, unknown> {
  return {
    ...kept,
    hub: near.otherHub ? near.hub : '',
    panel: near.panel,
    port: near.port,
    room: far.room,
    outlet: far.outlet,
    nearConnectorId: near.connectorId,
    farConnectorId: far.connectorId,
  };
}

/** Fields of a plan as the log calls them. */
const FIELD_NAMES = {
  hub: 'hub',
  cableTypeId: 'cable',
  nearConnectorId: 'near connector',
  farConnectorId: 'far connector',
  lengthM: 'length in metres',
  carries: 'what it carries',
};

type PlaceKind = (typeof place.$inferSelect)['kind'];

/** Finds or makes places, each once per job. */
class Places {
  readonly #known = new Map<string, string>();

  constructor(
    private readonly tx: Sql,
    private readonly jobId: string,
  ) {}

  async id(kind: PlaceKind, name: string, parentId: string | null): Promise<string> {
    const key = `${parentId}/${kind}/${name}`;
    const known = this.#known.get(key);
    if (known) return known;
    const id = await this.findOrAdd(kind, name, parentId);
    this.#known.set(key, id);
    return id;
  }

  private async findOrAdd(kind: PlaceKind, name: string, parentId: string | null): Promise<string> {
    const same = and(
      eq(place.jobId, this.jobId),
      eq(place.kind, kind),
      eq(place.name, name),
      parentId ? eq(place.parentId, parentId) : isNull(place.parentId),
    );
    await this.tx.insert(place).values({ jobId: this.jobId, kind, name, parentId }).onConflictDoNothing();
    const [row] = await this.tx.select({ id: place.id }).from(place).where(same);
    if (!row) throw new Error(`place ${name} was neither found nor made`);
    return row.id;
  }
}

async function portPlace(
  places: Places,
  site: string,
  hub: string,
  planned: { panel: string; port: string },
): Promise<string> {
  const building = await places.id('building', site, null);
  const hubRoom = await places.id('room', hub, building);
  const panel = await places.id('panel', planned.panel, hubRoom);
  return places.id('port', planned.port, panel);
}

async function outletPlace(
  places: Places,
  site: string,
  planned: { room: string; outlet: string },
): Promise<string> {
  const building = await places.id('building', site, null);
  const room = await places.id('room', planned.room, building);
  return places.id('outlet', planned.outlet, room);
}

/** Types a plan may name; throws a refusal that names the field. */
class TypeNames {
  private constructor(
    private readonly cables: ReadonlySet<string>,
    private readonly connectors: ReadonlySet<string>,
  ) {}

  static async read(tx: Sql): Promise<TypeNames> {
    const cables = await tx.select({ id: cableType.id }).from(cableType);
    const connectors = await tx.select({ id: connectorType.id }).from(connectorType);
    return new TypeNames(new Set(cables.map((c) => c.id)), new Set(connectors.map((c) => c.id)));
  }

  check(path: string, planned: Partial<NewLink>): void {
    const { cableTypeId, nearConnectorId, farConnectorId } = planned;
    if (cableTypeId !== undefined && !this.cables.has(cableTypeId)) {
      throw badField(`${path}cableTypeId`, `There is no cable type ${cableTypeId} in the kit.`);
    }
    for (const [field, id] of Object.entries({ nearConnectorId, farConnectorId })) {
      if (id !== undefined && !this.connectors.has(id))
        throw badField(`${path}${field}`, `There is no connector type ${id} in the kit.`);
    }
  }
}

/** Adds links to a job as somebody's plan, and says so in the log. A link sent twice with the same id is added once. */
export async function insertLinks(
  tx: Sql,
  jobId: string,
  planned: readonly NewLink[],
  by: string,
): Promise<void> {
  const added = await putLinks(tx, jobId, planned, by);
  if (added === 0) return;
  const [first] = planned;
  const alone = added === 1 && planned.length === 1 ? first : undefined;
  const what = alone ? `planned ${alone.label}` : `planned ${added} ${added === 1 ? 'link' : 'links'}`;
  await logActivity(tx, { by, jobId, linkId: alone?.id ?? null, what });
}

interface KeptElsewhere {
  asItWas: boolean;
  out: ReadonlyMap<string, { at: Date; by: string; reason: string }>;
}
const NONE_OUT: KeptElsewhere['out'] = new Map();

/**
 * Puts links into a job, after those already there; answers how many are new.
 *
 * @param options.asItWas a plan that was kept elsewhere: two links may be on one port, as nobody asked once
 * @param options.out which of them are no part of the job any more
 */
export async function putLinks(
  tx: Sql,
  jobId: string,
  planned: readonly NewLink[],
  by: string,
  { asItWas = false, out = NONE_OUT }: Partial<KeptElsewhere> = {},
): Promise<number> {
  const [jobRow] = await tx.select().from(job).where(eq(job.id, jobId)).for('update');
  if (!jobRow) throw notFound('job');
  const types = await TypeNames.read(tx);
  const existing = await tx.select({ id: link.id }).from(link).where(eq(link.jobId, jobId));
  const inPlan = await readLinks(tx, { jobId });
  const labels = new Set(inPlan.map((row) => row.label));
  const hubs = hubsOf(jobRow.hub, [...inPlan, ...planned.map((plan) => placesOf(plan, jobRow.hub))]);
  const ports = new Map(
    inPlan.flatMap((row) => portsOf(row, hubs).map((taken) => [portKey(taken), row.label])),
  );
  const [last] = await tx
    .select({ position: max(link.position) })
    .from(link)
    .where(eq(link.jobId, jobId));
  const places = new Places(tx, jobId);
  let position = (last?.position ?? 0) + 1;
  const links: (typeof link.$inferInsert)[] = [];
  const ends: (typeof linkEnd.$inferInsert)[] = [];
  for (const [index, plan] of planned.entries()) {
    if (existing.some((row) => row.id === plan.id)) {
      await refuseOtherPlan(tx, plan);
      continue;
    }
    const path = `links[${index}].`;
    types.check(path, plan);
    if (jobRow.closedAt) throw jobClosed();
    const gone = out.get(plan.id);
    if (!gone) {
      if (labels.has(plan.label)) throw labelTaken(`${path}label`, plan.label);
      labels.add(plan.label);
      portsOf(placesOf(plan, jobRow.hub), hubs).forEach((taken, end) => {
        const other = ports.get(portKey(taken));
        if (other !== undefined && !asItWas) throw portTaken(`${path}${PORT_FIELDS[end]}`, taken, other);
        ports.set(portKey(taken), plan.label);
      });
    }
    const { id, label, cableTypeId, lengthM, route, carries } = plan;
    links.push({
      id,
      jobId,
      label,
      position: position++,
      hub: otherHub(plan.hub, jobRow.hub),
      cableTypeId,
      lengthM,
      route,
      carries: carries ?? {},
      standing: 'not begun',
      nextStep: 'Terminate the near end',
      updatedBy: by,
      ...(gone ? { outAt: gone.at, outBy: gone.by, ...outStanding(gone.reason) } : {}),
    });
    ends.push(
      {
        linkId: id,
        side: 'near',
        placeId: await portPlace(places, jobRow.site, plan.hub || jobRow.hub, plan),
        connectorTypeId: plan.nearConnectorId,
      },
      {
        linkId: id,
        side: 'far',
        placeId: await outletPlace(places, jobRow.site, plan),
        connectorTypeId: plan.farConnectorId,
      },
    );
  }
  if (links.length === 0) return 0;
  const added = await tx
    .insert(link)
    .values(links)
    .onConflictDoNothing({ target: link.id })
    .returning({ id: link.id });
  if (added.length < links.length) throw idTaken();
  await tx.insert(linkEnd).values(ends);
  await refreshSearch(
    tx,
    inArray(
      link.id,
      added.map(({ id }) => id),
    ),
  );
  return links.length;
}

/** A hub as it is kept: nothing where it is the job's own. */
const otherHub = (hub: string | undefined, own: string): string | null =>
  hub === undefined || hub === '' || hub === own ? null : hub;

/** A link that was planned before under this id, with another plan; one that was changed since may differ. */
async function refuseOtherPlan(tx: Sql, plan: NewLink): Promise<void> {
  const kept = await readLink(tx, plan.id);
  if (kept.version > 1) return;
  refuseOther(plannedAs(kept), {
    ...plan,
    hub: plan.hub === kept.near.hub && !kept.near.otherHub ? '' : (plan.hub ?? ''),
  });
}

/**
 * Changes plans of links of one job, all or none, refusing a write that began from an older version. Labels and ports
 * may change hands among them.
 *
 * @throws Refusal 404 for a link that the job does not have, 409 for an older version, a label or a port that is taken,
 *   422 for a link that is changed twice
 */
export async function changePlans(
  tx: Sql,
  jobId: string,
  changes: readonly PlanChange[],
  by: string,
): Promise<void> {
  // One plan at a time, since no index says that a port is one link's; who records meanwhile does not wait for it.
  const [jobRow] = await tx.select().from(job).where(eq(job.id, jobId)).for('no key update');
  if (!jobRow) throw notFound('job');
  if (jobRow.closedAt) throw jobClosed();
  const rows = await tx
    .select({ id: link.id, turns: link.turns })
    .from(link)
    .where(
      inArray(
        link.id,
        changes.map(({ linkId }) => linkId),
      ),
    )
    // Always in one order, so that two people never wait for each other.
    .orderBy(asc(link.id))
    .for('update');
  const turns = new Map(rows.map((row) => [row.id, row.turns]));
  const known = new Map((await readLinks(tx, { jobId })).map((planned) => [planned.id, planned]));
  const types = await TypeNames.read(tx);
  const once = new Set<string>();
  for (const { linkId, change, path = '' } of changes) {
    const current = known.get(linkId);
    if (!current) throw badField(`${path}id`, 'This job has no such link.', 404);
    if (once.has(linkId)) throw badField(`${path}id`, `${current.label} is changed twice in this.`);
    once.add(linkId);
    if (current.version !== change.version) throw changedSince(current, current.updatedBy, current.updatedAt);
    types.check(path, change);
  }
  refuseTaken(jobRow.hub, [...known.values()], changes);
  await parkLabels(tx, known, changes);
  const places = new Places(tx, jobId);
  for (const { linkId, change } of changes) {
    const current = known.get(linkId) as Link;
    await writePlan(tx, jobRow, places, { current, change, by });
    const { version: _, hub, ...changed } = change;
    // A hub by its name, the job's own too.
    const before = { ...plannedAs(current), hub: current.near.hub };
    const after = { ...changed, ...(hub === undefined ? {} : { hub: hub || jobRow.hub }) };
    await logActivity(tx, {
      by,
      jobId,
      linkId,
      what: `changed ${changesInWords(before, after, FIELD_NAMES)}`,
    });
  }
  const ids = changes.map(({ linkId }) => linkId);
  await refreshSearch(tx, inArray(link.id, ids));
  // Of what nothing was ever recorded of nothing follows from a plan.
  for (const id of ids) if ((turns.get(id) ?? 0) > 0) await refreshStanding(tx, id);
}

/** Changes one link's plan. */
export async function changeLink(tx: Sql, linkId: string, change: LinkChange, by: string): Promise<Link> {
  const { jobId, out, label: name } = await readLink(tx, linkId);
  if (out) throw takenOut(name);
  await changePlans(tx, jobId, [{ linkId, change }], by);
  return readLink(tx, linkId);
}

/** How a link stands that is no part of its job. */
export const outStanding = (reason: string): { outReason: string; standing: string; nextStep: string } => ({
  outReason: reason,
  standing: `taken out of the job${reason === '' ? '' : `: ${reason}`}`,
  nextStep: '',
});

const takenOut = (label: string): Refusal =>
  new Refusal(
    409,
    'Taken out of the job',
    `${label} was taken out of the job: its plan stays as it was. Bring it back first.`,
  );

/** Labels that change hands are out of each other's way meanwhile. */
async function parkLabels(
  tx: Sql,
  before: ReadonlyMap<string, Link>,
  changes: readonly PlanChange[],
): Promise<void> {
  const renamed = changes.filter(
    ({ linkId, change }) => change.label !== undefined && change.label !== before.get(linkId)?.label,
  );
  if (renamed.length < 2) return;
  await tx
    .update(link)
    .set({ label: sql`${link.id}::text` })
    .where(
      inArray(
        link.id,
        renamed.map(({ linkId }) => linkId),
      ),
    );
}

async function writePlan(
  tx: Sql,
  { site, hub }: { site: string; hub: string },
  places: Places,
  { current, change, by }: { current: Link; change: LinkChange; by: string },
): Promise<void> {
  const {
    version,
    hub: begins,
    panel,
    port,
    room,
    outlet,
    nearConnectorId,
    farConnectorId,
    ...fields
  } = change;
  await tx
    .update(link)
    .set({
      ...fields,
      ...(begins === undefined ? {} : { hub: otherHub(begins, hub) }),
      version: version + 1,
      updatedAt: new Date(),
      updatedBy: by,
    })
    .where(eq(link.id, current.id));
  const setEnd = (side: 'near' | 'far', placeId: string, connectorTypeId: string) =>
    tx
      .update(linkEnd)
      .set({ placeId, connectorTypeId })
      .where(and(eq(linkEnd.linkId, current.id), eq(linkEnd.side, side)));
  const { near, far } = current;
  if ([begins, panel, port, nearConnectorId].some((field) => field !== undefined))
    await setEnd(
      'near',
      await portPlace(places, site, begins === undefined ? near.hub : begins || hub, {
        panel: panel ?? near.panel,
        port: port ?? near.port,
      }),
      nearConnectorId ?? near.connectorId,
    );
  if (room !== undefined || outlet !== undefined || farConnectorId !== undefined)
    await setEnd(
      'far',
      await outletPlace(places, site, { room: room ?? far.room, outlet: outlet ?? far.outlet }),
      farConnectorId ?? far.connectorId,
    );
}
