import type { NodeDefinition } from '../definition/define.js';
import { allNodes } from './generated/list.js';

/** Every kind of node by its type, in the order of the work. */
export const nodeDefinitions: ReadonlyMap<string, NodeDefinition> = new Map(allNodes.map((definition) => [definition.type, definition]));
