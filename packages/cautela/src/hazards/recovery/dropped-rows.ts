import { readsNoTable } from "../../analysis/changes/inserted.ts";
import type { Catalog } from "../../catalog/catalog.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Node, Statement } from "../../sql/nodes/tree.ts";
import { children } from "../../sql/nodes/visitor.ts";
import { CONSTRUCTS, LETTERS } from "../constructs.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * Rows that are left out without an error.
 *
 * @example
 * INSERT IGNORE INTO tariff SELECT * FROM tariff_notice;   -- what does not fit is dropped, or bent until it does
 */
export const droppedRows: Hazard = {
  id: "dropped-rows",
  family: "recovery",
  weight: "ask",
  statements: ["insert", "update", "delete", "alter-table", "block", "create-routine", "declare"],
  title: "Rows left out silently",
  explanation:
    "INSERT IGNORE and INSERT OR IGNORE drop rows that break a key (in MySQL also cut values that do not fit); a handler that catches every error and does " +
    "nothing hides that a statement failed. ON CONFLICT DO NOTHING says which conflict is meant when it names the key, and is then quiet for rows written out; " +
    "without a key, or for the rows of a query, it is noted.",
  remedy: "Count the rows before and after, or name the conflict that is meant and let everything else fail.",
  example: {
    dialect: "mariadb",
    ddl: "CREATE TABLE tariff (class varchar(20) PRIMARY KEY, per_night int NOT NULL);\nCREATE TABLE tariff_notice (class varchar(20) NOT NULL, new_rate int);",
    dangerous: "INSERT IGNORE INTO tariff (class, per_night) SELECT class, new_rate FROM tariff_notice;",
    sound:
      "INSERT INTO tariff (class, per_night) SELECT class, new_rate FROM tariff_notice WHERE new_rate IS NOT NULL;",
  },
  check({ tree, dialect, inCode, creations, catalog }) {
    if (tree.kind === "create-routine") return [];
    if (tree.kind === "insert" && !inCode) {
      const bends = dialect.engine.ignoreBendsValues;
      if (tree.ignore)
        return [
          {
            weight: isSeed(tree) || eachOnce(tree, catalog) ? "note" : "ask",
            message: bends
              ? "IGNORE drops rows that break a key, and bends values that do not fit, without an error."
              : "OR IGNORE drops rows that break a key or a rule, without an error.",
            because: ["the statement succeeds whatever it leaves out"],
            remedy: "Count the rows of the source and of the target, or leave IGNORE out.",
          },
        ];
      const nothing = tree.conflicts.find(({ action }) => action === "nothing" || action === "ignore");
      const written = tree.source?.body.kind === "values";
      if (nothing && (!written || (nothing.target.length === 0 && nothing.constraint === null)))
        return [
          {
            weight: "note",
            message: "Rows that meet one that is there already are left out, without an error.",
            because: [
              nothing.target.length === 0 && nothing.constraint === null
                ? "ON CONFLICT names no key, so any of them counts"
                : "ON CONFLICT DO NOTHING",
            ],
            remedy: "Compare the number of rows of the source with the number inserted.",
          },
        ];
      return [];
    }
    if ((tree.kind === "update" || tree.kind === "delete") && tree.ignore)
      return [
        {
          message: "IGNORE leaves out rows that break a key, without an error.",
          because: ["the statement succeeds whatever it leaves out"],
          remedy: "Leave IGNORE out, and let it fail.",
        },
      ];
    const dropsTwins = CONSTRUCTS.ignoringAlter.has.includes(LETTERS[dialect.id]);
    if (tree.kind === "alter-table" && dropsTwins && tree.ignore) {
      const unique = tree.actions.some(
        ({ what, ...action }) =>
          what === "add-constraint" && "constraint" in action && /^(?:unique|primary)$/.test(action.constraint.kind),
      );
      if (!unique || creations.made(relationKey(tree.name, catalog, dialect)) !== null) return [];
      return [
        {
          message: "IGNORE deletes all but one of the rows that have the same key, without an error.",
          because: ["which of them stays is not said"],
          remedy: "Delete the rows that are too many yourself, and add the key without IGNORE.",
        },
      ];
    }
    if (tree.kind === "block" && changesRows(tree)) return swallowing(tree);
    return [];
  },
};

/** Rows that stand in the script itself: VALUES, or a SELECT of constants. */
function isSeed({ source, set }: Extract<Statement, { kind: "insert" }>): boolean {
  if (!source) return set !== null;
  const { body } = source;
  return body.kind === "values" || (body.kind === "select" && readsNoTable(body));
}

/** SELECT DISTINCT, one that groups, or rows that are nothing but a key: of these, the ones that are there already stay as they are. */
function eachOnce({ source, target }: Extract<Statement, { kind: "insert" }>, catalog: Catalog | null): boolean {
  const body = source?.body;
  if (body?.kind !== "select") return false;
  if (body.distinct || body.groupBy.length > 0) return true;
  const table = target.kind === "table" ? catalog?.resolve(target.name) : undefined;
  const key = table?.primaryKey?.columns.length ?? 0;
  return table !== undefined && !table.partial && key > 0 && key === table.columns.length;
}

/** A handler that catches everything and does nothing. */
function swallowing(tree: Extract<Statement, { kind: "block" }>): Draft[] {
  const idle = (body: readonly Statement[]): boolean =>
    body.every((one) => one.kind === "opaque" && /^(?:null|return)$/.test(one.verb)) || body.length === 0;
  const every = tree.handlers.some(({ when, body }) => /^(?:others|catch|)$/i.test(when.trim()) && idle(body));
  const declared = tree.declarations.some(
    (one) => one.kind === "declare" && one.handler && (one.handler.kind === "block" ? idle(one.handler.body) : false),
  );
  if (!every && !declared) return [];
  return [
    {
      message: "Errors are caught here and nothing is done about them: what failed is left out silently.",
      because: ["the handler is empty"],
      remedy: "Raise the error again, or catch only the one that is expected.",
    },
  ];
}

function changesRows(tree: Node): boolean {
  let found = false;
  const look = (node: Node): void => {
    if (found) return;
    if (node.kind === "insert" || node.kind === "update" || node.kind === "delete" || node.kind === "merge")
      found = true;
    else children(node, look);
  };
  look(tree);
  return found;
}
