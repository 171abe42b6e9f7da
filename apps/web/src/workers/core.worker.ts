/// <reference lib="webworker" />
import {
  curveCount,
  type Curves,
  Evaluator,
  faceCount,
  findings,
  type GeometrySet,
  outputsOf,
  Plan,
  Pool,
  problemsOf,
  resultOf,
  type RunResult,
  unbounded,
  type Value,
} from '@filaxis/core';
import { readImport } from '@filaxis/formats';
import { SharedWord, type FromWorker, type NodeState, type PictureParcel, type Questions, type ToWorker } from '@filaxis/protocol';
import { buffersOf } from './parcel';
import { heldBy, makePicture, type Sent } from './picture';
import { answer, type QuickTopic } from './answers';
import type { Newest } from './newest';
import { shownSets } from './shown';
import { pathSources, unroll } from './strip';
import { exportResult, freeze, obstacleOf, type Writing } from './writing';

/** The worker that owns a document's evaluation. One run at a time; a newer one stops the older. */

/** What is in imported files, or why a file cannot be read. */
const imported = new Map<string, GeometrySet | Error>();
/** Files that could not be fetched, and why. */
const unreachable = new Map<string, string>();
const pool = new Pool();
const evaluator = new Evaluator({
  pool,
  imported: (hash) => {
    const file = imported.get(hash);
    const reason = unreachable.get(hash);
    if (!file && reason) throw new Error(`The imported file cannot be fetched: ${reason}`);
    if (!file) {
      tell({ kind: 'missing-asset', hash });
      throw new Error('The imported file is being fetched …');
    }
    if (file instanceof Error) throw file;
    return file;
  },
});
let newest: Int32Array | null = null;
let plan: Plan | null = null;
/** What the page draws now: the identities of its parts, and the results that they came from. */
let drawn = '';
let sent: Sent | undefined;
/** The newest complete run, for questions. */
let last: Newest | null = null;
/** Runs that were begun: looking over an older one is given up. */
let begun = 0;
let work: Promise<void> = Promise.resolve();

const tell = (message: FromWorker, transfer: Transferable[] = []): void => postMessage(message, transfer);

/** Lets messages in between two steps. */
const pause = (): Promise<void> =>
  new Promise((done) => {
    const channel = new MessageChannel();
    channel.port1.onmessage = () => {
      channel.port1.close();
      done();
    };
    channel.port2.postMessage(0);
  });

async function run(message: Extract<ToWorker, { kind: 'run' }>): Promise<void> {
  begun++;
  pool.receive(message.spare);
  const current = plan;
  if (!current) throw new Error('The document could not be made ready to run.');
  const outdated = (): boolean => newest !== null && Atomics.load(newest, SharedWord.run) > message.run;
  const places = new Map(current.document.nodes.map(({ id }, i) => [id, i + 1]));
  const result = await evaluator.run(current, {
    dials: message.dials,
    time: message.time,
    cancelled: outdated,
    onBegin: (node) => newest && Atomics.store(newest, SharedWord.atWork, places.get(node)!),
    pause,
    onProgress: (node, fraction) => tell({ kind: 'progress', run: message.run, node, fraction }),
  });
  if (result.cancelled) {
    tell({ kind: 'cancelled', run: message.run });
    return;
  }
  const nodes: Record<string, NodeState> = {};
  for (const [id, { ms, in: given, out, warnings, error, outputs }] of result.nodes)
    nodes[id] = {
      ms,
      in: given,
      out,
      warnings,
      error: error ?? null,
      value: Object.values(outputs).flatMap(valueText)[0] ?? null,
      kinds: Object.fromEntries(Object.entries(outputs).map(([port, value]) => [port, value.type])),
    };
  const sources = pathSources(current, result, message.show);
  const shown = shownSets(current, result, message.show);
  const ghosts = [...shown.context, ...(message.show.ghost ? [message.show.ghost] : [])];
  const identity = JSON.stringify([
    shown.keys,
    sources.map(({ node }) => result.nodes.get(node)?.key),
    message.show.peek,
    message.show.colour,
    ghosts.map((id) => result.nodes.get(id)?.key),
  ]);
  const complete = shown.keys.every((key) => key > 0);
  // While something shown has no result, the last good picture stays.
  const changed = identity !== drawn && (complete || drawn === '');
  if (changed) drawn = identity;
  const parcel = changed
    ? pictureOf(
        current,
        result,
        shown.sets,
        sources.map(({ curves }) => curves),
        message.show.colour,
        ghosts,
      )
    : null;
  tell(
    { kind: 'result', run: message.run, ms: result.ms, nodes, picture: parcel, shown: complete ? shown.ids : null, problems: problemsOf(current, result) },
    parcel ? buffersOf(parcel) : [],
  );
  // Questions are answered from this run alone from now on, and the next picture compared with this one.
  last = { plan: current, run: result, shown: shown.ids, time: message.time };
  evaluator.reclaim(result, sent && heldBy(sent));
  tell({ kind: 'strip', run: message.run, strip: unroll(current, result, sources, message.show) });
}

function pictureOf(
  current: Plan,
  result: RunResult,
  sets: readonly GeometrySet[],
  paths: readonly Curves[],
  colour: string | null,
  ghosts: readonly string[],
): PictureParcel {
  const ghost = ghosts.map((id) => resultOf(result.nodes.get(id)));
  const made = makePicture({ sets, paths, budget: budgetOf(current), colour, ghost }, sent, pool);
  sent = made.sent;
  return made.parcel;
}

/** A number or vector as a tag shows it. */
function valueText(value: Value): string[] {
  const text = (number: number): string => String(Number(number.toPrecision(5)));
  if (value.type === 'number') return [text(value.value)];
  return value.type === 'vector' ? [value.value.map(text).join(', ')] : [];
}

const budgetOf = ({ document }: Plan): number => outputsOf(document).reduce((sum, { settings }) => sum + Number(settings?.['budget'] ?? 0), 0);

/** What files are written with; `stopped` when the page has asked for it since. */
function writing(): Writing {
  const stops = newest && Atomics.load(newest, SharedWord.writing);
  return { evaluator, plan, tell, pause, stopped: () => newest !== null && Atomics.load(newest, SharedWord.writing) !== stops };
}

async function readAsset({ hash, name, bytes }: Extract<ToWorker, { kind: 'asset' }>): Promise<void> {
  const stops = newest && Atomics.load(newest, SharedWord.reading);
  const progress = (fraction: number): void => {
    if (newest && Atomics.load(newest, SharedWord.reading) !== stops) throw new Error('Reading the file was stopped. Choose it again to read it.');
    tell({ kind: 'reading', hash, fraction });
  };
  const set = await readImport(bytes, name, undefined, progress);
  imported.set(hash, set);
  unreachable.delete(hash);
  const { curves, mesh, points } = set;
  const found = { curves: curves ? curveCount(curves) : 0, faces: mesh ? faceCount(mesh) : 0, points: points ? points.positions.length / 3 : 0 };
  tell({ kind: 'asset-read', hash, found });
}

/** Looks a run over, and gives up within some milliseconds when another is asked for. */
async function lookOver(request: number): Promise<void> {
  const looked = last;
  const mine = begun;
  const asked = newest && Atomics.load(newest, SharedWord.run);
  const requireNewest = (): void => {
    if (begun !== mine || (newest && Atomics.load(newest, SharedWord.run) !== asked)) throw new Error('A newer run began.');
  };
  try {
    const given = [];
    if (looked)
      for (const some of findings(looked.plan, looked.run, { ...unbounded, progress: requireNewest })) {
        given.push(...some);
        await pause();
        requireNewest();
      }
    tell({ kind: 'answer', request, answer: given });
  } catch (error) {
    tell({ kind: 'no-answer', request, message: (error as Error).message });
  }
}

/** One after another, so that a run never meets a half-changed state. */
function enqueue(step: () => Promise<void>, failed: (error: Error) => void): void {
  work = work.then(step).catch(failed);
}

addEventListener('message', ({ data }: MessageEvent<ToWorker>) => {
  switch (data.kind) {
    case 'start':
      newest = data.newest;
      break;
    case 'document':
      enqueue(
        async () => {
          plan = new Plan(data.document);
        },
        // The run that follows finds no plan, and says so.
        () => (plan = null),
      );
      break;
    case 'asset':
      // Read in turn with the runs, so that one that follows finds it.
      enqueue(
        () => readAsset(data),
        (error) => {
          imported.set(data.hash, error);
          tell({ kind: 'asset-refused', hash: data.hash, message: error.message });
        },
      );
      break;
    case 'asset-failed':
      unreachable.set(data.hash, data.message);
      break;
    case 'run':
      enqueue(
        () => run(data),
        (error) => tell({ kind: 'run-failed', run: data.run, message: error.message }),
      );
      break;
    case 'ask': {
      const { topic } = data;
      if (topic === 'checks') {
        void lookOver(data.request);
        break;
      }
      enqueue(
        async () => {
          if (!last) throw new Error('Nothing has been computed yet.');
          const given = answer(last, topic, data.question as Questions[QuickTopic]);
          tell({ kind: 'answer', request: data.request, answer: given });
        },
        (error) => tell({ kind: 'no-answer', request: data.request, message: error.message }),
      );
      break;
    }
    case 'freeze':
      enqueue(
        () => freeze(data, writing()),
        (error) => tell({ kind: 'no-answer', request: data.request, message: error.message }),
      );
      break;
    case 'export':
      enqueue(
        () => exportResult(data, writing()),
        (error) => tell({ kind: 'export-failed', request: data.request, message: error.message, obstacle: obstacleOf(error) }),
      );
      break;
  }
});
