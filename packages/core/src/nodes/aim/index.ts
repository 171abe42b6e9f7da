import { axes } from './axes.js';
import { frames } from './frames.js';

export const aimNodes = [frames, axes];
