/** Meshes: what hangs together in them, normals, welding, sections. */
export { hasBorder } from '../mesh/topology/border.js';
export { edgesOf } from '../mesh/topology/edgeTable.js';
export { faceAreas, signedVolume } from '../mesh/topology/areas.js';
export { facetedNormals, smoothNormals, splitNormals } from '../mesh/change/normals.js';
export { weldPoints, withoutFolded } from '../mesh/change/weld.js';
export { section } from '../mesh/cut/section.js';
export { joinMeshes } from '../geometry/join.js';
export { emptyMesh, faceCount, makeMesh, type Mesh } from '../geometry/mesh.js';
