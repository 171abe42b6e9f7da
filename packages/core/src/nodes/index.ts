import type { NodeDefinition } from '../graph/define.js';
import { aimNodes } from './aim/index.js';
import { gaugeNodes } from './gauge/index.js';
import { flowNodes } from './flow.js';
import { layNodes } from './lay/index.js';
import { meshNodes } from './mesh/index.js';
import { paceNodes } from './pace/index.js';
import { placeNodes } from './place/index.js';
import { shapeNodes } from './shape/index.js';
import { skinNodes } from './skin/index.js';

const all: readonly NodeDefinition[] = [
  ...layNodes,
  ...paceNodes,
  ...shapeNodes,
  ...aimNodes,
  ...skinNodes,
  ...placeNodes,
  ...meshNodes,
  ...gaugeNodes,
  ...flowNodes,
];

/** Every kind of node by its type, in the order of the work. */
export const nodeDefinitions: ReadonlyMap<string, NodeDefinition> = new Map(all.map((definition) => [definition.type, definition]));
