import { edgesNode } from './edges.js';
import { material } from './material.js';
import { sectionNode } from './section.js';
import { normals, uv, weld } from './surface.js';

export const meshNodes = [normals, uv, weld, material, edgesNode, sectionNode];
