import * as z from 'zod';

const carried = z.object({ id: z.string(), links: z.array(z.string()) });
/** A list of outlets that somebody carries the remote to: its id, and the links in its order. */
export type Carried = z.infer<typeof carried>;

const keyOf = (jobId: string): string => `near-spoke-carried ${jobId}`;

/** What this tab last began for a job; a look at a link in between ends nothing. */
export function lastCarried(jobId: string): Carried | null {
  try {
    return carried
      .nullable()
      .catch(null)
      .parse(JSON.parse(sessionStorage.getItem(keyOf(jobId)) ?? 'null'));
  } catch {
    return null;
  }
}

export function keepCarried(jobId: string, of: Carried): void {
  try {
    sessionStorage.setItem(keyOf(jobId), JSON.stringify(of));
  } catch {
    // A browser that keeps nothing still works.
  }
}
