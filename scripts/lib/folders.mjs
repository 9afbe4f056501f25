import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

/** The checkout. */
export const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');

/** The data folder. */
export const home = () => resolve(root, process.env.NEAR_SPOKE_HOME || '.near-spoke');
