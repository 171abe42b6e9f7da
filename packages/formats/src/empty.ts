import { emptyMesh, makePoints, type GeometrySet } from '@filaxis/core';
import { writeCsv } from './csv.js';
import { writeGlb, writeGltf } from './gltfWrite.js';
import { writePly } from './plyWrite.js';
import { writeStl } from './stl.js';
import { TextSink } from './textSink.js';
import { writeUsda } from './usda.js';
import type { Out, WriteOptions } from './writeOptions.js';

const text = (out: Out, ...lines: readonly string[]): void => {
  const sink = new TextSink(out);
  sink.all(lines);
  sink.end();
};
const noPoints: GeometrySet = { points: makePoints(new Float32Array(0)) };

/**
 * A file of each format that holds nothing, such as a moment before anything has grown. Each is valid, so that a pipeline reads it as it reads its
 * neighbours. JSON says which kinds are empty by itself.
 */
export const emptyWriters: Readonly<Record<string, (name: string, options: WriteOptions, out: Out) => Promise<void> | void>> = {
  '.glb': (name, options, out) => writeGlb([], name, options, out),
  '.gltf': (name, options, out) => writeGltf([], name, options, out),
  '.obj': (name, _options, out) => text(out, '# Filaxis', `o ${name.replace(/\s+/g, '_')}`),
  '.stl': (_name, _options, out) => writeStl({ mesh: emptyMesh }, out),
  '.ply': (_name, options, out) => writePly(noPoints, options, out),
  '.usda': (name, options, out) => writeUsda([], name, options, out),
  '.svg': (_name, _options, out) => text(out, '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1"></svg>'),
  '.csv': (_name, _options, out) => writeCsv(noPoints, out),
};
