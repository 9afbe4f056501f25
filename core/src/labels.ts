/** How labels are laid out and printed: apart from the rest, so that pages that print none do not load it. */
export * from './labels/label-scene.js';
export * from './labels/place-labels.js';
export * from './labels/label-words.js';
export { qrModules, QUIET_ZONE } from './report/pictures/qr.js';
export * from './labels/stocks.js';
export * from './labels/label-ways.js';
export * from './labels/link-code.js';
