/** Curves: make them, ask what they are at a place, change them. */
export { AlongCurve } from '../curves/evaluate/alongCurve.js';
export { curveLengths, stationsOf } from '../curves/evaluate/arcLength.js';
export { ArcLengthInverse } from '../curves/evaluate/arcLengthInverse.js';
export { bendingOf, curvatureSides } from '../curves/evaluate/bending.js';
export { computeFrames, defaultFrames, framesOf, type FrameOptions } from '../curves/evaluate/frames.js';
export { asBezier } from '../curves/evaluate/knots.js';
export { tangentsOf } from '../curves/evaluate/tangents.js';
export { defaultHang, hang, type HangOptions } from '../curves/change/hang.js';
export { offset } from '../curves/change/offset.js';
export { defaultResample, paced, resample, type ResampleOptions } from '../curves/change/resample.js';
export { reverse } from '../curves/change/reverse.js';
export { roundCorners } from '../curves/change/roundCorners.js';
export { simplify } from '../curves/change/simplify.js';
export { curveCount, curvePointCount, curvesFromLists, emptyCurves, type Curves, type CurveKind } from '../geometry/curves.js';
export { constantField, type Field } from '../values/field.js';
