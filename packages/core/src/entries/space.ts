/** Searches in space: what is nearest, what a ray meets, what lies about a place. */
export { BoxTree, type Pieces } from '../space/boxTree.js';
export { cellSize, PointGrid } from '../space/grid.js';
export { firstHit, newRayHit } from '../space/ray.js';
export { NearestTree, nearestTreeOf, newHit } from '../near/nearest.js';
export { piecesOf } from '../near/pieces.js';
export { Surface, surfaceOf } from '../near/surface.js';
