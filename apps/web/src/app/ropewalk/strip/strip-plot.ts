import type { PathStripData } from '@filaxis/protocol';
import { figure } from '../../shared/figures';

/** The part of Plotly.js that is used here. */
export interface Plotly {
  react(element: HTMLElement, data: unknown[], layout: unknown, config: unknown): Promise<unknown>;
}

/** A drawn strip: from metres to pixels of the element and back. */
export interface StripPlot {
  toPixel(metres: number): number;
  toMetres(pixel: number): number;
}

let plotly: Promise<Plotly> | null = null;

/** Loads Plotly.js when the strip is first shown. */
export function loadPlotly(): Promise<Plotly> {
  plotly ??= import('plotly.js-cartesian-dist-min').then((module: { default: Plotly }) => module.default);
  return plotly;
}

/** Index of the place nearest to `metres`; `s` rises. */
export function hoverPlace(s: Float32Array, metres: number): number {
  let low = 0;
  let high = s.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (s[middle] < metres) low = middle;
    else high = middle;
  }
  return Math.abs(s[low] - metres) <= Math.abs(s[high] - metres) ? low : high;
}

const margins = { left: 66, right: 38, top: 6, bottom: 22 };

interface Row {
  readonly title: string;
  readonly unit: string;
  readonly traces: Record<string, unknown>[];
  readonly range?: readonly [number, number];
}

function rowsOf(data: PathStripData, ink: (name: string) => string): Row[] {
  const s = Array.from(data.s);
  const line = (y: number[], colour: string, more: Record<string, unknown> = {}): Record<string, unknown> => ({
    x: s,
    y,
    mode: 'lines',
    line: { color: colour, width: 1.8 },
    hoverinfo: 'skip',
    ...more,
  });
  const rows: Row[] = [];
  if (data.radius) {
    const mm = Array.from(data.radius, (r) => r * 1000);
    const most = Math.max(...mm, 1e-6) * 1.25;
    rows.push({
      title: 'radius',
      unit: 'mm',
      range: [-most, most],
      traces: [line(mm.map((r) => -r), ink('walnut')), line(mm, ink('walnut'), { fill: 'tonexty', fillcolor: `${ink('hemp')}88` })], // prettier-ignore
    });
  }
  // The line is cut where the angle goes from 180 to −180, so that no upright stroke is drawn there.
  const roll = Array.from(data.roll, (value, i) => (i && Math.abs(value - data.roll[i - 1]) > 180 ? null : value));
  rows.push({ title: 'roll', unit: '°', range: rollRange(data.roll), traces: [line(roll as number[], ink('woad'))] });
  const curvature = Array.from(data.curvature);
  const limit = data.radius ? Array.from(data.radius, (r) => (r > 0 ? 1 / r : null)) : null;
  const most = Math.max(...curvature, 1e-3) * 1.2;
  const traces = [line(curvature, ink('madder'))];
  if (limit?.some((value) => value !== null && value < most))
    traces.push(line(limit as number[], ink('madder'), { line: { color: ink('madder'), width: 1, dash: 'dot' } }));
  rows.push({ title: 'curvature', unit: '1/m', range: [-most * 0.06, most], traces });
  return rows;
}

function rollRange(roll: Float32Array): [number, number] {
  const most = roll.reduce((size, value) => Math.max(size, Math.abs(value)), 0);
  return most > 5 ? [-190, 190] : [-6, 6];
}

/** Draws the rows over one axis in metres, with troubled places shaded. */
export async function drawStrip(plotly: Plotly, element: HTMLElement, data: PathStripData): Promise<StripPlot> {
  const style = getComputedStyle(element);
  const ink = (name: string): string => style.getPropertyValue(`--${name}`).trim();
  const rows = rowsOf(data, ink);
  const end = data.length > 0 ? data.length : 1;
  const height = 1 / rows.length;
  const traces: unknown[] = [];
  const layout: Record<string, unknown> = {
    width: element.clientWidth,
    height: element.clientHeight,
    margin: { l: margins.left, r: margins.right, t: margins.top, b: margins.bottom },
    paper_bgcolor: 'rgba(0,0,0,0)',
    plot_bgcolor: 'rgba(0,0,0,0)',
    showlegend: false,
    dragmode: false,
    font: { family: style.getPropertyValue('--mono'), size: 11, color: ink('slate') },
    xaxis: {
      range: [0, end],
      fixedrange: true,
      ticksuffix: ' m',
      showgrid: false,
      zeroline: false,
      anchor: `y${rows.length === 1 ? '' : rows.length}`,
      nticks: 7,
    },
  };
  const notes: unknown[] = [];
  rows.forEach((row, i) => {
    const name = i ? `y${i + 1}` : 'y';
    const top = 1 - i * height;
    layout[i ? `yaxis${i + 1}` : 'yaxis'] = {
      domain: [top - height * 0.86, top],
      range: row.range,
      fixedrange: true,
      side: 'right',
      nticks: 4,
      gridcolor: `${ink('seam')}66`,
      zeroline: true,
      zerolinecolor: ink('seam'),
      tickfont: { size: 9.5 },
    };
    for (const trace of row.traces) traces.push({ type: 'scatter', xaxis: 'x', yaxis: name, ...(trace as object) });
    notes.push({
      text: `${row.title}<br><span style="font-size:10px">${row.unit}</span>`,
      x: 0,
      y: top - height * 0.43,
      xref: 'paper',
      yref: 'paper',
      xanchor: 'left',
      yanchor: 'middle',
      align: 'left',
      xshift: -58,
      showarrow: false,
      font: { family: style.getPropertyValue('--sans'), size: 12, color: ink('indigo') },
    });
  });
  const half = end * 0.012;
  layout['shapes'] = data.warnings
    .filter((warning) => warning.at !== undefined)
    .map(({ at = 0 }) => ({
      type: 'rect',
      xref: 'x',
      yref: 'paper',
      x0: Math.max(0, at - half),
      x1: Math.min(end, at + half),
      y0: 0,
      y1: 1,
      fillcolor: ink('madder'),
      opacity: 0.14,
      line: { width: 0 },
    }));
  const pinch = data.warnings.find((warning) => warning.code === 'pinch' && warning.at !== undefined);
  if (pinch)
    notes.push({
      text: `pinches at ${figure(pinch.at!, 3)} m`,
      x: pinch.at,
      y: height * 0.5,
      xref: 'x',
      yref: 'paper',
      xanchor: pinch.at! > end * 0.7 ? 'right' : 'left',
      showarrow: false,
      font: { size: 11, color: ink('madder') },
    });
  layout['annotations'] = notes;
  await plotly.react(element, traces, layout, { displayModeBar: false, responsive: false });
  const inner = element.clientWidth - margins.left - margins.right;
  return {
    toPixel: (metres) => margins.left + (metres / end) * inner,
    toMetres: (pixel) => ((pixel - margins.left) / inner) * end,
  };
}
