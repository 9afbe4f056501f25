import {
  BadDays,
  carefully,
  daysInOrder,
  planDays,
  stretched,
  tasksOf,
  type DayPlan,
} from '@near-spoke/core';
import type { DaysAnswer, DaysQuestion } from './scheduling';

const say = (answer: DaysAnswer): void => postMessage(answer);

/** Lays work over days, away from the page. Stopped by ending the worker. */
addEventListener('message', ({ data }: MessageEvent<DaysQuestion>) => {
  const { links, minutes, times, asked } = data;
  const orBad = <T>(work: () => T, bad: (error: BadDays) => T): T => {
    try {
      return work();
    } catch (error) {
      if (error instanceof BadDays) return bad(error);
      throw error;
    }
  };
  const tasks = tasksOf(links, minutes);
  const plan = orBad<DayPlan | null>(
    () =>
      planDays(tasks, asked, (tried, of) => {
        say({ say: 'tried', tried, of });
        return true;
      }),
    ({ message }) => {
      say({ say: 'bad', message });
      return null;
    },
  );
  if (!plan) return;
  const longer = stretched(tasks, carefully(tasks, times));
  const late = orBad(
    () => daysInOrder(longer, plan.order, asked).ends,
    () => null,
  );
  say({ say: 'days', plan, carefully: late });
});
