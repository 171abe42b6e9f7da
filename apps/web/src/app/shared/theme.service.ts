import { effect, Injectable, signal } from '@angular/core';

export type Theme = 'light' | 'dark';
const kept = 'filaxis.theme';

/** Light or dark: what the artist chose, else what the system asks for. */
@Injectable({ providedIn: 'root' })
export class ThemeService {
  readonly theme = signal<Theme>(this.initial());

  constructor() {
    effect(() => {
      document.documentElement.dataset['theme'] = this.theme();
    });
  }

  toggle(): void {
    this.theme.update((theme) => (theme === 'light' ? 'dark' : 'light'));
    localStorage.setItem(kept, this.theme());
  }

  private initial(): Theme {
    const chosen = localStorage.getItem(kept);
    if (chosen === 'light' || chosen === 'dark') return chosen;
    return matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light';
  }
}
