/** Every table there is, a file for each part of the work. */
export * from './schema/crew.js';
export * from './schema/kit.js';
export * from './schema/jobs.js';
export * from './schema/links.js';
export * from './schema/reels.js';
export * from './schema/adapters.js';
export * from './schema/loose.js';
export * from './schema/drills.js';
export * from './schema/together.js';
