import type { FiredRipple, Ripple, RippleEdge, RippleNode } from "./ripple.ts";

/** For every place that is reached: the edge by which the shortest way comes to it. */
function ways({ edges }: Ripple): ReadonlyMap<number, RippleEdge> {
  const from = edgesFrom(edges);
  const before = new Map<number, RippleEdge>();
  const queue = [0];
  const seen = new Set(queue);
  // The list grows while it is walked.
  for (const at of queue) {
    for (const edge of from.get(at) ?? []) {
      if (seen.has(edge.to)) continue;
      seen.add(edge.to);
      before.set(edge.to, edge);
      queue.push(edge.to);
    }
  }
  return before;
}

/** The edges by the place from which they lead on, each list in the order of the ripple. */
export function edgesFrom(edges: readonly RippleEdge[]): ReadonlyMap<number, RippleEdge[]> {
  const from = new Map<number, RippleEdge[]>();
  for (const edge of edges) {
    const list = from.get(edge.from);
    if (list) list.push(edge);
    else from.set(edge.from, [edge]);
  }
  return from;
}

/** The edges from the statement's target to a place, in the order in which things happen. */
function chainTo(node: number, before: ReadonlyMap<number, RippleEdge>): RippleEdge[] {
  const chain: RippleEdge[] = [];
  for (let edge = before.get(node); edge; edge = before.get(edge.from)) chain.push(edge);
  return chain.reverse();
}

/** A place of a ripple with the way there. */
export interface Reached {
  node: RippleNode;
  chain: RippleEdge[];
  /** Every step happens whenever the one before it does. */
  certain: boolean;
  fired: FiredRipple;
}

/** The places whose rows are written, besides the statement's own target, with the way to each. */
export function writtenPlaces(fired: readonly FiredRipple[]): Reached[] {
  const list: Reached[] = [];
  for (const one of fired) {
    const before = ways(one.ripple);
    for (const node of one.ripple.nodes) {
      if (node.id === 0 || !node.written) continue;
      const chain = chainTo(node.id, before);
      list.push({ node, chain, certain: one.firing.certain && chain.every(({ certain }) => certain), fired: one });
    }
  }
  return list;
}
