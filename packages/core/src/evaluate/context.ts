import type { Geometry, GeometrySet } from '../geometry/geometry.js';
import type { GivenNumbers } from '../varying/elements.js';
import type { PerElement } from '../varying/perElement.js';
import { constantField } from '../values/field.js';
import { FormulaError } from '../values/formula/tokens.js';
import { resolveVarying, type ResolveOptions } from '../varying/varying.js';
import { resolveVaryingVector } from '../varying/varyingVector.js';
import type { Problem } from '../document/problem.js';
import type { RunContext, Warning } from '../definition/define.js';
import type { Inputs } from './inputs.js';
import type { RunRequest, Varied } from './result.js';
import { Cancelled, LimitError, requireWithin, type Limits } from '../base/limits.js';
import type { PlannedNode } from './plan.js';
import { rangeOf } from '../definition/settings.js';
import { UnequalLists } from '../base/unequal.js';
import { unbounded, type Memory } from '../base/work.js';

/** A node at work: what it runs with, and what it says meanwhile. */
export interface Step {
  readonly planned: PlannedNode;
  readonly settings: Readonly<Record<string, unknown>>;
  /** Dials and times that formulas among its text settings name. */
  readonly numbers: GivenNumbers;
  /** Seconds of the timeline, and its frames a second. */
  readonly time: number;
  readonly rate: number;
  /** Identity of its result. */
  readonly key: number;
  readonly warnings: Warning[];
  readonly varied: Varied;
  readonly request: RunRequest;
  readonly limits: Limits;
  readonly memory: Memory;
  /** When the whole run began, ms. */
  readonly started: number;
  readonly imported: ((hash: string) => GeometrySet) | undefined;
  readonly evaluate: RunContext<unknown>['evaluate'];
}

/** What a node's `run` sees and can say. */
export function makeContext(step: Step, given: Inputs): RunContext<unknown> {
  const { planned, settings, numbers, warnings, varied, request, limits, memory, imported, evaluate } = step;
  let told = performance.now();
  const progress = (fraction: number): void => {
    if (request.cancelled?.()) throw new Cancelled();
    const now = performance.now();
    if (now - step.started > limits.seconds * 1000) throw new LimitError(`The run took longer than the limit of ${limits.seconds} s.`);
    if (now - told < 50) return;
    told = now;
    request.onProgress?.(planned.node.id, fraction);
  };
  /** Notes what a setting's values are worked out for, and tells what goes wrong at the setting. */
  const valuesOf = (value: unknown, over: Geometry, per: PerElement): (<T>(resolve: (options: ResolveOptions) => T) => T) => {
    const keys = Object.keys(settings).filter((name) => settings[name] === value);
    for (const name of keys) varied[name] = { over, per };
    const [key] = keys;
    const setting = keys.length ? planned.definition?.settings[key] : undefined;
    const range = setting?.kind === 'number' || setting?.kind === 'integer' ? rangeOf(setting) : undefined;
    return (resolve) => {
      try {
        return resolve({ label: setting?.label, range, work: { ...unbounded, progress, memory } });
      } catch (error) {
        if (!keys.length || error instanceof Cancelled || error instanceof LimitError || !(error instanceof Error)) throw error;
        throw new SettingError(key, error instanceof FormulaError ? `${setting?.label}: ${error.message}.` : error.message);
      }
    };
  };
  return {
    settings,
    // Required inputs are there, and of the kinds of their ports: see `gatherInputs`.
    input: (port) => given.get(port)?.[0] as Geometry,
    inputs: (port) => given.get(port) ?? [],
    field: (value, over, per) => {
      const resolve = valuesOf(value, over, per);
      return typeof value === 'object' ? resolve((options) => resolveVarying(value, over, per, options)) : constantField(Number(value));
    },
    vectorField: (value, over, per) => valuesOf(value, over, per)((options) => resolveVaryingVector(value, over, per, options)),
    time: step.time,
    rate: step.rate,
    given: numbers,
    warn: (warning) => void warnings.push(warning),
    claim: (size) => {
      progress(0);
      requireWithin(limits, size);
    },
    progress,
    memory,
    evaluate,
    imported: (hash) => {
      if (!imported) throw new Error('Imported files cannot be read here.');
      return imported(hash);
    },
  };
}

/** A setting whose values could not be worked out. */
export class SettingError extends Error {
  override name = 'SettingError';
  constructor(
    readonly setting: string,
    message: string,
  ) {
    super(message);
  }
}

export function asProblem(error: unknown, { node, index }: PlannedNode): Problem {
  const message = error instanceof Error ? error.message : String(error);
  if (error instanceof SettingError) return { pointer: `/nodes/${index}/settings/${error.setting}`, message, node: node.id, setting: error.setting };
  const code = error instanceof UnequalLists && { code: error.code };
  return { pointer: `/nodes/${index}`, message, node: node.id, ...code };
}
