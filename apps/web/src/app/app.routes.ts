import type { Routes } from '@angular/router';
import { unsavedGuard } from './ropewalk/unsaved.guard';

export const routes: Routes = [
  { path: '', title: 'Library · Filaxis', loadComponent: async () => (await import('./library/library.page')).LibraryPage },
  {
    path: 'd/:id',
    title: 'Ropewalk · Filaxis',
    loadComponent: async () => (await import('./ropewalk/ropewalk.page')).RopewalkPage,
    canDeactivate: [unsavedGuard],
  },
  { path: 'formulas', title: 'Formulas · Filaxis', loadComponent: async () => (await import('./formulas/formulas.page')).FormulasPage },
  { path: 'h/:token', title: 'Handout · Filaxis', loadComponent: async () => (await import('./handout/handout.page')).HandoutPage },
  { path: '**', redirectTo: '' },
];
