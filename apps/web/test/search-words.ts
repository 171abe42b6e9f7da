/**
 * Words of the trade (common practice), with what the search must find first (`|`: one of them): a kind of node, `!` an action by the beginning of its name, `-` what is not here.
 */
// prettier-ignore
export const tradeWords: Readonly<Record<string, string>> = {
  // Curves from nothing.
  line: 'lay.line', segment: 'lay.line', straight: 'lay.line', arc: 'lay.arc3', arch: 'lay.arc3', circle: 'lay.circle', ring: 'lay.circle',
  helix: 'lay.helix', spiral: 'lay.helix', coil: 'lay.helix', spring: 'lay.helix', spline: 'lay.drawn', bezier: 'lay.drawn', nurbs: 'lay.drawn', polyline: 'lay.drawn|lay.throughPoints',
  draw: 'lay.drawn', pen: 'lay.drawn', polygon: 'lay.polygon', star: 'lay.polygon', triangle: 'lay.polygon', rectangle: 'lay.rectangle', square: 'lay.rectangle',
  interpolate: 'lay.throughPoints', 'connect points': 'place.links', svg: 'lay.importCurves', csv: 'lay.importCurves', 'paint on surface': 'lay.surfaceStroke',
  // Bodies.
  box: 'lay.box', cube: 'lay.box', cylinder: 'lay.cylinder', cone: 'lay.cylinder', sphere: 'lay.sphere', ball: 'lay.sphere', plane: 'lay.grid', grid: 'lay.grid',
  terrain: 'lay.terrain', landscape: 'lay.terrain', hills: 'lay.terrain', metaball: 'lay.blob', photogrammetry: 'lay.scan', scan: 'lay.scan',
  'point cloud': 'lay.importPoints', survey: 'lay.importPoints', 'import model': 'lay.importMesh', stl: 'lay.importMesh', 'cutting plane': 'lay.planes', knife: 'lay.planes',
  // Points along curves.
  resample: 'pace.resample', density: 'pace.resample', spacing: 'pace.resample', subdivide: 'pace.subdivide', chaikin: 'pace.subdivide', simplify: 'pace.simplify',
  trim: 'pace.cut', crop: 'pace.cut', split: 'pace.split', explode: 'pace.split', reverse: 'pace.reverse', backwards: 'pace.reverse', 'flip direction': 'pace.reverse',
  sort: 'pace.reorder', shuffle: 'pace.reorder', 'start point': 'pace.reorder', close: 'pace.closeOpen', 'open curve': 'pace.closeOpen', 'join ends': 'pace.joinEnds',
  ends: 'pace.points', vertices: 'pace.points', 'extract points': 'pace.points', chain: 'place.run', snap: 'shape.drape',
  // Shapes.
  move: 'shape.transform', rotate: 'shape.transform', scale: 'shape.transform', translate: 'shape.transform', transform: 'shape.transform', mirror: 'shape.mirror',
  symmetry: 'shape.mirror', reflect: 'shape.mirror', array: 'shape.row', duplicate: '!Duplicate', noise: 'shape.displace', jitter: 'shape.displace', wobble: 'shape.displace',
  displace: 'shape.displace', bump: 'shape.displace', hang: 'shape.hang', catenary: 'shape.hang', sag: 'shape.hang', droop: 'shape.hang', slack: 'shape.hang',
  offset: 'shape.offset', inset: 'shape.offset', parallel: 'shape.offset', contour: 'mesh.section', fillet: 'shape.roundCorners', 'round corners': 'shape.roundCorners',
  elbow: 'shape.roundCorners', smooth: 'shape.smooth', relax: 'shape.relax', laplacian: 'shape.smooth', simulate: 'shape.relax', physics: 'shape.relax', gravity: 'shape.relax',
  drape: 'shape.drape', project: 'shape.drape', shrinkwrap: 'shape.drape', 'drop to floor': 'shape.drape', 'snap to ground': 'shape.drape', bend: 'shape.bend', deform: 'shape.bend',
  collide: 'shape.keepOutside', collision: 'shape.keepOutside', avoid: 'shape.leadRound', obstacle: 'shape.leadRound', detour: 'shape.leadRound', penetration: 'shape.keepOutside',
  'push out': 'shape.keepOutside', tighten: 'shape.relax',
  // Frames.
  frame: 'aim.frames', orient: 'aim.frames', twist: 'aim.frames', roll: 'aim.frames', tangent: 'aim.frames', bishop: 'aim.frames', 'parallel transport': 'aim.frames',
  'up vector': 'aim.frames', 'rotation minimising': 'aim.frames', forward: 'aim.axes', 'swap axes': 'aim.axes',
  // Skins.
  tube: 'skin.tube', pipe: 'skin.tube', cable: 'skin.tube', hose: 'skin.tube', wire: 'skin.tube', joint: 'skin.tube', fork: 'skin.tube', taper: 'skin.tube', rope: 'skin.rope',
  braid: 'skin.rope', strand: 'skin.rope', yarn: 'skin.rope', cord: 'skin.rope', sweep: 'skin.sweep', profile: 'skin.sweep', gutter: 'skin.sweep', rail: 'place.run', 
  loft: 'skin.loft', bridge: 'skin.loft', patch: 'skin.loft', hull: 'skin.loft', ruled: 'skin.loft', ribbon: 'skin.ribbon', strap: 'skin.ribbon', card: 'skin.ribbon', leaf: 'skin.ribbon',
  extrude: 'skin.extrude', thickness: 'skin.extrude', shell: 'skin.extrude', fill: 'skin.fill', cap: 'skin.fill', hole: 'skin.fill', revolve: 'skin.sweep',
  lathe: 'skin.sweep', shingle: 'skin.tiles', hexagon: 'lay.polygon', honeycomb: 'skin.tiles', tile: 'skin.tiles', cladding: 'skin.tiles', lattice: 'mesh.edges',
  // Copies.
  copies: 'place.copies', instance: 'place.copies', instances: 'place.copies', clone: 'place.copies', scatter: 'pace.scatter|place.scatter', grass: 'place.scatter', sprinkle: 'place.scatter', populate: 'place.scatter',
  distribute: 'pace.scatter|place.scatter', fence: 'place.run', posts: 'place.run', kerb: 'place.run', modular: 'place.run', lashing: 'place.loops', wrap: 'place.loops', wind: 'place.loops',
  loops: 'place.loops', links: 'place.links', connect: 'place.links|lay.throughPoints', 'write out': 'place.expand',
  // Meshes.
  boolean: 'mesh.solid', union: 'mesh.solid', difference: 'mesh.solid', subtract: 'mesh.solid', intersection: 'mesh.solid', intersect: 'mesh.solid', csg: 'mesh.solid', carve: 'mesh.solid',
  merge: 'mesh.weld', weld: 'mesh.weld', 'repeated points': 'mesh.weld', decimate: 'mesh.reduce', lod: 'mesh.reduce', polycount: 'mesh.reduce', reduce: 'mesh.reduce', remesh: 'mesh.even',
  isotropic: 'mesh.even', retopology: 'mesh.even', tessellate: 'mesh.refine', 'catmull clark': 'mesh.refine', subdivision: 'mesh.refine', slice: 'mesh.section', section: 'mesh.section',
  'cross section': 'mesh.section', wireframe: 'mesh.edges', boundary: 'mesh.edges', border: 'mesh.edges', normals: 'mesh.normals', shading: 'mesh.normals', 'inside out': 'mesh.normals',
  uv: 'mesh.uv', unwrap: 'mesh.uv', texture: 'mesh.uv', mapping: 'mesh.uv', material: 'mesh.material', colour: 'mesh.material', color: 'mesh.material', metal: 'mesh.material',
  shader: 'mesh.material', islands: 'mesh.parts', pieces: 'mesh.parts', connectivity: 'mesh.parts', 'principal axis': 'mesh.parts', align: 'mesh.ground', origin: 'mesh.ground', pivot: 'mesh.ground',
  upright: 'mesh.ground', level: 'mesh.ground', delete: '!Delete', filter: 'mesh.keep', remove: 'mesh.keep', cull: 'mesh.keep', mask: 'mesh.mark', select: 'mesh.mark', selection: 'mesh.mark',
  // Growth.
  ivy: 'grow.creep', vine: 'grow.creep', creeper: 'grow.creep', moss: 'grow.creep', roots: 'grow.routes', climb: 'grow.creep', tree: 'grow.rules', 'l-system': 'grow.rules', lsystem: 'grow.rules',
  fern: 'grow.rules', plant: 'grow.rules', fractal: 'grow.rules', 'shortest path': 'grow.routes', geodesic: 'grow.routes', veins: 'grow.routes', lightning: 'grow.routes', cracks: 'grow.routes',
  reveal: 'grow.reveal', wipe: 'grow.reveal', appear: 'grow.reveal',
  // Values.
  formula: 'gauge.formula', expression: 'gauge.formula', maths: 'gauge.formula', attribute: 'gauge.set', channel: 'gauge.set', weight: 'gauge.set', 'set attribute': 'gauge.set',
  curvature: 'gauge.figures', length: 'gauge.figures', area: 'gauge.figures', slope: 'gauge.figures', torsion: 'gauge.figures', proximity: 'gauge.distance', falloff: 'gauge.distance',
  clearance: 'gauge.clearance', clash: 'gauge.clearance', gap: 'gauge.clearance', strahler: 'gauge.branching', average: 'gauge.summary', statistics: 'gauge.summary', minimum: 'gauge.summary',
  total: 'gauge.summary', time: 'gauge.time', frames: 'aim.frames', animation: 'gauge.time', vector: 'gauge.vector', number: 'gauge.number', constant: 'gauge.number', 'transfer attributes': 'gauge.transfer',
  sample: 'gauge.transfer', 'carry over': 'gauge.carry',
  // The graph.
  output: 'flow.output', join: 'flow.join', append: 'flow.join', combine: 'flow.join', frozen: 'flow.frozen', bake: '!Freeze', freeze: '!Freeze', cache: '!Freeze',
  // Actions.
  rename: '!Name the chosen node', shortcut: '!Shortcuts', hotkey: '!Shortcuts', 'new document': '!New document', undo: '!Undo', redo: '!Redo', export: '!Export', save: '!Save now',
  bypass: '!Switch the chosen node', mute: '!Switch the chosen node', group: '!Group the chosen nodes', comment: '!Add a note', tidy: '!Tidy', arrange: '!Tidy', screenshot: '!Take pictures',
  turntable: '!Take pictures', orthographic: '!Perspective or parallel', ruler: '!Measure', spreadsheet: '!Show the values', share: '!Hand out', theme: '!Light or dark', peek: '!Peek', solo: '!Peek',
  // What is not here.
  decal: '-Decals', atlas: '-Texture atlas', pack: '-Texture atlas', fur: '-Fur', comb: '-Fur', clump: '-Fur', keyframe: '-Keyframes', emboss: '-Embossing', bevel: '-Bevels', chamfer: '-Bevels',
  label: '-Text', gate: '-Switching', sculpt: '-Sculpting', particles: '-Particles', python: '-Scripts', camera: '-Lights', 'for each': '-Loops', subgraph: '-Blocks', rig: '-Bones',
  // Misspelt.
  catenery: 'shape.hang', extrud: 'skin.extrude', cilinder: 'lay.cylinder', boolaen: 'mesh.solid', decimat: 'mesh.reduce', resampel: 'pace.resample', fillett: 'shape.roundCorners', matrial: 'mesh.material',
};
