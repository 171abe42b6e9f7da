import { Material } from 'three';
import { describe, expect, test } from 'vitest';
import { Programs } from '../src/app/ropewalk/view3d/programs';

/** Materials with the programs that they were drawn with, and which of them were ended. */
function graphics(): { programs: Programs; material: (...keys: string[]) => Material; ended: Material[] } {
  const known = new Map<Material, { programs: Map<string, unknown> }>();
  const ended: Material[] = [];
  return {
    programs: new Programs({ get: (material) => known.get(material) ?? {} }),
    material: (...keys) => {
      const made = new Material();
      known.set(made, { programs: new Map(keys.map((key) => [key, {}])) });
      made.addEventListener('dispose', () => ended.push(made));
      return made;
    },
    ended,
  };
}

describe('programs', () => {
  test('outlive the last material that uses them: one of each is kept, further ones are ended', () => {
    const { programs, material, ended } = graphics();
    const [first, second, both] = [material('a'), material('a'), material('a', 'b')];
    programs.release(first);
    programs.release(second);
    // The only one that has b is kept for that.
    programs.release(both);
    expect(ended).toEqual([second]);
    programs.dispose();
    expect(new Set(ended)).toEqual(new Set([first, second, both]));
    expect(ended).toHaveLength(3);
  });

  test('a material that was never drawn is ended at once', () => {
    const { programs, material, ended } = graphics();
    programs.release(material());
    expect(ended).toHaveLength(1);
  });

  test('there are not ever more of them: those that nobody wanted for longest go first', () => {
    const { programs, material, ended } = graphics();
    const made = Array.from({ length: 60 }, (_, i) => material(`p${i}`));
    made.slice(0, 48).forEach(programs.release);
    // The first is wanted again, so the second is the oldest now.
    programs.release(material('p0'));
    made.slice(48).forEach(programs.release);
    expect(ended).not.toContain(made[0]);
    expect(made.slice(1, 13).every((each) => ended.includes(each))).toBe(true);
    expect(made.slice(13).some((each) => ended.includes(each))).toBe(false);
  });
});
