import { copiesNode, expandNode } from './copies.js';
import { runNode } from './run.js';
import { scatterOnFacesNode } from './scatter.js';

export const placeNodes = [copiesNode, runNode, expandNode, scatterOnFacesNode];
