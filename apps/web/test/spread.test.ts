import fc from 'fast-check';
import { BufferAttribute, BufferGeometry, Euler, Matrix3, Matrix4, Quaternion, Vector3 } from 'three';
import { describe, expect, test } from 'vitest';
import { spread, spreadValues } from '../src/app/ropewalk/view3d/spread';

/** Two triangles in two groups, with normals and UVs. */
function base(): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1), 3));
  geometry.setAttribute('normal', new BufferAttribute(Float32Array.of(0, 0, 1, 0, 0, 1, 0, 0, 1, 1, 0, 0), 3));
  geometry.setAttribute('uv', new BufferAttribute(Float32Array.of(0, 0, 1, 0, 0, 1, 1, 1), 2));
  geometry.setIndex(new BufferAttribute(Uint32Array.of(0, 1, 2, 0, 2, 3), 1));
  geometry.addGroup(0, 3, 0);
  geometry.addGroup(3, 3, 1);
  return geometry;
}

const number = fc.double({ min: -5, max: 5, noNaN: true });
const size = fc.oneof(fc.double({ min: 0.2, max: 3, noNaN: true }), fc.double({ min: -3, max: -0.2, noNaN: true }));
const matrix = fc
  .tuple(fc.array(number, { minLength: 6, maxLength: 6 }), fc.array(size, { minLength: 3, maxLength: 3 }))
  .map(([[x, y, z, a, b, c], [s, t, u]]) =>
    new Matrix4().compose(new Vector3(x, y, z), new Quaternion().setFromEuler(new Euler(a, b, c)), new Vector3(s, t, u)),
  );

describe('copies as one geometry', () => {
  test('places, normals and UVs are those that three has for each copy, and fronts stay fronts', () =>
    fc.assert(
      fc.property(fc.array(matrix, { minLength: 1, maxLength: 6 }), (matrices) => {
        const own = base();
        const all = spread(own, Float32Array.from(matrices.flatMap((each) => each.elements)), 3);
        const [places, normals] = [all.getAttribute('position'), all.getAttribute('normal')];
        matrices.forEach((each, copy) => {
          const turn = new Matrix3().getNormalMatrix(each);
          for (let i = 0; i < 4; i++) {
            const place = new Vector3().fromBufferAttribute(own.getAttribute('position') as BufferAttribute, i).applyMatrix4(each);
            expect(place.distanceTo(new Vector3().fromBufferAttribute(places as BufferAttribute, copy * 4 + i))).toBeLessThan(1e-4);
            const normal = new Vector3()
              .fromBufferAttribute(own.getAttribute('normal') as BufferAttribute, i)
              .applyMatrix3(turn)
              .normalize();
            expect(normal.distanceTo(new Vector3().fromBufferAttribute(normals as BufferAttribute, copy * 4 + i))).toBeLessThan(1e-3);
          }
        });
        expect(all.groups.map(({ start, count, materialIndex }) => [start, count, materialIndex])).toEqual([
          [0, 3 * matrices.length, 0],
          [3 * matrices.length, 3 * matrices.length, 1],
        ]);
        // The first triangle faces the way that its normals point, mirrored or not.
        matrices.forEach((_, copy) => {
          const corners = [0, 1, 2].map((i) => new Vector3().fromBufferAttribute(places as BufferAttribute, all.index!.getX(copy * 3 + i)));
          const across = corners[1].clone().sub(corners[0]).cross(corners[2].clone().sub(corners[0]));
          expect(across.dot(new Vector3().fromBufferAttribute(normals as BufferAttribute, copy * 4))).toBeGreaterThan(0);
        });
      }),
    ));

  test('lines keep their ends, and values of a copy are those of each of its vertices', () => {
    const lines = new BufferGeometry().setIndex(new BufferAttribute(Uint32Array.of(0, 1, 1, 2), 1));
    lines.setAttribute('position', base().getAttribute('position'));
    const mirrored = new Matrix4().makeScale(-1, 1, 1);
    expect([...spread(lines, Float32Array.of(...mirrored.elements, ...mirrored.elements), 2).index!.array]).toEqual([0, 1, 1, 2, 4, 5, 5, 6]);
    expect([...spreadValues(Float32Array.of(1, 2, 3, 4), 2, 2)]).toEqual([1, 2, 1, 2, 3, 4, 3, 4]);
  });
});
