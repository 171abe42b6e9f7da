import { boxNode, cylinderNode, gridNode, sphereNode, terrainNode } from './bodies.js';
import { drawn } from './drawn.js';
import { arc3, throughPoints } from './fromPoints.js';
import { importCurves, importMesh, importPoints } from './imported.js';
import { line } from './line.js';
import { polygon, rectangle } from './outlines.js';
import { circleNode, helixNode } from './round.js';

export const layNodes = [
  line,
  drawn,
  circleNode,
  arc3,
  helixNode,
  polygon,
  rectangle,
  throughPoints,
  importCurves,
  importMesh,
  importPoints,
  boxNode,
  sphereNode,
  cylinderNode,
  gridNode,
  terrainNode,
];
