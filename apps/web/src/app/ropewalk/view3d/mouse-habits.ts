import { computed, Injectable, signal } from '@angular/core';

/** What a drag over the 3D view does. */
export const dragUses = { turn: 'turns the view', slide: 'slides the view', zoom: 'goes nearer and farther', nothing: 'does nothing' } as const;
export type DragUse = keyof typeof dragUses;

/** What a hand holds while it drags. */
export const grips = {
  left: 'Left button',
  leftShift: 'Shift and left button',
  leftAlt: 'Alt and left button',
  middle: 'Middle button, or wheel pressed',
  right: 'Right button',
} as const;
export type Grip = keyof typeof grips;

/** What the wheel, turned away from oneself, does. */
export const wheelUses = { nearer: 'goes nearer', farther: 'goes farther' } as const;
/** What the view turns about. */
export const pivots = { pointer: 'what the pointer is on', middle: 'the middle of the view' } as const;

/** What the mouse does in the 3D view. */
export interface Habits extends Readonly<Record<Grip, DragUse>> {
  readonly wheel: keyof typeof wheelUses;
  readonly about: keyof typeof pivots;
}

export const plainHabits: Habits = { left: 'turn', leftShift: 'slide', leftAlt: 'zoom', middle: 'slide', right: 'slide', wheel: 'nearer', about: 'pointer' };

/** Which grip a press is. */
export function gripOf({ button, shiftKey, altKey }: Pick<PointerEvent, 'button' | 'shiftKey' | 'altKey'>): Grip {
  if (button) return button === 1 ? 'middle' : 'right';
  return shiftKey ? 'leftShift' : altKey ? 'leftAlt' : 'left';
}

const accepted: { readonly [K in keyof Habits]: object } = {
  ...(Object.fromEntries(Object.keys(grips).map((grip) => [grip, dragUses])) as Record<Grip, object>),
  wheel: wheelUses,
  about: pivots,
};

/** Habits as they were kept; what is not understood is as at first. */
export function readHabits(text: string | null): Habits {
  let kept: unknown = null;
  try {
    kept = JSON.parse(text ?? 'null');
  } catch {
    // Not ours: as at first.
  }
  if (typeof kept !== 'object' || kept === null) return plainHabits;
  const known = Object.entries(kept).filter(([name, value]) => Object.hasOwn(accepted, name) && Object.hasOwn(accepted[name as keyof Habits], String(value)));
  return { ...plainHabits, ...Object.fromEntries(known) };
}

/** Key under which this browser remembers them. */
const remembered = 'filaxis-mouse';

/** What the mouse does in the 3D view, in this browser. */
@Injectable({ providedIn: 'root' })
export class MouseHabits {
  private readonly state = signal(readHabits(localStorage.getItem(remembered)));
  readonly habits = this.state.asReadonly();
  /** The same in words. */
  readonly told = computed(() => (Object.entries(grips) as [Grip, string][]).map(([grip, label]) => `${label.toLowerCase()} ${dragUses[this.state()[grip]]}`).join(', ')); // prettier-ignore

  set(change: Partial<Habits>): void {
    this.state.update((habits) => ({ ...habits, ...change }));
    localStorage.setItem(remembered, JSON.stringify(this.state()));
  }
}
