import { InjectionToken } from '@angular/core';

/** The part of Plotly.js that is used here. */
export interface Plotly {
  react(element: HTMLElement, data: readonly unknown[], layout: unknown, config: unknown): Promise<unknown>;
}

let plotly: Promise<Plotly> | null = null;

/** Loads Plotly.js when something is first plotted. */
export const LOAD_PLOTLY = new InjectionToken<() => Promise<Plotly>>('Loads Plotly.js', {
  providedIn: 'root',
  factory: () => () => (plotly ??= import('plotly.js-cartesian-dist-min').then((module: { default: Plotly }) => module.default)),
});
