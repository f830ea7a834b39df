import { classed, policyClass } from "../../analysis/script/table-class.ts";
import { columnNamed } from "../../catalog/columns.ts";
import { listedValues } from "../../catalog/enumeration.ts";
import { type Column, shownName, type Table } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import { namedRelation } from "../../catalog/relation-keys.ts";
import { columnType } from "../../catalog/types.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Name, TypeName } from "../../sql/nodes/tree.ts";
import { copyName } from "../../writing/copy-statement.ts";
import { keyOf } from "../../writing/kept.ts";
import type { SqlWriter } from "../../writing/writer.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { lighterByName } from "../lighter.ts";
import { listedShort } from "../wording.ts";

/**
 * A structure change that loses values.
 *
 * @example
 * ALTER TABLE owner ALTER COLUMN name TYPE varchar(10);   -- longer names do not fit, or are cut
 */
export const lossyStructure: Hazard = {
  id: "lossy-structure",
  family: "recovery",
  weight: "ask",
  lasting: true,
  depends: ["names"],
  statements: ["alter-table", "drop"],
  title: "A structure change that loses values",
  explanation:
    "A column is dropped with what stands in it; a type becomes shorter, less precise, or another kind, and values are cut, rounded or refused; a column is given another " +
    "name by DROP and ADD, and starts empty; a table is rebuilt from a copy with a filter or an inner join, and the rest of its rows goes with the old one. Wider " +
    "types, tables and columns of the script's own, and log or scratch data are quiet.",
  remedy: "Look for the values that would not survive, and keep a copy of the column with its key.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(60) NOT NULL, mail varchar(60));",
    dangerous: "ALTER TABLE owner ALTER COLUMN name TYPE varchar(10) USING substr(name, 1, 10);",
    sound: "ALTER TABLE owner ALTER COLUMN name TYPE varchar(100);",
  },
  check(context) {
    const { tree, catalog, creations, policy, dialect } = context;
    if (tree.kind === "drop") return rebuilt(context);
    if (tree.kind !== "alter-table") return [];
    const table = catalog?.resolve(tree.name);
    const shown = table ? shownName(table) : namedRelation(tree.name, catalog, dialect).shown;
    const named = policyClass(shown, policy);
    if (table?.temporary || named === "scratch" || named === "log" || named === "regenerable") return [];
    const key = namedRelation(tree.name, catalog, dialect).key;
    if (creations.everMade(key)) return [];
    const dropped: string[] = [];
    const facts: string[] = [];
    const loosened: { column: string; gone: string[] }[] = [];
    const narrowed: { column: string; loss: Loss; using: boolean }[] = [];
    for (const action of tree.actions) {
      if (action.what === "drop-column") {
        const column = foldName(action.name, dialect);
        const known = columnNamed(table, column);
        // What is computed is not lost.
        if (known?.generated || creations.everAdded(key, column)) continue;
        if (table && !known) continue;
        if (isKept(key, column, context)) continue;
        dropped.push(column);
        if (known)
          facts.push(
            `\`${column}\` is of type \`${known.type}\`${known.required ? " and holds a value in every row" : ""}`,
          );
      } else if (table && (action.what === "column-type" || action.what === "change-column")) {
        const column = foldName(action.name, dialect);
        const known = columnNamed(table, column);
        const type = action.what === "column-type" ? action.type : action.column.type;
        const loss = known && type ? (narrowing(known, type, context) ?? shorter(known, type, shown, context)) : null;
        if (
          known &&
          !dialect.engine.modifyKeeps &&
          !creations.everAdded(key, column) &&
          action.what === "change-column"
        ) {
          // MODIFY and CHANGE say the whole column anew.
          const { required, default: standard } = action.column;
          const gone = [
            ...(known.required && required !== true && !table.primaryKey?.columns.includes(column) ? ["NOT NULL"] : []),
            ...(known.default !== null && standard === null ? [`DEFAULT ${known.default}`] : []),
          ];
          if (gone.length > 0) loosened.push({ column, gone });
        }
        // ALTER COLUMN without NOT NULL lets NULLs in (tsql).
        const nullable =
          dialect.syntax.typeAfterAlter &&
          action.what === "column-type" &&
          known?.required &&
          !tree.actions.some((one) => one.what === "column-required");
        if (known && nullable && !table.primaryKey?.columns.includes(column) && !creations.everAdded(key, column))
          loosened.push({ column, gone: ["NOT NULL"] });
        if (loss && !creations.everAdded(key, column))
          narrowed.push({ column, loss, using: action.what === "column-type" && action.using !== null });
      }
    }
    if (dropped.length === 0 && narrowed.length === 0 && loosened.length === 0) return [];
    const lighter = lighterByName(shown, "ask", policy);
    const because = [
      ...(lighter ? [lighter.why] : []),
      ...(dropped.length > 0 && facts.length === 0
        ? ["no copy stands before, and the values go into no other column"]
        : facts),
      ...narrowed.map(({ column, loss }) => `\`${column}\` is ${loss.from} now`),
      ...(narrowed.some(({ using }) => using) ? ["USING says how values are converted"] : []),
    ];
    const bends = narrowed.map(({ column, loss }) => `\`${column}\` of \`${shown}\` becomes ${loss.to}: ${loss.why}`);
    const drops =
      dropped.length === 0
        ? []
        : [
            `This drops ${listedShort(dropped)} of \`${shown}\` with all values in ${dropped.length === 1 ? "it" : "them"}`,
          ];
    return [
      {
        weight: lighter?.weight ?? "ask",
        message: `${[...drops, ...bends, ...loosened.map(({ column, gone }) => `\`${column}\` of \`${shown}\` silently loses ${gone.join(" and ")}`)].join("; ")}.`,
        because,
        remedy:
          dropped.length > 0
            ? keepFirst(tree.name, table, dropped, context)
            : narrowed.length > 0
              ? lookFirst(table, narrowed, context)
              : "Write the whole definition: what is left out is gone.",
      },
    ];
  },
};

/** How to keep the columns: with the key of their rows, or they cannot be put back. */
function keepFirst(
  name: Name,
  table: Table | undefined,
  dropped: readonly string[],
  { dialect }: HazardContext,
): string {
  const writer = sqlWriter(dialect);
  const key = table ? keyOf(table) : null;
  if (!table || !key) return `Keep ${dropped.length === 1 ? "it" : "them"} first, together with the key of the rows.`;
  const columns = writer.columns("", table, [...key, ...dropped.filter((one) => !key.includes(one))]);
  const copy = writer.copy(copyName(name, table, writer), columns, `FROM ${writer.table(table)}`);
  return `Copy first: ${copy.replace(/\s*\n\s*/g, " ")}`;
}

/** The query that finds what would not survive, where one can be written for each column. */
function lookFirst(
  table: Table | undefined,
  narrowed: readonly { column: string; loss: Loss }[],
  { dialect }: HazardContext,
): string {
  const writer = sqlWriter(dialect);
  const conditions = narrowed.map(({ column, loss }) => loss.lost?.(writer.column(table, column), writer) ?? null);
  if (!table || conditions.includes(null)) return "Look first for the values that would not survive.";
  return `Look for values that would not survive: SELECT * FROM ${writer.table(table)} WHERE ${conditions.join(" OR ")}`;
}

/** Whether the values of a column are elsewhere: in a copy, or in a column into which they went. */
function isKept(key: string, column: string, { timeline, moves }: HazardContext): boolean {
  if (moves.hasTaken(key, column)) return true;
  return timeline.copies
    .of(key)
    .some(
      (copy) =>
        !copy.structureOnly &&
        copy.filter === null &&
        !copy.uncertain &&
        (copy.columns === null || copy.columns.includes(column.toLowerCase())),
    );
}

const TEXT = /char|text|clob/;
const WHOLE = /^(?:tinyint|smallint|mediumint|int|integer|bigint|long|byte|short)$/;
const SIZES: Record<string, number> = {
  tinyint: 1,
  byte: 1,
  smallint: 2,
  short: 2,
  mediumint: 3,
  int: 4,
  integer: 4,
  long: 4,
  bigint: 8,
};

interface Loss {
  from: string;
  to: string;
  why: string;
  /** The condition that the values meet which are lost, on a column as it is written. */
  lost?: (column: string, writer: SqlWriter) => string;
}

/** What a new type loses of the values of a column; null where it holds all of them. */
function narrowing(column: Column, type: TypeName, { dialect }: HazardContext): Loss | null {
  const { type: name, typeArgs: args } = columnType(type, dialect);
  const from = shownType(column.type, column.typeArgs);
  const to = shownType(name, args);
  const loss = (why: string, lost?: Loss["lost"]): Loss => ({ from, to, why, ...(lost ? { lost } : {}) });
  const oldText = TEXT.test(column.type);
  const newText = TEXT.test(name);
  if (oldText && newText) {
    const before = Number(column.typeArgs[0] ?? Number.POSITIVE_INFINITY);
    const after = Number(args[0] ?? Number.POSITIVE_INFINITY);
    return after < before
      ? loss("longer values are cut or refused", (of, writer) => `${writer.characters(of)} > ${after}`)
      : null;
  }
  if (WHOLE.test(column.type) && WHOLE.test(name))
    return (SIZES[name] ?? 4) < (SIZES[column.type] ?? 4) ? loss("larger numbers do not fit") : null;
  const decimal = /^(?:numeric|decimal|number)$/;
  if (decimal.test(column.type) && decimal.test(name)) {
    const [p0, s0] = [Number(column.typeArgs[0] ?? 38), Number(column.typeArgs[1] ?? 0)];
    const [p1, s1] = [Number(args[0] ?? 38), Number(args[1] ?? 0)];
    if (args.length > 0 && s1 < s0) return loss("decimals are rounded away", (of) => `${of} <> ROUND(${of}, ${s1})`);
    return args.length > 0 && p1 - s1 < p0 - s0 ? loss("larger numbers do not fit") : null;
  }
  if ((decimal.test(column.type) || /double|real|float/.test(column.type)) && WHOLE.test(name))
    return loss("decimals are rounded away", (of) => `${of} <> ROUND(${of}, 0)`);
  if (oldText && !newText && name !== "" && !/^(?:json|jsonb|xml|enum|bytea|blob)$/.test(name))
    return loss("values that do not read as such are refused or lost");
  // Whatever USING makes of the values, two of them cannot tell dates, numbers or texts apart.
  if (
    /^bool(?:ean)?$/.test(name) &&
    !/^(?:bool(?:ean)?|bit)$/.test(column.type) &&
    (oldText || /date|time|numeric|decimal|number|real|double|float|interval|uuid|json/.test(column.type))
  )
    return loss("of each value only true or false is left");
  if (/timestamp|datetime/.test(column.type) && name === "date") return loss("the time of day goes");
  return null;
}

/** Values that the new list of an ENUM or a SET lacks, unless the script has written the column before. */
function shorter(column: Column, type: TypeName, shown: string, { dialect, history }: HazardContext): Loss | null {
  const { type: name, typeArgs: args } = columnType(type, dialect);
  if (column.type !== name || (name !== "enum" && name !== "set")) return null;
  if (history.hasAssigned(shown, column.name.toLowerCase())) return null;
  const [before, after] = [listedValues(column.typeArgs), listedValues(args).map((one) => one.toLowerCase())];
  const gone = before.filter((one) => !after.includes(one.toLowerCase()));
  if (gone.length === 0) return null;
  const values = gone
    .slice(0, 6)
    .map((one) => `'${one}'`)
    .join(", ");
  return {
    from: `one of ${before
      .slice(0, 12)
      .map((one) => `'${one}'`)
      .join(", ")}`,
    to: `\`${name}\` without ${values}`,
    why: "rows that hold it make this fail, or lose the value",
    ...(name === "enum"
      ? { lost: (of: string) => `${of} IN (${gone.map((one) => `'${one.replaceAll("'", "''")}'`).join(", ")})` }
      : {}),
  };
}

function shownType(name: string, args: readonly string[]): string {
  return `\`${name}${args.length > 0 && args.length < 3 ? `(${args.join(", ")})` : ""}\``;
}

/** A table is dropped whose rows went, not all of them, into one that takes its name. */
function rebuilt(context: HazardContext): Draft[] {
  const { tree, catalog, timeline, next, policy, dialect, history } = context;
  if (tree.kind !== "drop" || tree.object !== "table" || tree.names.length !== 1) return [];
  const { key, shown } = namedRelation(tree.names[0], catalog, dialect);
  const { is, said } = classed(shown, policy);
  if (is !== "business" && (said || is === "scratch")) return [];
  const copies = timeline.copies.of(key).filter((copy) => !copy.structureOnly);
  const copy = copies[copies.length - 1];
  if (!copy) return [];
  const renames = next?.tree.kind === "alter-table" && next.tree.actions.some((action) => action.what === "rename");
  const renamed = renames || next?.tree.kind === "rename";
  // The old table was given another name first, and the copy has taken its own.
  const swapped = history.gaveAway(copy.name);
  if (!renamed && !swapped) return [];
  const taken = copy.filterText === "" ? "that its join finds" : `where ${copy.filterText}`;
  const why = copy.uncertain ?? (copy.filter ? `it took only rows ${taken}` : null);
  if (!why || copies.some((one) => one.filter === null && !one.uncertain)) return [];
  const table: Table | undefined = catalog?.resolve(tree.names[0]);
  return [
    {
      weight: "stop",
      message: `\`${shown}\` is rebuilt from \`${copy.shown}\`, which does not hold all of its rows.`,
      because: [why, `the old table goes, and the new one ${swapped ? "has its name" : "takes its name"}`],
      remedy: `Compare the counts first: SELECT COUNT(*) FROM ${table ? sqlWriter(dialect).table(table) : shown}`,
    },
  ];
}
