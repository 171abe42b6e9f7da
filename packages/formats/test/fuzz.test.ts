import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { GeometryError } from '@filaxis/core';
import { FormatError, readImport, readers, writers } from '../src/index.js';
import { colouredTube } from './shapes.js';

const encode = (text: string): Uint8Array => new TextEncoder().encode(text);

/** Whatever the bytes are: a result or a refusal with words, never another error. */
async function survives(ending: string, bytes: Uint8Array): Promise<void> {
  try {
    await readers[ending](bytes);
  } catch (error) {
    expect(error instanceof FormatError || error instanceof GeometryError, `${ending}: ${String(error)}`).toBe(true);
    expect((error as Error).message.length).toBeGreaterThan(5);
  }
}

/** The text with a piece cut out, doubled or replaced. */
const damaged = (text: string): fc.Arbitrary<string> =>
  fc
    .tuple(fc.nat(text.length), fc.nat(40), fc.constantFrom('', '-', '"', '<', '9e999', 'NaN', '\u0000', '{', 'Z', '1 2 3'))
    .map(([at, length, put]) => text.slice(0, at) + put + text.slice(at + length));

describe('damaged files are read or refused, whatever was done to them', () => {
  const svg =
    '<svg xmlns="http://www.w3.org/2000/svg"><g transform="rotate(30) translate(1,2)"><path d="M0 0 C1 2 3 4 5 6 S7 8 9 9 Q1 1 2 2 T3 3 A5 4 10 1 0 8 8 Z m1 1 h3 v4"/><rect x="1" y="2" width="3" height="4" rx="1"/><ellipse cx="1" cy="1" rx="2" ry="3"/><polyline points="0,0 1,1 2,0"/></g></svg>';
  const csv = 'curve,x,y,z\na,0,0,0\na,1,0,0\n"b, c",2,0,1\n"b, c",3,1,1\n';
  const obj = 'o post\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvt 1 1\nf 1/1 2/2 3/1 4/2\nl 1 2 3\nf -1 -2 -3\n';

  test('SVG', () =>
    fc.assert(
      fc.asyncProperty(damaged(svg), (text) => survives('.svg', encode(text))),
      { numRuns: 400 },
    ));
  test('CSV', () =>
    fc.assert(
      fc.asyncProperty(damaged(csv), (text) => survives('.csv', encode(text))),
      { numRuns: 400 },
    ));
  test('OBJ', () =>
    fc.assert(
      fc.asyncProperty(damaged(obj), (text) => survives('.obj', encode(text))),
      { numRuns: 400 },
    ));

  test('JSON', async () => {
    const json = new TextDecoder().decode(await writers['.json'](await colouredTube(), 'x')).slice(0, 1500);
    await fc.assert(
      fc.asyncProperty(damaged(json), (text) => survives('.json', encode(text))),
      { numRuns: 200 },
    );
    await fc.assert(
      fc.asyncProperty(fc.jsonValue(), (value) => survives('.json', encode(JSON.stringify({ curves: value, mesh: value, points: value })))),
      { numRuns: 200 },
    );
  });

  test('GLB', async () => {
    const glb = await writers['.glb'](await colouredTube(), 'x');
    await fc.assert(
      fc.asyncProperty(fc.nat(glb.length - 1), fc.nat(255), async (at, byte) => {
        const changed = glb.slice();
        changed[at] = byte;
        await survives('.glb', changed);
      }),
      { numRuns: 200 },
    );
  });

  test('any bytes at all', () =>
    fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 200 }), fc.constantFrom(...Object.keys(readers)), (bytes, ending) => survives(ending, bytes)),
      { numRuns: 300 },
    ));
});

test('a drawing of 50,000 commands is read in one go, a nest of 5,000 groups is refused', async () => {
  const long = `<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0${'l1 0 0 1'.repeat(25_000)}"/></svg>`;
  expect((await readImport(encode(long))).curves!.positions.length).toBe(3 * 50_001);
  const deep = `<svg xmlns="http://www.w3.org/2000/svg">${'<g>'.repeat(5000)}<path d="M0 0L1 1"/>${'</g>'.repeat(5000)}</svg>`;
  await expect(readImport(encode(deep))).rejects.toThrow(FormatError);
});
