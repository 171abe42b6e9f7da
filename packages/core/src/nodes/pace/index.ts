import { closeOpenNode, cutNode, joinEndsNode, reverseNode, splitNode } from './pieces.js';
import { pointsNode, reorderNode, simplifyNode, subdivideNode } from './points.js';
import { resampleNode } from './resample.js';
import { scatterOnCurvesNode } from './scatter.js';

export const paceNodes = [
  resampleNode,
  simplifyNode,
  subdivideNode,
  cutNode,
  reverseNode,
  reorderNode,
  closeOpenNode,
  joinEndsNode,
  splitNode,
  pointsNode,
  scatterOnCurvesNode,
];
