/** What a list of links can say of each. */
export const LIST_FIELDS = [
  'label',
  'panel',
  'port',
  'room',
  'outlet',
  'cable',
  'near',
  'far',
  'length',
  'route',
  'hub',
] as const;
export type ListField = (typeof LIST_FIELDS)[number];

/** Which column of a list says what; a field that no column says is left out. */
export type ListColumns = Partial<Record<ListField, number>>;

/** Words that people head such columns with, the more telling first. */
const HEADS: Readonly<Record<ListField, RegExp>> = {
  label: /^(link|label|cable (id|no\.?|number|label)|id|tag|run|no\.?)$/,
  panel: /^(panel|patch ?panel|block|frame|from panel)$/,
  port: /^(port|panel port|from port|position|jack no\.?)$/,
  room: /^(room|far room|location|to room|area|space|floor)$/,
  outlet: /^(outlet|device|far end|to|socket|plate|point|what|destination)$/,
  cable: /^(cable|cable type|type|category)$/,
  near: /^(near|near (connector|end)|from connector|hub end|panel end)$/,
  far: /^(far|far connector|to connector|connector|termination)$/,
  length: /^(length|len|distance|est\.? length|run length|metres|meters|feet|ft|m)$/,
  route: /^(route|way|path|stretches|by)$/,
  hub: /^(hub|closet|from (hub|closet|room)|equipment room|telecom(munications)? room)$/,
};

/** A head as it is compared: small letters, what stands in brackets and after a comma left out. */
const plain = (head: string): string =>
  head
    .toLowerCase()
    .replace(/[([,].*$/, '')
    .replace(/[_\s]+/g, ' ')
    .trim();

/** Which columns a row of heads names; each field and each column once. */
export function columnsNamed(heads: readonly string[]): ListColumns {
  const columns: ListColumns = {};
  heads.forEach((head, column) => {
    const field = LIST_FIELDS.find((one) => columns[one] === undefined && HEADS[one].test(plain(head)));
    if (field) columns[field] = column;
  });
  return columns;
}

/** Rows above the heads are looked at up to here: titles and merged cells. */
const MOST_TITLES = 8;

/** The row of a list that names its columns: the first that names a label and something more; null where none does. */
export function headRow(rows: readonly (readonly string[])[]): number | null {
  const found = rows.slice(0, MOST_TITLES).findIndex((row) => {
    const columns = columnsNamed(row);
    return columns.label !== undefined && Object.keys(columns).length > 1;
  });
  return found < 0 ? null : found;
}

/** The unit that a head says its lengths are in, such as `Length (ft)`; null where it says none. */
export function unitInHead(head: string): 'm' | 'ft' | null {
  const said = head.toLowerCase();
  if (/\b(ft|feet|foot)\b/.test(said)) return 'ft';
  return /\b(m|metres?|meters?)\b/.test(said) ? 'm' : null;
}
