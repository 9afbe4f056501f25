import { visitWords, type Visit } from '@near-spoke/core';
import ical from 'ical-generator';

/** Minutes of a day as a moment of the place where one is: what a calendar shows whatever zone it stands in. */
const momentOf = (day: string, minute: number): Date => {
  const [year = 0, month = 1, date = 1] = day.split('-').map(Number);
  return new Date(year, month - 1, date, 0, Math.round(minute));
};

/**
 * Visits as a calendar (iCalendar, RFC 5545), in local time without a zone. The same visit has the same name in every file of its
 * job, so that a calendar that takes it twice moves it.
 *
 * @param jobId names the job's visits apart from those of others
 * @param made when the file is made
 */
export function calendarFile(
  visits: readonly Visit[],
  { jobId, title, made }: { jobId: string; title: string; made: Date },
): string {
  const calendar = ical({ name: title, prodId: { company: 'Near Spoke', product: 'Days', language: 'EN' } });
  const seen = new Map<string, number>();
  for (const visit of visits) {
    const { task, day, from, to, places, people, labels } = visit;
    const part = (seen.get(task) ?? 0) + 1;
    seen.set(task, part);
    calendar.createEvent({
      id: `${jobId}-${task.replace(/[^A-Za-z0-9]+/g, '-')}-${part}@near-spoke`,
      stamp: made,
      start: momentOf(day, from),
      end: momentOf(day, to),
      floating: true,
      summary: `${visitWords(visit)} (${people.join(', ')})`,
      location: places[0] ?? '',
      description: labels.join(', '),
    });
  }
  return calendar.toString();
}
