import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/** What a statement that was cut off goes on with. */
const GOES_ON = /^(?:where|and|or|from|inner|left|join|using)\b/i;

/**
 * A terminator or a batch separator between a statement and its WHERE.
 *
 * @example
 * DELETE FROM mooring;
 * WHERE mooring_id = 3;   -- stop: the first line alone deletes everything
 */
export const strandedFilter: Hazard = {
  id: "stranded-filter",
  family: "rows",
  weight: "stop",
  subsumes: ["every-row", "hollow-filter", "no-way-back"],
  title: "A filter that was cut off",
  explanation:
    "A semicolon or a batch separator stands between the statement and its WHERE. The first part is complete and runs " +
    "without a filter; the WHERE after it is a statement of its own that the engine refuses, when it is too late. In Oracle's " +
    "shell a blank line ends the entry: what stands before it waits in the buffer, and a / runs it without the rest.",
  remedy: "Remove the terminator before WHERE.",
  example: {
    dialect: "tsql",
    ddl: "CREATE TABLE mooring (mooring_id int PRIMARY KEY, fee decimal(10,2) NOT NULL);",
    dangerous: "UPDATE mooring SET fee = 0\nGO\nWHERE mooring_id = 3\nGO",
    sound: "UPDATE mooring SET fee = 0\nWHERE mooring_id = 3\nGO",
  },
  check(context) {
    const blank = blankLine(context);
    if (blank) return [blank];
    const { changes, next, slice, statement, line, region, previous } = context;
    if (isCutOff(context))
      return [
        {
          cause: `cut off ${previous?.start}`,
          // What mends the statement before it mends this one; alone nothing does.
          fix: { title: "Remove the terminator", edits: [] },
          message: `\`${firstLine(slice(statement.start, Math.min(statement.end, statement.start + 200)))}\` is cut off from the statement before it, which runs without it.`,
          because: ["it is no statement of its own, so the engine refuses it"],
          remedy: "Remove what stands between the two.",
        },
      ];
    if (next?.kind !== "unread") return [];
    const head = slice(next.start, Math.min(next.end, next.start + 200));
    if (!GOES_ON.test(head)) return [];
    const [change] = changes;
    if (!change || (change.result.filter !== "absent" && change.result.filter !== "hollow")) return [];
    const cut = statement.terminator === "batch" ? "batch separator" : "terminator";
    const between = slice(statement.end, next.start);
    const at = between.indexOf(";");
    const only = at >= 0 && between.slice(0, at).trim() === "";
    const edits = [{ ...region({ start: statement.end, end: statement.end + at + 1 }), text: "" }];
    return [
      {
        ...(only ? { fix: { title: "Remove the terminator", edits } } : {}),
        cause: `cut off ${statement.start}`,
        message: `The filter of this statement is cut off: \`${firstLine(head)}\` on line ${line(next.start)} belongs to it, and without it every row of \`${change.target}\` is hit.`,
        because: [`a ${cut} stands before it`, "what comes after it is no statement of its own"],
        remedy: `Remove the ${cut}: the statement then ends with \`${firstLine(head)}\`.`,
      },
    ];
  },
};

function firstLine(text: string): string {
  return text.split("\n", 1)[0].trim();
}

/** Whether what cannot be read goes on with a change that stands complete, and without a filter, before it. */
export function isCutOff({ tree, statement, previous, slice }: HazardContext): boolean {
  const before = previous?.tree;
  if (tree.kind !== "unread" || (before?.kind !== "update" && before?.kind !== "delete") || before.where) return false;
  return GOES_ON.test(slice(statement.start, Math.min(statement.end, statement.start + 10)));
}

const ENTRIES: ReadonlySet<string> = new Set([
  "update",
  "delete",
  "insert",
  "merge",
  "create-table",
  "create-view",
  "create-index",
  "alter-table",
]);

/** Many entries of a script with blank lines have one cause. */
const FOLDED: Pick<Draft, "cause" | "together"> = {
  cause: "blank lines",
  together: () =>
    "Oracle's shell ends these entries at the blank lines in them: what stands before is not run, and the rest is refused.",
};

/** A blank line inside a statement, where a shell runs the script (SQL*Plus User's Guide, SET SQLBLANKLINES). */
function blankLine({
  tree,
  dialect,
  timeline,
  statement,
  next,
  inCode,
  changes,
  slice,
  line,
  region,
}: HazardContext): Draft | null {
  if (dialect.lexical.client !== "sqlplus" || !timeline.shell || timeline.blankLines || inCode) return null;
  if (!ENTRIES.has(tree.kind)) return null;
  const text = slice(tree.start, tree.end);
  const kept = [...statement.comments];
  for (const found of text.matchAll(/\n[ \t\r]*\n/g)) {
    const at = tree.start + found.index;
    if (kept.length === statement.comments.length)
      walk(tree, (node) => void (node.kind === "literal" && node.type === "string" && kept.push(node)));
    if (kept.some(({ start, end }) => start <= at && at < end)) continue;
    const [change] = changes;
    const rest = text.slice(found.index).trim().split("\n", 1)[0];
    const runs = next?.tree.kind === "directive" && next.tree.text.trim() === "/" && statement.terminator === ";";
    const bare = change !== undefined && /^where\b/i.test(rest);
    return {
      fix: {
        title: "Remove the blank line",
        edits: [{ ...region({ start: at, end: at + found[0].length }), text: "\n" }],
      },
      weight: runs && bare ? "stop" : "ask",
      message:
        runs && bare
          ? `Oracle's shell ends this entry at the blank line before \`${rest}\` (line ${line(at + found[0].length)}), and the / after it runs what stands before: every row of \`${change.target}\` is hit.`
          : `Oracle's shell ends this entry at the blank line before \`${rest}\` (line ${line(at + found[0].length)}): what stands before it is not run, and the rest is refused.`,
      ...(runs && bare ? {} : { ...FOLDED, about: String(line(at)) }),
      because: ["a blank line ends an SQL statement there, unless SET SQLBLANKLINES ON is given"],
      remedy: "Remove the blank line, or SET SQLBLANKLINES ON at the head of the script.",
    };
  }
  return null;
}
