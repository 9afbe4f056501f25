import { LINK_STAGES } from '../../links/stage.js';
import { digestInGroups } from '../../seal/digest.js';
import type { Block } from '../blocks.js';
import { qrPicture } from '../pictures/qr.js';
import type { ReportData } from '../report-data.js';
import { minuteOf } from '../times.js';

/** What the QR of a report holds: where its records are compared with it, or the digits alone where no address was known. */
export const sealText = ({ address, job, seal }: Pick<ReportData, 'address' | 'job' | 'seal'>): string =>
  address === ''
    ? `near-spoke-seal:${job.id}:${seal.digest}`
    : `${address}/jobs/${job.id}/hand-over?seal=${seal.digest}`;

export function summary(data: ReportData): Block[] {
  const { job, links, signOffs, seal } = data;
  const tested = links.filter(({ diagnosis }) => diagnosis !== null);
  const simulated = links.filter(({ diagnosis }) => diagnosis?.simulated).length;
  const counts = LINK_STAGES.map(({ id, name }) => ({
    name,
    count: links.filter(({ link }) => link.stage === id).length,
  })).filter(({ count }) => count > 0);
  const failedOnce = links.filter(({ tests }) => tests.some(({ diagnosis }) => diagnosis.result === 'fail'));
  const qr = qrPicture(sealText(data), 30);
  return [
    {
      type: 'facts',
      facts: [
        { name: 'Site', value: job.site },
        { name: 'Hub', value: job.hub },
        { name: 'Wired to', value: job.scheme },
        {
          name: 'Links',
          value: `${links.length}: ${counts.map(({ name, count }) => `${count} ${name}`).join(', ')}`,
        },
        { name: 'Tested', value: `${tested.length}, of which ${failedOnce.length} failed at least once` },
      ],
    },
    ...(simulated > 0
      ? [
          {
            type: 'text' as const,
            tone: 'caution' as const,
            text: `${simulated} verdicts rest on simulated readings and say nothing of real cable.`,
          },
        ]
      : []),
    {
      type: 'text',
      tone: 'quiet',
      text: 'Every verdict names what it rests on and what that cannot see. None is a certification of performance.',
    },
    { type: 'heading', text: 'Accepted' },
    ...(signOffs.length === 0
      ? [{ type: 'text' as const, text: 'Nobody has signed for these links yet.' }]
      : [
          {
            type: 'table' as const,
            columns: [
              { name: 'Name', share: 3 },
              { name: 'As', share: 3 },
              { name: 'When', share: 3 },
              { name: 'Links', share: 1, figures: true },
              { name: 'Seal', share: 4, figures: true },
            ],
            rows: signOffs.map(({ name, role, at, note, links: count, digest }) => [
              { text: name, strong: true, ...(note ? { note } : {}) },
              role,
              minuteOf(at),
              String(count),
              `${digestInGroups(digest, 4)}${digest === seal.digest ? '' : ', not as it is now'}`,
            ]),
          },
        ]),
    { type: 'heading', text: 'Seal' },
    {
      type: 'text',
      text: `Over the plans and records of the ${seal.links.length} links that are handed over. Any change of any of them gives other digits.`,
    },
    { type: 'text', tone: 'strong', text: digestInGroups(seal.digest) },
    { type: 'picture', title: 'Seal as QR', ...qr },
  ];
}
