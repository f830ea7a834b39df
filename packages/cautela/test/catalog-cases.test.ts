import { readdirSync, readFileSync } from "node:fs";
import { type Catalog, catalogFromDdl, isDialectId, type Table } from "cautela";
import { describe, expect, test } from "vitest";

// What a catalog holds after some DDL: a file for each dialect, cases with the objects that must be there, line by line.

const folder = new URL("catalogs/", import.meta.url);

/** `berth (berth_id integer!, note text = 'x')  key berth_id  unique code  owner_id -> owner (owner_id) cascade` */
function tableLine(table: Table): string {
  const columns = table.columns.map((one) =>
    [
      `${one.name} ${one.type}${one.typeArgs.length > 0 ? `(${one.typeArgs.join(",")})` : ""}${one.array ? "[]" : ""}${one.required ? "!" : ""}`,
      one.default === null ? "" : `= ${one.default}`,
      one.expression === null ? "" : `as ${one.expression}`,
    ]
      .filter((part) => part !== "")
      .join(" "),
  );
  const keys = [
    table.temporary ? "temporary" : "",
    table.primaryKey ? `key ${table.primaryKey.columns.join(", ")}` : "",
    ...table.uniqueKeys.map((key) => `unique ${key.columns.join(", ")}${key.partial ? " partly" : ""}`),
    ...table.checks.map(({ condition, enabled }) => `check ${condition}${enabled ? "" : " off"}`),
    ...table.foreignKeys.map(
      (key) =>
        `${key.columns.join(", ")} -> ${key.table.split("\u0000")[1]}${key.onDelete === "no action" ? "" : ` ${key.onDelete}`}${key.enabled ? "" : " off"}`,
    ),
    ...table.inherits.map((parent) => `inherits ${parent.split("\u0000")[1]}`),
    table.partitionOf === null ? "" : `partition of ${table.partitionOf.split("\u0000")[1]}`,
  ].filter((part) => part !== "");
  return `${table.name} (${columns.join(", ")})${keys.map((key) => `  ${key}`).join("")}`;
}

function lines(catalog: Catalog): string[] {
  return [
    ...[...catalog.tables()].map(tableLine),
    ...[...catalog.objects("view")].map(
      (view) => `view ${view.name}${view.columns ? ` (${view.columns.join(", ")})` : ""}`,
    ),
    ...[...catalog.objects("trigger")].map(
      (one) =>
        `trigger ${one.name} ${one.timing} ${one.events.join(" or ")} on ${one.table.split("\u0000")[1]} ${one.enabled}`,
    ),
    ...[...catalog.objects("routine")].map((one) => `routine ${one.name}`),
    ...[...catalog.objects("synonym")].map((one) => `synonym ${one.name}`),
    ...[...catalog.objects("sequence")].map((one) => `sequence ${one.name}`),
  ].sort();
}

describe.each(readdirSync(folder).map((file) => file.replace(".sql", "")))("%s", (dialect) => {
  if (!isDialectId(dialect)) throw new Error(`${dialect} is no dialect`);
  const [, ...cases] = readFileSync(new URL(`${dialect}.sql`, folder), "utf8").split(/^-- case: /m);
  test.each(cases.map((text) => [text.slice(0, text.indexOf("\n")), text] as const))("%s", (_, text) => {
    const expected = [...text.matchAll(/^-- holds: (.*)$/gm)].map(([, line]) => line);
    const catalog = catalogFromDdl(text.slice(text.indexOf("\n") + 1), { dialect });
    expect(catalog.unread).toEqual([]);
    expect(lines(catalog)).toEqual(expected.sort());
  });
});
