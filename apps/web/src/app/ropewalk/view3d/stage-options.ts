import type { ContentOptions } from './content';
import type { LightingName } from './lighting';

/** How the 3D view looks. */
export interface StageOptions extends ContentOptions {
  readonly lighting: LightingName;
  /** How far the light is turned about the vertical, degrees. */
  readonly turned: number;
  readonly shadows: boolean;
  /** Corners and what nearly touches are darker. */
  readonly contact: boolean;
  readonly floor: boolean;
  /** The floor lies under the lowest point, not at height 0. */
  readonly floorUnder: boolean;
  /** Handles of the chosen node are shown. */
  readonly handles: boolean;
}

/** What is shown at first. */
export const plainOptions: StageOptions = {
  surface: 'shaded',
  colour: '',
  map: 'dye',
  range: null,
  wire: false,
  frames: false,
  curves: false,
  arrowLength: 0,
  every: 0,
  backs: 'marked',
  pins: 'none',
  edges: 'none',
  lineWidth: 2,
  cut: null,
  lighting: 'window',
  turned: 0,
  shadows: true,
  contact: true,
  floor: true,
  floorUnder: false,
  handles: true,
};
