import type { CableType, ConnectorType } from '@near-spoke/core';
import * as z from 'zod';

/** Cable and connector types, as core describes them. */
export const kit = z.object({
  cables: z.array(z.custom<CableType>((v) => typeof v === 'object' && v !== null && 'jacketMm' in v)),
  connectors: z.array(z.custom<ConnectorType>((v) => typeof v === 'object' && v !== null && 'style' in v)),
});
export type Kit = z.infer<typeof kit>;
