import { indexOf, type FilaxisDocument, type Wire } from '@filaxis/core';
import { inputPlace, outputPlace, placeOf, tagHeight, widthOf, wireCurve, wireDistance, wirePoint, type Place, type WireCurve } from './tag-geometry';

/** How a wire runs: curves one after another. */
export type WirePath = readonly WireCurve[];

/** A tag with the room about it. */
export interface Box {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
}

/** Room kept between a wire and tags that it passes. */
const clear = 5;
/** How far a wire that goes round tags runs beside them. */
const beside = 14;
/** Across which distance it leaves its height and comes back to it: that between two columns of tags. */
const turn = 46;
/** Most ways round that are tried. */
const mostLanes = 32;

/** What is known of a document's wires: the boxes of its tags, found once, and the ways that were asked for. */
const routes = new WeakMap<FilaxisDocument, { readonly boxes: readonly (Box & { readonly id: string })[]; readonly paths: Map<Wire, WirePath> }>();

/** The way of a wire of a document between its tags, round those that it does not belong to. Null: one of its nodes is not there. */
export function pathOf(document: FilaxisDocument, wire: Wire): WirePath | null {
  let route = routes.get(document);
  if (!route) routes.set(document, (route = { boxes: boxesOf(document), paths: new Map() }));
  const known = route.paths.get(wire);
  if (known) return known;
  const { nodes } = indexOf(document);
  const [from, to] = [nodes.get(wire.from[0]), nodes.get(wire.to[0])];
  if (!from || !to) return null;
  const others = route.boxes.filter(({ id }) => id !== from.id && id !== to.id);
  const path = wayRound(outputPlace(document, from, wire.from[1]), inputPlace(document, to, wire.to[1]), others);
  route.paths.set(wire, path);
  return path;
}

const boxesOf = ({ nodes }: FilaxisDocument): (Box & { readonly id: string })[] =>
  nodes.map((node) => {
    const { x, y } = placeOf(node);
    return { id: node.id, left: x - clear, right: x + widthOf(node) + clear, top: y - clear, bottom: y + tagHeight + clear };
  });

/** The straightest way from place to place that crosses no box; the direct one when there is none. */
export function wayRound(from: Place, to: Place, boxes: readonly Box[]): WirePath {
  const direct = wireCurve(from, to);
  if (!crosses(direct, boxes)) return [direct];
  const [left, right] = [Math.min(from.x, to.x - turn), Math.max(from.x + turn, to.x)];
  const between = boxes.filter((box) => box.right > left && box.left < right);
  const detour = (y: number): number => Math.abs(y - from.y) + Math.abs(y - to.y);
  const lanes = [from.y, to.y, ...between.flatMap(({ top, bottom }) => [top - beside, bottom + beside])].sort((a, b) => detour(a) - detour(b));
  for (const y of lanes.slice(0, mostLanes)) {
    const path = laneAt(from, to, y);
    if (!path.some((curve) => crosses(curve, between))) return path;
  }
  return [direct];
}

/** The way along a height: down or up to it, along it, and away from it. */
function laneAt(from: Place, to: Place, y: number): WirePath {
  const [a, b] = [
    { x: from.x + turn, y },
    { x: to.x - turn, y },
  ];
  const bend = turn * 0.6;
  return [
    [from, { x: from.x + bend, y: from.y }, { x: a.x - bend, y }, a],
    [a, { x: a.x + (b.x - a.x) / 3, y }, { x: b.x - (b.x - a.x) / 3, y }, b],
    [b, { x: b.x + bend, y }, { x: to.x - bend, y: to.y }, to],
  ];
}

function crosses(curve: WireCurve, boxes: readonly Box[]): boolean {
  const [xs, ys] = [curve.map(({ x }) => x), curve.map(({ y }) => y)];
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const near = boxes.filter((box) => box.left < right && box.right > left && box.top < bottom && box.bottom > top);
  if (!near.length) return false;
  const steps = Math.min(64, Math.max(16, Math.ceil((right - left + bottom - top) / 12)));
  for (let i = 0; i <= steps; i++) {
    const { x, y } = wirePoint(curve, i / steps);
    if (near.some((box) => x > box.left && x < box.right && y > box.top && y < box.bottom)) return true;
  }
  return false;
}

/** Wires that pass a place within `reach`, the nearest first. */
export function wiresNear(document: FilaxisDocument, at: Place, reach: number): Wire[] {
  const found = document.wires.flatMap((wire) => {
    const distance = Math.min(Infinity, ...(pathOf(document, wire) ?? []).map((curve) => wireDistance(curve, at)));
    return distance < reach ? [{ wire, distance }] : [];
  });
  return found.sort((a, b) => a.distance - b.distance).map(({ wire }) => wire);
}
