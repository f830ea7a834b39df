import { schemaProblem } from "../../schemas/schema-problem.ts";
import type { DialectId } from "../../sql/dialects/dialect.ts";
import { isDialectId } from "../../sql/dialects/index.ts";
import { CautelaError } from "../../text/cautela-error.ts";
import { Catalog } from "../catalog.ts";
import {
  type CatalogObject,
  type Column,
  emptyTable,
  emptyView,
  type ObjectKind,
  plainColumn,
  type Rule,
  type Table,
  type Trigger,
  type TypeObject,
} from "../model.ts";

/**
 * A catalog as JSON, version 1 of the format `cautela.catalog` (`catalog.schema.json`). Objects stand
 * in the order of their kind, schema, table and name, so that two snapshots can be compared line by
 * line; what has its ordinary value is left out.
 */
export interface Snapshot {
  format: "cautela.catalog";
  version: 1;
  dialect: DialectId;
  searchPath: readonly string[];
  objects: Record<string, unknown>[];
}

const KINDS: readonly ObjectKind[] = ["table", "view", "trigger", "rule", "routine", "sequence", "synonym", "type"];

/** The values that a snapshot leaves out, by kind of object. */
const ORDINARY: Record<ObjectKind, Record<string, unknown>> = {
  table: { ...emptyTable("", "") } as Record<string, unknown>,
  view: { ...emptyView("", "") } as Record<string, unknown>,
  trigger: { columns: null, condition: null, enabled: "origin", order: null, calls: null, body: null },
  rule: { instead: false, condition: null, body: null, enabled: true },
  routine: { arguments: null, volatility: null, definition: null },
  sequence: {},
  synonym: {},
  type: { enumeration: null, columns: null, base: null, required: false, checks: [] },
};
/** The fields that every object of a kind has, in the order in which they are written. */
const FIRST: Record<ObjectKind, readonly string[]> = {
  table: [],
  view: [],
  trigger: ["table", "timing", "events", "level"],
  rule: ["table", "event"],
  routine: ["kind", "language"],
  sequence: [],
  synonym: ["target"],
  type: [],
};
const ORDINARY_COLUMN = { ...plainColumn("") } as Record<string, unknown>;
const ORDINARY_KEY: Record<string, unknown> = { name: null, partial: false, where: null };
const ORDINARY_FOREIGN_KEY: Record<string, unknown> = {
  name: null,
  referenced: [],
  onDelete: "no action",
  onUpdate: "no action",
  match: "simple",
  deferrable: false,
  initiallyDeferred: false,
  enabled: true,
  trusted: true,
};
const ORDINARY_CHECK: Record<string, unknown> = { name: null, enabled: true };

/**
 * Writes a catalog out, without loss and in a stable order.
 *
 * @example
 * JSON.stringify(toSnapshot(catalogFromDdl(ddl, { dialect: "sqlite" })), null, 1)
 */
export function toSnapshot(catalog: Catalog): Snapshot {
  const objects: Record<string, unknown>[] = [];
  for (const kind of KINDS) {
    const list = [...catalog.objects(kind)] as CatalogObject[];
    for (const object of list.sort(byName)) objects.push(lean(object));
  }
  return {
    format: "cautela.catalog",
    version: 1,
    dialect: catalog.dialect,
    searchPath: [...catalog.searchPath],
    objects,
  };
}

function sortKey(object: CatalogObject): string {
  const table = object.object === "trigger" || object.object === "rule" ? object.table : "";
  return `${object.schema}\u0000${table}\u0000${object.name}`;
}

function byName(a: CatalogObject, b: CatalogObject): number {
  const left = sortKey(a);
  const right = sortKey(b);
  return left < right ? -1 : left > right ? 1 : 0;
}

function lean(object: CatalogObject): Record<string, unknown> {
  const whole: Record<string, unknown> = { ...object };
  if (object.object === "table") {
    whole.columns = object.columns.map((column) => part({ ...column }, ["name"], ORDINARY_COLUMN));
    whole.primaryKey = object.primaryKey && part({ ...object.primaryKey }, ["columns"], ORDINARY_KEY);
    whole.uniqueKeys = object.uniqueKeys.map((key) => part({ ...key }, ["columns"], ORDINARY_KEY));
    whole.foreignKeys = object.foreignKeys.map((key) =>
      part({ ...key, table: shownKey(key.table) }, ["columns", "table"], ORDINARY_FOREIGN_KEY),
    );
    whole.checks = object.checks.map((check) => part({ ...check }, ["condition"], ORDINARY_CHECK));
    whole.inherits = object.inherits.map(shownKey);
    whole.partitionOf = object.partitionOf && shownKey(object.partitionOf);
    // Only a script knows how it has filled a table.
    whole.built = [];
  } else if (object.object === "trigger") {
    whole.table = shownKey(object.table);
    whole.calls = object.calls && shownKey(object.calls);
  } else if (object.object === "rule") whole.table = shownKey(object.table);
  else if (object.object === "type")
    whole.columns = object.columns?.map((column) => part({ ...column }, ["name"], ORDINARY_COLUMN)) ?? null;
  else if (object.object === "synonym") whole.target = shownKey(object.target);
  return part(whole, ["object", "schema", "name", ...FIRST[object.object]], ORDINARY[object.object]);
}

/** A key as a snapshot writes it: schema and name in a list. */
function shownKey(key: string): string[] {
  return key.split("\u0000");
}

/** The fields of an object in a fixed order, those with their ordinary value left out. */
function part(
  whole: Record<string, unknown>,
  first: readonly string[],
  ordinary: Record<string, unknown>,
): Record<string, unknown> {
  const kept: Record<string, unknown> = {};
  for (const key of first) kept[key] = whole[key];
  for (const [key, usual] of Object.entries(ordinary)) {
    if (key in kept || JSON.stringify(usual) === JSON.stringify(whole[key])) continue;
    kept[key] = whole[key];
  }
  return kept;
}

/**
 * Reads a snapshot, as the object or as its JSON text.
 *
 * @throws CautelaError with one clear line when it is none, is damaged or is of a newer version
 */
export function catalogFromSnapshot(json: unknown): Catalog {
  const snapshot = typeof json === "string" ? parsed(json) : json;
  if (!isRecord(snapshot) || snapshot.format !== "cautela.catalog")
    throw new CautelaError('this is no catalog snapshot: it has no "format": "cautela.catalog"');
  if (snapshot.version !== 1)
    throw new CautelaError(`this snapshot is of version ${String(snapshot.version)}; version 1 can be read`);
  const { dialect } = snapshot;
  if (typeof dialect !== "string" || !isDialectId(dialect))
    throw new CautelaError(`the snapshot's dialect ${JSON.stringify(dialect)} is not known`);
  const path = Array.isArray(snapshot.searchPath)
    ? snapshot.searchPath.filter((one) => typeof one === "string")
    : undefined;
  const problem = schemaProblem("catalog", snapshot);
  if (problem !== null) throw new CautelaError(`the snapshot is damaged: ${problem}`);
  const catalog = new Catalog(dialect, path && path.length > 0 ? { searchPath: path } : {});
  if (!Array.isArray(snapshot.objects)) throw new CautelaError("the snapshot has no list of objects");
  snapshot.objects.forEach((object, i) => {
    catalog.put(full(object, i));
  });
  return catalog;
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new CautelaError(`the snapshot is damaged: ${error instanceof Error ? error.message : String(error)}`);
  }
}

function isRecord(value: unknown): value is Record<string, unknown> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

function full(object: unknown, at: number): CatalogObject {
  const broken = (what: string): never => {
    throw new CautelaError(`the snapshot is damaged: object ${at + 1} ${what}`);
  };
  if (!isRecord(object)) return broken("is no object");
  const kind = KINDS.find((one) => one === object.object);
  if (kind === undefined) return broken(`is of an unknown kind ${JSON.stringify(object.object)}`);
  if (typeof object.name !== "string" || typeof object.schema !== "string") return broken("has no schema or no name");
  const whole: Record<string, unknown> = { ...ORDINARY[kind], ...object };
  const keyOf = (value: unknown): string => {
    if (!Array.isArray(value) || value.length !== 2) return broken("names a table that is no list of schema and name");
    return `${String(value[0])}\u0000${String(value[1])}`;
  };
  const listOf = (value: unknown): Record<string, unknown>[] =>
    Array.isArray(value) && value.every(isRecord) ? value : broken("holds a list that is none");
  switch (kind) {
    case "table": {
      const table = whole as unknown as Table;
      return {
        ...table,
        columns: listOf(whole.columns).map((one) => ({ ...ORDINARY_COLUMN, ...one }) as unknown as Column),
        primaryKey:
          whole.primaryKey === null
            ? null
            : ({ ...ORDINARY_KEY, ...(whole.primaryKey as object) } as unknown as Table["primaryKey"]),
        uniqueKeys: listOf(whole.uniqueKeys).map(
          (one) => ({ ...ORDINARY_KEY, ...one }) as unknown as Table["uniqueKeys"][number],
        ),
        foreignKeys: listOf(whole.foreignKeys).map(
          (one) =>
            ({ ...ORDINARY_FOREIGN_KEY, ...one, table: keyOf(one.table) }) as unknown as Table["foreignKeys"][number],
        ),
        checks: listOf(whole.checks).map(
          (one) => ({ ...ORDINARY_CHECK, ...one }) as unknown as Table["checks"][number],
        ),
        inherits: (whole.inherits as unknown[]).map(keyOf),
        partitionOf: whole.partitionOf === null ? null : keyOf(whole.partitionOf),
      };
    }
    case "trigger":
      return {
        ...(whole as unknown as Trigger),
        table: keyOf(whole.table),
        calls: whole.calls === null ? null : keyOf(whole.calls),
      };
    case "type":
      return {
        ...(whole as unknown as TypeObject),
        columns:
          whole.columns === null
            ? null
            : listOf(whole.columns).map((one) => ({ ...ORDINARY_COLUMN, ...one }) as unknown as Column),
      };
    case "rule":
      return { ...(whole as unknown as Rule), table: keyOf(whole.table) };
    case "synonym":
      return { object: "synonym", schema: object.schema, name: object.name, target: keyOf(whole.target) };
    default:
      return whole as unknown as CatalogObject;
  }
}
