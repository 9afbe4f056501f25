import type { Link, LinkChange, NewLink } from '@near-spoke/contracts';
import { and, eq, isNull, max, inArray } from 'drizzle-orm';
import { logActivity } from '../activity.js';
import { changesInWords } from '../changes.js';
import type { Sql } from '../db/open.js';
import { cableType, connectorType, job, link, linkEnd, place } from '../db/schema.js';
import { badField, changedSince, idTaken, notFound, refuseOther, Refusal } from '../problems.js';
import { refreshSearch } from '../search/refresh.js';
import { refreshStanding } from './standing.js';
import { readLink } from './store.js';

/** A link's plan as it is sent. */
function plannedAs({ near, far, ...kept }: Link): Record<string, unknown> {
  return {
    ...kept,
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

/** Puts links into a job, after those already there; answers how many are new. */
export async function putLinks(
  tx: Sql,
  jobId: string,
  planned: readonly NewLink[],
  by: string,
): Promise<number> {
  const [jobRow] = await tx.select().from(job).where(eq(job.id, jobId)).for('update');
  if (!jobRow) throw notFound('job');
  const types = await TypeNames.read(tx);
  const existing = await tx
    .select({ id: link.id, label: link.label })
    .from(link)
    .where(eq(link.jobId, jobId));
  const labels = new Map(existing.map((row) => [row.label, row.id]));
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
    if (labels.has(plan.label))
      throw badField(`${path}label`, `This job already has a link ${plan.label}. Give another label.`, 409);
    labels.set(plan.label, plan.id);
    const { id, label, cableTypeId, lengthM, route, carries } = plan;
    links.push({
      id,
      jobId,
      label,
      position: position++,
      cableTypeId,
      lengthM,
      route,
      carries: carries ?? {},
      standing: 'not begun',
      nextStep: 'Terminate the near end',
      updatedBy: by,
    });
    ends.push(
      {
        linkId: id,
        side: 'near',
        placeId: await portPlace(places, jobRow.site, jobRow.hub, plan),
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

/** A link that was planned before under this id, with another plan; one that was changed since may differ. */
async function refuseOtherPlan(tx: Sql, plan: NewLink): Promise<void> {
  const kept = await readLink(tx, plan.id);
  if (kept.version > 1) return;
  refuseOther(plannedAs(kept), plan);
}

/**
 * Changes a link's plan, refusing a write that began from an older version.
 *
 * @param path where the change stands in what was sent
 */
export async function changeLink(
  tx: Sql,
  linkId: string,
  change: LinkChange,
  by: string,
  path = '',
): Promise<Link> {
  const [row] = await tx.select().from(link).where(eq(link.id, linkId)).for('update');
  if (!row) throw notFound('link');
  const current = await readLink(tx, linkId);
  if (row.version !== change.version) throw changedSince(current, current.updatedBy, current.updatedAt);
  (await TypeNames.read(tx)).check(path, change);
  const [jobRow] = await tx.select().from(job).where(eq(job.id, row.jobId));
  if (!jobRow) throw notFound('job');
  await refuseLabelTaken(tx, row, change.label, path);
  const { version, panel, port, room, outlet, nearConnectorId, farConnectorId, ...fields } = change;
  await tx
    .update(link)
    .set({ ...fields, version: version + 1, updatedAt: new Date(), updatedBy: by })
    .where(eq(link.id, linkId));
  const places = new Places(tx, row.jobId);
  const nearPlace = { panel: panel ?? current.near.panel, port: port ?? current.near.port };
  const farPlace = { room: room ?? current.far.room, outlet: outlet ?? current.far.outlet };
  const setEnd = (side: 'near' | 'far', placeId: string, connectorTypeId: string) =>
    tx
      .update(linkEnd)
      .set({ placeId, connectorTypeId })
      .where(and(eq(linkEnd.linkId, linkId), eq(linkEnd.side, side)));
  await setEnd(
    'near',
    await portPlace(places, jobRow.site, jobRow.hub, nearPlace),
    nearConnectorId ?? current.near.connectorId,
  );
  await setEnd(
    'far',
    await outletPlace(places, jobRow.site, farPlace),
    farConnectorId ?? current.far.connectorId,
  );
  await refreshStanding(tx, linkId);
  const { version: _, ...changed } = change;
  await logActivity(tx, {
    by,
    jobId: row.jobId,
    linkId,
    what: `changed ${changesInWords(plannedAs(current), changed, FIELD_NAMES)}`,
  });
  return readLink(tx, linkId);
}

async function refuseLabelTaken(
  tx: Sql,
  row: { id: string; jobId: string; label: string },
  label: string | undefined,
  path: string,
): Promise<void> {
  if (label === undefined || label === row.label) return;
  const [taken] = await tx
    .select({ id: link.id })
    .from(link)
    .where(and(eq(link.jobId, row.jobId), eq(link.label, label)));
  if (taken)
    throw new Refusal(409, 'Label taken', `This job already has a link ${label}. Give another label.`, {
      errors: [{ path: `${path}label`, message: 'Already used in this job.' }],
    });
}
