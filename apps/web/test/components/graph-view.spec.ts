import { describe, expect, test } from 'vitest';
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

async function view(): Promise<Mounted<GraphView> & { tag: (id: string) => HTMLElement; text: (id: string, part: string) => string }> {
  const made = await mounted(GraphView, { document: graph(nodes, wires) });
  const tag = (id: string): HTMLElement => made.host.querySelector(`[data-node=${id}]`)!;
  return { ...made, tag, text: (id, part) => tag(id).querySelector(`.${part}`)!.textContent!.trim() };
}
const state = (more: object): object => ({ in: {}, out: {}, kinds: {}, ms: 1, error: null, warnings: [], value: null, ...more });

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
    // Zoom and place of the graph: fitted into 800 × 600.
    const layer = host.querySelector<HTMLElement>('.layer')!.style.transform;
    const [, x, y, zoom] = /translate\((.+)px, ?(.+)px\) scale\((.+)\)/.exec(layer)!.map(Number);
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

  test('zoomed out, tags turn into signs with their names', async () => {
    const { component, host, settle, tag } = await view();
    expect(host.querySelectorAll('.sign')).toHaveLength(0);
    component.zoomBy(0.4);
    await settle();
    expect(tag('hemp').querySelector('.sign')!.textContent).toBe('Hemp, laid');
    expect(host.querySelectorAll('.sign')).toHaveLength(4);
  });

  test('an empty graph says how to begin', async () => {
    const { host } = await mounted(GraphView, { document: graph([]) });
    expect(host.querySelector('.empty')!.textContent).toContain('Begin with a curve');
  });
});
