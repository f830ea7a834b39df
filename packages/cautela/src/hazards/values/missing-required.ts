import { mustBeGiven } from "../../analysis/changes/required.ts";
import { tableKey } from "../../catalog/keys.ts";
import type { Column, Table } from "../../catalog/model.ts";
import { writtenName } from "../../catalog/names.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * An INSERT without a value for a required column.
 *
 * @example
 * INSERT INTO mooring (berth_id, from_day) VALUES (3, '2025-04-03');   -- vessel_id is NOT NULL and has no default
 */
export const missingRequired: Hazard = {
  id: "missing-required",
  family: "values",
  statements: ["insert", "merge"],
  weight: "stop",
  depends: ["names"],
  title: "A required column without a value",
  explanation:
    "The column is NOT NULL, has no default and is not numbered by the engine, and the INSERT gives it no value: the engine refuses the " +
    "statement. MySQL without strict mode writes 0 or an empty text instead.",
  remedy: "Add the column and its value.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id serial PRIMARY KEY, berth_id integer NOT NULL, vessel_id integer NOT NULL, fee numeric(10,2) NOT NULL DEFAULT 0);",
    dangerous: "INSERT INTO mooring (berth_id) VALUES (3);",
    sound: "INSERT INTO mooring (berth_id, vessel_id) VALUES (3, 12);",
  },
  check(context) {
    const { catalog, dialect, inserted, ripples } = context;
    if (inserted && !inserted.table) return unlisted(context);
    if (!inserted?.table || !inserted.names || !inserted.listed || inserted.table.partial) return [];
    const { table, names } = inserted;
    const required = requiredOf(table, dialect);
    if (required.length === 0) return [];
    const given = names.length > 16 ? new Set(names) : null;
    const missing = required.filter(({ name }) => !(given ? given.has(name) : names.includes(name)));
    if (missing.length === 0) return [];
    // What a trigger fills in before the row is written is its own affair.
    const notes = before(table, catalog) ? ripples.flatMap(({ ripple }) => ripple.notes) : [];
    if (notes.some(({ kind }) => kind === "opaque")) return [];
    const filled = new Set(
      notes.flatMap(({ kind, columns }) => (kind === "rewrites" || kind === "stamps" ? columns : [])),
    );
    const left = missing.filter(({ name }) => !filled.has(name));
    if (left.length === 0) return [];
    return [
      draftOf(
        left.map(({ name }) => name),
        table.name,
      ),
    ];
  },
};

function draftOf(left: readonly string[], table: string): Draft {
  const one = left.length === 1;
  return {
    message: `There is no value for ${listed(left)} of \`${table}\`, so the engine refuses this.`,
    refused: true,
    because: [`${one ? "it is" : "they are"} NOT NULL and ${one ? "has" : "have"} no default`],
    remedy: `Add ${left.join(", ")} and ${one ? "its value" : "their values"}.`,
  };
}

/** Of a table that nobody has described the columns are known that the script itself has added. */
function unlisted({ tree, inserted, creations, catalog, dialect }: HazardContext): Draft[] {
  if (tree.kind !== "insert" || tree.target.kind !== "table" || !tree.columns || !inserted?.names) return [];
  if (catalog?.complete) return [];
  const key = relationKey(tree.target.name, catalog, dialect);
  const { names } = inserted;
  // A trigger may fill in what is missing.
  if (catalog?.triggersOf(key).some(({ timing }) => timing === "before")) return [];
  const left = creations.mustBeGiven(key).filter((column) => !names.includes(column));
  return left.length > 0 ? [draftOf(left, writtenName(tree.target.name))] : [];
}

/** Whether a trigger runs for each row before it is inserted. */
function before(table: Table, catalog: HazardContext["catalog"]): boolean {
  return (
    catalog
      ?.triggersOf(tableKey(table.schema, table.name))
      .some(
        (one) =>
          one.timing === "before" && one.level === "row" && one.events.includes("insert") && one.enabled !== "off",
      ) ?? false
  );
}

const required = new WeakMap<Table, readonly Column[]>();

function requiredOf(table: Table, dialect: HazardContext["dialect"]): readonly Column[] {
  const known = required.get(table);
  if (known) return known;
  const made = table.columns.filter((column) => mustBeGiven(column, table, dialect));
  required.set(table, made);
  return made;
}
