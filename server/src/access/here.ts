import type { Request } from 'express';

const LOOPBACK = /^(::1|(::ffff:)?127\.\d+\.\d+\.\d+)$/;
/** What proxies write of whom they pass on, beside the addresses themselves. */
const PASSED_ON = ['forwarded', 'via', 'x-forwarded-host', 'x-real-ip'];
const BY_A_BELIEVED_ONE = ['x-forwarded-for', 'x-forwarded-proto'];

/**
 * Whether a request was made on this very machine: not passed on at all, or by proxies whose word is believed, all of whose
 * addresses are this machine's. A proxy here passes on what came from elsewhere, whatever name it writes into Host.
 */
export function isFromHere(request: Request): boolean {
  const believed = Boolean(request.app.get('trust proxy'));
  const unbelieved = believed ? PASSED_ON : [...PASSED_ON, ...BY_A_BELIEVED_ONE];
  if (unbelieved.some((header) => request.headers[header] !== undefined)) return false;
  const passedOn = request.get('x-forwarded-for')?.split(',') ?? [];
  return [request.socket.remoteAddress ?? '', ...passedOn].every((address) => LOOPBACK.test(address.trim()));
}
