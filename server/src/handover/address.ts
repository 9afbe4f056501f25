import type { Request } from 'express';

/** Where whoever asks reached the application: what stands in a QR leads back there. */
export const addressOf = (request: Request): string =>
  `${request.protocol}://${request.get('host') ?? 'localhost'}`;
