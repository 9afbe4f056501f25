/** A field that two people left differently, as each left it. */
export interface UnlikeField {
  name: string;
  mine: string;
  theirs: string;
}

/** What a change says of a link, beside what the link says by now: fields of a plan by the names people know them by. */
const FIELDS: Readonly<Record<string, { name: string; of: (link: LinkLike) => unknown }>> = {
  label: { name: 'Label', of: ({ label }) => label },
  hub: { name: 'Hub', of: ({ near }) => (near.otherHub ? near.hub : '') },
  panel: { name: 'Panel', of: ({ near }) => near.panel },
  port: { name: 'Port', of: ({ near }) => near.port },
  room: { name: 'Far room', of: ({ far }) => far.room },
  outlet: { name: 'Outlet', of: ({ far }) => far.outlet },
  cableTypeId: { name: 'Cable', of: ({ cableTypeId }) => cableTypeId },
  nearConnectorId: { name: 'Near connector', of: ({ near }) => near.connectorId },
  farConnectorId: { name: 'Far connector', of: ({ far }) => far.connectorId },
  lengthM: { name: 'Length, m', of: ({ lengthM }) => lengthM },
  route: {
    name: 'Way',
    of: ({ route }) => route.map(({ name, lengthM }) => `${name} ${lengthM} m`).join(', '),
  },
};
interface LinkLike {
  label: string;
  near: { hub: string; otherHub?: boolean | undefined; panel: string; port: string; connectorId: string };
  far: { room: string; outlet: string; connectorId: string };
  cableTypeId: string;
  lengthM: number;
  route: readonly { name: string; lengthM: number }[];
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Of a change only what it changes: what somebody else makes of the other fields meanwhile is not touched by it. */
export function onlyChanged(
  change: Readonly<Record<string, unknown>>,
  before: LinkLike & { carries: unknown },
): Record<string, unknown> {
  return Object.fromEntries(
    Object.entries(change).filter(([field, said]) => {
      if (field === 'carries') return !same(said, before.carries);
      const known = FIELDS[field];
      if (!known) return true;
      return field === 'route' ? !same(said, before.route) : said !== known.of(before);
    }),
  );
}

/** The fields in which a change that waited and the link as it is now differ. */
export function unlikeFields(
  change: Readonly<Record<string, unknown>>,
  now: LinkLike & { carries: unknown },
): UnlikeField[] {
  const fields = Object.entries(FIELDS).flatMap(([field, { name, of }]) => {
    if (change[field] === undefined) return [];
    const said =
      field === 'route' ? of({ ...now, route: change[field] as LinkLike['route'] }) : change[field];
    const [mine, theirs] = [String(said), String(of(now))];
    return mine === theirs ? [] : [{ name, mine, theirs }];
  });
  const { carries } = change;
  if (carries === undefined || same(carries, now.carries)) return fields;
  return [...fields, { name: 'What it carries', mine: 'as it was said here', theirs: 'said otherwise' }];
}
