import { join } from 'node:path';
import { root } from './folders.mjs';
import { startThrowawayCluster } from './postgres.mjs';
import { capture } from './run.mjs';

const LINKS = 200_000;

const quantile = (values, q) => {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))];
};

/** Asks a database of many links what people ask. */
export async function searchBench() {
  const cluster = await startThrowawayCluster();
  try {
    const { output } = await capture(
      process.execPath,
      ['--import', 'tsx', join(root, 'scripts/lib/search-trial.ts'), cluster.url, String(LINKS)],
      { cwd: root },
    );
    return JSON.parse(output.slice(output.indexOf('{')));
  } finally {
    await cluster.stop();
  }
}

export function searchReport({ links, answers }) {
  const all = answers.flatMap(({ taken }) => taken);
  const ms = (time) => `${time < 10 ? time.toFixed(1) : Math.round(time)} ms`;
  return `## Search

${links.toLocaleString('en')} links of ${links / 500} jobs; each question twenty times, the first fifty links and a count up to a thousand.

| Question | Found | Median, slowest |
| --- | --- | --- |
${answers
  .map(
    ({ text, found, taken }) =>
      `| ${text} | ${found >= 1000 ? '1000 and more' : found} | ${ms(quantile(taken, 0.5))}, ${ms(Math.max(...taken))} |`,
  )
  .join('\n')}
| all: median, 95 in 100 | | ${ms(quantile(all, 0.5))}, ${ms(quantile(all, 0.95))} |
`;
}
