import fc from "fast-check";

// A table that holds every combination of a few values: what a statement meets there is what its filter says, and no chance of
// the data.

const STATES = ["'a'", "'b'", "'c'", "'d'", "NULL"];
const NUMBERS = [...Array.from({ length: 20 }, (_, i) => String(i / 2 - 3)), "NULL"];

export const combined = {
  table: "CREATE TABLE buoy (buoy_id int NOT NULL PRIMARY KEY, state varchar(10), n numeric(6, 1), m int NOT NULL);",
  rows: `INSERT INTO buoy VALUES ${STATES.flatMap((state, i) =>
    NUMBERS.flatMap((n, j) => ["1", "2", "3"].map((m, k) => `(${i * 1000 + j * 10 + k}, ${state}, ${n}, ${m})`)),
  ).join(", ")};`,
};

const state = fc.constantFrom("'a'", "'b'", "'c'");
const number = fc.constantFrom("1", "2", "3");

const condition = fc.oneof(
  state.map((one) => `state = ${one}`),
  fc.tuple(state, state).map(([one, other]) => `state IN (${one}, ${other})`),
  state.map((one) => `state <> ${one}`),
  number.map((one) => `n = ${one}`),
  number.map((one) => `n < ${one}`),
  number.map((one) => `n >= ${one}`),
  fc.constantFrom("n BETWEEN 1 AND 2", "n BETWEEN 2 AND 3", "n BETWEEN 1 AND 3"),
  fc.constantFrom("state IS NULL", "state IS NOT NULL", "n IS NULL", "m = 1", "m IN (1, 2)"),
);

/** Conditions of one, two, or either of two kinds. */
export const conditions = fc.oneof(
  { weight: 3, arbitrary: condition },
  { weight: 2, arbitrary: fc.tuple(condition, condition).map((parts) => parts.join(" AND ")) },
  { weight: 1, arbitrary: fc.tuple(condition, condition).map(([one, other]) => `(${one} OR ${other})`) },
);

/** The same as a WHERE, or none. */
export const filters = fc.oneof(
  { weight: 6, arbitrary: conditions.map((one) => ` WHERE ${one}`) },
  { weight: 1, arbitrary: fc.constant("") },
);

/** Whether every condition is about a column of its own, and none is one of two: what several mean together is not worked out. */
export function isPlain(sql: string): boolean {
  const names = [...sql.slice(sql.indexOf(" WHERE ")).matchAll(/\b(state|n|m) (?:[<>=]|IN|IS|BETWEEN)/g)].map(
    ([, name]) => name,
  );
  return !sql.includes(" OR ") && new Set(names).size === names.length;
}
