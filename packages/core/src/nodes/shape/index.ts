import { hangNode } from './hang.js';
import { displaceNode, offsetNode, roundCornersNode, smoothNode } from './move.js';
import { drapeNode, keepOutsideNode } from './onBodies.js';
import { mirror, row, transform } from './transform.js';

export const shapeNodes = [transform, mirror, row, displaceNode, offsetNode, smoothNode, roundCornersNode, hangNode, drapeNode, keepOutsideNode];
