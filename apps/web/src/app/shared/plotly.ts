/** The part of Plotly.js that is used here. */
export interface Plotly {
  react(element: HTMLElement, data: readonly unknown[], layout: unknown, config: unknown): Promise<unknown>;
}

let plotly: Promise<Plotly> | null = null;

/** Loads Plotly.js when something is first plotted. */
export function loadPlotly(): Promise<Plotly> {
  plotly ??= import('plotly.js-cartesian-dist-min').then((module: { default: Plotly }) => module.default);
  return plotly;
}
