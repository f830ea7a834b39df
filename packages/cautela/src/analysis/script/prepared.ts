import { tableKey } from "../../catalog/keys.ts";
import type { Table } from "../../catalog/model.ts";
import type { Expr, Query, Source } from "../../sql/nodes/tree.ts";
import type { Slice } from "../../text/slice.ts";
import { assignedColumns } from "../changes/assigned-columns.ts";
import type { Change } from "../changes/change.ts";
import type { JudgedChange } from "../changes/judged-change.ts";
import { conjuncts } from "../changes/reach.ts";
import { filterParts, isTie } from "../conditions/conditions.ts";
import { type FilterFact, filterFacts, implied } from "../conditions/filter-facts.ts";

/** Which rows of a table a change has met, as far as rows of a table that it refers to are concerned. */
export interface Coverage {
  every: boolean;
  /** The conditions on its own columns, when it has no others. */
  own: readonly FilterFact[] | null;
  /** The tables that its filter asks, by their bare names in small letters, with the conditions on their rows. */
  asked: readonly { table: string; facts: readonly FilterFact[] }[];
  /** The columns that an UPDATE has given other values, in small letters; null: the rows are gone. */
  moved: ReadonlySet<string> | null;
}

/** What a change has met of a table that refers to others; null where nobody will ask. */
export function coverageOf({ change, result }: JudgedChange, slice: Slice): Coverage | null {
  if (!change.table || change.table.foreignKeys.length === 0) return null;
  const { statement } = change;
  const moved =
    statement.kind === "update"
      ? new Set(assignedColumns(statement.assignments).map((column) => column.toLowerCase()))
      : null;
  if (result.reach.bound === "every") return { every: true, own: null, asked: [], moved };
  const parts = filterParts(change.conditions);
  const asked: { table: string; facts: readonly FilterFact[] }[] = [];
  const own = parts.filter((part) => !isTie(part) && part.kind !== "exists" && !(part.kind === "in" && part.query));
  for (const part of parts) {
    const query = part.kind === "exists" ? part.query : part.kind === "in" ? part.query : null;
    if (query && !(part.kind === "in" && part.negated)) asked.push(...askedBy(query, slice));
  }
  const sources =
    statement.kind === "truncate"
      ? []
      : "using" in statement
        ? [...statement.from, ...statement.using]
        : statement.from;
  for (const table of tablesOf(sources)) asked.push({ table, facts: factsOf(own, slice) });
  return { every: false, own: own.length === parts.length ? factsOf(own, slice) : null, asked, moved };
}

/** The conditions of a change on rows that others may refer to. */
export function wantedOf(change: Change | null, slice: Slice): readonly FilterFact[] {
  return change
    ? factsOf(
        filterParts(change.conditions).filter((part) => !isTie(part)),
        slice,
      )
    : [];
}

/**
 * Whether one of several changes of the script clears or moves the rows of a child table that refer to those which a change
 * of the parent meets (`wantedOf`): it meets every row, or its filter covers them.
 *
 * @example
 * // DELETE FROM pilotage WHERE mooring_id = 3;   prepares   DELETE FROM mooring WHERE mooring_id = 3;
 */
export function preparing<Past extends { covers: Coverage | null }>(
  child: Table,
  parent: Table,
  wanted: readonly FilterFact[],
  past: readonly Past[],
): Past | undefined {
  const own = tableKey(parent.schema, parent.name);
  const keys = child.foreignKeys.filter(({ table }) => table === own);
  return past.find(({ covers }) => {
    if (!covers) return false;
    const { moved } = covers;
    // What writes other columns leaves the reference as it is.
    if (moved && !keys.some(({ columns }) => columns.some((column) => moved.has(column.toLowerCase())))) return false;
    if (covers.every) return true;
    if (
      covers.asked.some(
        ({ table, facts }) => table === parent.name.toLowerCase() && facts.every((one) => implied(one, wanted)),
      )
    )
      return true;
    return (
      covers.own !== null &&
      covers.own.length > 0 &&
      child.foreignKeys.some((key) => keysCovered(key, parent, covers.own ?? [], wanted))
    );
  });
}

function keysCovered(
  { columns, referenced }: Table["foreignKeys"][number],
  parent: Table,
  own: readonly FilterFact[],
  wanted: readonly FilterFact[],
): boolean {
  const to = referenced.length > 0 ? referenced : (parent.primaryKey?.columns ?? []);
  return own.every(({ column, values }) => {
    const i = columns.findIndex((name) => name.toLowerCase() === column);
    const want = i < 0 ? undefined : wanted.find((one) => one.column === to[i]?.toLowerCase());
    return values !== null && (want?.values?.every((value) => values.includes(value)) ?? false);
  });
}

function factsOf(parts: readonly Expr[], slice: Slice): readonly FilterFact[] {
  return parts.flatMap((part) => filterFacts(part, slice));
}

/** The tables of a subquery with the conditions on their rows, those that tie it to the outside left out. */
function askedBy({ body }: Query, slice: Slice): { table: string; facts: readonly FilterFact[] }[] {
  if (body.kind !== "select" || body.groupBy.length > 0 || body.top) return [];
  const parts = body.where ? conjuncts(body.where).filter((part) => !isTie(part)) : [];
  const facts = factsOf(parts, slice);
  return tablesOf(body.from).map((table) => ({ table, facts }));
}

function tablesOf(sources: readonly Source[]): string[] {
  return sources.flatMap((source) =>
    source.kind === "table"
      ? [source.name.parts[source.name.parts.length - 1].text.toLowerCase()]
      : source.kind === "joined"
        ? tablesOf([source.first, ...source.joins.map((join) => join.source)])
        : [],
  );
}
