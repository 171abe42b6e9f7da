import type { PathStripData, StripOther } from '@filaxis/protocol';
import { figure } from '../../shared/figures';
import type { Plotly } from '../../shared/plotly';
import { leanPlaces } from './lean-line';

/** A drawn strip: from metres to pixels of the element and back. */
export interface StripPlot {
  toPixel(metres: number): number;
  toMetres(pixel: number): number;
  /** Pixels of a row's middle and its height, and what it shows from bottom to top; null: it is not drawn. */
  row(id: StripRow): { readonly top: number; readonly height: number; readonly range: readonly [number, number] } | null;
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

/** The rows that the strip can stack, from the top down. */
export const stripRows = {
  radius: { label: 'radius', unit: 'mm' },
  roll: { label: 'roll', unit: '°' },
  curvature: { label: 'curvature', unit: '1/m' },
  spacing: { label: 'spacing', unit: 'mm' },
  attribute: { label: 'value', unit: '' },
  checker: { label: 'checker', unit: 'u' },
} as const;
export type StripRow = keyof typeof stripRows;

interface Row {
  readonly id: StripRow;
  readonly title: string;
  readonly unit: string;
  readonly traces: Record<string, unknown>[];
  readonly range?: readonly [number, number];
}

type Ink = (name: string) => string;
/** A line over the places of the path, or over places of its own. */
type Line = (y: ArrayLike<number | null>, colour: string, more?: Record<string, unknown>, over?: Float32Array) => Record<string, unknown>;

const most = (lists: readonly (ArrayLike<number> | null | undefined)[], least: number): number => {
  let result = least;
  for (const list of lists) for (let i = 0; i < (list?.length ?? 0); i++) if (list![i] > result) result = list![i];
  return result;
};
const millimetres = (values: Float32Array): Float32Array => values.map((value) => value * 1000);

/** Lines of the other curves behind the chosen one, all as one trace with gaps between them. */
function othersTrace(
  others: readonly StripOther[],
  of: (other: StripOther) => ArrayLike<number> | null,
  ink: Ink,
  over: (other: StripOther) => Float32Array = ({ s }) => s,
): Record<string, unknown>[] {
  const x: (number | null)[] = [];
  const y: (number | null)[] = [];
  for (const other of others) {
    const values = of(other);
    if (!values) continue;
    x.push(...over(other), null);
    y.push(...Array.from(values), null);
  }
  return x.length ? [{ x, y, mode: 'lines', line: { color: ink('slate'), width: 0.7 }, opacity: 0.35, hoverinfo: 'skip' }] : [];
}

function radiusRow({ radius, others }: PathStripData, line: Line, ink: Ink): Omit<Row, 'id' | 'title' | 'unit'> | null {
  if (!radius) return null;
  const mm = millimetres(radius);
  const top = most([mm, ...others.map((other) => other.radius && millimetres(other.radius))], 1e-6) * 1.25;
  return {
    range: [-top, top],
    traces: [
      ...othersTrace(others, (other) => other.radius && millimetres(other.radius), ink),
      line(mm.map((r) => -r), ink('walnut')),
      line(mm, ink('walnut'), { fill: 'tonexty', fillcolor: `${ink('hemp')}88` }),
    ],
  }; // prettier-ignore
}

function rollRow({ roll }: PathStripData, line: Line, ink: Ink): Omit<Row, 'id' | 'title' | 'unit'> {
  // The line is cut where the angle goes from 180 to −180, so that no upright stroke is drawn there.
  const cut: (number | null)[] = [];
  for (let i = 0; i < roll.length; i++) cut.push(i && Math.abs(roll[i] - roll[i - 1]) > 180 ? null : roll[i]);
  return { range: rollRange(roll), traces: [line(cut, ink('woad'))] };
}

/** Curvature, with the band in which the skin would fold over itself: beyond 1/radius. */
function curvatureRow({ bends, radius, others }: PathStripData, line: Line, ink: Ink): Omit<Row, 'id' | 'title' | 'unit'> {
  const top = most([bends.values, ...others.map((other) => other.bends.values)], 1e-3) * 1.2;
  const limit = radius ? Array.from(radius, (r) => (r > 0 ? Math.min(top, 1 / r) : top)) : null;
  const band = limit?.some((value) => value < top)
    ? [
        line(limit, ink('madder'), { line: { color: ink('madder'), width: 1, dash: 'dot' } }),
        line(limit.map(() => top), ink('madder'), { line: { width: 0 }, fill: 'tonexty', fillcolor: `${ink('madder')}1c` }), // prettier-ignore
      ]
    : [];
  const behind = othersTrace(
    others,
    (other) => other.bends.values,
    ink,
    (other) => other.bends.s,
  );
  return { range: [-top * 0.06, top], traces: [...behind, ...band, line(bends.values, ink('madder'), {}, bends.s)] };
}

function spacingRow({ spacing, others }: PathStripData, line: Line, ink: Ink): Omit<Row, 'id' | 'title' | 'unit'> {
  const mm = millimetres(spacing);
  const top = most([mm, ...others.map((other) => millimetres(other.spacing))], 1e-6) * 1.15;
  const shape = { line: { color: ink('verdigris'), width: 1.6, shape: 'hv' } };
  return { range: [0, top], traces: [...othersTrace(others, (other) => millimetres(other.spacing), ink), line(mm, ink('verdigris'), shape)] };
}

function attributeRow({ attribute, others }: PathStripData, line: Line, ink: Ink): Omit<Row, 'id' | 'title' | 'unit'> | null {
  if (!attribute) return null;
  return { traces: [...othersTrace(others, (other) => other.attribute, ink), line(attribute.values, ink('indigo'))] };
}

/** Squares of the checker as they will lie on the skin: eight a tile both ways, each as long as it really is. */
function checkerRow({ s, v }: PathStripData, ink: Ink): Omit<Row, 'id' | 'title' | 'unit'> | null {
  if (!v || v.length < 2) return null;
  const last = v[v.length - 1];
  const squares = Math.min(4000, Math.ceil(last * 8));
  if (!(squares > 0)) return null;
  const edges: number[] = [];
  for (let k = 0, i = 0; k <= squares; k++) {
    const wanted = Math.min(last, k / 8);
    while (i + 2 < v.length && v[i + 1] < wanted) i++;
    const run = v[i + 1] - v[i];
    edges.push(s[i] + (run > 0 ? ((wanted - v[i]) / run) * (s[i + 1] - s[i]) : 0));
  }
  const z = Array.from({ length: 8 }, (_, row) => Array.from({ length: squares }, (_, k) => (row + k) % 2));
  const colours = [[0, ink('paper')], [1, ink('band')]]; // prettier-ignore
  return {
    range: [0, 1],
    traces: [
      {
        type: 'heatmap',
        x: edges,
        y: Array.from({ length: 9 }, (_, k) => k / 8),
        z,
        showscale: false,
        colorscale: colours,
        zmin: 0,
        zmax: 1,
        hoverinfo: 'skip',
      },
    ],
  };
}

/** What is looked at: metres from the first to the last, in so many columns. */
interface Look {
  readonly first: number;
  readonly last: number;
  readonly columns: number;
}

function rowsOf(data: PathStripData, wanted: ReadonlySet<StripRow>, { first, last, columns }: Look, ink: Ink): Row[] {
  const line: Line = (y, colour, more = {}, over = data.s) => {
    const places = leanPlaces(over, y, first, last, columns);
    const own = { x: places.map((i) => over[i]), y: places.map((i) => y[i]) };
    return { ...own, mode: 'lines', line: { color: colour, width: 1.8 }, hoverinfo: 'skip', ...more };
  };
  const made = {
    radius: () => radiusRow(data, line, ink),
    roll: () => rollRow(data, line, ink),
    curvature: () => curvatureRow(data, line, ink),
    spacing: () => spacingRow(data, line, ink),
    attribute: () => attributeRow(data, line, ink),
    checker: () => checkerRow(data, ink),
  };
  return (Object.keys(stripRows) as StripRow[]).flatMap((id) => {
    const row = wanted.has(id) ? made[id]() : null;
    return row ? [{ id, title: id === 'attribute' ? data.attribute!.name : stripRows[id].label, unit: stripRows[id].unit, ...row }] : [];
  });
}

function rollRange(roll: Float32Array): [number, number] {
  const most = roll.reduce((size, value) => Math.max(size, Math.abs(value)), 0);
  return most > 5 ? [-190, 190] : [-6, 6];
}

/** What a drawing is made with: the pane, its inks, the metres that it shows, and how much of the height (1: all) a row has. */
interface Sheet {
  readonly element: HTMLElement;
  readonly style: CSSStyleDeclaration;
  readonly ink: Ink;
  readonly first: number;
  readonly last: number;
  /** Metres at which the path ends. */
  readonly end: number;
  readonly rowHeight: number;
}

/** How much of its height a row draws on; the rest keeps it apart from the next. */
const drawnPart = 0.86;

/** Draws the rows over one axis in metres, with troubled places shaded. */
export async function drawStrip(
  plotly: Plotly,
  element: HTMLElement,
  data: PathStripData,
  wanted: ReadonlySet<StripRow>,
  zoom: readonly [number, number] | null,
  /** Range of the radius that is kept while a key is dragged; null: as the values need. */
  held: readonly [number, number] | null,
): Promise<StripPlot> {
  const style = getComputedStyle(element);
  const ink = (name: string): string => style.getPropertyValue(`--${name}`).trim();
  const end = data.length > 0 ? data.length : 1;
  const [first, last] = zoom ?? [0, end];
  // A column for every other pixel.
  const look = { first, last, columns: Math.max(100, element.clientWidth / 2) };
  const rows = rowsOf(data, wanted, look, ink).map((row) => (held && row.id === 'radius' ? { ...row, range: held } : row));
  const sheet: Sheet = { element, style, ink, first, last, end, rowHeight: 1 / Math.max(1, rows.length) };
  const nameOf = (i: number): string => (i ? `y${i + 1}` : 'y');
  const traces = rows.flatMap((row, i) => row.traces.map((trace) => ({ type: 'scatter', xaxis: 'x', yaxis: nameOf(i), ...trace })));
  const axes = Object.fromEntries(rows.map((row, i) => [i ? `yaxis${i + 1}` : 'yaxis', rowAxis(row, i, sheet)]));
  const notes = [...rows.map((row, i) => rowTitle(row, i, sheet)), ...pinchNote(data, sheet)];
  const layout = { ...layoutOf(sheet, rows.length), ...axes, shapes: troubledPlaces(data, sheet), annotations: notes };
  await plotly.react(element, traces, layout, { displayModeBar: false, responsive: false });
  return plotOf(sheet, rows);
}

const layoutOf = ({ element, style, ink, first, last }: Sheet, rows: number): Record<string, unknown> => ({
  width: element.clientWidth,
  height: element.clientHeight,
  margin: { l: margins.left, r: margins.right, t: margins.top, b: margins.bottom },
  paper_bgcolor: 'rgba(0,0,0,0)',
  plot_bgcolor: 'rgba(0,0,0,0)',
  showlegend: false,
  dragmode: false,
  font: { family: style.getPropertyValue('--mono'), size: 11, color: ink('slate') },
  xaxis: { range: [first, last], fixedrange: true, ticksuffix: ' m', showgrid: false, zeroline: false, anchor: `y${rows === 1 ? '' : rows}`, nticks: 7 },
});

function rowAxis({ id, range }: Row, i: number, { element, ink, rowHeight }: Sheet): Record<string, unknown> {
  const top = 1 - i * rowHeight;
  return {
    domain: [top - rowHeight * drawnPart, top],
    range,
    fixedrange: true,
    side: 'right',
    nticks: rowHeight * element.clientHeight < 48 ? 2 : 4,
    ...(id === 'checker' && { showticklabels: false, showgrid: false, ticks: '' }),
    gridcolor: `${ink('seam')}66`,
    zeroline: true,
    zerolinecolor: ink('seam'),
    tickfont: { size: 9.5 },
  };
}

const rowTitle = ({ title, unit }: Row, i: number, { style, ink, rowHeight }: Sheet): Record<string, unknown> => ({
  text: `${title}<br><span style="font-size:10px">${unit}</span>`,
  x: 0,
  y: 1 - i * rowHeight - (rowHeight * drawnPart) / 2,
  xref: 'paper',
  yref: 'paper',
  xanchor: 'left',
  yanchor: 'middle',
  align: 'left',
  xshift: -58,
  showarrow: false,
  font: { family: style.getPropertyValue('--sans'), size: 12, color: ink('indigo') },
});

/** A shade over each place that something is wrong with. */
function troubledPlaces({ warnings }: PathStripData, { ink, first, last, end }: Sheet): Record<string, unknown>[] {
  const half = (last - first) * 0.012;
  return warnings
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
}

/** Where the first pinch is, in words; nothing where there is none. */
function pinchNote({ warnings }: PathStripData, { ink, end, rowHeight }: Sheet): Record<string, unknown>[] {
  const at = warnings.find((warning) => warning.code === 'pinch' && warning.at !== undefined)?.at;
  if (at === undefined) return [];
  const font = { size: 11, color: ink('madder') };
  return [
    {
      text: `pinches at ${figure(at, 3)} m`,
      x: at,
      y: rowHeight * 0.5,
      xref: 'x',
      yref: 'paper',
      xanchor: at > end * 0.7 ? 'right' : 'left',
      showarrow: false,
      font,
    },
  ];
}

/** The drawing as hands see it: pixels and metres, and where the rows are. */
function plotOf({ element, first, last, rowHeight }: Sheet, rows: readonly Row[]): StripPlot {
  // As it was drawn: to ask the page again would have it laid out anew.
  const inner = element.clientWidth - margins.left - margins.right;
  const tall = element.clientHeight - margins.top - margins.bottom;
  return {
    toPixel: (metres) => margins.left + ((metres - first) / (last - first)) * inner,
    toMetres: (pixel) => first + ((pixel - margins.left) / inner) * (last - first),
    row: (id) => {
      const at = rows.findIndex((row) => row.id === id);
      if (at < 0 || !rows[at].range) return null;
      return { top: margins.top + at * rowHeight * tall, height: rowHeight * drawnPart * tall, range: rows[at].range };
    },
  };
}
