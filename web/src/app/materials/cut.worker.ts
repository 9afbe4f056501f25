import { BadCutting, highsSolver, planCutting, pullsOf, type LoadedHighs } from '@near-spoke/core';
import type { CutAnswer, CutQuestion } from './cutting';

/** The solver lies beside the pages as it ships: it is large, most jobs do without, and it finds its own WebAssembly. */
const SOLVER = '/highs.mjs';

const say = (answer: CutAnswer): void => postMessage(answer);

/** Plans how cable is cut, away from the page. Stopped by ending the worker. */
addEventListener('message', ({ data }: MessageEvent<CutQuestion>) => void answer(data));

async function answer({ pieces, held, sizes, atOnce }: CutQuestion): Promise<void> {
  try {
    // Most jobs are proved without it; a plan is shown before it has been loaded.
    const first = planCutting(pieces, held, sizes);
    say({ say: first.gap > 0 ? 'so far' : 'cut', ...told(first, atOnce) });
    if (first.gap === 0) return;
    const { default: load } = (await import(SOLVER)) as { default: () => Promise<LoadedHighs> };
    const solve = highsSolver(await load());
    const plan = planCutting(pieces, held, sizes, {
      solve,
      goOn: (round) => {
        say({ say: 'round', round });
        return true;
      },
    });
    say({ say: 'cut', ...told(plan, atOnce) });
  } catch (error) {
    if (!(error instanceof BadCutting)) throw error;
    say({ say: 'bad', message: error.message });
  }
}

function told(plan: ReturnType<typeof planCutting>, atOnce: number) {
  const { pulls, sources } = pullsOf(plan.sources, atOnce);
  return { plan: { ...plan, sources }, pulls };
}
