import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import {
  mdiAlertOutline,
  mdiArrowULeftTop,
  mdiArrowURightTop,
  mdiClose,
  mdiCloseCircleOutline,
  mdiContentCopy,
  mdiDotsHorizontal,
  mdiEyeOutline,
  mdiFileExportOutline,
  mdiFileImportOutline,
  mdiHelpCircleOutline,
  mdiMagnify,
  mdiPencilOutline,
  mdiPlus,
  mdiThemeLightDark,
  mdiTrashCanOutline,
  mdiTuneVariant,
} from '@mdi/js';

const paths = {
  alert: mdiAlertOutline,
  undo: mdiArrowULeftTop,
  redo: mdiArrowURightTop,
  close: mdiClose,
  error: mdiCloseCircleOutline,
  copy: mdiContentCopy,
  more: mdiDotsHorizontal,
  eye: mdiEyeOutline,
  export: mdiFileExportOutline,
  import: mdiFileImportOutline,
  help: mdiHelpCircleOutline,
  search: mdiMagnify,
  rename: mdiPencilOutline,
  plus: mdiPlus,
  theme: mdiThemeLightDark,
  delete: mdiTrashCanOutline,
  dials: mdiTuneVariant,
} as const;

/** An icon of the Material Design Icons set, drawn in the text's colour. Always beside a text or a label. */
@Component({
  selector: 'fx-icon',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '<svg [attr.width]="size()" [attr.height]="size()" viewBox="0 0 24 24" aria-hidden="true"><path [attr.d]="path()" fill="currentColor" /></svg>',
  styles: ':host { display: inline-flex; }',
})
export class Icon {
  readonly name = input.required<keyof typeof paths>();
  readonly size = input(18);
  protected readonly path = computed(() => paths[this.name()]);
}
