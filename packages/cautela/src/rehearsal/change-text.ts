import type { Change } from "../analysis/change.ts";
import { writtenName } from "../catalog/names.ts";
import type { ChangeSource } from "../result.ts";
import type { Dialect } from "../sql/dialects/dialect.ts";
import type { Assignment, Source, Span, With } from "../sql/tree.ts";

/** One column that is given a value, as text. */
export interface AssignedText {
  column: string;
  value: string;
  assignment: Assignment;
}

/** The clauses of an UPDATE or DELETE as text, ready to stand in a SELECT. */
export interface ChangeText {
  /** WITH … in front; empty without one. */
  head: string;
  /** What stands behind FROM. */
  from: string;
  /** The name by which columns of the target are spoken of. */
  ref: string;
  /** Other tables take part, so that a row of the target can be met more than once. */
  joined: boolean;
  /** The condition behind WHERE; null without one. */
  where: string | null;
  /** ORDER BY and LIMIT of the change itself; empty without them. */
  tail: string;
  /** A limit without an order: which rows it takes is not settled. */
  unsettled: boolean;
  assignments: AssignedText[];
}

/** Takes a change apart; a string says why that is not possible. */
export function changeText(source: ChangeSource, change: Change, dialect: Dialect): ChangeText | string {
  const { tree, text, start } = source;
  const cut = (span: Span): string => text.slice(span.start - start, span.end - start);
  if (tree.kind !== "update" && tree.kind !== "delete") return "it is no single UPDATE or DELETE";
  if (tree.with?.tables.some(({ body }) => body.kind !== "query")) return "its WITH changes rows itself";
  if (tree.currentOf) return "WHERE CURRENT OF speaks of the row of a cursor";
  const target = change.relation?.source;
  if (target?.kind !== "table") return "its target is a query";
  if (dialect.id === "tsql" && commonNamed(target, tree.with)) return "its target is a common table expression";
  const own = tree.kind === "update" ? tree.target : tree.from;
  const others = tree.kind === "update" ? tree.from : tree.using;
  const listed = tree.kind === "delete" && tree.named.length > 0;
  const targetInFrom = own.some((one) => holds(one, target));
  const sources = tree.kind === "update" && !targetInFrom ? others : [...own, ...others];
  // In DELETE FROM a USING a, b (mysql) the target is named again in USING.
  const from = listed && others.length > 0 ? others : sources;
  const joined = from.length > 1 || from.some((one) => one.kind === "joined");
  const ref = target.alias ? target.alias.text : writtenName({ ...target.name, parts: target.name.parts.slice(-1) });
  const order = tree.orderBy.map((item) => `${cut(item.expr)}${item.descending ? " DESC" : ""}`);
  const limit = tree.limit;
  let tail = "";
  if (order.length > 0) tail += `\nORDER BY ${order.join(", ")}`;
  if (
    limit?.count &&
    (dialect.id === "mysql" || dialect.id === "mariadb" || dialect.id === "sqlite" || dialect.id === "postgresql")
  )
    tail += `\nLIMIT ${cut(limit.count)}`;
  return {
    head: tree.with ? `${withText(tree.with, cut)}\n` : "",
    from: from.map((one) => cut(one)).join(", "),
    ref,
    joined,
    where: tree.where ? cut(tree.where) : null,
    tail,
    unsettled: limit !== null && (order.length === 0 || dialect.id === "tsql"),
    assignments: tree.kind === "update" ? assignmentsOf(tree.assignments, change, cut) : [],
  };
}

function commonNamed(target: Extract<Source, { kind: "table" }>, clause: With | null): boolean {
  const name = target.name.parts[target.name.parts.length - 1].text.toLowerCase();
  return clause?.tables.some((one) => one.name.text.toLowerCase() === name) ?? false;
}

function holds(source: Source, target: Source): boolean {
  if (source === target) return true;
  return (
    source.kind === "joined" && (holds(source.first, target) || source.joins.some((join) => holds(join.source, target)))
  );
}

/** The WITH clause; a span of its own need not begin at the word. */
function withText(clause: With, cut: (span: Span) => string): string {
  const text = cut(clause);
  return /^with\b/i.test(text) ? text : `WITH ${text}`;
}

function assignmentsOf(
  assignments: readonly Assignment[],
  change: Change,
  cut: (span: Span) => string,
): AssignedText[] {
  const list: AssignedText[] = [];
  for (const assignment of assignments) {
    const { targets, value, op } = assignment;
    targets.forEach((target, i) => {
      if (target.kind !== "column") return;
      const found = change.names.resolve(target, change.scope);
      // The columns of another table of the same statement are another change.
      if (found && change.relation && found.relation !== change.relation) return;
      const column = change.names.fold(target.path[target.path.length - 1]);
      const single = targets.length === 1 ? value : value.kind === "row" ? value.items[i] : null;
      if (!single) {
        list.push({ column, value: "", assignment });
        return;
      }
      const text = cut(single);
      list.push({ column, value: op === "=" ? text : `${cut(target)} ${op.slice(0, -1)} (${text})`, assignment });
    });
  }
  return list;
}
