// Made by scripts/generate-catalogue.ts from the files of the nodes. Do not edit.
import type { NodeDefinition } from '../../definition/define.js';
import layArc3 from '../lay/arc3.js';
import layBlob from '../lay/blob.js';
import layBox from '../lay/box.js';
import layCircle from '../lay/circle.js';
import layCylinder from '../lay/cylinder.js';
import layDrawn from '../lay/drawn.js';
import layGrid from '../lay/grid.js';
import layHelix from '../lay/helix.js';
import layImportCurves from '../lay/importCurves.js';
import layImportMesh from '../lay/importMesh.js';
import layImportPoints from '../lay/importPoints.js';
import layLine from '../lay/line.js';
import layPlanes from '../lay/planes.js';
import layPolygon from '../lay/polygon.js';
import layRectangle from '../lay/rectangle.js';
import layScan from '../lay/scan.js';
import laySphere from '../lay/sphere.js';
import laySurfaceStroke from '../lay/surfaceStroke.js';
import layTerrain from '../lay/terrain.js';
import layThroughPoints from '../lay/throughPoints.js';
import paceCloseOpen from '../pace/closeOpen.js';
import paceCut from '../pace/cut.js';
import paceJoinEnds from '../pace/joinEnds.js';
import pacePoints from '../pace/points.js';
import paceReorder from '../pace/reorder.js';
import paceResample from '../pace/resample.js';
import paceReverse from '../pace/reverse.js';
import paceScatter from '../pace/scatter.js';
import paceSimplify from '../pace/simplify.js';
import paceSplit from '../pace/split.js';
import paceSubdivide from '../pace/subdivide.js';
import shapeBend from '../shape/bend.js';
import shapeDisplace from '../shape/displace.js';
import shapeDrape from '../shape/drape.js';
import shapeHang from '../shape/hang.js';
import shapeKeepOutside from '../shape/keepOutside.js';
import shapeLeadRound from '../shape/leadRound.js';
import shapeMirror from '../shape/mirror.js';
import shapeOffset from '../shape/offset.js';
import shapeRelax from '../shape/relax.js';
import shapeRoundCorners from '../shape/roundCorners.js';
import shapeRow from '../shape/row.js';
import shapeSmooth from '../shape/smooth.js';
import shapeTransform from '../shape/transform.js';
import aimAxes from '../aim/axes.js';
import aimFrames from '../aim/frames.js';
import skinExtrude from '../skin/extrude.js';
import skinFill from '../skin/fill.js';
import skinLoft from '../skin/loft.js';
import skinRibbon from '../skin/ribbon.js';
import skinRope from '../skin/rope.js';
import skinSweep from '../skin/sweep.js';
import skinTiles from '../skin/tiles.js';
import skinTube from '../skin/tube.js';
import placeCopies from '../place/copies.js';
import placeExpand from '../place/expand.js';
import placeLinks from '../place/links.js';
import placeLoops from '../place/loops.js';
import placeRun from '../place/run.js';
import placeScatter from '../place/scatter.js';
import meshEdges from '../mesh/edges.js';
import meshEven from '../mesh/even.js';
import meshGround from '../mesh/ground.js';
import meshKeep from '../mesh/keep.js';
import meshMark from '../mesh/mark.js';
import meshMaterial from '../mesh/material.js';
import meshNormals from '../mesh/normals.js';
import meshParts from '../mesh/parts.js';
import meshReduce from '../mesh/reduce.js';
import meshRefine from '../mesh/refine.js';
import meshSection from '../mesh/section.js';
import meshSolid from '../mesh/solid.js';
import meshUv from '../mesh/uv.js';
import meshWeld from '../mesh/weld.js';
import growCreep from '../grow/creep.js';
import growReveal from '../grow/reveal.js';
import growRoutes from '../grow/routes.js';
import growRules from '../grow/rules.js';
import gaugeBranching from '../gauge/branching.js';
import gaugeCarry from '../gauge/carry.js';
import gaugeClearance from '../gauge/clearance.js';
import gaugeDistance from '../gauge/distance.js';
import gaugeFigures from '../gauge/figures.js';
import gaugeFormula from '../gauge/formula.js';
import gaugeNumber from '../gauge/number.js';
import gaugeSet from '../gauge/set.js';
import gaugeSummary from '../gauge/summary.js';
import gaugeTime from '../gauge/time.js';
import gaugeTransfer from '../gauge/transfer.js';
import gaugeVector from '../gauge/vector.js';
import flowFrozen from '../flow/frozen.js';
import flowJoin from '../flow/join.js';
import flowOutput from '../flow/output.js';

export const allNodes: readonly NodeDefinition[] = [
  layArc3,
  layBlob,
  layBox,
  layCircle,
  layCylinder,
  layDrawn,
  layGrid,
  layHelix,
  layImportCurves,
  layImportMesh,
  layImportPoints,
  layLine,
  layPlanes,
  layPolygon,
  layRectangle,
  layScan,
  laySphere,
  laySurfaceStroke,
  layTerrain,
  layThroughPoints,
  paceCloseOpen,
  paceCut,
  paceJoinEnds,
  pacePoints,
  paceReorder,
  paceResample,
  paceReverse,
  paceScatter,
  paceSimplify,
  paceSplit,
  paceSubdivide,
  shapeBend,
  shapeDisplace,
  shapeDrape,
  shapeHang,
  shapeKeepOutside,
  shapeLeadRound,
  shapeMirror,
  shapeOffset,
  shapeRelax,
  shapeRoundCorners,
  shapeRow,
  shapeSmooth,
  shapeTransform,
  aimAxes,
  aimFrames,
  skinExtrude,
  skinFill,
  skinLoft,
  skinRibbon,
  skinRope,
  skinSweep,
  skinTiles,
  skinTube,
  placeCopies,
  placeExpand,
  placeLinks,
  placeLoops,
  placeRun,
  placeScatter,
  meshEdges,
  meshEven,
  meshGround,
  meshKeep,
  meshMark,
  meshMaterial,
  meshNormals,
  meshParts,
  meshReduce,
  meshRefine,
  meshSection,
  meshSolid,
  meshUv,
  meshWeld,
  growCreep,
  growReveal,
  growRoutes,
  growRules,
  gaugeBranching,
  gaugeCarry,
  gaugeClearance,
  gaugeDistance,
  gaugeFigures,
  gaugeFormula,
  gaugeNumber,
  gaugeSet,
  gaugeSummary,
  gaugeTime,
  gaugeTransfer,
  gaugeVector,
  flowFrozen,
  flowJoin,
  flowOutput,
];
