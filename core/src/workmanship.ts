/** What the record says of the work: apart from the rest, so that other pages do not load it. */
export * from './workmanship/groups.js';
export * from './workmanship/made-ends.js';
export * from './workmanship/repeats.js';
export * from './workmanship/repeat-words.js';
export * from './workmanship/workmanship.js';
