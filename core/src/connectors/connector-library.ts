import type { ConnectorType } from './connector-types.js';
import { COAX_CONNECTORS } from './library/coax.js';
export { COAX_CUTTERS } from './library/coax.js';
import { JACKS, TELEPHONE } from './library/jacks.js';
import { MODULAR_PLUGS } from './library/modular.js';
import { TERMINALS } from './library/terminals.js';
import { SIGNAL_CONNECTORS } from './library/signal.js';

/** The generic connectors that ship with the application. A crew's own sheets are laid over them. */
export const CONNECTOR_TYPES: readonly ConnectorType[] = [
  ...MODULAR_PLUGS,
  ...JACKS,
  ...TELEPHONE,
  ...COAX_CONNECTORS,
  ...SIGNAL_CONNECTORS,
  ...TERMINALS,
];
