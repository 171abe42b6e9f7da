/** Skins: surfaces along and over curves. */
export { loft, type LoftOptions } from '../skin/loft/loft.js';
export { profileFrom } from '../skin/sweep/profile.js';
export { rope } from '../skin/rope/rope.js';
export { sweep } from '../skin/sweep/sweep.js';
export { defaultTube, tube } from '../skin/tube/tube.js';
export type { TubeOptions } from '../skin/parts/sink.js';
export { constantField, type Field } from '../values/field.js';
