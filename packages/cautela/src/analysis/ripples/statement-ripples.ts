import type { Catalog, RelationObject } from "../../catalog/catalog.ts";
import { tableKey } from "../../catalog/keys.ts";
import { type Table, unknownTable } from "../../catalog/model.ts";
import { nameFrom } from "../../catalog/names.ts";
import type { Dialect, SessionState } from "../../sql/dialects/dialect.ts";
import type { Name, Statement } from "../../sql/nodes/tree.ts";
import type { Change } from "../changes/change.ts";
import type { Reach } from "../changes/reach.ts";
import { plainChange, type RowChange, rowChangesOf } from "../changes/row-change.ts";
import type { Write } from "../changes/write.ts";
import type { NodeIndex } from "../statement/node-index.ts";
import { readsRows } from "./code-effects.ts";
import { follow, followCall } from "./follow.ts";
import { valuesKey } from "./guards.ts";
import type { FiredRipple, Ripple, RippleEdge } from "./ripple.ts";

/** What is remembered of a catalog as long as it does not change. */
interface Memory {
  version: number;
  ties: number;
  routines: boolean;
  /** Tables of which nothing depends on other objects. */
  untied: Map<string, boolean>;
  quiet: WeakMap<Table, boolean>;
  ripples: Map<string, Ripple>;
}

const memories = new WeakMap<Catalog, Memory>();

function memoryOf(catalog: Catalog): Memory {
  const known = memories.get(catalog);
  if (known && known.version === catalog.version) return known;
  const same = known?.ties === catalog.ties;
  const memory: Memory = {
    version: catalog.version,
    ties: catalog.ties,
    routines: known && same ? known.routines : !catalog.objects("routine").next().done,
    untied: known && same ? known.untied : new Map(),
    quiet: known && same ? known.quiet : new WeakMap(),
    ripples: known && known.ripples.size === 0 ? known.ripples : new Map(),
  };
  memories.set(catalog, memory);
  return memory;
}

const NONE: readonly FiredRipple[] = [];

/** This many ripples are kept for the statements that are like an earlier one. */
const KEPT = 5000;

/** Everything that follows from a statement's own changes; a change from which nothing follows is left out. */
export function statementRipples(
  statement: Statement,
  changes: readonly { change: Change; result: { reach: Reach } }[],
  catalog: Catalog,
  dialect: Dialect,
  sessionOf: () => SessionState,
  found: () => NodeIndex,
): readonly FiredRipple[] {
  if (!CHANGES.has(statement.kind)) return NONE;
  const memory = memoryOf(catalog);
  const calls = memory.routines || statement.kind === "call-statement";
  const quiet = allQuiet(statement, changes, catalog, memory);
  if (quiet && !calls) return NONE;
  const session = sessionOf();
  const list: FiredRipple[] = [];
  if (!quiet) {
    for (const firing of rowChangesOf(statement, catalog, dialect, changes)) {
      const relation = firing.relation ?? stranger(firing.written, catalog);
      if (!relation || isQuiet(relation, catalog, memory)) continue;
      list.push({ firing, ripple: shared({ ...firing, relation }, catalog, session, memory) });
    }
  }
  for (const { name, procedure } of calls ? called(statement, found) : []) {
    const routine = catalog.routine(name);
    if (!routine || (!procedure && (routine.volatility === "immutable" || routine.volatility === "stable"))) continue;
    const ripple = followCall(name, catalog, session, !procedure && readsRows(statement));
    if (!ripple || (!procedure && ripple.nodes.length === 1 && ripple.notes.length === 0)) continue;
    list.push({ firing: plainChange(name, "update"), ripple });
  }
  return list;
}

/** A table that nobody has described, but to which the script itself has given a trigger, or a key that refers to it. */
function stranger(written: string, catalog: Catalog): Table | null {
  if (catalog.complete) return null;
  const { schema, table: name } = catalog.place(nameFrom(written));
  const key = tableKey(schema, name);
  return catalog.triggersOf(key).length > 0 || catalog.referencing(key).length > 0
    ? { ...unknownTable(written), schema, name }
    : null;
}

/** Whether anything can follow from a statement of this kind. */
export function mayRipple({ kind }: Statement): boolean {
  return CHANGES.has(kind);
}

const CHANGES: ReadonlySet<string> = new Set([
  "insert",
  "multi-insert",
  "update",
  "delete",
  "merge",
  "truncate",
  "copy",
  "select",
  "call-statement",
  "assign",
]);

/** The routines that a statement calls: by CALL and EXEC, and as functions in its expressions. */
function called(statement: Statement, found: () => NodeIndex): { name: Name; procedure: boolean }[] {
  const functions = found().calls.map(({ name }) => ({ name, procedure: false }));
  return statement.kind === "call-statement" && statement.name
    ? [{ name: statement.name, procedure: true }, ...functions]
    : functions;
}

/** Whether nothing follows from a statement: the usual case, told at once. */
function allQuiet(
  statement: Statement,
  changes: readonly { change: Change }[],
  catalog: Catalog,
  memory: Memory,
): boolean {
  switch (statement.kind) {
    case "insert": {
      const { target } = statement;
      return statement.with === null && target.kind === "table" && isQuietName(target.name, catalog, memory);
    }
    case "update":
    case "delete":
      return (
        statement.with === null &&
        changes.length > 0 &&
        changes.every(
          ({ change: { relation } }) =>
            relation?.source.kind === "table" && isQuietName(relation.source.name, catalog, memory),
        )
      );
    default:
      return false;
  }
}

function isQuietName(name: Name, catalog: Catalog, memory: Memory): boolean {
  const relation = catalog.resolveRelation(name);
  return relation !== undefined && isQuiet(relation, catalog, memory);
}

/** Whether a table has no trigger, rule, key that refers to it, partition, or column that the engine writes. */
function isQuiet(relation: RelationObject, catalog: Catalog, memory: Memory): boolean {
  if (relation.object === "view") return false;
  const known = memory.quiet.get(relation);
  if (known !== undefined) return known;
  const quiet =
    isUntied(tableKey(relation.schema, relation.name), catalog, memory) &&
    relation.columns.every(
      ({ onUpdate, expression, type, default: value }) =>
        onUpdate === null &&
        expression === null &&
        type !== "rowversion" &&
        type !== "timestamp" &&
        !(memory.routines && value?.includes("(")),
    );
  memory.quiet.set(relation, quiet);
  return quiet;
}

function isUntied(key: string, catalog: Catalog, memory: Memory): boolean {
  const known = memory.untied.get(key);
  if (known !== undefined) return known;
  const untied =
    catalog.triggersOf(key).length === 0 &&
    catalog.rulesOf(key).length === 0 &&
    catalog.referencing(key).length === 0 &&
    catalog.childrenOf(key).length === 0 &&
    !isTiedPartition(key, catalog, memory);
  memory.untied.set(key, untied);
  return untied;
}

/** Whether triggers and keys of the table that it is a partition of hold for it. */
function isTiedPartition(key: string, catalog: Catalog, memory: Memory): boolean {
  const parent = catalog.byKey(key)?.partitionOf;
  if (!parent) return false;
  return (
    catalog.triggersOf(parent).some(({ level }) => level === "row") ||
    catalog.referencing(parent).length > 0 ||
    isTiedPartition(parent, catalog, memory)
  );
}

/** The ripple of a change, found once for all statements that change the same columns of the same table. */
function shared(
  firing: RowChange & { relation: RelationObject },
  catalog: Catalog,
  session: SessionState,
  memory: Memory,
): Ripple {
  const { relation, action, columns, values, reach, cascades, only, replaced, manner } = firing;
  const key = JSON.stringify([
    tableKey(relation.schema, relation.name),
    action,
    columns,
    catalog.triggersOf(tableKey(relation.schema, relation.name)).length > 0 || relation.object === "view"
      ? valuesKey(values)
      : "",
    reach.bound === "none",
    cascades,
    only,
    replaced,
    manner,
    session,
  ]);
  const before = memory.ripples.get(key);
  if (before) return before;
  const ripple = follow(firing, catalog, session);
  if (memory.ripples.size >= KEPT) memory.ripples.clear();
  memory.ripples.set(key, ripple);
  return ripple;
}

/** The writes that a ripple adds to those that the statement names itself: one for each table and action. */
export function rippleWrites(fired: readonly FiredRipple[]): Write[] {
  const writes: Write[] = [];
  const said = new Set<string>();
  for (const { ripple } of fired) {
    for (const node of ripple.nodes) {
      if (node.id === 0 || !node.written || node.action === "call") continue;
      const edge = ripple.edges.find((one) => one.to === node.id);
      if (!edge) continue;
      const via = through(edge, ripple);
      const key = `${node.name}\u0000${node.action}\u0000${via}`;
      if (said.has(key)) continue;
      said.add(key);
      const write: Write = { table: node.name, action: node.action, via };
      if (node.columns && node.action !== "delete") write.columns = [...node.columns];
      writes.push(write);
    }
  }
  return writes;
}

/** What a place is written through; views, partitions and tables that inherit are written as what stands above them. */
function through(edge: RippleEdge, ripple: Ripple): string {
  const seen = new Set<number>();
  let at: RippleEdge | undefined = edge;
  while (at && (at.how === "view" || at.how === "partition") && !seen.has(at.from)) {
    const { from }: RippleEdge = at;
    seen.add(from);
    at = ripple.edges.find((one) => one.to === from);
  }
  if (!at || at.how === "view" || at.how === "partition") return "statement";
  return `${at.how === "cascade" ? "key" : at.how} ${at.name}`;
}

/** Whether the statement's own target keeps its rows: something else is written instead, or the write is refused. */
export function diverted({ ripple }: FiredRipple): boolean {
  const [root] = ripple.nodes;
  return root !== undefined && root.action !== "call" && (root.object === "view" || !root.written);
}
