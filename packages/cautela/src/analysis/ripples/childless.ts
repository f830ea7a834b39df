import type { ForeignKey, Table } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import type { Expr, Query, Source, TableSource } from "../../sql/nodes/tree.ts";
import { flatSources } from "../../sql/nodes/visitor.ts";
import type { Change } from "../changes/change.ts";
import { conjuncts } from "../changes/reach.ts";
import { filterParts } from "../conditions/conditions.ts";
import { plainColumn } from "../conditions/constants.ts";
import type { Scope } from "../names/scope.ts";

/**
 * Whether the filter of a change leaves out every row that a foreign key of another table refers to: nothing is carried on by
 * that key then, and nothing is refused for it.
 *
 * @example
 * // DELETE FROM topic WHERE NOT EXISTS (SELECT 1 FROM post WHERE post.topic_id = topic.id)
 * // DELETE FROM topic WHERE id NOT IN (SELECT topic_id FROM post)
 * // DELETE t FROM topic t LEFT JOIN post p ON p.topic_id = t.id WHERE p.id IS NULL
 */
export function isChildless(change: Change, table: Table, child: Table, foreign: ForeignKey): boolean {
  const referenced = foreign.referenced.length > 0 ? foreign.referenced : (table.primaryKey?.columns ?? []);
  if (change.relation?.table !== table || referenced.length !== foreign.columns.length) return false;
  const tie: Tie = { change, child, foreign, referenced };
  const parts = filterParts(change.conditions);
  return (
    parts.some((part) => {
      if (part.kind === "unary" && part.op === "not" && part.operand.kind === "exists")
        return asksAll(part.operand.query, tie);
      return part.kind === "in" && part.negated && part.query !== null && listsAll(part.operand, part.query, tie);
    }) || isAntiJoined(parts, tie)
  );
}

interface Tie {
  change: Change;
  child: Table;
  foreign: ForeignKey;
  referenced: readonly string[];
}

/** EXISTS finds a row of the child wherever there is one: it asks for the key, and for nothing else. */
function asksAll({ body, limit, with: clause }: Query, tie: Tie): boolean {
  if (body.kind !== "select" || body.groupBy.length > 0 || body.having || clause || limit || !body.where) return false;
  const source = only(body.from);
  const { names, scope } = tie.change;
  return source !== null && isKey(conjuncts(body.where), source, names.scope([source], scope), tie);
}

/** NOT IN all values of the key. */
function listsAll(operand: Expr, { body, limit, with: clause }: Query, tie: Tie): boolean {
  if (body.kind !== "select" || body.having || clause || limit || body.top || body.items.length !== 1) return false;
  const source = only(body.from);
  const { names, scope } = tie.change;
  if (!source || tie.foreign.columns.length !== 1) return false;
  const inner = names.scope([source], scope);
  const item = body.items[0].expr;
  const nothingElse = (body.where ? conjuncts(body.where) : []).every(
    (part) =>
      part.kind === "is" &&
      part.test === "null" &&
      part.negated &&
      isChild(part.operand, tie.foreign.columns[0], source, inner, tie),
  );
  return (
    nothingElse &&
    isChild(item, tie.foreign.columns[0], source, inner, tie) &&
    isParent(operand, tie.referenced[0], scope, tie)
  );
}

/** LEFT JOIN by the key, and a column IS NULL that no row of the child leaves empty. */
function isAntiJoined(parts: readonly Expr[], tie: Tie): boolean {
  const { statement, scope, names } = tie.change;
  if (statement.kind === "truncate") return false;
  const sources =
    statement.kind === "delete" ? [...statement.from, ...statement.using] : [...statement.target, ...statement.from];
  const joins = sources.flatMap((source) => (source.kind === "joined" ? source.joins : []));
  return joins.some(({ type, source, on }) => {
    if (type !== "left" || source.kind !== "table" || !on || !isKey(conjuncts(on), source, scope, tie)) return false;
    return parts.some((part) => {
      const ref = part.kind === "is" && part.test === "null" && !part.negated ? plainColumn(part.operand) : null;
      if (!ref || names.resolve(ref, scope)?.relation.source !== source) return false;
      const name = names.fold(ref.path[ref.path.length - 1]);
      return (
        tie.foreign.columns.includes(name) || (tie.child.columns.find((one) => one.name === name)?.required ?? false)
      );
    });
  });
}

function only(sources: readonly Source[]): TableSource | null {
  const [first, ...more] = flatSources(sources);
  return first?.kind === "table" && more.length === 0 ? first : null;
}

/** Whether conditions are the equalities of the key, and nothing else. */
function isKey(parts: readonly Expr[], source: TableSource, inner: Scope, tie: Tie): boolean {
  const { foreign, referenced } = tie;
  return (
    parts.length === foreign.columns.length &&
    foreign.columns.every((column, i) =>
      parts.some(
        (part) =>
          part.kind === "binary" &&
          part.op === "=" &&
          [
            [part.left, part.right],
            [part.right, part.left],
          ].some(
            ([own, other]) => isChild(own, column, source, inner, tie) && isParent(other, referenced[i], inner, tie),
          ),
      ),
    )
  );
}

function isChild(expr: Expr, column: string, source: TableSource, inner: Scope, { change, child }: Tie): boolean {
  const ref = plainColumn(expr);
  const found = ref && change.names.resolve(ref, inner);
  return (
    found !== null &&
    ref !== null &&
    found.relation.source === source &&
    found.relation.table === child &&
    foldName(ref.path[ref.path.length - 1], change.names.dialect) === column
  );
}

function isParent(expr: Expr, column: string, inner: Scope, { change }: Tie): boolean {
  const ref = plainColumn(expr);
  const found = ref && change.names.resolve(ref, inner);
  return (
    found !== null &&
    ref !== null &&
    found.relation.source === change.relation?.source &&
    foldName(ref.path[ref.path.length - 1], change.names.dialect) === column
  );
}
