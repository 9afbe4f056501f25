import type { RecipeId } from '../../connectors/connector-types.js';
import { coaxClamp, coaxCompression, coaxCrimp, coaxScrewOn } from './coax.js';
import { block, punchedJack, telephoneSocket, toollessJack } from './jacks.js';
import { closedPlug, passThroughPlug } from './plugs.js';
import type { RecipeStep } from './recipe.js';
import { ribbonPress, solderCup } from './signal.js';
import { pairsPressed, terminal } from './terminals.js';
import { spliceCrimp, spliceGel, spliceSolder, spliceSolderSleeve } from './splices.js';

/** The work of each way of terminating, in the order a practised hand likes. Threading is derived, not listed. */
export const RECIPES: Readonly<Record<RecipeId, readonly RecipeStep[]>> = {
  'plug-closed': closedPlug,
  'plug-pass-through': passThroughPlug,
  'jack-punched': punchedJack,
  'jack-toolless': toollessJack,
  'telephone-socket': telephoneSocket,
  block,
  'coax-crimp': coaxCrimp,
  'coax-compression': coaxCompression,
  'coax-screw-on': coaxScrewOn,
  'coax-clamp': coaxClamp,
  terminal,
  'pairs-pressed': pairsPressed,
  'ribbon-press': ribbonPress,
  'solder-cup': solderCup,
  'splice-solder-sleeve': spliceSolderSleeve,
  'splice-solder': spliceSolder,
  'splice-crimp': spliceCrimp,
  'splice-gel': spliceGel,
};
