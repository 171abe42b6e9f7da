/** Something that people look for and Filaxis does not have, with what comes nearest. */
export interface Elsewhere {
  readonly name: string;
  readonly words: readonly string[];
  /** The kind of node that comes nearest. */
  readonly nearest: string;
  readonly says: string;
}

export const elsewhere: readonly Elsewhere[] = [
  {
    name: 'Decals',
    words: ['decal', 'sticker'],
    nearest: 'mesh.uv',
    says: 'Lay UVs over the region and paint it in your texturing program.',
  },
  {
    name: 'Texture atlas',
    words: ['atlas', 'pack', 'packing', 'udim', 'texel density'],
    nearest: 'mesh.uv',
    says: 'UVs can be laid at a scale; islands are packed in your UV program.',
  },
  {
    name: 'Fur and grooming',
    words: ['fur', 'comb', 'groom', 'clump', 'curl', 'frizz', 'hair card', 'brush'],
    nearest: 'place.scatter',
    says: 'Scatter roots, and keep strands outside the body.',
  },
  { name: 'Keyframes', words: ['keyframe', 'animation curve', 'key'], nearest: 'gauge.time', says: 'Whatever takes a formula moves by the time.' },
  {
    name: 'Sculpting',
    words: ['sculpt', 'inflate', 'crease brush', 'smear'],
    nearest: 'shape.displace',
    says: 'Points are moved by noise, a formula or an attribute.',
  },
  {
    name: 'Bones and weights',
    words: ['rig', 'bone', 'skinning', 'joint weights', 'skeleton'],
    nearest: 'aim.frames',
    says: 'Frames along the path can be exported as an attribute.',
  },
  {
    name: 'Bevels on meshes',
    words: ['bevel', 'chamfer', 'round edge'],
    nearest: 'shape.roundCorners',
    says: 'Round the corners of the outline or path before it is skinned.',
  },
  {
    name: 'Embossing',
    words: ['emboss', 'engrave', 'relief', 'deboss'],
    nearest: 'shape.displace',
    says: 'A mesh is displaced along its normals by an attribute.',
  },
  {
    name: 'Particles',
    words: ['particle', 'emitter', 'spray', 'sparks'],
    nearest: 'place.scatter',
    says: 'Points are scattered on faces or curves; they do not move by forces.',
  },
  {
    name: 'Fluids and smoke',
    words: ['fluid', 'smoke', 'fire', 'water', 'liquid', 'cloud'],
    nearest: 'lay.blob',
    says: 'A body can be blended of places and radii.',
  },
  { name: 'Cloth', words: ['fabric', 'sail cloth', 'flag', 'drapery'], nearest: 'shape.relax', says: 'Curves are relaxed under gravity; sheets are not.' },
  {
    name: 'Text',
    words: ['text', 'letters', 'font', 'typography', 'label', 'sign'],
    nearest: 'lay.importCurves',
    says: 'Letters come in as outlines of an SVG file.',
  },
  {
    name: 'Lights and cameras',
    words: ['camera', 'spotlight', 'lamp', 'hdri', 'sun'],
    nearest: 'flow.output',
    says: 'The 3D view has lightings of its own; files hold geometry alone.',
  },
  {
    name: 'Baking of maps',
    words: ['normal map', 'bake map', 'height map', 'ambient occlusion', 'lightmap'],
    nearest: 'mesh.normals',
    says: 'Values are written to vertices; maps are baked in your texturing program.',
  },
  {
    name: 'Loops over parts',
    words: ['for each', 'foreach', 'iterate'],
    nearest: 'mesh.parts',
    says: 'Nodes work on all parts at once; a value for each comes from a formula.',
  },
  {
    name: 'Blocks of nodes',
    words: ['subgraph', 'function node', 'macro', 'asset node', 'custom node'],
    nearest: 'flow.output',
    says: 'An area keeps nodes together, and nodes can be copied between documents.',
  },
  {
    name: 'Scripts',
    words: ['script', 'python', 'javascript', 'code', 'expression'],
    nearest: 'gauge.formula',
    says: 'Formulas compute a value for each element.',
  },
  {
    name: 'Switching between inputs',
    words: ['gate', 'if', 'choose input', 'conditional', 'multiplexer'],
    nearest: 'mesh.keep',
    says: 'Keep or drop takes parts by a condition; any node can be switched off.',
  },
  {
    name: 'Quads from triangles',
    words: ['quadrangulate', 'retopo', 'quad remesh', 'quads'],
    nearest: 'mesh.even',
    says: 'Even out lays even triangles; skins give quads from the start.',
  },
];
