import type { FiredRipple, Ripple, RippleEdge, RippleNode } from "./ripple.ts";

/** The edges from the statement's target to a node, in the order in which things happen: the shortest way. */
export function chainTo({ edges }: Ripple, node: number): RippleEdge[] {
  const before = new Map<number, RippleEdge>();
  const queue = [0];
  const seen = new Set(queue);
  for (let at = queue.shift(); at !== undefined && at !== node; at = queue.shift()) {
    for (const edge of edges) {
      if (edge.from !== at || seen.has(edge.to)) continue;
      seen.add(edge.to);
      before.set(edge.to, edge);
      queue.push(edge.to);
    }
  }
  const chain: RippleEdge[] = [];
  for (let at = node; at !== 0; ) {
    const edge = before.get(at);
    if (!edge) break;
    chain.unshift(edge);
    at = edge.from;
  }
  return chain;
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
    for (const node of one.ripple.nodes) {
      if (node.id === 0 || !node.written) continue;
      const chain = chainTo(one.ripple, node.id);
      list.push({ node, chain, certain: one.firing.certain && chain.every(({ certain }) => certain), fired: one });
    }
  }
  return list;
}
