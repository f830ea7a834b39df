import { conjuncts } from "../../analysis/changes/reach.ts";
import { breaks } from "../../analysis/conditions/allowed.ts";
import { shownValue } from "../../analysis/conditions/conditions.ts";
import { NEVER } from "../../analysis/script/history.ts";
import { columnNamed } from "../../catalog/columns.ts";
import { tableKey } from "../../catalog/keys.ts";
import { shownName, type Table } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import { namedRelation } from "../../catalog/relation-keys.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Expr, Ident, Name, TableConstraint } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { grouped, listed } from "../wording.ts";

/**
 * A key or a CHECK is put on a table whose rows need not meet it.
 *
 * @example
 * ALTER TABLE owner ADD CONSTRAINT owner_mail UNIQUE (mail);   -- refused if two owners share one
 */
export const unmetConstraint: Hazard = {
  id: "unmet-constraint",
  family: "values",
  weight: "ask",
  statements: ["alter-table", "create-index"],
  depends: ["names"],
  title: "A constraint that the rows may not meet",
  explanation:
    "The engine checks every row that is there when a key or a CHECK is added, and refuses it for one row that does not meet it. Where the statistics of the " +
    "catalog, or a value that this script has written, say that there is such a row, it is certain. Tables that the script makes, columns that it adds, and rows " +
    "that it has cleared before are quiet.",
  remedy: "Look for the rows that break it first, and mend them.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE berth (berth_id integer PRIMARY KEY, kind integer NOT NULL);",
    dangerous:
      "UPDATE berth SET kind = 7 WHERE berth_id = 3;\nALTER TABLE berth ADD CONSTRAINT berth_kind CHECK (kind IN (1, 2, 3));",
    sound:
      "UPDATE berth SET kind = 3 WHERE berth_id = 3;\nALTER TABLE berth ADD CONSTRAINT berth_kind CHECK (kind IN (1, 2, 3));",
  },
  check(context) {
    const { tree } = context;
    if (tree.kind === "create-index")
      return tree.unique && !tree.inexact && !tree.where ? unique(tree.table, tree.columns, context) : [];
    if (tree.kind !== "alter-table") return [];
    return tree.actions.flatMap((action) => {
      if (action.what !== "add-constraint" || action.constraint.unchecked) return [];
      const { kind, columns, inexact, where, check } = action.constraint;
      if (kind === "check" && check) return checked(tree.name, check, context);
      if (kind === "foreign") return referring(tree.name, action.constraint, context);
      return (kind === "unique" || kind === "primary") && !inexact && !where ? unique(tree.name, columns, context) : [];
    });
  },
};

/** The table, where rows of before the script may stand in it. */
function filled(
  name: Name,
  { catalog, creations, dialect }: HazardContext,
): { table: Table; key: string; shown: string } | null {
  const { key, shown } = namedRelation(name, catalog, dialect);
  const table = catalog?.resolve(name);
  return table && table.rows !== 0 && !table.temporary && !creations.everMade(key) ? { table, key, shown } : null;
}

function unique(name: Name, parts: readonly Ident[], context: HazardContext): Draft[] {
  const { dialect, known, creations, history } = context;
  const found = filled(name, context);
  if (!found || !known || parts.length === 0) return [];
  const { table, key, shown } = found;
  const columns = parts.map((one) => columnNamed(table, foldName(one, dialect)));
  if (columns.some((column) => !column || creations.everAdded(key, column.name))) return [];
  const names = columns.map((column) => column?.name ?? "");
  const keys = table.primaryKey ? [table.primaryKey, ...table.uniqueKeys] : table.uniqueKeys;
  // A part of it is a key already; the script has cleared the rows, or written the columns.
  if (keys.some((one) => !one.partial && one.columns.every((column) => names.includes(column)))) return [];
  if (history.touched(key).removed > NEVER || names.some((one) => history.hasAssigned(shown, one.toLowerCase())))
    return [];
  const [only] = columns;
  const distinct = columns.length === 1 ? (only?.distinct ?? null) : null;
  const rows = table.rows === null ? null : Math.round(table.rows * (1 - (only?.nulls ?? 0)));
  if (distinct !== null && rows !== null && distinct >= rows * 0.98) return [];
  const sure = distinct !== null && rows !== null && rows > 20 && distinct < rows * 0.8;
  const writer = sqlWriter(dialect);
  const list = writer.columns("", table, names);
  return [
    {
      weight: sure ? "stop" : rows === null ? "note" : "ask",
      message: `${listed(names)} of \`${shown}\` ${names.length === 1 ? "becomes" : "become"} unique, and rows that share a value make this fail.`,
      because: [
        sure
          ? `its statistics count about ${grouped(distinct)} different values in ${grouped(rows)} rows`
          : "nothing has kept it unique so far, and the script clears no rows before",
      ],
      remedy: `Look for them first: SELECT ${list}, COUNT(*) FROM ${writer.table(table)} GROUP BY ${list} HAVING COUNT(*) > 1`,
    },
  ];
}

/** A foreign key: rows whose value no row of the other table has make the engine refuse it. */
function referring(name: Name, { columns: parts, references }: TableConstraint, context: HazardContext): Draft[] {
  const { catalog, dialect, known, creations, history, session } = context;
  const found = filled(name, context);
  const parent = references ? catalog?.resolve(references.table) : undefined;
  if (!catalog || !found || !parent || !references || !known || session.keys === false) return [];
  const { table, key, shown } = found;
  const columns = parts.map((one) => foldName(one, dialect));
  const referred = references.columns?.map((one) => foldName(one, dialect)) ?? parent.primaryKey?.columns ?? [];
  if (columns.length === 0 || referred.length !== columns.length) return [];
  if (columns.some((one) => !columnNamed(table, one) || creations.everAdded(key, one))) return [];
  // It was there when the script began, the script has cleared the rows, or written the columns.
  const to = tableKey(parent.schema, parent.name);
  for (let at = catalog.below; at !== null; at = at.below)
    for (const one of at.byKey(key)?.foreignKeys ?? [])
      if (one.table === to && one.columns.join() === columns.join() && one.trusted) return [];
  if (history.touched(key).removed > NEVER || columns.some((one) => history.hasAssigned(shown, one.toLowerCase())))
    return [];
  const writer = sqlWriter(dialect);
  const own = writer.columns("c", table, columns).split(", ");
  const theirs = writer.columns("p", parent, referred).split(", ");
  const same = own.map((one, i) => `${theirs[i]} = ${one}`).join(" AND ");
  const some = own.map((one) => `${one} IS NOT NULL`).join(" AND ");
  return [
    {
      weight: table.rows === null ? "note" : "ask",
      message: `A foreign key is put on ${listed(columns)} of \`${shown}\`: rows that refer to nothing in \`${shownName(parent)}\` make this fail.`,
      because: ["nothing has kept them apart so far, and the script clears no rows before"],
      remedy: `Look for them first: SELECT ${own.join(", ")} FROM ${writer.table(table)}${writer.as("c")} WHERE ${some} AND NOT EXISTS (SELECT 1 FROM ${writer.table(parent)}${writer.as("p")} WHERE ${same})`,
    },
  ];
}

function checked(name: Name, check: Expr, context: HazardContext): Draft[] {
  const { catalog, dialect, history, show } = context;
  const { shown } = namedRelation(name, catalog, dialect);
  // A value that the script itself has written.
  const changes = history.of(shown);
  // What was written over since, or deleted, is not there any more.
  for (const [i, past] of changes.entries())
    for (const [column, value] of past.set)
      if (
        !changes.slice(i + 1).some((later) => later.action !== "update" || later.assigned.has(column)) &&
        conjuncts(check).some((part) => breaks(part, column, value, dialect))
      )
        return [
          {
            weight: "stop",
            message: `${past.place.replace("line", "Line")} has written ${shownValue(value)} into \`${column}\` of \`${shown}\`, which this CHECK does not allow: the engine refuses it.`,
            because: [`the CHECK says ${show(check)}`],
            remedy: "Write an allowed value there, or let the CHECK allow it.",
          },
        ];
  return [];
}
