/** A building over all its jobs: apart from the rest, so that other pages do not load it. */
export * from './as-built/place-tree.js';
