import { gatheredColumns } from "../../catalog/ddl/built-keys.ts";
import type { ColumnRef, Expr, Node } from "../../sql/nodes/tree.ts";
import { children, walk } from "../../sql/nodes/visitor.ts";
import { conjuncts } from "../changes/reach.ts";
import type { BoundRelation, Resolution, ResolvedScope } from "../names/resolution.ts";
import { plainColumn } from "./constants.ts";
import type { JoinTree } from "./join-tree.ts";

/** Two columns of two relations that a condition makes equal. */
export interface ColumnLink {
  left: BoundRelation;
  leftColumn: string;
  right: BoundRelation;
  rightColumn: string;
  expr: Expr;
}

/** How the relations of one level hang together. */
export interface Links {
  equal: ColumnLink[];
  /** Columns pinned to something that no relation of the level decides. */
  pinned: { relation: BoundRelation; column: string }[];
  /** Columns of arrays in one of which a value stands: `id = ANY (m.ids)`. */
  among: { relation: BoundRelation; column: string }[];
  /** Pairs of relations that any condition mentions together. */
  tied: Map<BoundRelation, Set<BoundRelation>>;
  /** A condition refers to something that could not be resolved. */
  undecided: boolean;
}

/** Reads the conditions of one level: its WHERE and the ON of its joins. */
export function linksOf(conditions: readonly Expr[], names: Resolution, scope: ResolvedScope): Links {
  return names.memo.once(readLinks, conditions, () => readLinks(conditions, names, scope));
}

/** The place of a relation among those of the level; -1 where it is none of them. */
function placeOf(relation: BoundRelation | null | undefined, list: readonly BoundRelation[]): number {
  if (relation) for (let i = 0; i < list.length; i++) if (list[i] === relation) return i;
  return -1;
}

/** The first and the second relation that a part mentions; more than two are gathered in `more`. */
interface Mention {
  first: BoundRelation | null;
  second: BoundRelation | null;
  more: BoundRelation[] | null;
  undecided: boolean;
}

function mention(node: Node, names: Resolution, list: readonly BoundRelation[], into: Mention): void {
  switch (node.kind) {
    case "literal":
      return;
    case "opaque":
      into.undecided = true;
      return;
    case "column": {
      const binding = names.bindings.get(node);
      const relation = binding?.relation ?? null;
      if (relation && placeOf(relation, list) >= 0) {
        if (into.first === null) into.first = relation;
        else if (relation === into.first || relation === into.second) return;
        else if (into.second === null) into.second = relation;
        else if (!into.more?.includes(relation)) {
          into.more ??= [];
          into.more.push(relation);
        }
      } else if (!binding || binding.status === "undecided") into.undecided = true;
      return;
    }
    case "binary":
      if (node.left.kind !== "binary" && node.right.kind !== "binary") {
        mention(node.left, names, list, into);
        mention(node.right, names, list, into);
        return;
      }
  }
  walk(node, (one) => {
    if (one.kind === "column" || one.kind === "opaque") mention(one, names, list, into);
    return undefined;
  });
}

function readLinks(conditions: readonly Expr[], names: Resolution, scope: ResolvedScope): Links {
  const links: Links = { equal: [], pinned: [], among: [], tied: new Map(), undecided: false };
  const list = scope.relations;
  for (const condition of conditions) {
    for (const part of conjuncts(condition)) {
      const said: Mention = { first: null, second: null, more: null, undecided: false };
      mention(part, names, list, said);
      if (said.undecided) links.undecided = true;
      if (said.first && said.second) tie(links.tied, [said.first, said.second, ...(said.more ?? [])]);
      if (part.kind !== "binary" || (part.op !== "=" && part.op !== "<=>")) {
        if (part.kind === "in" && !part.negated && part.items?.length === 1)
          pin(part.operand, names, list, links.pinned);
        else if (part.kind === "quantified" && part.op === "=" && part.quantifier !== "all" && part.operand)
          pin(part.operand, names, list, links.among);
        continue;
      }
      const left = plainColumn(part.left);
      const right = plainColumn(part.right);
      const leftBinding = left ? names.bindings.get(left) : undefined;
      const rightBinding = right ? names.bindings.get(right) : undefined;
      const a = leftBinding && placeOf(leftBinding.relation, list) >= 0 ? leftBinding : null;
      const b = rightBinding && placeOf(rightBinding.relation, list) >= 0 ? rightBinding : null;
      if (left && right && a?.relation && b?.relation && a.relation !== b.relation) {
        links.equal.push({
          left: a.relation,
          leftColumn: a.offered?.name ?? bareName(left),
          right: b.relation,
          rightColumn: b.offered?.name ?? bareName(right),
          expr: part,
        });
      } else if (a && !mentionsHere(part.right, names, list)) pin(part.left, names, list, links.pinned);
      else if (b && !mentionsHere(part.left, names, list)) pin(part.right, names, list, links.pinned);
    }
  }
  return links;
}

/** The column of a table whose columns are not known. */
function bareName({ path }: ColumnRef): string {
  return path[path.length - 1].text.toLowerCase();
}

function pin(expr: Expr, names: Resolution, here: readonly BoundRelation[], into: Links["pinned"]): void {
  const ref = plainColumn(expr);
  const binding = ref ? names.bindings.get(ref) : undefined;
  if (binding?.relation && binding.offered && here.includes(binding.relation))
    into.push({ relation: binding.relation, column: binding.offered.name });
}

function mentionsHere(expr: Expr, names: Resolution, here: readonly BoundRelation[]): boolean {
  if (expr.kind === "literal") return false;
  const said: Mention = { first: null, second: null, more: null, undecided: false };
  mention(expr, names, here, said);
  return said.first !== null;
}

const NOTHING = { relations: new Set<BoundRelation>(), undecided: false } as const;

/** The relations of a level that a piece of the statement refers to, subqueries included. */
export function relationsIn(
  node: Node,
  names: Resolution,
  here: ReadonlySet<BoundRelation>,
): { relations: ReadonlySet<BoundRelation>; undecided: boolean } {
  if (node.kind === "literal") return NOTHING;
  const relations = new Set<BoundRelation>();
  let undecided = false;
  walk(node, (one) => {
    if (one.kind === "opaque") undecided = true;
    if (one.kind === "column") {
      const binding = names.bindings.get(one);
      if (binding?.relation && here.has(binding.relation)) relations.add(binding.relation);
      else if (!binding || binding.status === "undecided") undecided = true;
    }
    return undefined;
  });
  return { relations, undecided };
}

/** Whether a condition of a level refers to such tables of it alone. */
export function asksOf(
  { conditions, scope }: Pick<JoinTree, "conditions" | "scope">,
  names: Resolution,
  such: (relation: BoundRelation) => boolean,
): boolean {
  const here = new Set(scope.relations);
  return conditions.some((whole) =>
    conjuncts(whole).some((part) => {
      const { relations } = relationsIn(part, names, here);
      return relations.size > 0 && [...relations].every(such);
    }),
  );
}

function tie(map: Map<BoundRelation, Set<BoundRelation>>, list: readonly BoundRelation[]): void {
  if (list.length < 2) return;
  for (const one of list) {
    const others = map.get(one) ?? new Set();
    for (const other of list) if (other !== one) others.add(other);
    map.set(one, others);
  }
}

/** Everything that hangs together with a relation, itself included. */
export function connected(from: BoundRelation, links: Links): Set<BoundRelation> {
  const seen = new Set([from]);
  const stack = [from];
  for (let one = stack.pop(); one; one = stack.pop()) {
    for (const next of links.tied.get(one) ?? []) {
      if (seen.has(next)) continue;
      seen.add(next);
      stack.push(next);
    }
  }
  return seen;
}

/** Whether columns that are settled make a relation give one row at most; null where its keys are not known. */
export function uniqueOn(relation: BoundRelation, columns: ReadonlySet<string>): boolean | null {
  const { table, query } = relation;
  if (table) {
    if (table.partial) return null;
    const keys = table.primaryKey ? [table.primaryKey, ...table.uniqueKeys] : table.uniqueKeys;
    return (
      keys.some(
        (key) => !key.partial && key.columns.length > 0 && key.columns.every((column) => columns.has(column)),
      ) || table.built.some((key) => key.every((column) => columns.has(column)))
    );
  }
  if (!query) return null;
  const { body } = query;
  if (body.kind !== "select") return null;
  // One row at most, or one for each group.
  if (query.limit?.count?.kind === "literal" && query.limit.count.value === "1") return true;
  if (body.top?.count?.kind === "literal" && body.top.count.value === "1" && !body.top.withTies) return true;
  const aggregates = body.items.some(({ expr }) => isAggregate(expr));
  if (aggregates && body.groupBy.length === 0) return true;
  const groups = body.groupBy.length > 0 ? body.groupBy : (body.distinctOn ?? []);
  if (groups.length > 0) {
    if (body.groupBy.length > 0 && gatheredColumns(body, null).some((column) => columns.has(column))) return true;
    return groups.every((expr) => {
      const ref = plainColumn(expr);
      if (!ref) return false;
      const name = ref.path[ref.path.length - 1].text.toLowerCase();
      // The group's column may have another name outside.
      const item = body.items.find((one) => {
        const own = plainColumn(one.expr);
        return own && own.path[own.path.length - 1].text.toLowerCase() === name;
      });
      const outside = (item?.alias?.text ?? name).toLowerCase();
      return [...columns].some((column) => column.toLowerCase() === outside);
    });
  }
  if (body.distinct && relation.columns) return relation.columns.every((column) => columns.has(column.name));
  return null;
}

/** Aggregates of any engine: PostgreSQL's pg_aggregate, the manuals of the others. */
const AGGREGATES: ReadonlySet<string> = new Set(
  (
    "any_value approx_count_distinct array_agg avg bit_and bit_or bit_xor bool_and bool_or checksum_agg " +
    "collect corr count count_big covar_pop covar_samp every first group_array group_concat json_agg " +
    "json_agg_strict json_array_agg json_arrayagg json_group_array json_group_object json_object_agg " +
    "json_objectagg jsonb_agg jsonb_agg_strict jsonb_group_array jsonb_group_object jsonb_object_agg last " +
    "listagg max median min range_agg range_intersect_agg regr_avgx regr_avgy regr_count regr_intercept " +
    "regr_r2 regr_slope regr_sxx regr_sxy regr_syy std stddev stddev_pop stddev_samp stdev stdevp " +
    "string_agg sum total var var_pop var_samp variance varp wm_concat xmlagg"
  ).split(" "),
);

function isAggregateName({ name }: Extract<Expr, { kind: "call" }>): boolean {
  return AGGREGATES.has(name.parts[name.parts.length - 1].text.toLowerCase());
}

/** Whether an expression is an aggregate over the rows, at its own level. */
export function isAggregate(expr: Expr): boolean {
  let found = false;
  const look = (node: Node): void => {
    if (found || node.kind === "query") return;
    if (
      node.kind === "call" &&
      !node.over &&
      (node.star || node.distinct || node.filter !== null || node.orderBy !== null || isAggregateName(node))
    ) {
      found = true;
      return;
    }
    children(node, look);
  };
  look(expr);
  return found;
}
