import type { Destruction } from "../../analysis/script/copies.ts";
import { classed, tableClass } from "../../analysis/script/table-class.ts";
import { type WayBack, wayBack } from "../../analysis/script/way-back.ts";
import { spelledColumn } from "../../catalog/columns.ts";
import { parted } from "../../catalog/names.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import { copyStatement } from "../../writing/copy-statement.ts";
import type { Draft, FinishContext, Hazard, Weight } from "../hazard.ts";
import { lighterByName } from "../lighter.ts";
import { listed, listedShort, reachWords, rowCount } from "../wording.ts";

/**
 * Data is destroyed, and nothing before keeps it.
 *
 * @example
 * DELETE FROM mooring WHERE status = 'left';   -- no copy before, and COMMIT at the end
 */
export const noWayBack: Hazard = {
  id: "no-way-back",
  family: "recovery",
  weight: "stop",
  title: "No way back",
  explanation:
    "The statement deletes rows, empties or drops a table, or overwrites values, and nothing before it keeps what was there: no copy by CREATE TABLE AS, " +
    "SELECT INTO or INSERT … SELECT, no returned rows that go into a table, no comment or policy that says where a copy is kept, no transaction that is rolled " +
    "back or left open. A whole table that goes for good is a stop; tables that the script drops and makes again are one question, as is a script that does nothing but drop. " +
    "A part of a table is a note, told once in a script, and a question where rows of other business tables go with it. A name that speaks of a log, a cache or scratch data makes it lighter; " +
    "what the policy calls so, tables and columns of the script's own, and values that the filter itself names are quiet.",
  remedy:
    "Copy the rows first, under a new name, with the filter of the change; or say where a copy is kept: -- cautela: backup REASON.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, fee numeric(10,2) NOT NULL);",
    dangerous: "DROP TABLE mooring;",
    sound: `CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE status = 'left';
DELETE FROM mooring WHERE status = 'left';`,
  },
  lasting: true,
  finish(context) {
    const { timeline, returns, policy } = context;
    const drafts: Draft[] = [];
    for (const lost of timeline.destructions) {
      const named = classed(lost.shown, policy);
      if (lost.softener !== null || (named.said && named.is !== "business" && named.is !== "single-row")) continue;
      const way = wayBack(lost, timeline);
      if (way.kind === "kept" || way.kind === "thin") continue;
      const trial = way.kind === "trial";
      // A trial run is what careful people do.
      if (trial && (lost.reach.bound === "one" || lost.action === "update")) continue;
      // Values of a table that only its name calls minor are not worth a word; its rows are.
      if (named.is !== "business" && !named.said && lost.action === "update") continue;
      // What a first installation drops to make it again is not there.
      if (lost.action === "drop" && timeline.install !== null && returns.isMadeAfter(lost.key, lost.at.statement))
        continue;
      // Rows that come back are told with the statement that empties the table.
      const whole = lost.reach.bound === "every" && (lost.action === "delete" || lost.action === "truncate");
      if (whole && returns.refillAfter(lost.key, lost.at.statement)) continue;
      drafts.push(lost.action === "drop" ? dropDraft(lost, way, context) : rowsDraft(lost, way, context));
    }
    return drafts;
  },
};

/** Rows that are deleted or overwritten. */
function rowsDraft(lost: Destruction, way: WayBack, context: FinishContext): Draft {
  const usual = way.kind === "trial" ? "note" : weightOf(lost, context);
  const lighter = lighterByName(lost.shown, usual, context.policy);
  const weight = lighter?.weight ?? usual;
  const update = lost.action === "update";
  if (lost.action === "switch" || lost.action === "exchange") return movedDraft(lost, weight);
  const draft: Draft = {
    at: lost.at,
    weight,
    message: `${messageOf(lost)}, and nothing keeps what was there.`,
    because: [...taking(lost), ...reasons(lost, way, lighter?.why)],
    remedy: copyFirst(lost, context),
  };
  if (weight !== "note") return draft;
  // One note in a script for values, and one for rows, is enough.
  return {
    ...draft,
    cause: update ? "values" : "rows",
    about: lost.shown,
    together: (tables) =>
      `${update ? "Values" : "Rows"} of ${listedShort(tables)} are ${update ? "overwritten" : "deleted"}, and nothing keeps what was there.`,
  };
}

/** Rows that go into another table as they are, with what stands there. */
function movedDraft({ at, shown, action }: Destruction, weight: Weight): Draft {
  const [from, to] = shown.split(" → ");
  const exchange = action === "exchange";
  return {
    at,
    weight,
    message: exchange
      ? `Rows of \`${from}\` change places with those of \`${to}\`.`
      : `The rows of \`${from}\` go into \`${to}\`; what is switched is empty afterwards.`,
    because: [exchange ? "EXCHANGE PARTITION moves no data, only names" : "SWITCH moves no data, only names"],
    remedy: `Keep \`${to}\` until \`${from}\` has proved right.`,
  };
}

/** One new row takes every row with one of its keys. */
function taking({ action, table }: Destruction): string[] {
  const keys = table ? table.uniqueKeys.length + (table.primaryKey ? 1 : 0) : 0;
  if (action !== "replace" || keys < 2) return [];
  return [`\`${table?.name}\` has ${keys} keys: one new row may take several others with it`];
}

/** A table, or a schema, that is dropped. */
function dropDraft(lost: Destruction, way: WayBack, context: FinishContext): Draft {
  const { returns, moves, policy, timeline, known } = context;
  const { key, shown, at } = lost;
  const again = returns.isMadeAfter(key, at.statement);
  const moved = moves.hasTakenFrom(key);
  const left = moved && lost.table && !lost.table.partial ? moves.leftIn(key, lost.table) : [];
  const partly = moves.hasTakenSomeFrom(key);
  const only = !known && timeline.dropsOnly && timeline.dropped >= DROPS_ONLY;
  const usual: Weight =
    way.kind === "trial" || (moved && left.length === 0)
      ? "note"
      : moved || partly || again || only || SAYS_COPY.test(parted(shown))
        ? "ask"
        : lost.table?.rows === 0
          ? "note"
          : "stop";
  const lighter = lighterByName(shown, usual, policy);
  const why = moved
    ? `values of it went into other tables before${left.length > 0 ? `, but none of ${listedShort(left)}` : ""}`
    : partly
      ? "only some of its rows went into another table before"
      : again
        ? "the script makes it again, and puts nothing back of what it held"
        : only
          ? "the script does nothing but drop what is there"
          : lighter?.why;
  const verb = again ? "dropped and made again" : "dropped";
  const end = again ? "without the rows that were there" : "and nothing keeps what was there";
  return {
    at,
    weight: lighter?.weight ?? usual,
    message: again ? `This drops \`${shown}\`, which is made again ${end}.` : `${messageOf(lost)}, ${end}.`,
    because: reasons(lost, way, why),
    remedy: again
      ? "Keep the rows under another name first, and put them back."
      : "Keep it under another name, or dump it first.",
    cause: `${verb}${partly ? " after some rows were moved" : moved ? " after its values were moved" : ""}`,
    about: shown,
    together: (tables) => `${listedShort(tables)} are ${verb}${again ? "" : ","} ${end}.`,
  };
}

function reasons(lost: Destruction, way: WayBack, first: string | undefined): string[] {
  return [
    ...(first === undefined ? [] : [first]),
    "no copy of it stands before, and no comment says where one is kept (-- cautela: backup REASON)",
    ...(way.kind === "trial" ? [way.why] : []),
    ...(lost.span?.end === "commit" && !lost.span.implied
      ? ["the transaction around it is committed, so it brings nothing back"]
      : []),
    ...(lost.ripples.length > 0
      ? [`with it, rows change in ${listed([...new Set(lost.ripples.map(({ name }) => name))].slice(0, 6))}`]
      : []),
  ];
}

/** A script that drops this many tables and does nothing else is there to drop them. */
const DROPS_ONLY = 3;

const SAYS_COPY = /(?:^|[._])(?:bak|backup|old|before|copy|save|saved|orig)(?:[_\d]|$)/i;

/** How heavy a loss of rows or values without a way back is. */
function weightOf({ action, reach, ripples }: Destruction, { policy }: FinishContext): Weight {
  if (action === "replace") return "note";
  if (action === "drop-partition" || action === "flashback") return "ask";
  if (action === "switch" || action === "exchange") return "note";
  switch (reach.bound) {
    case "one":
      return "note";
    // MERGE … WHEN NOT MATCHED BY SOURCE: every row that the source lacks.
    case "unknown":
      return "ask";
    case "every":
    case "multiplied":
      return "stop";
    default:
      // Clearing or overwriting a part on purpose is everyday work, unless rows of other tables go with it.
      return ripples.some((one) => one.action === "delete" && tableClass(one.name, policy) === "business")
        ? "ask"
        : "note";
  }
}

const VERBS: Record<Destruction["action"], string> = {
  delete: "deletes",
  truncate: "deletes",
  update: "overwrites",
  drop: "drops",
  replace: "replaces",
  "drop-partition": "drops a partition of",
  switch: "moves",
  exchange: "exchanges",
  flashback: "turns back",
};

function messageOf(lost: Destruction): string {
  const { action, shown, reach } = lost;
  if (action === "drop")
    return `This drops \`${shown}\`${reach.rows === undefined ? "" : ` with about ${rowCount(reach.rows)}`}`;
  if (action === "flashback") return `This takes back every change of \`${shown}\` since then`;
  if (action === "drop-partition") return `This drops a partition of \`${shown}\` with its rows`;
  if (action === "replace") return `Rows of \`${shown}\` with the same key are replaced`;
  if (action === "update") return `This overwrites ${listed(overwritten(lost))} of \`${shown}\` (${reachWords(reach)})`;
  return `This ${VERBS[action]} rows of \`${shown}\` (${reachWords(reach)})`;
}

/** The columns that an UPDATE writes, as the catalog spells them, or else as the statement does; the first six. */
function overwritten({ columns, table, source }: Destruction): string[] {
  const tree = source?.change.statement;
  const written = new Map<string, string>();
  if (!table && tree?.kind === "update")
    for (const { targets } of tree.assignments)
      for (const one of targets) {
        if (one.kind !== "column") continue;
        const { text } = one.path[one.path.length - 1];
        written.set(text.toLowerCase(), text);
      }
  return (columns ?? []).slice(0, 6).map((column) => written.get(column.toLowerCase()) ?? spelledColumn(table, column));
}

/** What to do first: the statement that keeps exactly those rows, where one can be written. */
function copyFirst(lost: Destruction, { dialect }: FinishContext): string {
  const { source, span, at, shown } = lost;
  const copy = source && copyStatement(source, source.change, sqlWriter(dialect), lost.reach.bound === "every");
  if (!copy || copy.length > LONGEST) return `Keep a copy of those rows of \`${shown}\` first.`;
  // DDL would commit what the transaction has done so far.
  const before =
    dialect.run.structureCommits && span && !span.implied && span.at.statement < at.statement && span.at.region.line > 0
      ? `, before the transaction of line ${span.at.region.line} begins`
      : "";
  return `Copy first${before}: ${copy}`;
}

/** A statement that is longer than this is no remedy that anybody reads. */
const LONGEST = 500;
