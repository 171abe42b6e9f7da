import { curveCount } from '../../geometry/curves.js';
import type { Work } from '../../base/work.js';
import { contactsOf, metresBetween, type Meetable, type OnCurve } from './meetings.js';

/** One way that leaves a fork: along a curve, from metres on it, forwards or back. */
export interface Arm extends OnCurve {
  readonly way: 1 | -1;
}

/** A place of a curve that takes part in a meeting; `next` leads to the one that stands for all of the meeting, which is its own. */
interface Meeting extends OnCurve {
  next: Meeting | null;
}

/**
 * Where three ways or more meet: ends that lie on a curve or where others end, and where curves cross, or one comes back to itself.
 * @returns the arms of each fork, by curve and metres.
 */
export function findForks(given: Meetable, work: Work): Arm[][] {
  const { curves, paths, radiusAt } = given;
  const known = new Map<number, Meeting[]>();
  const meet = ({ curve, at }: OnCurve): Meeting => {
    const { total } = paths[curve];
    const radius = radiusAt(curve, at);
    // What is nearer to an end than the curve is thick is that end.
    const snapped = curves.closed[curve] ? at % total : at < radius ? 0 : total - at < radius ? total : at;
    const list = known.get(curve) ?? [];
    const same = list.find((each) => metresBetween(curves, paths, curve, each.at, snapped) < radius);
    if (same) return same;
    const made: Meeting = { curve, at: snapped, next: null };
    list.push(made);
    known.set(curve, list);
    return made;
  };
  for (const contact of contactsOf(given, work)) {
    const [a, b] = [head(meet(contact.a)), head(meet(contact.b))];
    if (a !== b) b.next = a;
  }
  const groups = new Map<Meeting, Meeting[]>();
  for (let c = 0; c < curveCount(curves); c++)
    for (const each of known.get(c) ?? []) {
      const group = groups.get(head(each));
      if (group) group.push(each);
      else groups.set(head(each), [each]);
    }
  return [...groups.values()].map((group) => group.flatMap((each) => armsOf(given, each))).filter((arms) => arms.length > 2);
}

function head(meeting: Meeting): Meeting {
  let at = meeting;
  while (at.next) at = at.next;
  return at;
}

function armsOf({ curves, paths }: Meetable, { curve, at }: Meeting): Arm[] {
  const round = curves.closed[curve] === 1;
  return [...(round || at < paths[curve].total ? [{ curve, at, way: 1 } as const] : []), ...(round || at > 0 ? [{ curve, at, way: -1 } as const] : [])];
}
