/** A meter's tone in a microphone's sound: apart from the rest, so that pages that do not listen do not load it. */
export * from './hearing/answers.js';
export * from './hearing/ear.js';
export * from './hearing/learn.js';
export { HIGHEST_HZ, HOP_S, LOWEST_HZ } from './hearing/spectrogram.js';
export * from './hearing/tone.js';
