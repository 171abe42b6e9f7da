import type { Shows } from '@filaxis/protocol';
import type { SideTab } from './side-pane';
import type { ResultsTab, StripView } from './results/results-pane';
import type { CameraState } from './view3d/orbit';
import type { StageOptions } from './view3d/stage-options';

/** How the Ropewalk looked when a document was last open. Kept in the browser, not in the document: looking is no edit. */
export interface ViewState {
  readonly columns?: readonly number[];
  readonly rows?: readonly number[];
  readonly camera?: CameraState;
  readonly stage?: StageOptions;
  readonly panel?: SideTab;
  readonly strip?: StripView;
  readonly tab?: ResultsTab;
  /** Which results the 3D view shows, and the moment of the timeline, seconds. */
  readonly shows?: Shows;
  readonly time?: number;
  /** The lesson that was not ended. */
  readonly lesson?: string;
}

const key = (id: string): string => `filaxis.view.${id}`;

export function readView(id: string): ViewState {
  try {
    return JSON.parse(localStorage.getItem(key(id)) ?? '{}') as ViewState;
  } catch {
    return {};
  }
}

export function keepView(id: string, change: ViewState): void {
  localStorage.setItem(key(id), JSON.stringify({ ...readView(id), ...change }));
}
