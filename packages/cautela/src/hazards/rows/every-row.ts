import { assignedColumns } from "../../analysis/changes/assigned-columns.ts";
import { isConstantValue } from "../../analysis/changes/constant-rows.ts";
import { keepsAllValues } from "../../analysis/changes/own-value.ts";
import { constant } from "../../analysis/conditions/constants.ts";
import { namesSettings } from "../../analysis/script/table-class.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { Policy } from "../../policy/policy.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { At, Draft, FinishContext, Hazard, JudgedChange, Weight } from "../hazard.ts";
import { lighterByName } from "../lighter.ts";
import { refilled } from "../refilled.ts";
import { allRows, listedShort, rowCount, verb } from "../wording.ts";
import { columnsIn, recomputed, renumbered } from "../worked-out.ts";

/**
 * An UPDATE, DELETE or TRUNCATE that nothing limits.
 *
 * @example
 * UPDATE mooring SET fee = fee * 1.05;   -- stop: changes all rows of `mooring`
 */
export const everyRow: Hazard = {
  id: "every-row",
  family: "rows",
  weight: "stop",
  subsumes: ["no-way-back"],
  depends: ["code"],
  needs: Trait.change,
  title: "Every row of the table",
  explanation:
    "The statement has no filter, so it reaches every row of a table that lasts. Most often the WHERE was forgotten, " +
    "or only a part of the statement was run. It is quiet for tables that the script itself created, for temporary " +
    "tables, for data that the policy calls scratch or log, and for a column that the script has just added and fills.",
  remedy:
    "Add the filter that names the rows you mean. If every row is meant, keep a copy of the table before and say so.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE berth (berth_id integer PRIMARY KEY, depth_m numeric(4,1) NOT NULL);",
    dangerous: "UPDATE berth SET depth_m = 4.5;",
    sound: "UPDATE berth SET depth_m = 4.5 WHERE berth_id = 3;",
  },
  lasting: true,
  check({ tree, names, changes, dialect, policy, catalog, slice, at, comments }) {
    // UPDATE vessel SET name = name: no value is lost, and that it writes nothing new is said.
    if (keepsAllValues(tree, { names, changes, dialect })) return [];
    return (
      changes
        .filter(({ result, softener }) => result.filter === "absent" && softener === null)
        // What takes tables only is refused, and that is said.
        .filter(
          ({ change }) => change.action !== "truncate" || catalog?.resolveRelation(change.name)?.object !== "view",
        )
        .map((judged) => {
          const { change, target, copy } = judged;
          const [first] = change.table?.primaryKey?.columns ?? [];
          const column = first === undefined ? undefined : sqlWriter(dialect).column(change.table, first);
          const filter = column ? `WHERE ${column} = …` : "WHERE …";
          const because = [...judged.result.because];
          if (change.table?.rows)
            because.push(`the catalog counts about ${rowCount(change.table.rows)} in \`${target}\``);
          if (!change.table)
            because.push(`\`${target}\` is not created in this script, so it holds rows that were there before`);
          if (copy) because.push(copy);
          if (WHERE_IN_COMMENT.test(comments())) because.push("a WHERE stands in the comment beside it");
          const commits = change.action === "truncate" && dialect.run.structureCommits;
          if (commits) because.push(`in ${dialect.title} TRUNCATE commits by itself and cannot be rolled back`);
          const lighter = blanks(change)
            ? null
            : (byName(target, policy) ?? settings(judged, dialect) ?? recomputed(judged) ?? renumbered(judged));
          if (lighter) because.push(lighter.why);
          const meant = copy ? "say so: -- cautela: accept every-row, REASON" : "keep a copy first.";
          const draft: Draft = {
            weight: lighter?.weight ?? (copy ? "ask" : "stop"),
            message: `This ${verb(judged)} ${allRows(judged)}.`,
            because,
            remedy:
              change.action === "truncate"
                ? `Delete the rows you mean: DELETE FROM ${slice(change.name.start, change.name.end)} ${filter}. If every row is meant, ${meant}`
                : `Add the filter you mean (${filter}). If every row is meant, ${meant}`,
          };
          // What only the names make lighter is told once.
          if (lighter) {
            draft.cause = `${change.action} ${lighter.weight}`;
            draft.about = target;
            draft.together = (tables) =>
              change.action === "truncate"
                ? `This script empties ${listedShort(tables)}.`
                : `This script ${verb(judged)} all rows of ${listedShort(tables)}.`;
          }
          const key = relationKey(change.name, catalog, dialect);
          draft.settle = (script) =>
            change.action === "update"
              ? carriedOver(draft, judged, key, at, script)
              : refilled(draft, target, key, at, script);
          return draft;
        })
    );
  },
};

/** Values that come from columns which are dropped afterwards: the column that gets them takes their place. */
function carriedOver(
  draft: Draft,
  { change: { statement } }: JudgedChange,
  key: string,
  at: At,
  { timeline }: FinishContext,
): Draft {
  if (statement.kind !== "update" || draft.weight === "note") return draft;
  const sources = statement.assignments.map(({ value }) => columnsIn(value));
  const dropped = (column: string): boolean => timeline.dropsColumnAfter(key, column, at.statement);
  if (!sources.every((columns) => columns.length > 0 && columns.every(dropped))) return draft;
  const names = listedShort([...new Set(sources.flat())]);
  return {
    ...draft,
    weight: "ask",
    because: [...draft.because, `its values come from ${names}, which the script drops afterwards`],
  };
}

/** A filter that has been commented out, and not a comment about one. */
const WHERE_IN_COMMENT =
  /(?:--|#|\/\*)[ \t]{0,9}where\s{1,9}[\w.`"[\]]{1,99}\s{0,9}(?:[=<>!]|in\b|is\b|like\b|between\b)/i;

function byName(target: string, policy: Policy): ReturnType<typeof lighterByName> {
  return lighterByName(target, "stop", policy);
}

/** Whether NULL is written over what is there. */
function blanks({ statement }: JudgedChange["change"]): boolean {
  return statement.kind === "update" && statement.assignments.some(({ value }) => constant(value)?.type === "null");
}

/** A literal for a table whose name says that it holds settings: it may be its only row. */
function settings({ change, target }: JudgedChange, dialect: Dialect): { weight: Weight; why: string } | null {
  const { statement } = change;
  if (statement.kind !== "update" || !namesSettings(target)) return null;
  const columns = assignedColumns(statement.assignments);
  // One row for each setting: a new value for all of them is the mistake itself.
  if (columns.some((column) => /value|val$/i.test(column))) return null;
  if (!statement.assignments.every(({ value }) => isConstantValue(value, dialect))) return null;
  return { weight: "ask", why: `the name of \`${target}\` says that it holds settings, which may be one row` };
}
