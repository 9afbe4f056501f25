import { workOut } from './belief-told';
import type { BeliefJob } from './belief-work';

addEventListener('message', ({ data }: MessageEvent<BeliefJob>) => postMessage(workOut(data)));
