/** What a report can hold, in the order in which it stands unless somebody wants another. */
export const REPORT_PARTS = [
  { id: 'summary', name: 'Summary', holds: 'what was done, what is proved, who accepted it, and the seal' },
  { id: 'panels', name: 'Panels', holds: 'each panel port by port' },
  { id: 'routes', name: 'Routes', holds: 'the ways of the cables from the hub, to scale' },
  { id: 'links', name: 'Links', holds: 'one row per link: ends, cable, verdict, what it rests on' },
  { id: 'stories', name: 'Failures', holds: 'a page per link that failed or was mended' },
  {
    id: 'notes',
    name: 'Notes and photos',
    holds: 'what was written down or photographed for whoever comes next',
  },
  { id: 'exceptions', name: 'Exceptions', holds: 'passes with a reason, stopgaps, what was reopened' },
  { id: 'limits', name: 'Limits', holds: 'what each link may carry, and what is to spare' },
  { id: 'lengths', name: 'Lengths', holds: 'planned and measured lengths, and the velocity they rest on' },
  { id: 'instruments', name: 'Instruments', holds: 'what was tested with, and what that cannot see' },
  { id: 'terminations', name: 'Terminations', holds: 'who made which end, by which sheets, of which lot' },
  {
    id: 'adapters',
    name: 'Adapters',
    holds: 'leads that go with the job: what joins what, and their proofs',
  },
  { id: 'legend', name: 'Legend', holds: 'signs and words of this report' },
  { id: 'seal', name: 'Seal', holds: 'the digits by which any change is found' },
] as const;

export type ReportPartId = (typeof REPORT_PARTS)[number]['id'];

/** Parts from their ids; null where one is unknown or stands twice. */
export function reportParts(ids: readonly string[]): ReportPartId[] | null {
  const known = ids.filter((id): id is ReportPartId => REPORT_PARTS.some((part) => part.id === id));
  return known.length === ids.length && new Set(ids).size === ids.length && ids.length > 0 ? known : null;
}
