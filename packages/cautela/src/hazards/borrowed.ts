import type { DialectId } from "../sql/dialects/dialect.ts";
import { dialects } from "../sql/dialects/index.ts";
import type { Expr, Node, Query, Returning, Select, Source, Span } from "../sql/nodes/tree.ts";
import { walk } from "../sql/nodes/visitor.ts";
import { borrowedDdl } from "./borrowed-ddl.ts";
import { CONSTRUCTS, type Construct, type Found, LETTERS, Lookout, withoutComments } from "./constructs.ts";
import type { Draft, HazardContext } from "./hazard.ts";

// Where a construct stands that the grammar reads in every dialect and the engine lacks, the engine refuses the statement.

/** What the statement borrows from another dialect, each construct once. */
export function borrowed(context: HazardContext): Draft[] {
  const { dialect, show } = context;
  const letter = LETTERS[dialect.id];
  const said = new Set<string | number>();
  const drafts: Draft[] = [];
  for (const { what, at } of foundIn(context)) {
    const { has, shown, instead = {} }: Construct = CONSTRUCTS[what];
    // One construct at one place: MODIFY COLUMN is no MODIFY besides.
    if (has.includes(letter) || said.has(what) || said.has(at.start) || drafts.length >= 3) continue;
    said.add(what).add(at.start);
    const owners = Object.entries(LETTERS)
      .filter(([, own]) => has.includes(own))
      .map(([id]) => dialects[id as DialectId].title);
    const whose =
      owners.length === 0
        ? "no engine has it"
        : owners.length > 3
          ? "other engines have it"
          : `it is for ${[owners.slice(0, -1).join(", "), owners[owners.length - 1]].filter((one) => one !== "").join(" and ")}`;
    drafts.push({
      refused: true,
      cause: `borrowed ${what}`,
      message: `${dialect.title} does not take ${shown}, so it refuses \`${show(at)}\`.`,
      because: [whose],
      remedy: instead[dialect.id]
        ? `${instead[dialect.id]}.`
        : `Leave it out, or write what ${dialect.title} has for it.`,
    });
  }
  return drafts;
}

function* foundIn(context: HazardContext): IterableIterator<Found> {
  const { tree } = context;
  yield* ofStatement(context);
  yield* borrowedDdl(context);
  // A long list of constants holds nothing of it.
  const skip = tree.kind === "insert" && tree.source?.body.kind === "values" && tree.source.body.rowCount > 50;
  if (skip || !WALKED.has(tree.kind)) return;
  const lookout = new Lookout(context.dialect.id, context.slice);
  walk(tree, (node) => void ofNode(node, lookout));
  yield* lookout.found;
}

const WALKED: ReadonlySet<string> = new Set(["select", "insert", "update", "delete", "merge", "create-view"]);

/** What the statement as a whole borrows. */
function* ofStatement({ tree, slice: source, statement, inCode }: HazardContext): IterableIterator<Found> {
  const slice = withoutComments(source);
  switch (tree.kind) {
    case "update": {
      const [target] = tree.target;
      if (target?.kind === "table" && target.alias && tree.target.length === 1)
        yield { what: "aliasOfUpdate", at: target };
      if (tree.target.length > 1 || target?.kind === "joined") yield { what: "joinedUpdate", at: tree };
      if (tree.from.length > 0) yield { what: "updateFrom", at: tree.from[0] };
      if (tree.orderBy.length > 0) yield { what: "orderedChange", at: tree };
      if (tree.limit) yield { what: isTop(slice, tree) ? "topInChange" : "limitedChange", at: tree.limit };
      if (tree.returning) yield returned(tree.returning, slice, "updateReturning");
      for (const { targets, value, start, end } of tree.assignments)
        if (targets.length > 1)
          yield { what: value.kind === "row" ? "rowAssignment" : "queryAssignment", at: { start, end } };
      return;
    }
    case "delete": {
      const [target] = tree.from;
      if (
        tree.named.length === 0 &&
        tree.from.length === 1 &&
        target?.kind === "table" &&
        target.alias &&
        tree.using.length === 0
      )
        yield { what: "aliasOfDelete", at: target };
      const head = slice(tree.start, tree.start + 300);
      if (/^delete\s{0,99}\*/i.test(head)) yield { what: "deleteStar", at: tree };
      else if (/^delete\s{1,99}top\s{0,9}\(/i.test(head) && !tree.limit) yield { what: "topInChange", at: tree };
      else if (tree.named.length > 0 || /^delete\s{1,99}(?!from\b)[\w.]{1,99}\s{1,99}from\b/i.test(head))
        yield { what: "deleteNamed", at: tree };
      if (tree.using.length > 0) yield { what: "deleteUsing", at: tree };
      if (tree.orderBy.length > 0) yield { what: "orderedChange", at: tree };
      if (tree.limit) yield { what: isTop(slice, tree) ? "topInChange" : "limitedChange", at: tree.limit };
      if (tree.returning) yield returned(tree.returning, slice, "returning");
      return;
    }
    case "insert":
      for (const { start, end } of tree.conflicts)
        yield {
          what: /^on\s{1,99}dup/i.test(slice(start, start + 110)) ? "onDuplicateKey" : "onConflict",
          at: { start, end },
        };
      if (tree.returning) yield returned(tree.returning, slice, "returning");
      if (tree.defaults) yield { what: "defaultValues", at: tree };
      if (tree.set) yield { what: "insertSet", at: tree };
      if (/^replace\b/i.test(slice(tree.start, tree.start + 8))) yield { what: "replaceInto", at: tree };
      if (tree.source?.body.kind === "values" && tree.source.body.rowCount > 1)
        yield { what: "severalRows", at: tree.source };
      return;
    case "merge": {
      yield { what: "merge", at: tree };
      for (const one of tree.whens)
        if (one.matched === "not-matched" ? /^(?:update|delete)$/.test(one.action) : one.action === "insert")
          yield { what: "mergeBranch", at: one };
      // Within a block or a text that is run, its end is looked up.
      const ended = statement.terminator === ";" || /^\s{0,99};/.test(slice(tree.end, tree.end + 100));
      if (!ended && !inCode) yield { what: "unendedMerge", at: tree };
      if (!/^merge\s{1,99}into\b/i.test(slice(tree.start, tree.start + 110)))
        yield { what: "mergeWithoutInto", at: tree };
      if (
        slice(tree.on.start, tree.on.start + 1) !== "(" &&
        slice(tree.on.start - 1, tree.on.start) !== "(" &&
        !/\(\s{0,99}$/.test(slice(Math.max(tree.start, tree.on.start - 100), tree.on.start))
      )
        yield { what: "bareMergeCondition", at: tree.on };
      return;
    }
    case "truncate":
      yield { what: "truncate", at: tree };
      if (!/^truncate\s{1,99}table\b/i.test(slice(tree.start, tree.start + 115)))
        yield { what: "bareTruncate", at: tree };
      return;
    case "transaction":
      if (/^start\s/i.test(slice(tree.start, tree.start + 6))) yield { what: "startTransaction", at: tree };
      return;
    case "assign":
      for (const { targets, value } of tree.assignments)
        if (targets[0] && /^\s{0,99}=/.test(slice(targets[0].end, value.start)))
          yield { what: "plainEquals", at: { start: targets[0].start, end: value.end } };
      return;
    case "call-statement":
      if (/^call\b/i.test(slice(tree.start, tree.start + 5))) yield { what: "callStatement", at: tree };
      if (/^exec(?:ute)?\s{1,99}[\w.[\]]{1,200}\s{0,9}\(/i.test(slice(tree.start, tree.start + 320)))
        yield { what: "parenthesizedArguments", at: tree };
      return;
    default:
  }
}

function isTop(slice: HazardContext["slice"], { limit }: { limit: Span | null }): boolean {
  return limit !== null && /^top\b/i.test(slice(limit.start, limit.start + 4));
}

function returned(clause: Returning, slice: HazardContext["slice"], what: "returning" | "updateReturning"): Found {
  if (isOutput(slice, clause)) return { what: "output", at: clause };
  return { what: clause.into ? what : what === "returning" ? "openReturning" : "openUpdateReturning", at: clause };
}

function isOutput(slice: HazardContext["slice"], { start }: Span): boolean {
  return /^output\b/i.test(slice(start, start + 7));
}

/** What an expression, a query or a source borrows. */
function ofNode(node: Node, lookout: Lookout): void {
  switch (node.kind) {
    case "cast":
      if (lookout.lacks("colonCast", "cast")) castConstructs(node, lookout);
      return;
    case "case":
      lookout.put("caseExpression", node);
      return;
    case "call":
      if (node.over) lookout.put("windowFunction", node);
      return;
    case "in":
      if (node.items?.length === 0 && !node.query) lookout.put("emptyIn", node);
      if (node.operand.kind === "row" && node.operand.items.length > 1) lookout.put("rowOfValues", node);
      return;
    case "is":
      if (node.test === "true" || node.test === "false") lookout.put("isTrue", node);
      return;
    case "literal":
      if (node.type === "date" && lookout.lacks("dateLiteral"))
        if (/^date\b/i.test(lookout.slice(node.start, node.start + 5))) lookout.put("dateLiteral", node);
      return;
    case "binary":
      if (node.op === "||") lookout.put("concatenation", node);
      if (node.left.kind === "row" && node.left.items.length > 1) lookout.put("rowOfValues", node);
      return;
    case "query":
      queryConstructs(node, lookout);
      return;
    case "select":
      if ("items" in node) {
        if (node.top) topConstructs(node, node.top, lookout);
        if (lookout.lacks("conditionOfBit")) conditions([node.where, node.having], lookout);
      }
      return;
    case "update":
    case "delete":
      if (lookout.lacks("conditionOfBit")) conditions([node.where], lookout);
      return;
    case "table":
      if (node.alias && lookout.lacks("asBeforeAlias"))
        if (/\bas\s{0,99}$/i.test(lookout.slice(node.name.end, node.alias.start))) lookout.put("asBeforeAlias", node);
      return;
    case "joined":
      for (const join of node.joins) joinConstructs(join, lookout);
      return;
    default:
  }
}

function castConstructs(node: Extract<Expr, { kind: "cast" }>, lookout: Lookout): void {
  const { operand, type, start } = node;
  if (!lookout.slice(operand.end, type.start).includes("::")) {
    if (/^(?:try_)?cast\b/i.test(lookout.slice(start, start + 8))) lookout.put("cast", node);
    return;
  }
  // geography::Point(…) is a method of a type (tsql), $a::b(c) a variable (sqlite).
  const before = lookout.slice(operand.start, Math.min(operand.end, operand.start + 20));
  if (!/^(?:geography|geometry|hierarchyid)$|^\$/i.test(before)) lookout.put("colonCast", node);
}

function topConstructs({ distinct, items }: Select, top: Span, lookout: Lookout): void {
  if (distinct && lookout.lacks("topBeforeDistinct") && /^top\b/i.test(lookout.slice(top.start, top.start + 4)))
    if (/\bdistinct\b/i.test(lookout.slice(top.end, items[0]?.expr.start ?? top.end)))
      lookout.put("topBeforeDistinct", top);
  lookout.put("topInQuery", top);
}

function queryConstructs(query: Query, lookout: Lookout): void {
  if (query.with) lookout.put("withQuery", query.with);
  if (query.body.kind === "compounded" && query.body.rest.some(({ op }) => op !== "union"))
    lookout.put("exceptOrIntersect", query);
  const { limit } = query;
  if (!limit) return;
  const [word = ""] = /^[a-z]{1,10}/i.exec(lookout.slice(limit.start, limit.start + 10)) ?? [];
  if (/^limit$/i.test(word)) lookout.put("limitInQuery", limit);
  else if (/^(?:fetch|offset)$/i.test(word)) {
    if (/\bfetch\b/i.test(lookout.slice(limit.start, limit.end)))
      lookout.put(/^fetch$/i.test(word) ? "fetchWithoutOffset" : "fetchFirst", limit);
    if (query.orderBy.length === 0) lookout.put("offsetWithoutOrder", limit);
  }
}

function joinConstructs(join: Extract<Source, { kind: "joined" }>["joins"][number], lookout: Lookout): void {
  if (join.using) lookout.put("joinUsing", join);
  if (join.natural) lookout.put("naturalJoin", join);
  if (join.type === "full") lookout.put("fullJoin", join);
  if (join.type !== "inner" || !lookout.lacks("bareJoin", "joinWithoutOn")) return;
  const word = lookout.slice(join.start, join.start + 5);
  if (/^join\b/i.test(word)) lookout.put("bareJoin", join);
  if (!join.on && !join.using && !join.natural && /^(?:join|inner)/i.test(word)) lookout.put("joinWithoutOn", join);
}

/** Conditions that are a column alone, or its negation. */
function conditions(list: readonly (Expr | null)[], lookout: Lookout): void {
  const look = (expr: Expr): void => {
    if (expr.kind === "column") lookout.put("conditionOfBit", expr);
    else if (expr.kind === "logic") for (const one of expr.items) look(one);
    else if (expr.kind === "unary" && /^not$/i.test(expr.op)) look(expr.operand);
  };
  for (const one of list) if (one) look(one);
}
