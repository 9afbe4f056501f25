/** The day of a moment, in UTC, as records are ordered by: `2 Nov 2026`. */
export function dayOf(at: string): string {
  const date = new Date(at);
  return `${date.getUTCDate()} ${MONTHS[date.getUTCMonth()] ?? ''} ${date.getUTCFullYear()}`;
}

/** A moment to the minute, in UTC. */
export const minuteOf = (at: string): string => `${dayOf(at)} ${at.slice(11, 16)} UTC`;

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
