import type { Dialect } from "../../sql/dialects/dialect.ts";
import { wordIn } from "../../text/word-in.ts";
import type { Check, ForeignKey, Key, Table } from "../model.ts";

/** The names of a table's constraints, in the order of the table; null: nobody knows what the engine has called it. */
export interface GivenNames {
  primaryKey: string | null;
  uniqueKeys: readonly (string | null)[];
  foreignKeys: readonly (string | null)[];
  checks: readonly (string | null)[];
}

/**
 * What the constraints of a table are called, those included to which their engine gave a name because the script did not.
 *
 * PostgreSQL makes it from the columns, and counts from the second of a name on (`ChooseConstraintName` in its sources);
 * MySQL and MariaDB number foreign keys, and call a unique key after its first column.
 *
 * @example
 * // CREATE TABLE mooring (fee int CHECK (fee > 0), owner_id int REFERENCES owner)
 * givenNames(table, dialects.postgresql).checks // ["mooring_fee_check"]
 */
export function givenNames(table: Table, { engine }: Dialect): GivenNames {
  const { primaryKey, uniqueKeys, foreignKeys, checks } = table;
  const own = <Named extends { name: string | null }>(list: readonly Named[], make: (one: Named) => string | null) =>
    list.map((one) => one.name ?? make(one));
  switch (engine.constraintsCalled) {
    case "by-columns": {
      const taken = new Set<string>();
      for (const one of [primaryKey, ...uniqueKeys, ...foreignKeys, ...checks]) if (one?.name) taken.add(one.name);
      const free = (name: string): string | null => {
        let one = name;
        for (let i = 1; taken.has(one); i++) one = `${name}${i}`;
        taken.add(one);
        // Longer ones are cut in their middle.
        return one.length < engine.longestName ? one : null;
      };
      const after = ({ columns }: Key | ForeignKey, what: string): string | null =>
        free([table.name, ...columns, what].join("_"));
      return {
        checks: own(checks, (one) => free([table.name, ...onlyColumn(one, table), "check"].join("_"))),
        primaryKey: primaryKey && (primaryKey.name ?? free(`${table.name}_pkey`)),
        uniqueKeys: own(uniqueKeys, (one) => after(one, "key")),
        foreignKeys: own(foreignKeys, (one) => after(one, "fkey")),
      };
    }
    case "by-numbers": {
      const numbered = `${table.name}_ibfk_`;
      let last = 0;
      for (const { name } of foreignKeys)
        if (name?.startsWith(numbered)) last = Math.max(last, Number(name.slice(numbered.length)) || 0);
      const taken = new Set(uniqueKeys.flatMap(({ name }) => name ?? []));
      return {
        primaryKey: primaryKey && "primary",
        uniqueKeys: own(uniqueKeys, ({ columns: [first] }) => {
          // The index that a foreign key gets may have taken the name.
          if (foreignKeys.some(({ columns }) => columns[0] === first)) return null;
          let one = first;
          for (let i = 2; taken.has(one); i++) one = `${first}_${i}`;
          taken.add(one);
          return one;
        }),
        foreignKeys: own(foreignKeys, () => `${numbered}${++last}`),
        checks: numberedChecks(table, engine.checksCalled),
      };
    }
    case "unknown":
      return {
        primaryKey: primaryKey?.name ?? null,
        uniqueKeys: uniqueKeys.map(({ name }) => name),
        foreignKeys: foreignKeys.map(({ name }) => name),
        checks: checks.map(({ name }) => name),
      };
  }
}

/** MariaDB takes the first number that is free; MySQL goes on after the last one. */
function numberedChecks({ name: table, checks }: Table, called: Dialect["engine"]["checksCalled"]): (string | null)[] {
  const taken = new Set(checks.flatMap(({ name }) => name ?? []));
  const prefix = called === "constraint_n" ? "constraint_" : `${table}_chk_`;
  let last = 0;
  if (called === "table_chk_n")
    for (const name of taken)
      if (name.startsWith(prefix)) last = Math.max(last, Number(name.slice(prefix.length)) || 0);
  return checks.map(({ name }) => {
    if (name !== null || called === null) return name;
    do last++;
    while (taken.has(`${prefix}${last}`));
    return `${prefix}${last}`;
  });
}

/** A table whose constraints keep the names that were made from its own and its columns', when one of those changes. */
export function withGivenNames(table: Table, dialect: Dialect): Table {
  if (dialect.engine.constraintsCalled !== "by-columns") return table;
  const given = givenNames(table, dialect);
  return {
    ...table,
    primaryKey: table.primaryKey && { ...table.primaryKey, name: given.primaryKey },
    uniqueKeys: table.uniqueKeys.map((one, i) => ({ ...one, name: given.uniqueKeys[i] })),
    foreignKeys: table.foreignKeys.map((one, i) => ({ ...one, name: given.foreignKeys[i] })),
    checks: table.checks.map((one, i) => ({ ...one, name: given.checks[i] })),
  };
}

/** The column that a CHECK speaks of, where it is one. */
function onlyColumn({ condition }: Check, { columns }: Table): string[] {
  const named = columns.filter(({ name }) => wordIn(condition, name));
  return named.length === 1 ? [named[0].name] : [];
}
