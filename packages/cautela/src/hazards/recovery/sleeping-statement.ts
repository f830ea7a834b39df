import { Trait } from "../../analysis/statement/traits.ts";
import type { Span } from "../../sql/nodes/tree.ts";
import { readScript } from "../../sql/reading/script.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/**
 * Destructive SQL that stands in a comment.
 *
 * @example
 * -- DELETE FROM mooring;   -- one selection away from running
 */
export const sleepingStatement: Hazard = {
  id: "sleeping-statement",
  family: "recovery",
  weight: "note",
  needs: Trait.comment,
  title: "A statement that sleeps in a comment",
  explanation:
    "A comment holds a whole DELETE or UPDATE without a filter, a TRUNCATE or a DROP. Whoever runs a selection, or takes the dashes away to look, runs it. Commented " +
    "SELECTs, filtered changes, a restore written down for later (INSERT … SELECT from the copy), and words in prose are quiet.",
  remedy: "Take it out of the script; the version before has it still.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2) NOT NULL);",
    dangerous: "-- DELETE FROM mooring;\nUPDATE mooring SET fee = 12 WHERE mooring_id = 3;",
    sound: "-- delete from the list what is paid\nUPDATE mooring SET fee = 12 WHERE mooring_id = 3;",
  },
  check(context) {
    const { statement, slice } = context;
    if (statement.comments.length === 0) return [];
    if (!statement.comments.some(({ start, end }) => WORDS.test(slice(start, end)))) return [];
    const drafts: Draft[] = turned(context);
    for (const run of runsOf(statement.comments, context)) {
      const text = run.map(({ start, end }) => bare(slice(start, end))).join("\n");
      if (text.length > 4000 || !/\b(?:delete|truncate|drop|update)\b/i.test(text)) continue;
      const found = destructive(text, context);
      if (!found) continue;
      const span = { start: run[0].start, end: run[run.length - 1].end };
      drafts.push({
        at: { statement: context.at.statement, region: context.region(span) },
        message: `A comment holds a statement that ${found}.`,
        because: ["it is one selection away from running"],
        remedy: "Take it out of the script.",
      });
    }
    return drafts;
  },
};

/** `-- DELETE` right above a SELECT: without the dashes, and without the word SELECT, it deletes what the query shows. */
function turned({ statement, tree, slice, region, at }: HazardContext): Draft[] {
  if (tree.kind !== "select" || tree.query.body.kind !== "select" || tree.query.body.from.length === 0) return [];
  const comment = statement.comments.findLast(({ end }) => end <= statement.start);
  if (!comment || !/^--\s*DELETE$/.test(slice(comment.start, comment.end).trim())) return [];
  if (slice(comment.end, statement.start).trim() !== "") return [];
  return [
    {
      at: { statement: at.statement, region: region(comment) },
      message: "A comment turns the SELECT below it into a DELETE.",
      because: ["it is one selection away from running"],
      remedy: "Take it out of the script.",
    },
  ];
}

const WORDS = /\b(?:delete|truncate|drop|update)\b/i;

/** Line comments that follow each other are one text. */
function runsOf(comments: readonly Span[], { slice }: HazardContext): Span[][] {
  const runs: Span[][] = [];
  let last: Span | null = null;
  for (const comment of comments) {
    const joins = last !== null && slice(last.end, comment.start).trim() === "" && comment.start - last.end < 200;
    if (joins) runs[runs.length - 1].push(comment);
    else runs.push([comment]);
    last = comment;
  }
  return runs;
}

/** A comment without its marks. */
function bare(comment: string): string {
  const text = comment.startsWith("/*")
    ? comment.slice(2, comment.endsWith("*/") ? -2 : undefined)
    : comment.replace(/^(?:--+|#+)/, "");
  return text.trim();
}

/** What the statement in a comment would do; null where there is none, or it does no harm. */
function destructive(text: string, { dialect }: HazardContext): string | null {
  // Prose reads like a statement only as long as nobody asks the grammar; a statement ends, stands alone, or begins a line.
  for (const part of text.split(";").flatMap((one) => one.split(HEADS))) {
    const piece = part.trim();
    const found = /^(?:delete|truncate|drop|update)\b/i.test(piece) ? what(piece, dialect.id) : null;
    if (found) return found;
  }
  return null;
}

/** Before a line that begins as a statement does. */
const HEADS =
  /^(?=[ \t]*(?:delete\s+from|truncate\s+table|drop\s+(?:table|database|schema)|update\s+\S+\s+set|select|insert\s+into)\b)/im;

function what(text: string, dialect: HazardContext["dialect"]["id"]): string | null {
  const { statements } = readScript(text, { dialect });
  const tree = statements[0]?.tree;
  if (!tree || statements.length > 1) return null;
  switch (tree.kind) {
    case "delete":
      return !tree.where && tree.using.length === 0 ? "deletes every row of a table" : null;
    case "update":
      return !tree.where && tree.from.length === 0 && tree.target.length === 1 && tree.target[0].kind === "table"
        ? "changes every row of a table"
        : null;
    case "truncate":
      // "truncate the list" is no statement.
      return /^truncate\s+table\b/i.test(text) || /^TRUNCATE\b/.test(text) ? "empties a table" : null;
    case "drop":
      return tree.object === "table" || tree.object === "schema" || tree.object === "database"
        ? `drops a ${tree.object}`
        : null;
    default:
      return null;
  }
}
