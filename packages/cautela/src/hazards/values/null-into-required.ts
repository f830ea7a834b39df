import { mentions } from "../../analysis/changes/relative-value.ts";
import { fillsItself, mustBeGiven } from "../../analysis/changes/required.ts";
import { assignedIn, filterParts, type UsedColumn } from "../../analysis/conditions/conditions.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import { isAggregate } from "../../analysis/conditions/links.ts";
import { nullableIn } from "../../analysis/conditions/nullable.ts";
import { type History, NEVER, type PastChange } from "../../analysis/script/history.ts";
import { columnLike, columnNamed } from "../../catalog/columns.ts";
import { tableKey } from "../../catalog/keys.ts";
import type { Table } from "../../catalog/model.ts";
import { foldName, writtenName } from "../../catalog/names.ts";
import { namedRelation, relationKey } from "../../catalog/relation-keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { AlterAction, ColumnDefinition, Expr, Ident, Name, Query } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { addition, capital } from "../wording.ts";

/**
 * NULL for a column that may not be NULL.
 *
 * @example
 * UPDATE mooring SET status = NULL WHERE mooring_id = 3;
 */
export const nullIntoRequired: Hazard = {
  id: "null-into-required",
  family: "values",
  statements: ["update", "insert", "merge", "alter-table"],
  weight: "stop",
  depends: ["names"],
  title: "NULL for a column that may not be NULL",
  explanation:
    "The column is declared NOT NULL, and the statement writes NULL into it: the engine refuses the whole statement. MySQL and MariaDB without " +
    "strict mode write 0 or an empty text instead, which is worse. Where only the rows could tell whether a value is NULL, it is a note.",
  remedy: "Write the value that stands for nothing in this column, or leave the column out.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, to_day date);",
    dangerous: "UPDATE mooring SET status = NULL WHERE mooring_id = 3;",
    sound: "UPDATE mooring SET to_day = NULL WHERE mooring_id = 3;",
  },
  check(context) {
    const { tree, names, changes, dialect, inserted } = context;
    const drafts: Draft[] = [];
    if (tree.kind === "alter-table") return added(context);
    const say = (column: string, table: string, byDefault: boolean): void => {
      drafts.push({
        message: `\`${column}\` of \`${table}\` may not be NULL${byDefault ? " and has no default" : ""}, so the engine refuses this.`,
        refused: true,
        because: [`\`${column}\` is declared NOT NULL`],
        remedy: "Write a value, or leave the column out if it has a default.",
      });
    };
    for (const { column, value } of assignedIn(tree, names)) {
      const byDefault = isDefault(value);
      if (value.kind === "subquery") {
        const known = column.offered?.column ?? columnLike(changes[0]?.change.table, column.name);
        // With a tie to the row it is a matter of `outer-null`.
        const tied = changes[0]?.change.names.correlated(value.query) ?? true;
        if (known?.required && !tied && mayBeEmpty(value.query))
          drafts.push(empty(column.name, changes[0]?.target ?? "", context.show(value)));
        continue;
      }
      if (!byDefault && constant(value)?.type !== "null") {
        const mayBe = mayBeNull(column, value, context);
        if (mayBe) drafts.push(mayBe);
        continue;
      }
      const table = column.relation?.table ?? changes[0]?.change.table;
      const known = column.offered?.column ?? columnLike(table, column.name);
      if (!table && changes[0] && !byDefault && isRequired(changes[0].change.name, column.name, context))
        say(column.name, changes[0].target, false);
      if (!known?.required || (byDefault && !(table && mustBeGiven(known, table, dialect)))) continue;
      say(column.name, column.relation?.table?.name ?? changes[0]?.target ?? "", byDefault);
    }
    if (inserted && !inserted.table && tree.kind === "insert" && tree.target.kind === "table") {
      const { name } = tree.target;
      for (const column of inserted.names ?? []) {
        const i = inserted.names?.indexOf(column) ?? -1;
        const empty = inserted.rows.some((row) => row[i] && constant(row[i])?.type === "null");
        if (empty && isRequired(name, column, context)) say(column, writtenName(name), false);
      }
    }
    if (inserted?.table) {
      const { table, columns } = inserted;
      const body = tree.kind === "insert" ? tree.source?.body : undefined;
      const selected = body?.kind === "select" ? body.items.map(({ expr }) => expr) : [];
      const perRow = selected.some(({ kind }) => kind === "star") ? [] : selected;
      columns.forEach((column, i) => {
        if (!column?.required || column.identity !== null) return;
        // The row's number is made up where NULL is given (sqlite), and so is a time stamp (mysql).
        if (dialect.engine.rowidKey && table.primaryKey?.columns.includes(column.name)) return;
        if (dialect.engine.stampsTimestamps && column.type === "timestamp") return;
        const values = inserted.rows.map((row) => row[i]).filter((one) => one !== undefined);
        const asked = values.find((one) => one.kind === "subquery" && mayBeEmpty(one.query));
        if (asked) drafts.push(empty(column.name, table.name, context.show(asked)));
        if ([...values, ...perRow.slice(i, i + 1)].some((one) => constant(one)?.type === "null"))
          say(column.name, table.name, false);
        else if (values.some(isDefault) && mustBeGiven(column, table, dialect)) say(column.name, table.name, true);
      });
    }
    return drafts;
  },
};

/** Whether the script has made a column NOT NULL of a table that nobody has described. */
function isRequired(table: Name, column: string, { creations, catalog, dialect }: HazardContext): boolean {
  return !catalog?.complete && creations.isRequired(relationKey(table, catalog, dialect), column);
}

/** A value that is NULL in some rows, as far as the catalog can tell: the engine refuses the statement for the sake of one. */
function mayBeNull(assigned: UsedColumn, value: Expr, context: HazardContext): Draft | null {
  const { changes, names, dialect, show } = context;
  const [judged] = changes;
  if (!judged || judged.softener || judged.result.filter === "dead") return null;
  const known = assigned.offered?.column ?? columnLike(judged.change.table, assigned.name);
  if (!known?.required || known.identity !== null) return null;
  const parts = filterParts(judged.change.conditions);
  const cause = nullableIn(value, { names, dialect, parts });
  // What the column held and loses, `blanks-value` tells.
  if (!cause || (value.kind !== "column" && mentions(value, assigned.name, context))) return null;
  // What the script itself has put in, it knows.
  const from = cause.used.relation?.table;
  if (from && context.creations.everMade(tableKey(from.schema, from.name))) return null;
  const shown = show(cause.at);
  return {
    weight: "note",
    message: `\`${assigned.name}\` of \`${judged.target}\` may not be NULL, and \`${shown}\` may: one row in which it is NULL makes the statement fail.`,
    because: [`\`${assigned.name}\` is declared NOT NULL, \`${shown}\` is not, and no condition leaves those rows out`],
    remedy: `${capital(addition(context.tree, `${shown} IS NOT NULL`))}, or write COALESCE(${shown}, …) with what is to stand there.`,
  };
}

/** DEFAULT; MariaDB's IGNORE leaves the value as it is. */
function isDefault(value: Expr): boolean {
  return value.kind === "literal" && value.type === "default" && value.value === "";
}

/** Whether a scalar subquery can give no row: an aggregate without groups always gives one. */
function mayBeEmpty({ body }: Query): boolean {
  if (body.kind !== "select" || body.from.length === 0) return false;
  return body.groupBy.length > 0 || !body.items.some(({ expr }) => isAggregate(expr));
}

function empty(column: string, table: string, shown: string): Draft {
  return {
    // The engine refuses it, and nothing is lost.
    weight: "note",
    message: `\`${column}\` of \`${table}\` may not be NULL, and \`${shown}\` gives NULL where it finds nothing.`,
    because: [`\`${column}\` is declared NOT NULL`],
    remedy: "Look first whether it finds a row, or write what is to stand there if it does not.",
  };
}

/** A column that is added NOT NULL and without a value, to a table that may hold rows; NOT NULL put on a column that may hold NULLs. */
function added(context: HazardContext): Draft[] {
  const { tree, catalog, dialect, creations } = context;
  if (tree.kind !== "alter-table") return [];
  const { key, shown } = namedRelation(tree.name, catalog, dialect);
  const table = catalog?.resolve(tree.name) ?? null;
  if (creations.everMade(key) || table?.rows === 0 || table?.temporary) return [];
  const altered = { name: tree.name, key, shown, table };
  return tree.actions.flatMap((action) => {
    if (action.what === "add-column") return addedRequired(action.column, altered, dialect) ?? [];
    const required = requiredNow(action);
    return (required && madeRequired(required, altered, context)) ?? [];
  });
}

/** A table that is altered; `table` is null where it is not known. */
interface Altered {
  name: Name;
  key: string;
  shown: string;
  table: Table | null;
}

function addedRequired(column: ColumnDefinition, { shown, table }: Altered, dialect: Dialect): Draft | null {
  const fills = dialect.engine.fillsNewColumns;
  if (!table || column.required !== true || fillsItself(column) || column.primary || (fills && table.rows === null))
    return null;
  return {
    weight: fills ? "note" : "ask",
    message: fills
      ? `\`${column.name.text}\` is added to \`${shown}\` without a default: rows that are there silently get 0 or an empty text.`
      : `\`${column.name.text}\` is added to \`${shown}\` as NOT NULL and without a default: the engine refuses that where the table holds rows.`,
    because: ["rows that are there have no value for it"],
    remedy: "Give it a default, or add it first, fill it, and then set it NOT NULL.",
  };
}

/** The column that an ALTER TABLE makes NOT NULL, under the name that it had. */
function requiredNow(action: AlterAction): Ident | null {
  if (action.what === "column-required" && action.required) return action.name;
  return action.what === "change-column" && action.column.required ? action.name : null;
}

function madeRequired(column: Ident, { name, key, shown, table }: Altered, context: HazardContext): Draft | null {
  const { dialect, creations, history, slice } = context;
  const folded = foldName(column, dialect);
  const known = columnNamed(table, folded);
  const blank = creations.addedColumn(key, folded)?.blank ?? false;
  // Nothing is NULL as far as statistics go.
  if ((!known && !blank) || known?.required || known?.nulls === 0 || mayHaveFilled(history, key, shown)) return null;
  const filled = history.hasAssigned(shown, folded.toLowerCase());
  const partly = filled && blank ? filledInPart(history, shown, folded) : null;
  // The script has seen to it.
  if (filled && !partly) return null;
  const writer = sqlWriter(dialect);
  const own = table ? writer.column(table, folded) : slice(column.start, column.end);
  const from = table ? writer.table(table) : slice(name.start, name.end);
  return {
    weight: "ask",
    message: `\`${column.text}\` of \`${shown}\` becomes NOT NULL, and rows that hold NULL there make this fail.`,
    ...(partly
      ? {
          because: [`the script has added it without a value, and ${partly.place} fills a part of the rows`],
          remedy: `Fill the rest too: UPDATE ${from} SET ${own} = … WHERE ${own} IS NULL`,
        }
      : {
          because: ["it may be NULL so far, and the script fills no gaps before"],
          remedy: `Count them first: SELECT COUNT(*) FROM ${from} WHERE ${own} IS NULL`,
        }),
  };
}

/** Whether the script has done to a table what may fill a gap and is not read as an assignment: an upsert, a MERGE, code. */
function mayHaveFilled(history: History, key: string, shown: string): boolean {
  const { brought, removed, updated } = history.touched(key);
  if (history.mayHaveMade || brought > NEVER || removed > NEVER) return true;
  return updated > NEVER && !history.of(shown).some(({ statement }) => statement === updated);
}

/**
 * The only change that has filled a new column, where its filter says nothing of that column: the rows that it leaves out
 * hold NULL. Of several changes only the data could tell whether one of them fills what the others leave.
 */
function filledInPart(history: History, shown: string, column: string): PastChange | null {
  const lower = column.toLowerCase();
  const fills = history.of(shown).filter(({ assigned }) => assigned.has(column) || assigned.has(lower));
  const [only] = fills;
  if (!only || fills.length > 1 || only.every || only.looped) return null;
  const { where, facts } = only;
  if (where) return where.size > 0 && !where.has(column) && !where.has(lower) ? only : null;
  return facts && facts.length > 0 && !facts.some(({ key }) => key.toLowerCase().includes(lower)) ? only : null;
}
