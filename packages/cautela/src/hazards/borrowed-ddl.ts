import type { Statement } from "../sql/nodes/tree.ts";
import { type Found, withoutComments } from "./constructs.ts";
import type { HazardContext } from "./hazard.ts";

/** What DDL borrows from another dialect. */
export function* borrowedDdl(context: HazardContext): IterableIterator<Found> {
  const { tree, inCode } = context;
  const slice = withoutComments(context.slice);
  const head = (length: number): string => slice(tree.start, Math.min(tree.end, tree.start + length));
  if (inCode && DDL.has(tree.kind)) yield { what: "ddlInBlock", at: tree };
  switch (tree.kind) {
    case "create-table":
      if (tree.orReplace) yield { what: "orReplaceTable", at: tree.name };
      if (tree.ifNotExists) yield { what: "ifNotExistsTable", at: tree.name };
      if (tree.query) yield { what: "createTableAs", at: tree.name };
      for (const column of tree.columns) yield* ofColumn(column, slice);
      for (const { references, start, end } of tree.constraints)
        if (references?.onUpdate) yield { what: "onUpdateKey", at: { start, end } };
      return;
    case "create-view":
      if (tree.orReplace && /^create\s{1,99}or\s{1,99}replace\b/i.test(head(220)))
        yield { what: "orReplaceView", at: tree.name };
      return;
    case "create-index":
      if (/^create\s{1,99}(?:unique\s{1,99})?index\s{1,99}concurrently\b/i.test(head(330)))
        yield { what: "concurrently", at: tree };
      return;
    case "create-routine":
      yield* ofTrigger(tree, head(900));
      return;
    case "alter-table":
      // EXEC sp_rename is T-SQL's own.
      if (/^(?:exec|execute|sp_|\w{0,9}\.)/i.test(head(12))) return;
      if (tree.ignore) yield { what: "ignoringAlter", at: tree.name };
      for (const action of tree.actions) yield* ofAction(action, slice);
      return;
    case "rename":
      if (/^rename\s{1,99}tables?\b/i.test(head(120))) yield { what: "renameTableStatement", at: tree };
      return;
    case "drop":
      if (tree.object === "table" && tree.cascade) {
        yield { what: "dropCascade", at: tree };
        if (!/\bcascade\s{1,99}constraints\b/i.test(slice(Math.max(tree.start, tree.end - 160), tree.end)))
          yield { what: "dropCascadeAlone", at: tree };
      }
      if (tree.ifExists) yield { what: "ifExistsDrop", at: tree };
      if (tree.object === "trigger" && tree.on && !/^(?:all|database)$/i.test(tree.on.parts[0].text))
        yield { what: "dropTriggerOn", at: tree };
      return;
    case "comment":
      yield { what: "commentOn", at: tree };
      return;
    case "opaque":
      if (tree.verb === "grant" && /\son\s{1,99}table\s/i.test(head(400))) yield { what: "grantOnTable", at: tree };
      return;
    default:
  }
}

const DDL: ReadonlySet<string> = new Set([
  "create-table",
  "create-index",
  "create-view",
  "create-routine",
  "alter-table",
  "drop",
  "truncate",
  "rename",
  "comment",
]);

type Column = Extract<Statement, { kind: "create-table" }>["columns"][number];

function* ofColumn(
  { type, references, autoincrement, start, end, default: value }: Column,
  slice: HazardContext["slice"],
): IterableIterator<Found> {
  const at = { start, end };
  if (references?.onUpdate) yield { what: "onUpdateKey", at };
  if (type && /^n?varchar2$/.test(type.name) && type.args.length === 0) yield { what: "typeWithoutLength", at };
  if (type && /^(?:big|small)?serial[248]?$/.test(type.name)) yield { what: "serial", at };
  const told = value ? slice(start, value.start) : slice(start, Math.min(end, start + 400));
  if (autoincrement && /\bauto_increment\b/i.test(told)) yield { what: "autoIncrement", at };
}

function* ofTrigger(tree: Extract<Statement, { kind: "create-routine" }>, text: string): IterableIterator<Found> {
  const head = tree.trigger;
  if (tree.object !== "trigger") return;
  const at = tree.name ?? tree;
  yield { what: "trigger", at };
  if (head?.timing === "before") yield { what: "beforeTrigger", at };
  if (head?.row && /\bfor\s{1,99}each\s{1,99}row\b/i.test(text)) yield { what: "rowTrigger", at };
}

function* ofAction(
  action: Extract<Statement, { kind: "alter-table" }>["actions"][number],
  slice: HazardContext["slice"],
): IterableIterator<Found> {
  const at = { start: action.start, end: action.end };
  // An action ends before what is not needed of it.
  const text = slice(action.start, action.start + 200);
  switch (action.what) {
    case "add-column":
      yield* ofColumn(action.column, slice);
      return;
    case "add-constraint":
      if (action.constraint.references?.onUpdate) yield { what: "onUpdateKey", at };
      return;
    case "change-column": {
      // A list of columns begins after the word.
      const before = slice(Math.max(0, action.start - 40), action.start);
      const [, word = "", column = ""] = /\b(modify|change)\s{1,20}(column\s{1,20})?\(?\s{0,20}$/i.exec(before) ?? [];
      const modify = column === "" ? "modifyColumn" : "modifyColumnWord";
      yield { what: /^change$/i.test(word) ? "changeColumn" : modify, at };
      yield* ofColumn(action.column, slice);
      return;
    }
    case "drop-column":
      if (/\bdrop\s{1,20}$/i.test(slice(Math.max(0, action.start - 30), action.start)))
        yield { what: "dropBareColumn", at };
      return;
    case "rename-column":
      yield { what: "renameColumn", at };
      return;
    case "rename":
      yield { what: "renameTable", at };
      return;
    case "column-type":
      yield { what: "alterColumn", at };
      if (/^alter\s{1,20}(?:column\s{1,20})?\S{1,130}\s{1,20}(?:set\s{1,20}data\s{1,20})?type\b/i.test(text))
        yield { what: "alterColumnType", at };
      return;
    case "column-required":
      yield { what: "alterColumn", at };
      if (/\b(?:set|drop)\s{1,20}not\s{1,20}null\b/i.test(text)) yield { what: "alterColumnNull", at };
      return;
    case "column-default":
      // ADD CONSTRAINT … DEFAULT … FOR column (tsql)
      if (/^(?:add|constraint|default)\b/i.test(text)) return;
      yield { what: "alterColumn", at };
      yield { what: "alterColumnDefault", at };
      return;
    case "other":
      if (/^alter\s{1,20}column\b/i.test(text)) yield { what: "alterColumn", at };
      return;
    default:
  }
}
