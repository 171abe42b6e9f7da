import { describe, expect, test } from 'vitest';
import { NumberField } from '../../src/app/shared/number-field';
import { heard, mounted, point, press, typeInto, type Mounted } from './mounted';

async function field(inputs: Record<string, unknown> = {}): Promise<Mounted<NumberField> & { box: HTMLInputElement; kept: number[]; shown: number[] }> {
  const made = await mounted(NumberField, { inputs: { value: 0.2, label: 'Radius', unit: 'm', step: 0.01, ...inputs } });
  return { ...made, box: made.host.querySelector('input')!, kept: heard(made.component.committed), shown: heard(made.component.scrubbed) };
}

describe('a number field', () => {
  test('shows value and unit, and has a name for those who hear it', async () => {
    const { box, host } = await field({ value: 0.1234567891, axis: 'x' });
    expect(box.value).toBe('0.1234568');
    expect(box.getAttribute('aria-label')).toBe('Radius');
    expect(host.querySelector('.unit')!.textContent).toBe('m');
    expect(host.querySelector('.axis')!.textContent).toBe('x');
  });

  test('takes arithmetic and units; what is no number is told and changes nothing', async () => {
    const { box, kept, settle } = await field();
    typeInto(box, '2*15mm');
    expect(kept).toEqual([0.03]);
    typeInto(box, 'thick');
    await settle();
    expect(kept).toEqual([0.03]);
    expect(box.getAttribute('aria-invalid')).toBe('true');
    press(box, 'Escape');
    await settle();
    expect([box.value, box.getAttribute('aria-invalid')]).toEqual(['0.2', 'false']);
  });

  test('a value out of range is passed on, for the node to say what it accepts', async () => {
    const { box, kept } = await field({ max: 1 });
    typeInto(box, '7');
    expect(kept).toEqual([7]);
  });

  test('arrow keys step: ten times with Shift, a tenth with Alt, never out of range', async () => {
    const { box, kept } = await field({ max: 0.25 });
    press(box, 'ArrowUp');
    press(box, 'ArrowDown');
    press(box, 'ArrowDown', { shiftKey: true });
    press(box, 'ArrowUp', { altKey: true });
    press(box, 'ArrowUp', { shiftKey: true });
    expect(kept).toEqual([0.21, 0.19, 0.1, 0.201, 0.25]);
  });

  test('whole numbers step by one, also with Alt', async () => {
    const { box, kept } = await field({ value: 4, whole: true, step: 0.2 });
    press(box, 'ArrowUp');
    press(box, 'ArrowDown', { altKey: true });
    press(box, 'ArrowUp', { shiftKey: true });
    expect(kept).toEqual([5, 3, 14]);
  });

  test('a press that goes nowhere puts the caret into the field and keeps nothing', async () => {
    const { box, host, kept, shown } = await field();
    document.body.append(host);
    point(box, 'pointerdown', 100, 0, { button: 0 });
    point(box, 'pointermove', 101, 0);
    point(box, 'pointerup', 101, 0);
    expect([kept, shown, document.activeElement === box]).toEqual([[], [], true]);
  });

  test('dragging sideways shows values and keeps the last one, once', async () => {
    const { box, kept, shown } = await field();
    point(box, 'pointerdown', 100, 0, { button: 0 });
    point(box, 'pointermove', 102, 0);
    expect(shown).toEqual([]);
    point(box, 'pointermove', 110, 0);
    point(box, 'pointermove', 110, 0, { shiftKey: true });
    point(box, 'pointerup', 110, 0);
    expect(shown).toEqual([0.3, 0.21]);
    expect(kept).toEqual([0.21]);
    point(box, 'pointermove', 150, 0);
    expect(shown).toHaveLength(2);
  });

  test('a click without a drag chooses the text', async () => {
    const { box, kept } = await field();
    point(box, 'pointerdown', 100, 0, { button: 0 });
    point(box, 'pointerup', 100, 0);
    expect(document.activeElement).toBe(box);
    expect(kept).toEqual([]);
  });

  test('several numbers that are pasted go on to the fields after it; one is typed as ever', async () => {
    const { box, component } = await field();
    const pasted = heard(component.pasted);
    const paste = (text: string): boolean => {
      const event = Object.assign(new Event('paste', { bubbles: true, cancelable: true }), { clipboardData: { getData: () => text } });
      box.dispatchEvent(event);
      return event.defaultPrevented;
    };
    expect([paste('1.2, 0.4, 3'), paste('[1; 2; 3]'), paste('5'), paste('a, b')]).toEqual([true, true, false, false]);
    expect(pasted).toEqual([[1.2, 0.4, 3], [1, 2, 3]]); // prettier-ignore
  });
});
