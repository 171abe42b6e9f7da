import { inject, Injectable } from '@angular/core';
import { firstValueFrom } from 'rxjs';
import {
  definitionById,
  indexOf,
  labelById,
  nodeDefinitions,
  sampleOf,
  type FilaxisDocument,
  type GraphNode,
  type NodeDefinition,
  type Wire,
} from '@filaxis/core';
import { buffersBeside, endingOf, importEndings, largestImport, withBuffersInside } from '@filaxis/formats';
import { ApiService } from '../../shared/api.service';
import { sha256 } from '../../shared/assets';
import { counted, type Counted } from '../../shared/figures';
import { EvaluationService } from '../evaluation.service';
import { DocumentService } from './document.service';
import { cut, paste, readCutting } from './cutting';
import { addNode, connectAll, disconnect, insertOnWire, putBehind, removeJoining, removeNodes, setSetting, thickAsGiven, type End } from './edits';
import { makeRoom } from './layout';

/** A place in the graph, in its pixels. */
interface Place {
  readonly x: number;
  readonly y: number;
}

/** How far beneath the graph examples are put. */
const beneath = 160;

/** What an artist does to the chosen nodes: each a named change of the open document. */
@Injectable()
export class EditingService {
  private readonly documents = inject(DocumentService);
  private readonly evaluation = inject(EvaluationService);
  private readonly api = inject(ApiService);

  /** The first outputs of the chosen nodes in the order in which they were chosen: a new node may be wired from them. */
  chosenOutputs(): End[] {
    const document = this.documents.document();
    return [...this.documents.selection()].flatMap((id): End[] => {
      const [output] = definitionById(document, id)?.outputs ?? [];
      return output ? [[id, output.name]] : [];
    });
  }

  /** Adds a node, wired from outputs where they fit or put on a wire, and chooses it. Returns its id. */
  add(type: string, at: Place, from: readonly End[], on: Wire | null = null, settings: Readonly<Record<string, unknown>> = {}): string {
    const made = addNode(this.documents.document(), type, [Math.round(at.x), Math.round(at.y)], settings);
    const inserted = on && insertOnWire(made.document, made.id, on);
    const wired = inserted ? makeRoom(inserted, made.id) : connectAll(made.document, from, made.id);
    this.documents.apply(`Add ${labelById(made.document, made.id)}`, thickAsGiven(wired, made.id));
    this.documents.select(made.id);
    return made.id;
  }

  /** Puts a small example of a node in, beneath all that is there, and chooses it. Returns the node that shows what comes of it; null: it cannot be shown without a file. */
  putExample(definition: NodeDefinition): string | null {
    const example = sampleOf(definition);
    if (!example) return null;
    const ids = this.putBeneath(`Put in an example of ${definition.label}`, example);
    this.documents.select(ids[example.nodes.findLastIndex(({ type }) => type === definition.type)]);
    return ids.at(-1)!;
  }

  /** Puts a whole graph in, beneath all that is there. Returns the ids of its nodes, in their order. */
  putBeneath(label: string, graph: FilaxisDocument): readonly string[] {
    const document = this.documents.document();
    const places = document.nodes.flatMap(({ at }) => (at ? [at] : []));
    const by = places.length ? ([Math.min(...places.map(([x]) => x)), Math.max(...places.map(([, y]) => y)) + beneath] as const) : ([0, 0] as const);
    const put = paste(document, cut(graph, new Set(graph.nodes.map(({ id }) => id))), by);
    this.documents.apply(label, put.document);
    return put.ids;
  }

  /** Removes the chosen wire, or the chosen nodes: what came into them goes on to where they led, or with `open` their wires go with them. */
  removeChosen(open = false): void {
    const wire = this.documents.selectedWire();
    const ids = this.documents.selection();
    const document = this.documents.document();
    if (wire) this.documents.apply('Remove wire', disconnect(document, wire));
    else if (ids.size) this.documents.apply(ids.size === 1 ? 'Delete node' : `Delete ${ids.size} nodes`, (open ? removeNodes : removeJoining)(document, ids));
    this.documents.select();
  }

  /** Copies the chosen nodes beside them, fed as they are unless `open`. */
  duplicate(open = false): void {
    const ids = this.documents.selection();
    if (ids.size) this.putIn(open ? 'Duplicate without wires' : 'Duplicate', this.chosenAsText(), { by: [24, 80], open });
  }

  /** The chosen nodes as text for the clipboard. */
  chosenAsText(): string {
    return JSON.stringify(cut(this.documents.document(), this.documents.selection()), null, 1);
  }

  /** Puts clipboard text in, moved by some way or with its upper left corner at a place; false when it holds no nodes. `open`: without wires from elsewhere. */
  putIn(label: string, text: string, { by, at, open = false }: { by?: readonly [number, number]; at?: Place; open?: boolean }): boolean {
    const cutting = readCutting(text);
    if (!cutting) return false;
    const corner = (axis: 0 | 1): number => Math.min(...cutting.nodes.map((node) => node.at?.[axis] ?? 0));
    const way: readonly [number, number] = at ? [Math.round(at.x - corner(0)), Math.round(at.y - corner(1))] : (by ?? [32, 48]);
    const pasted = paste(this.documents.document(), open ? { ...cutting, feeds: [] } : cutting, way);
    this.documents.apply(label, pasted.document);
    this.documents.select(...pasted.ids);
    return true;
  }

  canSwitch(): boolean {
    return this.documents.chosenDefinition()?.passes ?? false;
  }

  /** Switches the chosen node off, or on again. */
  switchChosen(): void {
    const node = this.documents.chosen();
    if (!node || !this.canSwitch()) return;
    const isOff = node.settings?.['on'] === false;
    this.documents.apply(isOff ? 'Switch on' : 'Switch off', setSetting(this.documents.document(), node.id, 'on', isOff ? undefined : false));
  }

  /** Chooses the nearest node in a direction, or the first one. Returns its id. */
  step(dx: number, dy: number): string | null {
    const from = this.documents.chosen();
    const { nodes } = this.documents.document();
    const place = ({ at = [0, 0] }: GraphNode): readonly [number, number] => at;
    const cost = (node: GraphNode): number => {
      if (!from) return 0;
      const [x, y] = [place(node)[0] - place(from)[0], place(node)[1] - place(from)[1]];
      const ahead = x * dx + y * dy;
      return ahead > 4 ? ahead + 2.5 * Math.abs(x * dy + y * dx) : Infinity;
    };
    const [next] = nodes.filter((node) => node !== from && cost(node) < Infinity).sort((a, b) => cost(a) - cost(b));
    if (next) this.documents.select(next.id);
    return next?.id ?? null;
  }

  /** Keeps what comes into a Frozen node, as it is now; behind any other node one is put that keeps its first output. @throws Error saying why there is nothing to keep. */
  async freeze(id: string): Promise<void> {
    const own = isFreezer(definitionById(this.documents.document(), id));
    const { document, id: freezer } = own ? { document: this.documents.document(), id } : putBehind(this.documents.document(), id, freezerType);
    const from = indexOf(document).wiresTo.get(freezer)?.[0]?.from;
    if (!from) throw new Error('Nothing comes in that could be frozen.');
    const { bytes, counts } = await firstValueFrom(this.evaluation.freeze(from));
    const hash = await sha256(bytes);
    await firstValueFrom(this.evaluation.readAsset(hash, '', bytes));
    const size = bytes.length;
    const text = Object.entries(counts).map(([what, count]) => counted(count, what as Counted)).join(', '); // prettier-ignore
    const name = `${labelById(document, from[0])}: ${text}`;
    await this.api.putAsset(hash, name, bytes);
    // The document may have gone on meanwhile.
    const now = this.documents.document();
    const put = own ? { document: now, id } : putBehind(now, id, freezerType);
    const kept = { ...put.document, assets: { ...put.document.assets, [hash]: { name, bytes: size, taken: new Date().toISOString() } } };
    const frozen = setSetting(kept, put.id, 'asset', hash);
    this.documents.apply(`Freeze ${labelById(document, from[0])}`, own ? frozen : makeRoom(frozen, put.id));
    this.documents.select(put.id);
  }

  /** Lets what comes into a Frozen node pass again. */
  thaw(id: string): void {
    this.documents.apply('Thaw', setSetting(this.documents.document(), id, 'asset', undefined));
  }

  /**
   * Stores files and makes a node of each at a place, or gives one to a node. Files that another names (the buffers of a .gltf) go into that one.
   * @throws Error with a message that names the file.
   */
  async importFiles(files: readonly File[], at: Place, node: string | null): Promise<void> {
    const beside = new Map(files.map((file) => [file.name, file]));
    const main = files.filter(({ name }) => !files.some((other) => endingOf(other.name) === '.gltf') || endingOf(name) !== '.bin');
    for (const [i, file] of main.entries()) await this.importFile(file, beside, { x: at.x, y: at.y + i * 80 }, node);
  }

  private async importFile(file: File, beside: ReadonlyMap<string, File>, at: Place, node: string | null): Promise<void> {
    const fail = (text: string): never => {
      throw new Error(`${file.name}: ${text}`);
    };
    if (!importEndings.includes(endingOf(file.name))) fail(`files that can be dropped here are ${importEndings.join(', ')}.`);
    const wanted = node === null ? undefined : importers.find(({ type }) => type === definitionById(this.documents.document(), node)?.type);
    let type = wanted?.type ?? '';
    let [bytes, hash] = [new Uint8Array(), ''];
    try {
      const given = new Uint8Array(await file.arrayBuffer());
      bytes = endingOf(file.name) === '.gltf' ? await withBuffers(given, beside) : given;
      if (bytes.length > largestImport) throw new Error(`it has ${bytes.length} bytes; the limit is ${largestImport}.`);
      hash = await sha256(bytes);
      const found = await firstValueFrom(this.evaluation.readAsset(hash, file.name, bytes));
      // A file of several is taken for its faces first.
      type ||= importers.find(({ holds }) => found[countOf[holds]])!.type;
      const takesLines = wanted?.holds === 'points' && found.curves;
      if (wanted && !found[countOf[wanted.holds]] && !takesLines) throw new Error(`it has ${wanted.absent}.`);
      await this.api.putAsset(hash, file.name, bytes);
    } catch (error) {
      fail((error as Error).message);
    }
    const before = this.documents.document();
    const named = { ...before, assets: { ...before.assets, [hash]: { name: file.name.slice(0, 200), bytes: bytes.length } } };
    if (node) return this.documents.apply('Choose file', setSetting(named, node, 'asset', hash));
    const made = addNode(named, type, [Math.round(at.x), Math.round(at.y)], { asset: hash });
    this.documents.apply(`Import ${file.name}`, made.document);
    this.documents.select(made.id);
  }
}

const isFreezer = (definition: NodeDefinition | undefined): boolean =>
  Object.values(definition?.settings ?? {}).some((setting) => setting.kind === 'asset' && setting.holds === 'frozen');
const freezerType = [...nodeDefinitions.values()].find(isFreezer)!.type;

/** What is counted in a file, by what a node looks for, in the order in which a file of several is taken. */
const countOf = { mesh: 'faces', curves: 'curves', points: 'points' } as const;

/** The nodes that files are for, and what each looks for in them. */
const importers = (Object.keys(countOf) as (keyof typeof countOf)[]).flatMap((holds) =>
  [...nodeDefinitions.values()].flatMap(({ type, settings }) => {
    const asset = settings['asset'];
    return asset?.kind === 'asset' && asset.holds === holds ? [{ type, holds, absent: asset.absent }] : [];
  }),
);

/** A glTF text whose buffers are in it, from the files that were given with it. */
async function withBuffers(bytes: Uint8Array<ArrayBuffer>, beside: ReadonlyMap<string, File>): Promise<Uint8Array<ArrayBuffer>> {
  const files = new Map<string, Uint8Array>();
  for (const uri of buffersBeside(bytes)) {
    const file = beside.get(uri.split('/').pop()!);
    if (file) files.set(uri, new Uint8Array(await file.arrayBuffer()));
  }
  return files.size ? withBuffersInside(bytes, (uri) => files.get(uri) ?? null) : bytes;
}
