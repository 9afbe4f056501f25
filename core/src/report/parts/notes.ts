import type { Block, PrintedPhoto } from '../blocks.js';
import type { ReportData, ReportPhoto } from '../report-data.js';
import { dayOf } from '../times.js';

/** Bytes of photos that one report carries; what is beyond is named and stays with the installation. */
const MOST_BYTES = 40 * 1024 * 1024;

/** The photos that a report shows, as far as they fit: of links, then of the leads that go with the job, then of loose ends. */
export function photosIn({ parts, links, adapters = [], looseEnds = [] }: ReportData): ReportPhoto[] {
  const wanted: ReportPhoto[] = [];
  if (parts.includes('notes'))
    wanted.push(...links.flatMap(({ notes = [] }) => notes.flatMap(({ photo }) => photo ?? [])));
  if (parts.includes('adapters'))
    wanted.push(...adapters.flatMap(({ photos }) => photos.map(({ photo }) => photo)));
  if (parts.includes('terminations')) wanted.push(...looseEnds.flatMap(({ photos }) => photos));
  let bytes = 0;
  return wanted.filter((photo) => (bytes += photo.bytes) <= MOST_BYTES);
}

/** Photos with their words; those that the report has no room for are named. */
export function photoBlocks(
  data: ReportData,
  some: readonly (Omit<PrintedPhoto, keyof ReportPhoto> & { photo: ReportPhoto })[],
): Block[] {
  const shown = new Set(photosIn(data).map(({ sha256 }) => sha256));
  const printed = some.filter(({ photo }) => shown.has(photo.sha256));
  const left = some.filter(({ photo }) => !shown.has(photo.sha256));
  return [
    ...(printed.length > 0
      ? [{ type: 'photos' as const, photos: printed.map(({ caption, photo }) => ({ caption, ...photo })) }]
      : []),
    ...left.map(({ caption, photo }) => ({
      type: 'text' as const,
      tone: 'quiet' as const,
      text: `${caption}. Not printed here for its size (${Math.ceil(photo.bytes / 1000)} kB); it lies in the archive of the job.`,
    })),
  ];
}

/** What somebody wrote down or photographed for whoever comes next, link by link. */
export function notes(data: ReportData): Block[] {
  const noted = data.links.filter(({ notes: some = [] }) => some.length > 0);
  if (noted.length === 0) return [{ type: 'text', text: 'Nobody made a note.' }];
  return noted.flatMap(({ link, notes: some = [] }): Block[] => [
    { type: 'heading', text: link.label },
    ...(some.some(({ photo }) => photo === null)
      ? [
          {
            type: 'list' as const,
            items: some
              .filter(({ photo }) => photo === null)
              .map(
                ({ words, end, by, at }) =>
                  `${end ? `${sideName(end)}: ` : ''}${words} (${by}, ${dayOf(at)})`,
              ),
          },
        ]
      : []),
    ...photoBlocks(
      data,
      some.flatMap(({ photo, words, end, by, at }) =>
        photo
          ? [
              {
                photo,
                caption: [words, `${end ? `${sideName(end)}, ` : ''}${by}, ${dayOf(at)}`]
                  .filter(Boolean)
                  .join('. '),
              },
            ]
          : [],
      ),
    ),
  ]);
}

const sideName = (end: 'near' | 'far'): string => (end === 'near' ? 'Near end' : 'Far end');
