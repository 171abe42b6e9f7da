import type { FilaxisDocument } from './document.js';

/** All nodes, each after those it takes from as far as there is no circle; and the nodes of circles. */
export function orderNodes(document: FilaxisDocument): { order: readonly string[]; circle: readonly string[] } {
  const waiting = new Map(document.nodes.map((node) => [node.id, 0]));
  const followers = new Map<string, string[]>();
  for (const { from, to } of document.wires) {
    if (!waiting.has(from[0]) || !waiting.has(to[0])) continue;
    waiting.set(to[0], waiting.get(to[0])! + 1);
    const list = followers.get(from[0]);
    if (list) list.push(to[0]);
    else followers.set(from[0], [to[0]]);
  }
  const order = [...waiting].filter(([, count]) => count === 0).map(([id]) => id);
  for (const id of order)
    for (const follower of followers.get(id) ?? []) {
      waiting.set(follower, waiting.get(follower)! - 1);
      if (waiting.get(follower) === 0) order.push(follower);
    }
  const done = new Set(order);
  const left = document.nodes.map((node) => node.id).filter((id) => !done.has(id));
  // What is left stands in a circle or behind one; those behind lead back to nothing that is left.
  const add = (lists: Map<string, string[]>, key: string, id: string): void => {
    const list = lists.get(key);
    if (list) list.push(id);
    else lists.set(key, [id]);
  };
  const inside = new Set(left);
  const ahead = new Map(left.map((id) => [id, (followers.get(id) ?? []).filter((follower) => inside.has(follower)).length]));
  const sources = new Map<string, string[]>();
  for (const id of left) for (const follower of followers.get(id) ?? []) add(sources, follower, id);
  const ends = left.filter((id) => ahead.get(id) === 0);
  for (const id of ends) {
    inside.delete(id);
    for (const source of sources.get(id) ?? []) {
      ahead.set(source, ahead.get(source)! - 1);
      if (ahead.get(source) === 0) ends.push(source);
    }
  }
  const circle = left.filter((id) => inside.has(id));
  return { order: [...order, ...left], circle };
}
