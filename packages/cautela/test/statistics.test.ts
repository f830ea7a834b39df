import { catalogFromDdl, catalogFromSnapshot, review, toSnapshot } from "cautela";
import { expect, test } from "vitest";

// What the statistics of a catalog say about filters, keys and expected numbers.

const counted = catalogFromDdl(
  "CREATE TABLE bun (bun_id integer PRIMARY KEY, kind integer NOT NULL, name varchar(40) NOT NULL, note varchar(20));",
  { dialect: "postgresql" },
);
const STATISTICS: Record<string, { distinct: number | null; nulls: number | null }> = {
  kind: { distinct: 103, nulls: 0 },
  name: { distinct: 41150, nulls: 0 },
  note: { distinct: null, nulls: 0.25 },
};
const snapshot = toSnapshot(counted);
const catalog = catalogFromSnapshot({
  ...snapshot,
  objects: snapshot.objects.map((one) =>
    one.object === "table"
      ? {
          ...one,
          rows: 41200,
          columns: (one.columns as { name: string }[]).map((column) => ({ ...column, ...STATISTICS[column.name] })),
        }
      : one,
  ),
});
const reviewed = (sql: string) => review(sql, { dialect: "postgresql", catalog });

test.each([
  ["kind = 2", { bound: "some", rows: 400, of: 41200 }],
  ["2 = kind", { bound: "some", rows: 400, of: 41200 }],
  ["kind IN (1, 2, 3)", { bound: "some", rows: 1200, of: 41200 }],
  ["note IS NULL", { bound: "some", rows: 10300, of: 41200 }],
  ["kind = 2 AND note IS NULL", { bound: "some", rows: 100, of: 41200 }],
  ["kind = 2 AND note LIKE 'a%'", { bound: "some" }],
  ["kind > 2", { bound: "some" }],
  ["bun_id = 2 AND kind = 2", { bound: "one", rows: 1 }],
])("DELETE … WHERE %s", (filter, reach) => {
  expect(reviewed(`DELETE FROM bun WHERE ${filter};`).statements[0].reach).toEqual(reach);
});

test.each([
  ["-- cautela: expect 7 rows\nDELETE FROM bun WHERE kind = 2;", "expect-mismatch ask"],
  ["-- cautela: expect 390 rows\nDELETE FROM bun WHERE kind = 2;", null],
  ["ALTER TABLE bun ADD CONSTRAINT bun_kind UNIQUE (kind);", "unmet-constraint stop"],
  ["ALTER TABLE bun ADD CONSTRAINT bun_name UNIQUE (name);", null],
  ["ALTER TABLE bun ADD CONSTRAINT bun_note UNIQUE (note);", "unmet-constraint ask"],
  ["UPDATE bun SET note = '' WHERE name = 'Franz';", null],
])("%s", (sql, said) => {
  const own = reviewed(sql).findings.filter(({ hazard }) => hazard !== "no-way-back");
  expect(own.map(({ hazard, weight }) => `${hazard} ${weight}`)).toEqual(said === null ? [] : [said]);
});
