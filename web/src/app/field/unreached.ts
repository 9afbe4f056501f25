import { TimeoutError } from 'rxjs';
import { ApiProblem } from '../api/api';

/** Whether nothing answered: what was asked may have arrived, or not. */
export const isUnreached = (error: unknown): boolean =>
  error instanceof TimeoutError || (error instanceof ApiProblem && error.problem.status === 0);

/** What this device says where the server cannot. */
export const deviceProblem = (title: string, detail: string, status = 0): ApiProblem =>
  new ApiProblem({ type: 'about:blank', title, status, detail });

export const notHere = (): ApiProblem =>
  deviceProblem(
    'Not on this device',
    'The server does not answer, and this is not on this device: nothing was kept. What you typed is still here. Keep the job on this device while there is a network.',
  );
