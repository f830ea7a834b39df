import type { Change } from "../analysis/changes/change.ts";
import { movingIn } from "../analysis/conditions/moving.ts";
import { columnNamed } from "../catalog/columns.ts";
import { writtenName } from "../catalog/names.ts";
import type { Assignment, Expr, Source, Span, Statement, With } from "../sql/nodes/tree.ts";
import { walk } from "../sql/nodes/visitor.ts";
import type { SqlWriter } from "./writer.ts";

/** A statement with its own text; offsets of the tree count from `start`. */
export interface WrittenStatement {
  tree: Statement;
  text: string;
  start: number;
}

/** One column that is given a value, as text. */
export interface AssignedText {
  column: string;
  /** The column as the statement writes it, for a table that the catalog does not hold. */
  written: string;
  value: string;
  assignment: Assignment;
}

/** The clauses of an UPDATE or DELETE as text, ready to stand in a SELECT. */
export interface ChangeText {
  /** WITH … in front; empty without one. */
  head: string;
  /** What stands after FROM. */
  from: string;
  /** It deletes rows, and assigns nothing; an UPDATE may assign nothing but elements of arrays. */
  deletes: boolean;
  /** It leaves the tables alone that inherit from its own. */
  only: boolean;
  /** The name by which columns of the target are written. */
  ref: string;
  /** Other tables take part, so that a row of the target can be met more than once. */
  joined: boolean;
  /** The condition after WHERE; null without one. */
  where: string | null;
  /** ORDER BY and LIMIT of the change itself; empty without them. */
  tail: string;
  /** TOP (n), where the dialect writes a limit so; empty without it. */
  top: string;
  /** It takes some of the rows by a limit, and does not say for certain which. */
  limited: boolean;
  /** Two runs may meet different rows, and why: a clock, chance, a limit; null: they meet the same. */
  unsettled: "clock" | "chance" | "limit" | null;
  assignments: AssignedText[];
  /** A value that is written is another one at every run. */
  movingValue: boolean;
}

/** Takes a change apart; a string says why that is not possible. */
export function changeText(source: WrittenStatement, change: Change, writer: SqlWriter): ChangeText | string {
  const { tree, text, start } = source;
  const { dialect } = writer;
  const cut = (span: Span): string => text.slice(span.start - start, span.end - start);
  if (tree.kind !== "update" && tree.kind !== "delete") return "it is no single UPDATE or DELETE";
  if (tree.with?.tables.some(({ body }) => body.kind !== "query")) return "its WITH changes rows itself";
  if (tree.currentOf) return "WHERE CURRENT OF means the row of a cursor";
  const target = change.relation?.source;
  if (target?.kind !== "table") return "its target is a query";
  if (!dialect.grammar.joinedUpdate && commonNamed(target, tree.with)) return "its target is a common table expression";
  const own = tree.kind === "update" ? tree.target : tree.from;
  const others = tree.kind === "update" ? tree.from : tree.using;
  const listed = tree.kind === "delete" && tree.named.length > 0;
  const targetInFrom = own.some((one) => holds(one, target));
  const sources = tree.kind === "update" && !targetInFrom ? others : [...own, ...others];
  // In DELETE FROM a USING a, b (mysql) the target is named again in USING.
  const from = listed && others.length > 0 ? others : sources;
  const joined = from.length > 1 || from.some((one) => one.kind === "joined");
  const order = tree.orderBy.map((item) => `${cut(item.expr)}${item.descending ? " DESC" : ""}`);
  const { limit } = tree;
  let tail = "";
  if (order.length > 0) tail += `\nORDER BY ${order.join(", ")}`;
  if (limit?.count && writer.limits) {
    tail += `\nLIMIT ${cut(limit.count)}`;
    if (limit.offset) tail += ` OFFSET ${cut(limit.offset)}`;
  }
  const assignments = tree.kind === "update" ? assignmentsOf(tree.assignments, change, cut) : [];
  const filters = [tree.where, ...from, ...(tree.with?.tables.map(({ body }) => body) ?? []), limit?.count];
  return {
    head: tree.with ? `${withText(tree.with, cut)}\n` : "",
    from: from.map((one) => `${one.kind === "table" && one.only ? "ONLY " : ""}${cut(one)}`).join(", "),
    deletes: tree.kind === "delete",
    only: target.only,
    ref: target.alias
      ? cut(target.alias)
      : cut(target.name.parts[target.name.parts.length - 1]) || writtenName(target.name),
    joined,
    where: tree.where ? cut(tree.where) : null,
    tail,
    top: limit?.count && !writer.limits ? `TOP (${cut(limit.count)})${limit.percent ? " PERCENT" : ""} ` : "",
    limited: limit !== null,
    unsettled: unsettledBy(filters, change, limit !== null),
    assignments,
    movingValue:
      tree.kind === "update" &&
      tree.assignments.some(({ value }) => movingIn(value, (node) => isColumn(node.path[0].text, change)).length > 0),
  };
}

/** Why two runs may meet different rows. */
function unsettledBy(
  filters: readonly (Expr | Source | With["tables"][number]["body"] | null | undefined)[],
  change: Change,
  limited: boolean,
): ChangeText["unsettled"] {
  let found: ChangeText["unsettled"] = limited ? "limit" : null;
  for (const filter of filters) {
    if (!filter) continue;
    for (const { chance } of movingIn(filter, (node) => isColumn(node.path[0].text, change))) {
      if (chance) return "chance";
      found ??= "clock";
    }
    walk(filter, (node) => {
      // Oracle numbers rows as it comes upon them.
      if (node.kind === "column" && node.path.length === 1 && /^rownum$/i.test(node.path[0].text)) found ??= "limit";
      if (node.kind === "query" && (node.limit || (node.body.kind === "select" && node.body.top))) found ??= "limit";
      return undefined;
    });
  }
  return found;
}

/** Whether a bare word is a column of one of the tables that take part. */
function isColumn(word: string, change: Change): boolean {
  const name = change.names.fold({ text: word, quoted: false });
  return change.scope.relations.some(({ table }) => columnNamed(table, name) !== undefined);
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
      const last = target.path[target.path.length - 1];
      const column = change.names.fold(last);
      const written = cut(last);
      const single = targets.length === 1 ? value : value.kind === "row" ? value.items[i] : null;
      if (!single) {
        list.push({ column, written, value: "", assignment });
        return;
      }
      const text = cut(single);
      list.push({
        column,
        written,
        value: op === "=" ? text : `${cut(target)} ${op.slice(0, -1)} (${text})`,
        assignment,
      });
    });
  }
  return list;
}

/**
 * The change, made to act on the rows whose keys a copy holds; null where it takes its values from a join that two runs may
 * answer differently.
 */
export function onKeys(
  source: WrittenStatement,
  text: ChangeText,
  target: string,
  among: (alias: string) => string,
): string | null {
  const { tree } = source;
  const cut = (span: Span): string => source.text.slice(span.start - source.start, span.end - source.start);
  if (tree.kind === "delete") return `DELETE FROM ${target}\nWHERE ${among(target)}`;
  if (tree.kind !== "update") return null;
  const sets = tree.assignments.map((one) => cut(one)).join(", ");
  if (!text.joined) {
    const ownFrom = tree.from.length > 0 ? `\nFROM ${text.from}` : "";
    const written = tree.target.map((one) => cut(one)).join(", ");
    return `${text.head}UPDATE ${written} SET ${sets}${ownFrom}\nWHERE ${among(text.ref)}`;
  }
  if (text.unsettled !== "clock" || !tree.where) return null;
  const { start, end } = tree.where;
  const at = (offset: number): number => offset - source.start;
  return `${source.text.slice(0, at(start))}(${cut(tree.where)})\n  AND ${among(text.ref)}${source.text.slice(at(end))}`;
}
