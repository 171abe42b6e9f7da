import { carryNode, distanceNode, figuresNode, setNode, summaryNode, transferNode } from './attributes.js';
import { formulaNode, numberNode, timeNode, vectorNode } from './numbers.js';

export const gaugeNodes = [setNode, figuresNode, distanceNode, transferNode, carryNode, summaryNode, numberNode, vectorNode, timeNode, formulaNode];
