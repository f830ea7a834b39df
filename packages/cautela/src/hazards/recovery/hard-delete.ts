import { filterParts, pinsOf } from "../../analysis/conditions/conditions.ts";
import { plainColumn } from "../../analysis/conditions/constants.ts";
import type { Destruction } from "../../analysis/script/copies.ts";
import { policyClass, tableClass } from "../../analysis/script/table-class.ts";
import { shortfall } from "../../analysis/script/way-back.ts";
import type { Catalog } from "../../catalog/catalog.ts";
import { columnLike, partedName } from "../../catalog/columns.ts";
import { tableKey } from "../../catalog/keys.ts";
import { type Column, shownName, type Table } from "../../catalog/model.ts";
import { parted } from "../../catalog/names.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import { changeText } from "../../writing/change-text.ts";
import type { SqlWriter } from "../../writing/writer.ts";
import { ACTIVE, DELETED, ENDS, pastOf } from "../ended-rows.ts";
import type { Draft, FinishContext, Hazard } from "../hazard.ts";
import { capital } from "../wording.ts";

/**
 * Rows with business meaning are deleted where the table has another way to end them.
 *
 * @example
 * DELETE FROM owner WHERE owner_id = 3;   -- owner has `left_on`, and vessels refer to it
 */
export const hardDelete: Hazard = {
  id: "hard-delete",
  family: "recovery",
  lasting: true,
  weight: "ask",
  depends: ["names"],
  title: "Deleted for good",
  explanation:
    "The table holds things that are spoken of later (other tables refer to it, or an archive stands beside it), and it has a column for their end: a status, " +
    "an end date, a flag. Elsewhere such rows are closed, not deleted. The policy can class a table; log and scratch data, and rows that the script archives first, " +
    "are quiet. One row is only noted.",
  remedy: "Close the row instead (set its status or end date), or move it into the archive.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE owner (owner_id integer PRIMARY KEY, name varchar(60) NOT NULL, left_on date);
CREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner);`,
    dangerous: "DELETE FROM owner WHERE owner_id = 3;",
    sound: "UPDATE owner SET left_on = '2026-01-31' WHERE owner_id = 3 AND left_on IS NULL;",
  },
  finish({ timeline, policy, catalog, creations, dialect }) {
    const drafts: Draft[] = [];
    const writer = sqlWriter(dialect);
    const said = new Set<string>();
    for (const lost of timeline.destructions) {
      if (
        lost.action !== "delete" ||
        lost.softener !== null ||
        !lost.table ||
        lost.undone ||
        lost.span?.end === "rollback"
      )
        continue;
      if (tableClass(lost.shown, policy) !== "business") continue;
      const reason = meaning(lost.table, catalog, creations, policyClass(lost.shown, policy) === "business", writer);
      if (!reason) continue;
      const kept = timeline.copies
        .of(lost.key)
        .some((copy) => copy.place < lost.copies && (copy.handedOn || shortfall(copy, lost) === null));
      if (kept || lost.declared !== null || haveEnded(lost)) continue;
      const weight = lost.reach.bound === "one" ? "note" : "ask";
      if (said.has(`${lost.key} ${weight}`)) continue;
      said.add(`${lost.key} ${weight}`);
      drafts.push({
        at: lost.at,
        weight,
        message: `Rows of \`${lost.shown}\` are deleted for good, although ${reason.way}.`,
        because: reason.because,
        remedy: reason.remedy(lost),
      });
    }
    return drafts;
  },
};

interface Meaning {
  way: string;
  because: string[];
  remedy(lost: Destruction): string;
}

/** Whether the filter asks for rows that are over already, by their end or by a flag. */
function haveEnded({ conditions, table }: Destruction): boolean {
  const named = (expr: Expr | null): Column | undefined => {
    const ref = expr && plainColumn(expr);
    return ref ? columnLike(table, ref.path[ref.path.length - 1].text.toLowerCase()) : undefined;
  };
  const over = (flag: string, on: boolean): boolean => (on ? DELETED : ACTIVE).test(flag);
  return (
    filterParts(conditions).some((part) => {
      const end = named(pastOf(part));
      if (end && ENDS.test(partedName(end)) && /date|time/.test(end.type)) return true;
      const [expr, on] = flagOf(part);
      const flag = named(expr);
      return flag !== undefined && over(partedName(flag), on);
    }) ||
    pinsOf(conditions, null).some(
      ({ column, values: [value, ...more] }) =>
        more.length === 0 &&
        (value.type === "boolean" || value.type === "number") &&
        over(partedName(columnLike(table, column.name) ?? column), !!value.value),
    )
  );
}

/** What a condition asks to be true or false: `deleted`, `NOT active`, `is_deleted IS TRUE`. */
function flagOf(part: Expr): [Expr | null, boolean] {
  switch (part.kind) {
    case "column":
      return [part, true];
    case "unary":
      return part.op === "not" ? [part.operand, false] : [null, false];
    case "is":
      return part.test === "true" || part.test === "false"
        ? [part.operand, (part.test === "true") !== part.negated]
        : [null, false];
    default:
      return [null, false];
  }
}

/** Why the rows of a table are not simply deleted, and what is done instead; null where nothing says so. */
function meaning(
  table: Table,
  catalog: Catalog | null,
  creations: FinishContext["creations"],
  classed: boolean,
  writer: SqlWriter,
): Meaning | null {
  const ending = table.columns.find((column) => ENDS.test(partedName(column)));
  const key = tableKey(table.schema, table.name);
  const referring = catalog?.referencing(key).filter((one) => one !== table) ?? [];
  const beside = archiveOf(table, catalog);
  // One that the script makes itself was not there to move them into.
  const archive = beside && creations.everMade(tableKey(beside.schema, beside.name)) ? null : beside;
  if (archive) {
    return {
      way: `\`${shownName(archive)}\` stands beside it`,
      because: [`the catalog holds \`${shownName(archive)}\`, with the same columns`],
      remedy: (lost) => {
        const rows = rowsOf(lost, writer);
        const columns = writer.columns(
          "",
          table,
          table.columns.filter(({ generated }) => !generated).map(({ name }) => name),
        );
        return rows
          ? `Move them, and then delete: INSERT INTO ${writer.table(archive)} (${columns}) SELECT ${columns} ${rows}`
          : `Move them into \`${shownName(archive)}\` first, and then delete.`;
      },
    };
  }
  if (!ending || (referring.length === 0 && !classed)) return null;
  const closed = closedValue(ending, writer);
  const spelled = ending.spelling ?? ending.name;
  return {
    way: `it has \`${spelled}\` to end them`,
    because: [
      `\`${spelled}\` tells rows that are over from those that are not`,
      ...(referring.length > 0
        ? [
            `${referring.map((one) => `\`${shownName(one)}\``).join(", ")} ${referring.length === 1 ? "refers" : "refer"} to it`,
          ]
        : []),
    ],
    remedy: (lost) => {
      const rows = rowsOf(lost, writer);
      if (closed === null || !rows) return `Close them instead: give \`${spelled}\` the value that ends them.`;
      return `Close them instead: UPDATE ${rows.slice("FROM ".length).replace(" WHERE ", ` SET ${writer.column(table, ending.name)} = ${closed} WHERE `)}`;
    },
  };
}

/** The value by which a column ends a row; null where it is a word of the team's. */
function closedValue(column: Column, writer: SqlWriter): string | null {
  if (/date|time/.test(column.type)) return writer.today;
  if (!/^(?:bool|bit|yesno|logical|tinyint|smallint|int|number|numeric|decimal)/.test(column.type)) return null;
  if (ACTIVE.test(partedName(column))) return writer.truth(false, column);
  return DELETED.test(partedName(column)) ? writer.truth(true, column) : null;
}

/** FROM and WHERE of the rows that are deleted, as the statement writes them; null where it joins. */
function rowsOf({ source, reach }: Destruction, writer: SqlWriter): string | null {
  // A filter that is always true is a mistake, and is not handed on.
  if (!source || reach.bound === "every" || reach.bound === "multiplied") return null;
  const text = changeText(source, source.change, writer);
  if (typeof text === "string" || text.joined || text.limited || text.head !== "" || text.where === null) return null;
  return `FROM ${text.from} WHERE ${text.where}`;
}

/** A table beside it that is named as its archive and has its columns. */
function archiveOf(table: Table, catalog: Catalog | null): Table | null {
  const { name, schema } = table;
  for (const word of ["archive", "history", "old", "hist"]) {
    // MOORING_ARCHIVE, mooring_archive, MooringArchive: in a dialect of any case the last is mooringarchive.
    const names =
      name === name.toUpperCase()
        ? [`${name}_${word.toUpperCase()}`]
        : [`${name}_${word}`, `${name}${word}`, `${name}${capital(word)}`, `${capital(name)}${capital(word)}`];
    const found = names.map((one) => catalog?.get(schema, one)).find(Boolean);
    // A threshold is no old thresh.
    if (found && !parted(shownName(found)).endsWith(`_${word}`)) continue;
    if (found && table.columns.every((column) => found.columns.some((one) => one.name === column.name))) return found;
  }
  return null;
}
