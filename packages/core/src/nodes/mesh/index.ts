import { material } from './material.js';
import { normals, uv, weld } from './surface.js';

export const meshNodes = [normals, uv, weld, material];
