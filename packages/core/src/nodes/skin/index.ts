import { loftNode, tilesNode } from './loft.js';
import { ropeNode } from './rope.js';
import { extrudeNode, fillNode } from './solid.js';
import { ribbonNode, sweepNode } from './sweep.js';
import { tubeNode } from './tube.js';

export const skinNodes = [tubeNode, sweepNode, ribbonNode, ropeNode, loftNode, tilesNode, fillNode, extrudeNode];
