export { ohmCases } from '../../core/test/world/ohm-cases.js';
