import { describe, expect, test } from 'vitest';
import { familyMarks } from '../../src/app/ropewalk/graph/family-marks';
import { GraphView } from '../../src/app/ropewalk/graph/graph-view';
import { graph, heard, mounted, point, press, type Mounted } from './mounted';

const nodes = [
  { id: 'line', type: 'lay.line', at: [0, 0] as const },
  { id: 'circle', type: 'lay.circle', at: [0, 160] as const },
  { id: 'tube', type: 'skin.tube', at: [204, 0] as const, settings: { radius: 0.02 } },
  { id: 'hemp', type: 'mesh.material', name: 'Hemp, laid', at: [408, 0] as const, settings: { name: 'hemp', colour: '#aa8855' } },
];
const wires = [
  { from: ['line', 'curves'], to: ['tube', 'curves'] },
  { from: ['tube', 'mesh'], to: ['hemp', 'any'] },
] as const;

async function view(
  document = graph(nodes, wires),
): Promise<Mounted<GraphView> & { tag: (id: string) => HTMLElement; text: (id: string, part: string) => string }> {
  const made = await mounted(GraphView, { inputs: { find: () => [] }, document });
  const tag = (id: string): HTMLElement => made.host.querySelector(`[data-node=${id}]`)!;
  return { ...made, tag, text: (id, part) => tag(id).querySelector(`.${part}`)!.textContent!.trim() };
}
const state = (more: object): object => ({ in: {}, out: {}, kinds: {}, ms: 1, error: null, warnings: [], value: null, ...more });

/** Zoom and place of the graph in its pane of 800 × 600. */
function placed(host: HTMLElement): { x: number; y: number; zoom: number } {
  const layer = host.querySelector<HTMLElement>('.layer')!.style.transform;
  const [, x, y, zoom] = /translate\((.+)px, ?(.+)px\) scale\((.+)\)/.exec(layer)!.map(Number);
  return { x, y, zoom };
}

describe('a tag', () => {
  test('has the name of its node, and beneath the setting that says most; a named one what it is', async () => {
    const { text, tag } = await view();
    expect([text('tube', 'name'), text('tube', 'telling')]).toEqual(['Tube', 'radius 0.02 m']);
    expect([text('hemp', 'name'), text('hemp', 'telling')]).toEqual(['Hemp, laid', 'Material']);
    expect(tag('hemp').querySelector<HTMLElement>('.swatch')!.style.background).toBe('rgb(170, 136, 85)');
  });

  test('tells its ports to those who hear it', async () => {
    const { tag } = await view();
    expect(tag('tube').getAttribute('aria-description')).toContain('curves, wired');
    expect(tag('tube').getAttribute('aria-description')).toContain('Gives mesh.');
    expect(tag('hemp').getAttribute('aria-label')).toBe('Hemp, laid, Material, hemp');
  });

  test('shows what came out, and marks what is wrong, once where it began', async () => {
    const { fixture, settle, text, tag } = await view();
    fixture.componentRef.setInput('states', {
      line: state({ out: { curves: 1, points: 8 }, ms: 0.25 }),
      tube: state({ error: { message: 'Sides: at least 3.', follows: false } }),
      hemp: state({ error: { message: 'waits for Tube', follows: true } }),
    });
    await settle();
    expect([text('line', 'figures'), text('tube', 'figures'), text('hemp', 'figures')]).toEqual(['1 c 8 pts', 'no result', 'waits']);
    expect([tag('tube').querySelector('.mark.bad') !== null, tag('hemp').querySelector('.mark') !== null]).toEqual([true, false]);
    expect(tag('tube').title).toBe('Sides: at least 3.');
  });

  test('is as wide as its name, with the mark of its family; figures that have no room are left out, not cut', async () => {
    const nodes = [{ id: 'short', type: 'lay.line' }, { id: 'long', type: 'lay.line', name: 'Shortest routes along the quay' }]; // prettier-ignore
    const { fixture, settle, text, tag } = await view(graph(nodes));
    expect([tag('short').style.width, parseFloat(tag('long').style.width) > 230]).toEqual(['152px', true]);
    expect(tag('short').querySelector('.family path')!.getAttribute('d')).toBe(familyMarks['lay']);
    const made = state({ out: { faces: 41216, copies: 1050 }, ms: 34.2 });
    fixture.componentRef.setInput('states', { short: made, long: made });
    await settle();
    expect([text('short', 'figures'), text('long', 'figures')]).toEqual(['41 216 f', '41 216 f 1 050 copies']);
  });

  test('is named by a double click on its name, Enter keeps it, Escape does not, an empty name goes', async () => {
    const { settle, tag, documents, text } = await view();
    const begin = async (id: string): Promise<HTMLInputElement> => {
      tag(id)
        .querySelector('.name')!
        .dispatchEvent(new MouseEvent('dblclick', { bubbles: true }));
      await settle();
      return tag(id).querySelector<HTMLInputElement>('.rename')!;
    };
    let box = await begin('tube');
    box.value = '  Hose ';
    press(box, 'Enter');
    await settle();
    expect([text('tube', 'name'), text('tube', 'telling'), documents.undoLabel()]).toEqual(['Hose', 'Tube', 'Name node']);
    box = await begin('tube');
    box.value = 'Other';
    press(box, 'Escape');
    await settle();
    expect(text('tube', 'name')).toBe('Hose');
    box = await begin('tube');
    box.value = '';
    press(box, 'Enter');
    await settle();
    expect(text('tube', 'name')).toBe('Tube');
    expect('name' in documents.document().nodes[2]).toBe(false);
    documents.undo();
    documents.undo();
    expect(documents.document().nodes[2].name).toBeUndefined();
  });

  test('is peeked at by its eye, kept faintly in view with Shift', async () => {
    const { component, tag } = await view();
    tag('tube').querySelector<HTMLElement>('.eye')!.click();
    expect(component.peek()).toBe('tube');
    tag('tube').querySelector<HTMLElement>('.eye')!.click();
    tag('line')
      .querySelector('.eye')!
      .dispatchEvent(new MouseEvent('click', { shiftKey: true, bubbles: true }));
    expect([component.peek(), component.ghost()]).toEqual([null, 'line']);
  });
});

describe('the hand in the graph', () => {
  test('a wire shows where it would go beside the hand, and the port it is held over', async () => {
    const { host, settle, tag } = await view();
    const out = tag('circle').querySelector('.out')!;
    point(out, 'pointerdown', 152, 191, { button: 0 });
    const area = host.querySelector('.area')!;
    const { x, y, zoom } = placed(host);
    point(area, 'pointermove', x + (204 + 13) * zoom, y + 31 * zoom);
    await settle();
    expect(host.querySelector('p.aimed')!.textContent).toContain('Tube · curves');
    expect(tag('tube').querySelector('.eyelet')!.classList.contains('aimed')).toBe(true);
    point(area, 'pointermove', x + (408 + 13) * zoom, y + 31 * zoom);
    await settle();
    expect(host.querySelector('p.aimed.refused')!.textContent).toBe('Hemp, laid takes mesh or copies there, not curves.');
    point(area, 'pointerup', x + (408 + 13) * zoom, y + 31 * zoom);
    await settle();
    expect(host.querySelector('p.aimed')).toBeNull();
  });

  test('menus are asked for on tags, wires and the ground, with what is meant chosen', async () => {
    const { component, host, tag, documents } = await view();
    const asked = heard(component.menuAsked);
    const right = (target: Element, clientX = 0, clientY = 0): boolean =>
      target.dispatchEvent(new MouseEvent('contextmenu', { bubbles: true, cancelable: true, clientX, clientY }));
    right(tag('tube'));
    expect([...documents.selection()]).toEqual(['tube']);
    documents.select('line', 'tube');
    right(tag('line'));
    expect([...documents.selection()]).toEqual(['line', 'tube']);
    right(host.querySelector('.area')!, 790, 590);
    expect([...documents.selection()]).toEqual([]);
    expect(asked.map(({ of }) => of)).toEqual(['tag', 'tag', 'ground']);
  });

  /** The graph with its area, and the pixels of a place in it. */
  async function hands(): Promise<Awaited<ReturnType<typeof view>> & { area: HTMLElement; at: (x: number, y: number) => [number, number] }> {
    const made = await view();
    return {
      ...made,
      area: made.host.querySelector<HTMLElement>('.area')!,
      at: (gx, gy) => {
        const { x, y, zoom } = placed(made.host);
        return [x + gx * zoom, y + gy * zoom];
      },
    };
  }
  const doubleClick = (target: Element, [clientX, clientY]: [number, number]): boolean =>
    target.dispatchEvent(new MouseEvent('dblclick', { bubbles: true, clientX, clientY }));

  test('a tag is moved by the pointer, with what is chosen beside it; Shift adds to what is chosen', async () => {
    const { tag, area, at, documents, settle } = await hands();
    point(tag('line'), 'pointerdown', ...at(20, 20));
    point(area, 'pointerup', ...at(20, 20));
    expect([...documents.selection()]).toEqual(['line']);
    point(tag('circle'), 'pointerdown', ...at(20, 180), { shiftKey: true });
    point(area, 'pointermove', ...at(60, 200));
    await settle();
    expect(tag('line').style.left).toBe('40px');
    point(area, 'pointerup', ...at(60, 200));
    const places = documents.document().nodes.map(({ at: place }) => place);
    expect([places[0], places[1], places[2], [...documents.selection()].sort()]).toEqual([[40, 20], [40, 180], [204, 0], ['circle', 'line']]); // prettier-ignore
    documents.undo();
    expect(documents.document().nodes[0].at).toEqual([0, 0]);
  });

  test('the middle button, and a second button, are not for tags; a drag that is broken off leaves all as it was', async () => {
    const { tag, area, at, documents } = await hands();
    for (const button of [1, 2]) {
      point(tag('line'), 'pointerdown', ...at(20, 20), { button });
      point(area, 'pointermove', ...at(90, 90), { button });
      point(area, 'pointerup', ...at(90, 90), { button });
    }
    point(tag('line'), 'pointerdown', ...at(20, 20));
    point(area, 'pointermove', ...at(90, 90));
    point(area, 'pointercancel', 0, 0);
    point(area, 'pointermove', ...at(190, 190));
    expect([documents.document().nodes[0].at, documents.undoLabel()]).toEqual([[0, 0], null]);
  });

  test('the ground is dragged to look elsewhere; with Shift a frame chooses what it meets', async () => {
    const { area, host, at, documents, settle } = await hands();
    const before = placed(host);
    point(area, 'pointerdown', 500, 500);
    point(area, 'pointermove', 530, 480);
    await settle();
    expect(area.classList.contains('panning')).toBe(true);
    point(area, 'pointerup', 530, 480);
    await settle();
    expect(placed(host)).toEqual({ x: before.x + 30, y: before.y - 20, zoom: before.zoom });
    const [left, top] = at(-30, -30);
    const [right, bottom] = at(60, 300);
    point(area, 'pointerdown', right, bottom, { shiftKey: true });
    point(area, 'pointermove', left, top, { shiftKey: true });
    await settle();
    const frame = host.querySelector<HTMLElement>('.frame')!.style;
    expect([frame.left, frame.top, frame.width, frame.height].map((text) => Math.round(parseFloat(text)))).toEqual(
      [left, top, right - left, bottom - top].map(Math.round),
    );
    point(area, 'pointerup', left, top, { shiftKey: true });
    await settle();
    expect([[...documents.selection()].sort(), host.querySelector('.frame')]).toEqual([['circle', 'line'], null]);
  });

  test('a click on a wire chooses it, a click beside it nothing; both give the graph the keyboard', async () => {
    const { area, at, documents } = await hands();
    const click = (place: [number, number]): void => {
      point(area, 'pointerdown', ...place);
      point(area, 'pointerup', ...place);
    };
    documents.select('hemp');
    click(at(178, 31));
    expect([documents.selectedWire()?.from, documents.selection().size, document.activeElement]).toEqual([['line', 'curves'], 0, area]);
    click(at(178, 110));
    expect(documents.selectedWire()).toBeNull();
    area.dispatchEvent(new MouseEvent('contextmenu', { bubbles: true, cancelable: true, clientX: at(178, 31)[0], clientY: at(178, 31)[1] }));
    expect(documents.selectedWire()?.from).toEqual(['line', 'curves']);
  });

  test('the wheel goes nearer about the pointer', async () => {
    const { area, host, settle } = await hands();
    const before = placed(host);
    const wheel = (deltaY: number, deltaMode = 0): boolean =>
      area.dispatchEvent(new WheelEvent('wheel', { deltaY, deltaMode, clientX: 300, clientY: 200, cancelable: true }));
    expect(wheel(-100)).toBe(false);
    await settle();
    const after = placed(host);
    expect(after.zoom / before.zoom).toBeCloseTo(Math.exp(0.16), 6);
    expect([(300 - after.x) / after.zoom, (200 - after.y) / after.zoom]).toEqual(
      [(300 - before.x) / before.zoom, (200 - before.y) / before.zoom].map((value) => expect.closeTo(value, 6)),
    );
    wheel(2, 1);
    await settle();
    expect(placed(host).zoom / after.zoom).toBeCloseTo(Math.exp(-0.1), 6);
  });

  test('a double click on the ground asks what is to be there, on a tag for its name; what is picked is added at that place', async () => {
    const { component, host, area, at, settle, tag } = await hands();
    const added = heard(component.addNode);
    doubleClick(area, at(178, 110));
    await settle();
    const menu = host.querySelector<HTMLElement>('fx-add-menu')!;
    const [x, y] = at(178, 110);
    expect([parseFloat(menu.style.left), parseFloat(menu.style.top)]).toEqual([
      expect.closeTo(Math.max(8, Math.min(x, 800 - 316)), 6),
      expect.closeTo(Math.max(8, Math.min(y, 600 - 360)), 6),
    ]);
    (component as unknown as { pick: (entry: object) => void }).pick({ adds: { type: 'lay.circle', settings: {} } });
    await settle();
    expect(added.map(({ type, request }) => [type, request.from, Math.round(request.at.x), Math.round(request.at.y)])).toEqual([['lay.circle', [], 178, 110]]);
    expect([host.querySelector('fx-add-menu'), document.activeElement]).toEqual([null, area]);
    doubleClick(area, at(230, 20));
    await settle();
    expect(tag('tube').querySelector('.rename')).not.toBeNull();
  });

  test('a search that is asked for before the last one has gone is one of its own, with the keyboard', async () => {
    const { component, host, at, settle } = await hands();
    const view = component as unknown as { openAdd: (request: object) => void; pick: (entry: object) => void };
    view.openAdd({ at: at(178, 110), from: [] });
    const first = host.querySelector('fx-add-menu input')!;
    view.pick({ adds: { type: 'lay.circle', settings: {} } });
    view.openAdd({ at: at(178, 110), from: [] });
    await settle();
    const [second, ...more] = host.querySelectorAll('fx-add-menu input');
    expect([second === first, document.activeElement === second, more]).toEqual([false, true, []]);
  });

  test('a wire that is let go over nothing asks what comes next, and only what takes it; a press on the ground closes that', async () => {
    const { component, host, area, at, settle, tag } = await hands();
    point(tag('circle').querySelector('.out')!, 'pointerdown', ...at(152, 191));
    point(area, 'pointermove', ...at(300, 400));
    await settle();
    expect([host.querySelector('p.aimed')!.textContent, tag('line').classList.contains('dim'), tag('tube').classList.contains('dim')]).toEqual([
      'Let go here to choose what comes next',
      true,
      false,
    ]);
    expect(host.querySelector('svg.drawn')!.classList.contains('curves')).toBe(true);
    point(area, 'pointerup', ...at(300, 400));
    await settle();
    expect([component.add()!.from, host.querySelector('fx-add-menu') !== null]).toEqual([[['circle', 'curves']], true]);
    point(area, 'pointerdown', 790, 590);
    await settle();
    expect(host.querySelector('fx-add-menu')).toBeNull();
  });

  test('a wire is taken off an input, and laid elsewhere or let go', async () => {
    const { host, area, at, settle, tag, documents } = await hands();
    point(tag('tube').querySelector('[data-input=curves]')!, 'pointerdown', ...at(204, 31));
    point(area, 'pointermove', ...at(300, 400));
    await settle();
    expect(host.querySelector('p.aimed')!.textContent).toBe('Let go here to take the wire away');
    point(area, 'pointerup', ...at(300, 400));
    expect(documents.document().wires.map(({ from }) => from[0])).toEqual(['tube']);
  });

  test('files that are dropped are told with the place; while they are held over it the graph shows that it takes them', async () => {
    const { component, area, at, settle } = await hands();
    const given = heard(component.files);
    const drag = (type: string, files: readonly File[] = []): Event => {
      const event = Object.assign(new Event(type, { bubbles: true, cancelable: true }), {
        dataTransfer: { files },
        clientX: at(10, 20)[0],
        clientY: at(10, 20)[1],
      });
      area.dispatchEvent(event);
      return event;
    };
    expect(drag('dragover').defaultPrevented).toBe(true);
    await settle();
    expect(area.classList.contains('dropping')).toBe(true);
    drag('dragleave');
    await settle();
    expect(area.classList.contains('dropping')).toBe(false);
    drag('drop');
    const file = new File(['x'], 'a.svg');
    drag('drop', [file]);
    expect(given.map(({ files, at: place }) => [files, Math.round(place.x), Math.round(place.y)])).toEqual([[[file], 10, 20]]);
  });

  test('a tag that the keyboard reaches is chosen; what is chosen already stays', async () => {
    const { tag, documents } = await hands();
    tag('line').dispatchEvent(new FocusEvent('focus'));
    expect([...documents.selection()]).toEqual(['line']);
    documents.select('line', 'tube');
    tag('tube').dispatchEvent(new FocusEvent('focus'));
    expect([...documents.selection()]).toEqual(['line', 'tube']);
  });

  test('a free place is beside a node or in the middle of the view, beneath what stands there', async () => {
    const { component, documents } = await hands();
    const [line, , tube] = documents.document().nodes;
    const after = component.freePlace(line);
    expect([after.x > 0, after.y > 0]).toEqual([true, true]);
    expect(component.freePlace(tube, 'before').y).toBeGreaterThan(0);
    const free = component.freePlace(documents.document().nodes[3]);
    expect(free).toEqual({ x: 408 + (after.x - 0), y: 0 });
    expect(component.shape).toBeCloseTo(800 / 600, 9);
    documents.apply('Add', { ...documents.document(), notes: [{ id: 'n', text: '', at: [free.x, free.y] }] });
    expect(component.freePlace(documents.document().nodes[3]).y).toBeGreaterThan(0);
  });

  test('zoomed out, tags turn into signs with their names', async () => {
    const { component, host, settle, tag } = await view();
    expect(host.querySelectorAll('.sign')).toHaveLength(0);
    component.zoomBy(0.4);
    await settle();
    expect(tag('hemp').querySelector('.sign')!.textContent.trim()).toBe('Hemp, laid');
    expect(host.querySelectorAll('.sign')).toHaveLength(4);
  });

  test('an empty graph says how to begin', async () => {
    const { host } = await mounted(GraphView, { inputs: { find: () => [] }, document: graph([]) });
    expect(host.querySelector('.empty')!.textContent).toContain('Begin with a curve');
  });
});
