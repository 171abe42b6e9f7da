import { PerspectiveCamera, type Mesh, type Points, type PointsMaterial } from 'three';
import { expect, test } from 'vitest';
import { Marks } from '../src/app/ropewalk/view3d/marks';

function made(): { marks: Marks; ball: Mesh; dots: Points } {
  const marks = new Marks();
  const [ball, dots] = marks.group.children as [Mesh, Points];
  return { marks, ball, dots };
}

test('a mark is a ball at its place, as large on screen from near and far; taking none away changes nothing', () => {
  const { marks, ball } = made();
  expect([marks.mark(null), ball.visible]).toEqual([false, false]);
  expect([marks.mark([1, 2, 3]), ball.visible, ball.position.toArray()]).toEqual([true, true, [1, 2, 3]]);
  const camera = new PerspectiveCamera();
  camera.position.set(1, 2, 13);
  marks.follow(camera);
  expect(ball.scale.x).toBeCloseTo(0.08, 9);
  camera.position.set(1, 2, 103);
  marks.follow(camera);
  expect(ball.scale.x).toBeCloseTo(0.8, 9);
  expect([marks.mark(null), ball.visible]).toEqual([true, false]);
});

test('picked places are dots, small where they are many, and a copy: what was picked may change', () => {
  const { marks, dots } = made();
  const size = (): number => (dots.material as PointsMaterial).size;
  expect([marks.pick(null), dots.visible]).toEqual([false, false]);
  const places = Float32Array.of(1, 2, 3, 4, 5, 6);
  expect([marks.pick(places), dots.visible, size()]).toEqual([true, true, 9]);
  places[0] = 99;
  expect(Array.from(dots.geometry.getAttribute('position').array)).toEqual([1, 2, 3, 4, 5, 6]);
  for (const [length, wanted] of [[0, 9], [1800, 9], [1803, 3]] as const) {
    marks.pick(new Float32Array(length));
    expect([dots.visible, size()]).toEqual([length > 0, wanted]);
  } // prettier-ignore
  expect([marks.pick(null), dots.visible, marks.pick(null)]).toEqual([true, false, false]);
});

test('marks are seen through everything, the ball over the dots', () => {
  const { ball, dots } = made();
  expect(ball.renderOrder).toBeGreaterThan(dots.renderOrder);
  for (const { material } of [ball, dots]) expect((material as PointsMaterial).depthTest).toBe(false);
});
