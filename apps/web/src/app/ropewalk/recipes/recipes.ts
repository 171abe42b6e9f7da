import { definitionById, emptyDocument, nodeDefinitions, sampleOf, type FilaxisDocument } from '@filaxis/core';
import { addNode, connectAll } from '../document/edits';
import { tagGap, widthOf } from '../graph/tag-geometry';

type Settings = Readonly<Record<string, unknown>>;

/** A job of the trade as a small graph that wires itself: a node with what it needs before it, and a chain after it, to a result. */
export interface Recipe {
  readonly title: string;
  /** What to change first. */
  readonly text: string;
  /** Type of the first node, put in with its example's inputs. */
  readonly begin: string;
  /** Settings of the first node; default: its example's. */
  readonly settings?: Settings;
  /** The nodes after it, each wired to the one before, and to more nodes where it needs them: new ones, or those of a type that is there already. */
  readonly then: readonly (readonly [type: string, settings?: Settings, ...beside: (string | readonly [type: string, settings?: Settings])[]])[];
}

const rope = ['skin.rope', { diameter: 0.03 }] as const;
const hemp = ['mesh.material', { name: 'hemp', colour: '#b08d57', roughness: 0.85 }] as const;
const leaf = ['mesh.material', { name: 'stem', colour: '#4f6b3a', roughness: 0.7 }] as const;
const wood = ['mesh.material', { name: 'wood', colour: '#8a6b4a', roughness: 0.9 }] as const;
const iron = ['mesh.material', { name: 'iron', colour: '#4a4f55', metalness: 0.6, roughness: 0.5 }] as const;
const result = ['flow.output'] as const;
const withGround = ['flow.output', {}, 'lay.terrain'] as const;

/** In the order in which they are offered. */
export const recipes: readonly Recipe[] = [
  { title: 'A rope between two points', text: 'Move the ends of Line; the amount of Hang sets the sag.', begin: 'lay.line', then: [['shape.hang'], rope, hemp, result] },
  { title: 'A pipe with round bends', text: 'Draw the path; Round corners sets the bend radius.', begin: 'shape.roundCorners', then: [['skin.tube', { radius: 0.03, caps: 'flat' }], iron, result] },
  { title: 'Posts along a path on ground', text: 'Replace Line with the path; the spacing of Place copies sets the distance between posts.', begin: 'lay.line', settings: { from: [-8, 0, -3], to: [8, 0, 4], points: 60 }, then: [['shape.drape', { method: 'alongDirection' }, ['lay.terrain', { size: [24, 24], height: 2 }]], ['place.copies', { spacing: 2, align: 'upright' }, ['lay.box', { size: [0.12, 2.4, 0.12] }]], withGround] },
  { title: 'A fence on ground', text: 'Replace Line with the path; Run of pieces sets where panels and posts stand.', begin: 'lay.line', settings: { from: [-8, 0, -3], to: [8, 0, 4], points: 60 }, then: [['shape.drape', { method: 'alongDirection' }, ['lay.terrain', { size: [24, 24], height: 2 }]], ['place.run', { begin: 'edge', stands: [{}, { along: false, joints: true }] }, ['lay.box', { size: [0.05, 1, 2] }], ['lay.box', { size: [0.12, 2.6, 0.12] }]], wood, withGround] },
  { title: 'Ropes linked between posts', text: 'Wire in your own posts and points; Link points sets the number of links.', begin: 'place.links', then: [['shape.hang'], rope, hemp, result] },
  { title: 'Turns of rope round posts', text: 'Wire in your own posts and points; Loops around sets the turns at each point.', begin: 'place.loops', settings: { form: 'rope', offset: 0.015, spacing: 0.05 }, then: [rope, hemp, result] },
  { title: 'A rope where a plane cuts a body', text: 'Wire in your own body and draw the planes.', begin: 'mesh.section', then: [['skin.rope', { diameter: 0.02 }], hemp, result] },
  { title: 'A creeper over a body', text: 'Draw the start on the body; Creep grows from it.', begin: 'grow.creep', then: [['skin.tube', { radius: { ramp: [[0, 0.012], [1, 0.003]] } }], leaf, result] },
  { title: 'A plant from rules', text: 'Edit the rules; Tube sets the thickness.', begin: 'grow.rules', then: [['skin.tube', { radius: 0.01 }], leaf, result] },
  { title: 'Veins: shortest routes over a surface', text: 'Shortest routes sets where they start and end.', begin: 'grow.routes', then: [['skin.tube', { radius: 0.01 }], leaf, result] },
  { title: 'Things along a path', text: 'Wire in your own path and objects; Place copies sets the spacing.', begin: 'place.copies', then: [result] },
  { title: 'A surface through curves', text: 'Add or move the curves.', begin: 'skin.loft', then: [['mesh.material'], result] },
  { title: 'Panels over a surface', text: 'Wire in your own surface; Tile pattern sets the panels.', begin: 'skin.tiles', then: [result] },
]; // prettier-ignore

/** How far below a node stands what is wired to it beside the chain. */
const below = 110;

/** The graph of a recipe, from the upper left. */
export function recipeDocument({ title, begin, settings, then }: Recipe): FilaxisDocument {
  let document: FilaxisDocument = { ...emptyDocument, ...sampleOf(nodeDefinitions.get(begin)!), title };
  let last = document.nodes.findLast(({ type }) => type === begin)!.id;
  if (settings) document = { ...document, nodes: document.nodes.map((node) => (node.id === last ? { ...node, settings } : node)) };
  for (const [type, own, ...besides] of then) {
    const before = document.nodes.find(({ id }) => id === last)!;
    const [x, y] = before.at ?? [0, 0];
    const made = addNode(document, type, [x + widthOf(before) + tagGap, y], own);
    document = connectAll(made.document, [firstOutput(made.document, last)], made.id);
    besides.forEach((beside, i) => {
      const more =
        typeof beside === 'string'
          ? { document, id: document.nodes.find((node) => node.type === beside)!.id }
          : addNode(document, beside[0], [x, y + below * (i + 1)], beside[1]);
      document = connectAll(more.document, [firstOutput(more.document, more.id)], made.id);
    });
    last = made.id;
  }
  return document;
}

/** The output of a node that goes on: its mesh, where it has one. */
function firstOutput(document: FilaxisDocument, id: string): [string, string] {
  const { outputs } = definitionById(document, id)!;
  return [id, (outputs.find(({ kind }) => kind === 'mesh') ?? outputs[0]).name];
}
