import { TestBed } from '@angular/core/testing';
import { beforeEach, describe, expect, test } from 'vitest';
import { signal } from '@angular/core';
import { EvaluationService } from '../../src/app/ropewalk/evaluation.service';
import { Pointing } from '../../src/app/ropewalk/pointing';

/** Three places of curve 2 in the strip, every fourth point of it. */
const strip = { curve: 2, step: 4, s: Float32Array.of(0, 1, 2), positions: Float32Array.of(0, 0, 0, 1, 0, 0, 2, 0, 0) };

describe('what views point out to each other', () => {
  let pointing: Pointing;
  const shown = signal<typeof strip | null>(strip);
  beforeEach(() => {
    shown.set(strip);
    TestBed.configureTestingModule({ providers: [Pointing, { provide: EvaluationService, useValue: { strip: shown } }] });
    pointing = TestBed.inject(Pointing);
  });

  test('a curve under the pointer in the view is marked in the strip, if it is the one shown there', () => {
    pointing.overCurve({ curve: 2, index: 5 });
    expect([pointing.marked(), pointing.place()]).toEqual([1, [1, 0, 0]]);
    // Beyond the last place of the strip lies its end.
    pointing.overCurve({ curve: 2, index: 999 });
    expect(pointing.marked()).toBe(2);
    pointing.overCurve({ curve: 1, index: 5 });
    expect([pointing.marked(), pointing.place()]).toEqual([null, null]);
  });

  test('what lies under the pointer on the UV sheet goes before, and what the strip has no place for marks nothing', () => {
    pointing.marked.set(0);
    pointing.onSheet.set([7, 8, 9]);
    expect(pointing.place()).toEqual([7, 8, 9]);
    pointing.onSheet.set(null);
    pointing.marked.set(12);
    expect(pointing.place()).toBeNull();
    shown.set(null);
    pointing.marked.set(0);
    expect(pointing.place()).toBeNull();
  });
});
