import type { Catalog, CatalogObject, Column, Table } from "cautela";
import { keyParts } from "cautela/tools";

/** One object of the catalog as the page lists it. */
export interface CatalogEntry {
  kind: "table" | "view" | "trigger" | "rule" | "routine";
  name: string;
  /** What a reader looks for first: "7 columns, key mooring_id, about 240 rows". */
  facts: string;
  rows: { name: string; detail: string }[];
  /** Its query or body, as text. */
  text: string;
}

const ORDER: CatalogEntry["kind"][] = ["table", "view", "trigger", "rule", "routine"];

/** The objects of a catalog, tables first, each kind by name. */
export function catalogEntries(catalog: Catalog): CatalogEntry[] {
  const entries = ORDER.flatMap((kind) => [...catalog.objects(kind)].map((object) => entry(object, catalog)));
  const place = (one: CatalogEntry): number => ORDER.indexOf(one.kind);
  return entries.sort((a, b) => place(a) - place(b) || (a.name < b.name ? -1 : 1));
}

const bare = (key: string): string => keyParts(key).name;
const counted = (count: number, word: string): string => `${count} ${word}${count === 1 ? "" : "s"}`;

function entry(object: CatalogObject, catalog: Catalog): CatalogEntry {
  switch (object.object) {
    case "table":
      return tableEntry(object, catalog);
    case "view":
      return {
        kind: "view",
        name: object.name,
        facts: [
          object.materialized ? "materialized" : "",
          object.columns ? counted(object.columns.length, "column") : "",
          object.checkOption ? `${object.checkOption} check option` : "",
        ]
          .filter((fact) => fact !== "")
          .join(", "),
        rows: (object.columns ?? []).map((name) => ({ name, detail: "" })),
        text: object.query ?? "",
      };
    case "trigger":
      return {
        kind: "trigger",
        name: object.name,
        facts: `${object.timing} ${object.events.join(" or ")} on ${bare(object.table)}, each ${object.level}${object.enabled === "off" ? ", switched off" : ""}`,
        rows: object.columns ? [{ name: "only for", detail: object.columns.join(", ") }] : [],
        text: object.calls ? `calls ${bare(object.calls)}` : (object.body ?? ""),
      };
    case "rule":
      return {
        kind: "rule",
        name: object.name,
        facts: `on ${object.event} of ${bare(object.table)}${object.instead ? ", instead" : ""}`,
        rows: [],
        text: object.body ?? "nothing",
      };
    default:
      return {
        kind: "routine",
        name: object.name,
        facts:
          object.object === "routine"
            ? `${object.kind} (${object.arguments?.join(", ") ?? ""}), ${object.language}`
            : "",
        rows: [],
        text: object.object === "routine" ? (object.definition ?? "") : "",
      };
  }
}

function tableEntry(table: Table, catalog: Catalog): CatalogEntry {
  const rows = table.columns.map((column) => ({ name: column.name, detail: columnDetail(column) }));
  for (const key of table.uniqueKeys)
    rows.push({ name: "unique", detail: `${key.columns.join(", ")}${key.partial ? " (part of the rows)" : ""}` });
  for (const key of table.foreignKeys) {
    const actions = [
      key.onDelete === "no action" ? "" : `on delete ${key.onDelete}`,
      key.onUpdate === "no action" ? "" : `on update ${key.onUpdate}`,
    ];
    rows.push({
      name: "refers to",
      detail: [`${bare(key.table)} by ${key.columns.join(", ")}`, ...actions].filter((one) => one !== "").join(", "),
    });
  }
  for (const check of table.checks) rows.push({ name: "check", detail: check.condition });
  for (const trigger of catalog.triggersOf(`${table.schema}\u0000${table.name}`))
    rows.push({ name: "trigger", detail: `${trigger.name}, ${trigger.timing} ${trigger.events.join(" or ")}` });
  const facts = [
    counted(table.columns.length, "column"),
    table.primaryKey ? `key ${table.primaryKey.columns.join(", ")}` : "no key",
  ];
  if (table.rows !== null) facts.push(`about ${counted(table.rows, "row")}`);
  return { kind: "table", name: table.name, facts: facts.join(", "), rows, text: "" };
}

function columnDetail(column: Column): string {
  const args = column.typeArgs.length > 0 ? `(${column.typeArgs.join(", ")})` : "";
  const parts = [`${column.type}${args}${column.array ? "[]" : ""}`];
  if (column.required) parts.push("required");
  if (column.default !== null) parts.push(`default ${column.default}`);
  if (column.generated) parts.push("generated");
  if (column.identity) parts.push("numbered");
  return parts.join(", ");
}
