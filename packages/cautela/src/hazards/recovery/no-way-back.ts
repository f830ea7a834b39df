import type { Destruction } from "../../analysis/script/copies.ts";
import { tableClass } from "../../analysis/script/table-class.ts";
import { type WayBack, wayBack } from "../../analysis/script/way-back.ts";
import type { Catalog } from "../../catalog/catalog.ts";
import { tableKey } from "../../catalog/keys.ts";
import type { Table } from "../../catalog/model.ts";
import type { Draft, FinishContext, Hazard, Weight } from "../hazard.ts";
import { listed, reachWords } from "../wording.ts";

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
    "back or left open. The weight grows with the reach and with what depends on the rows: one row or a part of a table that nothing refers to is a note, a part of one that others refer to a question, a whole table stops. Log and scratch data, " +
    "tables and columns of the script's own, and values that the filter itself names are quiet.",
  remedy:
    "Copy the rows first, under a new name, with the filter of the change; or say where a copy is kept: -- cautela: backup REASON.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL, fee numeric(10,2) NOT NULL);",
    dangerous: "DROP TABLE mooring;",
    sound: `CREATE TABLE mooring_before AS SELECT * FROM mooring WHERE status = 'left';
DELETE FROM mooring WHERE status = 'left';`,
  },
  finish(context) {
    const drafts: Draft[] = [];
    for (const lost of context.timeline.destructions) {
      if (lost.softener !== null || tableClass(lost.shown, context.policy) !== "business") continue;
      const way = wayBack(lost, context.timeline);
      if (way.kind === "kept" || way.kind === "thin") continue;
      const trial = way.kind === "trial";
      // A trial run is what careful people do.
      if (trial && (lost.reach.bound === "one" || lost.action === "update")) continue;
      const weight = trial ? "note" : weightOf(lost, context);
      const draft = draftOf(lost, weight, way, context);
      // One note in a script for values, and one for rows, is enough.
      if (weight === "note") draft.cause = lost.action === "update" ? "values" : "rows";
      drafts.push(draft);
    }
    return drafts;
  },
};

function draftOf(lost: Destruction, weight: Weight, way: WayBack, context: FinishContext): Draft {
  return {
    at: lost.at,
    weight,
    message: `${messageOf(lost)}, and nothing keeps what was there.`,
    because: [
      "no copy of it stands before, and no comment says where one is kept (-- cautela: backup REASON)",
      ...(way.kind === "trial" ? [way.why] : []),
      ...(lost.span?.end === "commit" ? ["the transaction around it is committed, so it brings nothing back"] : []),
      ...(lost.ripples.length > 0
        ? [`with it, rows change in ${listed([...new Set(lost.ripples.map(({ name }) => name))].slice(0, 6))}`]
        : []),
    ],
    remedy:
      lost.action === "drop" ? "Keep it under another name, or dump it first." : `Copy first: ${copyOf(lost, context)}`,
  };
}

/** How heavy a destruction without a way back is. */
function weightOf({ action, reach, table, ripples }: Destruction, { catalog }: FinishContext): Weight {
  if (action === "drop") return table === null || table.rows === 0 ? "ask" : "stop";
  if (action === "replace" || action === "drop-partition") return action === "replace" ? "note" : "ask";
  switch (reach.bound) {
    case "one":
      return "note";
    case "every":
    case "multiplied":
      return "stop";
    default:
      // Clearing or overwriting a part on purpose is everyday work, as long as nothing else depends on it.
      if (action === "update" || reach.bound === "few") return "note";
      return ripples.length > 0 || isReferenced(table, catalog) ? "ask" : "note";
  }
}

function isReferenced(table: Table | null, catalog: Catalog | null): boolean {
  return table !== null && (catalog?.isReferred(tableKey(table.schema, table.name)) ?? false);
}

const VERBS: Record<Destruction["action"], string> = {
  delete: "deletes",
  truncate: "deletes",
  update: "overwrites",
  drop: "drops",
  replace: "replaces",
  "drop-partition": "drops a partition of",
};

function messageOf({ action, shown, reach, columns }: Destruction): string {
  if (action === "drop")
    return `This drops \`${shown}\`${reach.rows === undefined ? "" : ` with about ${reach.rows} rows`}`;
  if (action === "drop-partition") return `This drops a partition of \`${shown}\` with its rows`;
  if (action === "replace") return `Rows of \`${shown}\` with the same key are replaced`;
  if (action === "update")
    return `This overwrites ${listed((columns ?? []).slice(0, 6))} of \`${shown}\` (${reachWords(reach)})`;
  return `This ${VERBS[action]} rows of \`${shown}\` (${reachWords(reach)})`;
}

function copyOf(lost: Destruction, { dialect }: FinishContext): string {
  const bare = lost.shown.slice(lost.shown.lastIndexOf(".") + 1);
  const where = lost.filterText === "" || lost.filterText === "MERGE" ? "" : ` WHERE ${lost.filterText}`;
  const text = dialect.engine.copiesByInto
    ? `SELECT * INTO ${bare}_before FROM ${lost.shown}${where}`
    : `CREATE TABLE ${bare}_before AS SELECT * FROM ${lost.shown}${where}`;
  return text.length > 160 ? `${text.slice(0, 159)}…` : text;
}
