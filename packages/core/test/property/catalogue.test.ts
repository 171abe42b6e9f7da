/** Every node of the catalogue, by itself, with every number at its ends and beyond, and with nothing, one element and much coming in. */
import { describe, expect, test } from 'vitest';
import { nodeDefinitions, type NodeDefinition } from '../../src/index.js';
import { extremesOf, oneElement, runNode, waysOf, type CatalogueRun } from '../catalogue.js';

/** What the language says when a program is wrong, which nobody who lays ropes should read. */
const raw =
  /undefined|null\b|is not a function|not iterable|Cannot (read|set|convert)|Invalid (typed )?array|call stack|is not defined|offset is out of bounds|Array buffer|BigInt|Maximum|Infinity|NaN|heap/;

const limits = { points: 300_000, vertices: 300_000, faces: 300_000, copies: 20_000 };

/** Runs a node and says what is wrong with how it went; null: nothing. */
async function faultOf(run: CatalogueRun): Promise<string | null> {
  const begun = process.cpuUsage();
  // Of the processor, not of the clock: what other programs do meanwhile does not count.
  const seconds = (): number => process.cpuUsage(begun).user / 1e6;
  try {
    const result = await runNode(run, { cancelled: () => seconds() > 60 }, { limits });
    if (result === null) return 'it did not end by itself within a minute';
    const { error, warnings, outputs } = result;
    const said = [error?.message, ...warnings.map(({ message }) => message)].filter((text) => text !== undefined);
    const bad = said.find((text) => raw.test(text));
    if (bad !== undefined) return bad;
    if (error && !/^[A-Z0-9“"].*[.:]/s.test(error.message)) return `not a sentence: ${error.message}`;
    for (const value of Object.values(outputs))
      if ('positions' in value && value.positions.some((number) => !Number.isFinite(number))) return 'a place that is not finite';
    return null;
  } catch (error) {
    return `thrown: ${String(error)}`;
  }
}

/** Every whole number of a node at its end. */
const allAt = ({ settings }: NodeDefinition, end: 'min' | 'max'): Record<string, number> =>
  Object.fromEntries(
    Object.entries(settings).flatMap(([name, setting]) => (setting.kind === 'integer' && setting[end] !== undefined ? [[name, setting[end]]] : [])),
  );

function triesOf(definition: NodeDefinition): CatalogueRun[] {
  const { type } = definition;
  return waysOf(definition).flatMap((way): CatalogueRun[] => [
    { type, way },
    { type, way, empty: true },
    { type, way, size: oneElement },
    { type, way, settings: allAt(definition, 'max') },
    { type, way, settings: allAt(definition, 'min') },
    ...Object.entries(definition.settings).flatMap(([name, setting]) =>
      extremesOf(setting).map((value): CatalogueRun => ({ type, way, settings: { [name]: value } })),
    ),
  ]);
}

describe('whatever its settings and inputs are, a node gives a result, a warning, or an error in plain words', () => {
  for (const definition of nodeDefinitions.values())
    test(
      definition.type,
      async () => {
        const wrong: unknown[] = [];
        for (const run of triesOf(definition)) {
          const fault = await faultOf(run);
          if (fault) wrong.push([run.way, run.empty ? 'empty' : (run.settings ?? run.size ?? {}), fault]);
        }
        expect(wrong).toEqual([]);
      },
      120_000,
    );
});

describe('a stop is heard in the middle of a step, also at the largest numbers that are permitted', () => {
  /** A run is asked to stop after so long, ms, and has to have stopped after so long beyond. */
  const [askedAfter, heardWithin] = [300, 200];
  /** Milliseconds of the processor from the asking to the end: what other programs on the machine do meanwhile does not count. */
  async function overrunOf(run: CatalogueRun): Promise<number> {
    let asked: NodeJS.CpuUsage | undefined;
    let begun = 0;
    const cancelled = (): boolean => {
      if (asked) return true;
      if (performance.now() - (begun ||= performance.now()) > askedAfter) asked = process.cpuUsage();
      return asked !== undefined;
    };
    const all = process.cpuUsage();
    await runNode(run, { cancelled });
    const { user, system } = process.cpuUsage(asked ?? all);
    return (user + system) / 1000 - (asked ? 0 : askedAfter);
  }
  for (const definition of nodeDefinitions.values()) {
    const most = Object.entries(definition.settings).filter(([, setting]) => setting.kind === 'integer' && (setting.max ?? 0) > 50);
    if (!most.length) continue;
    test(
      definition.type,
      async () => {
        const late: unknown[] = [];
        for (const way of waysOf(definition).slice(0, 1))
          for (const [name, setting] of most) {
            const run = { type: definition.type, way, settings: { [name]: (setting as { max: number }).max } };
            let over = Infinity;
            // What is collected as garbage at that moment is not the node's doing.
            for (let tries = 0; tries < 3 && over > heardWithin; tries++) over = await overrunOf(run);
            if (over > heardWithin) late.push([way, name, Math.round(over)]);
          }
        expect(late).toEqual([]);
      },
      120_000,
    );
  }
});
