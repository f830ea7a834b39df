import { constant } from "../../analysis/conditions/constants.ts";
import { NEVER } from "../../analysis/script/history.ts";
import type { Catalog } from "../../catalog/catalog.ts";
import { shownName, type Table } from "../../catalog/model.ts";
import { foldName, writtenName } from "../../catalog/names.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Expr, Ident, Name } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { rowCount } from "../wording.ts";

/**
 * A counter of keys goes back to where its numbers are taken.
 *
 * @example
 * ALTER SEQUENCE mooring_mooring_id_seq RESTART WITH 1;   -- the next mooring is refused: number 1 is there
 */
export const counterSetBack: Hazard = {
  id: "counter-set-back",
  family: "values",
  weight: "ask",
  title: "A counter of keys that is set back",
  explanation:
    "A sequence, or the counter of an identity column, begins again at its first numbers while the table still has rows. New rows then get numbers that " +
    "are taken: the engine refuses them one after the other, or, without a key, two rows share a number. It is quiet where the script has emptied, filled " +
    "or made the table, and where the value is worked out from the rows.",
  remedy: "Set the counter by the highest number in the table, or leave it alone: gaps do no harm.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id serial PRIMARY KEY, fee numeric(8,2) NOT NULL);",
    dangerous: "ALTER SEQUENCE mooring_mooring_id_seq RESTART WITH 1;",
    sound: "SELECT setval('mooring_mooring_id_seq', (SELECT COALESCE(MAX(mooring_id), 0) + 1 FROM mooring), false);",
  },
  check(context) {
    return countersSet(context).flatMap(({ shown, tables, table, value, own }): Draft[] => {
      const at = value ? constant(value) : null;
      if (value && at?.type !== "number") return [];
      const first = at?.type === "number" ? at.value : 1;
      if (first > 1 && !(table?.rows && first <= table.rows)) return [];
      if (own || table?.rows === 0 || tables.some((key) => isOwn(key, context))) return [];
      const of = table ? `\`${shownName(table)}\`` : "its table";
      return [
        {
          message: `${shown} begins again at ${first}: new rows of ${of} get numbers that may be taken.`,
          because: [
            table?.rows
              ? `the catalog counts about ${rowCount(table.rows)} in ${of}`
              : `the script does not empty ${of} before`,
          ],
          remedy: "Set it by the highest number that the table holds, or leave it alone: gaps do no harm.",
        },
      ];
    });
  },
};

interface CounterSet {
  /** In words. */
  shown: string;
  /** The keys of the tables that it may belong to. */
  tables: readonly string[];
  table: Table | undefined;
  value: Expr | null;
  /** The script has made the sequence. */
  own: boolean;
}

function countersSet({ tree, found, catalog, dialect, known }: HazardContext): CounterSet[] {
  if (tree.kind === "alter-table") {
    const table = catalog?.resolve(tree.name);
    return tree.actions.flatMap((action) =>
      action.what === "restart-identity"
        ? [
            {
              shown: `The counter of \`${action.name.text}\``,
              tables: [relationKey(tree.name, catalog, dialect)],
              table,
              value: action.value,
              own: false,
            },
          ]
        : [],
    );
  }
  if (tree.kind === "set-counter" && tree.of === "table")
    return [
      {
        shown: `The counter of \`${writtenName(tree.name)}\``,
        tables: [relationKey(tree.name, catalog, dialect)],
        table: catalog?.resolve(tree.name),
        value: tree.value,
        own: false,
      },
    ];
  const sequence = (name: Name, value: Expr | null): CounterSet => {
    const last = foldName(name.parts[name.parts.length - 1], dialect);
    const table = catalog ? ownerOf(last, catalog) : undefined;
    const tables = stems(name, last).map((stem) => relationKey(stem, catalog, dialect));
    if (table) tables.push(relationKey({ ...name, parts: [ident(table.name, name)] }, catalog, dialect));
    const own = !known && catalog?.object("sequence", relationKey(name, catalog, dialect)) !== undefined;
    return { shown: `\`${writtenName(name)}\``, tables, table, value, own };
  };
  if (tree.kind === "set-counter") return [sequence(tree.name, tree.value)];
  // setval('loaf_id_seq', 1): the name is a text.
  return found.calls.flatMap((call) => {
    const [of, value] = call.args;
    const name = call.name.parts[call.name.parts.length - 1].text;
    if (!/^setval$/i.test(name) || !value) return [];
    const said = constant(of.kind === "cast" ? of.operand : of);
    if (said?.type !== "string") return [];
    const parts = said.value.split(".").map((part) => ident(part.replaceAll('"', ""), of));
    return [sequence({ kind: "name", parts, link: null, start: of.start, end: of.end }, value)];
  });
}

function ident(text: string, { start, end }: { start: number; end: number }): Ident {
  return { text, quoted: false, hole: false, start, end };
}

/** The table whose column a sequence numbers. */
function ownerOf(sequence: string, catalog: Catalog): Table | undefined {
  for (const table of catalog.objects("table"))
    for (const column of table.columns)
      if (`${table.name}_${column.name}_seq` === sequence || column.default?.includes(sequence)) return table;
  return undefined;
}

/** The tables that a sequence may be named after: `loaf_id_seq` after `loaf_id` or `loaf`. */
function stems(name: Name, last: string): Name[] {
  const words = last.replace(/_seq(?:uence)?$/, "").split("_");
  return words.map((_, i) => ({
    ...name,
    parts: [...name.parts.slice(0, -1), ident(words.slice(0, words.length - i).join("_"), name)],
  }));
}

/** Whether the script has made, filled or emptied a table before. */
function isOwn(key: string, { creations, history, timeline }: HazardContext): boolean {
  if (creations.everMade(key) || history.touched(key).brought > NEVER) return true;
  return timeline.destructions.some(
    (lost) => lost.key === key && lost.action !== "update" && lost.reach.bound === "every",
  );
}
