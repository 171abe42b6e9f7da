import { FormControl, FormGroup } from '@angular/forms';
import type { WriteOptions } from '@filaxis/formats';
import { fileName } from '../../shared/assets';
import type { ExportData } from './export-dialog';

/** Formats in which each choice makes a difference. */
const offeredBy = {
  expanded: ['.glb', '.gltf', '.usda', '.json'],
  instances: ['.glb', '.gltf', '.usda'],
  parts: ['.glb', '.gltf', '.usda', '.obj'],
  joined: ['.glb', '.gltf', '.usda', '.obj'],
  tangents: ['.glb', '.gltf'],
  welded: ['.ply'],
  uv: ['.glb', '.gltf', '.obj', '.ply', '.usda'],
  colour: ['.glb', '.gltf', '.obj', '.ply', '.usda'],
} as const satisfies { readonly [Choice in keyof WriteOptions]?: readonly string[] };

/** Whether a choice makes a difference in a format. */
export const offers = (ending: string, choice: keyof typeof offeredBy): boolean => (offeredBy[choice] as readonly string[]).includes(ending);

const kept = <T>(value: T): FormControl<T> => new FormControl(value, { nonNullable: true });

/** What can be said of an export. */
export const exportForm = ({ sources, title, frames }: ExportData) =>
  new FormGroup({
    source: kept(sources[0]?.id ?? ''),
    ending: kept('.glb'),
    name: kept(fileName(title)),
    up: kept<'y' | 'z'>('y'),
    unit: kept<'m' | 'cm' | 'mm'>('m'),
    expanded: kept(false),
    instances: kept(false),
    parts: kept(false),
    joined: kept(false),
    tangents: kept(false),
    welded: kept(false),
    uv: kept('uv'),
    /** The value that goes out as the vertex colour; empty: the one of that name. */
    colour: kept(''),
    /** Whether all frames are written, which, and as one file. */
    framed: kept(false),
    together: kept(false),
    from: kept(frames?.from ?? 0),
    to: kept(frames?.to ?? 0),
  });

export type ExportChoices = ReturnType<ReturnType<typeof exportForm>['getRawValue']>;

/** What a writer is told: of what was chosen that which its format knows. */
export function writeOptions(chosen: ExportChoices): WriteOptions {
  const { ending, expanded, instances, up, unit, together, uv, colour } = chosen;
  const flags = (['parts', 'joined', 'tangents', 'welded'] as const).filter((choice) => offers(ending, choice));
  return {
    expanded,
    instances,
    up,
    unit,
    together,
    ...Object.fromEntries(flags.map((choice) => [choice, chosen[choice]])),
    ...(offers(ending, 'uv') && uv !== 'uv' && { uv }),
    ...(offers(ending, 'colour') && colour && { colour }),
  };
}
