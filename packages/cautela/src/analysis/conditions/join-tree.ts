import type { Expr, Join, Node, Source, Statement } from "../../sql/nodes/tree.ts";
import type { BoundRelation, Resolution, ResolvedScope } from "../names/resolution.ts";

/** One level of a changing statement at which relations meet: FROM with its joins and its filter. */
export interface JoinTree {
  node: Node;
  scope: ResolvedScope;
  /** The relation whose rows are changed; null in the SELECT of an INSERT. */
  target: BoundRelation | null;
  joins: { join: Join; before: BoundRelation[]; relation: BoundRelation[] }[];
  /** WHERE and the ON of every join. */
  conditions: Expr[];
  where: Expr | null;
}

/** The level of an UPDATE, a DELETE, a MERGE, or of the SELECT that an INSERT takes its rows from. */
export function joinTreeOf(tree: Statement, names: Resolution, target: Source | null): JoinTree | null {
  // Every hazard of joins asks for the same statement's.
  return names.memo.once(readJoinTree, target ?? tree, () => readJoinTree(tree, names, target));
}

function readJoinTree(tree: Statement, names: Resolution, target: Source | null): JoinTree | null {
  switch (tree.kind) {
    case "update": {
      const scope = names.scopes.get(tree);
      return scope
        ? level(tree, scope, tree.from.length === 0 ? tree.target : [...tree.target, ...tree.from], tree.where, target)
        : null;
    }
    case "delete": {
      const scope = names.scopes.get(tree);
      return scope
        ? level(tree, scope, tree.using.length === 0 ? tree.from : [...tree.from, ...tree.using], tree.where, target)
        : null;
    }
    case "merge": {
      const scope = names.scopes.get(tree);
      if (!scope) return null;
      const found = level(tree, scope, [tree.target, tree.source], null, tree.target);
      found.conditions.push(tree.on);
      return found;
    }
    case "insert":
    case "create-table": {
      const query = tree.kind === "insert" ? tree.source : tree.query;
      if (query?.body.kind !== "select") return null;
      const scope = names.scopes.get(query.body);
      return scope ? level(query.body, scope, query.body.from, query.body.where, null) : null;
    }
    default:
      return null;
  }
}

function level(
  node: Node,
  scope: ResolvedScope,
  sources: readonly Source[],
  where: Expr | null,
  target: Source | null,
): JoinTree {
  const result: JoinTree = {
    node,
    scope,
    target:
      (target && scope.relations.find((one) => one.source === target)) ??
      (target ? (scope.relations[0] ?? null) : null),
    joins: [],
    conditions: where ? [where] : [],
    where,
  };
  const of = (source: Source): BoundRelation[] => {
    if (source.kind === "joined") return [...of(source.first), ...source.joins.flatMap((join) => of(join.source))];
    const found = scope.relations.find((one) => one.source === source);
    return found ? [found] : [];
  };
  const visit = (source: Source): void => {
    if (source.kind !== "joined") return;
    visit(source.first);
    let before = of(source.first);
    for (const join of source.joins) {
      visit(join.source);
      const relation = of(join.source);
      result.joins.push({ join, before, relation });
      if (join.on) result.conditions.push(join.on);
      before = [...before, ...relation];
    }
  };
  for (const source of sources) if (source.kind === "joined") visit(source);
  return result;
}
