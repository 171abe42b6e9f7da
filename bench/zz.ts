import { grid, measure } from '@filaxis/core';
import { readers, writers } from '@filaxis/formats';
const cpu = async <T>(name: string, run: () => Promise<T>): Promise<T> => { const b = process.cpuUsage(); const r = await run(); const u = process.cpuUsage(b); console.log(name, ((u.user + u.system) / 1e6).toFixed(2), 's CPU'); return r; };
const mesh = grid([10, 10], [707, 707]);
console.log(measure({ mesh }).triangles);
for (const e of ['.glb', '.obj', '.usda', '.ply', '.stl']) { const bytes = await cpu(`write ${e}`, () => writers[e]({ mesh }, 'x')); if (readers[e]) await cpu(`read  ${e} (${(bytes.length / 1e6).toFixed(0)} MB)`, () => readers[e](bytes)); }
