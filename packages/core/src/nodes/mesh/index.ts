import { material } from './material.js';
import { normals, uv } from './surface.js';

export const meshNodes = [normals, uv, material];
