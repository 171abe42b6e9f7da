import { describe, expect, test, vi } from 'vitest';
import { TestBed } from '@angular/core/testing';
import { Learning } from '../../src/app/ropewalk/lessons/learning';
import { LessonCard } from '../../src/app/ropewalk/lessons/lesson-card';
import { addNode } from '../../src/app/ropewalk/document/edits';
import { heard, mounted, type Mounted } from './mounted';

const button = ({ host }: Mounted<unknown>, text: string): HTMLButtonElement =>
  [...host.querySelectorAll('button')].find(({ textContent }) => textContent!.trim() === text)!;

describe('a lesson', () => {
  async function taken(lesson = 'rope'): Promise<Mounted<LessonCard>> {
    const made = await mounted(LessonCard);
    TestBed.inject(Learning).begin(lesson);
    await made.settle();
    return made;
  }

  test('says what is to be done, goes on when it is done and back when it is undone, and can be left', async () => {
    const made = await taken();
    const says = (): string => made.host.querySelector('.say')!.textContent!;
    expect(says()).toBe('Add Line.');
    made.documents.apply('Add Line', addNode(made.documents.document(), 'lay.line', [0, 0]).document);
    await made.settle();
    expect([says(), made.host.querySelector('.mono')!.textContent]).toEqual(['Put the end of the line where the rope is to be tied.', '1 of 8 steps done']);
    made.documents.undo();
    await made.settle();
    expect(says()).toBe('Add Line.');
    button(made, 'Leave').click();
    await made.settle();
    expect(made.host.textContent!.trim()).toBe('');
  });

  test('rings what the step is done with', async () => {
    const made = await taken();
    const graph = document.body.appendChild(document.createElement('fx-graph'));
    graph.innerHTML = '<div class="tools"><button title="Add a node (N)"></button></div>';
    button(made, 'Show me where').click();
    expect(graph.querySelector('button')!.classList).toContain('fx-ringed');
    graph.remove();
  });

  test('rings it by itself once the step stands', async () => {
    const graph = document.body.appendChild(document.createElement('fx-graph'));
    graph.innerHTML = '<div class="tools"><button title="Add a node (N)"></button></div>';
    const rung = (): boolean => graph.querySelector('button')!.classList.contains('fx-ringed');
    await taken();
    expect(rung()).toBe(false);
    await vi.waitFor(() => expect(rung()).toBe(true), { timeout: 5000 });
    graph.remove();
  });

  test('at its end offers the others', async () => {
    const made = await taken();
    const wanted = heard(made.component.another);
    const lesson = TestBed.inject(Learning).lesson()!;
    TestBed.inject(Learning).lesson.set({ ...lesson, steps: lesson.steps.slice(0, 1) });
    made.documents.apply('Add Line', addNode(made.documents.document(), 'lay.line', [0, 0]).document);
    await made.settle();
    expect(made.host.querySelector('.say')!.textContent).toBe('Done.');
    button(made, 'A fence on ground').click();
    expect(wanted).toEqual(['fence']);
  });

  test('of a name that is not known is none', async () => {
    const made = await taken('sail');
    expect(made.host.querySelector('section')).toBeNull();
  });
});
