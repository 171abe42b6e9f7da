import { inject, type EnvironmentProviders, provideEnvironmentInitializer } from '@angular/core';
import { MatIconRegistry } from '@angular/material/icon';
import { DomSanitizer } from '@angular/platform-browser';
import {
  mdiAlertOutline,
  mdiArrowULeftTop,
  mdiArrowURightTop,
  mdiClose,
  mdiCloseCircleOutline,
  mdiDotsHorizontal,
  mdiDragVertical,
  mdiEyeOutline,
  mdiFileImportOutline,
  mdiMagnify,
  mdiPause,
  mdiPlay,
  mdiPlus,
  mdiSkipBackward,
  mdiStepBackward,
  mdiStepForward,
  mdiThemeLightDark,
} from '@mdi/js';

/** Every icon of the application, of the Material Design Icons set: `<mat-icon svgIcon="undo" />`, always beside a text or a label. */
const paths: Readonly<Record<string, string>> = {
  alert: mdiAlertOutline,
  undo: mdiArrowULeftTop,
  redo: mdiArrowURightTop,
  close: mdiClose,
  error: mdiCloseCircleOutline,
  more: mdiDotsHorizontal,
  grip: mdiDragVertical,
  eye: mdiEyeOutline,
  import: mdiFileImportOutline,
  search: mdiMagnify,
  plus: mdiPlus,
  play: mdiPlay,
  pause: mdiPause,
  back: mdiStepBackward,
  on: mdiStepForward,
  'to-start': mdiSkipBackward,
  theme: mdiThemeLightDark,
};

export const provideIcons = (): EnvironmentProviders =>
  provideEnvironmentInitializer(() => {
    const [registry, sanitizer] = [inject(MatIconRegistry), inject(DomSanitizer)];
    for (const [name, path] of Object.entries(paths))
      registry.addSvgIconLiteral(name, sanitizer.bypassSecurityTrustHtml(`<svg viewBox="0 0 24 24"><path d="${path}"/></svg>`));
  });
