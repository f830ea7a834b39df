import { givenNames } from "../../catalog/ddl/given-names.ts";
import type { Key, Table } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import { conditionTree } from "../../catalog/parsed-code.ts";
import { namedRelation } from "../../catalog/relation-keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Expr } from "../../sql/nodes/tree.ts";
import type { Slice } from "../../text/slice.ts";
import { type FilterFact, filterFacts, implied } from "../conditions/filter-facts.ts";
import type { Moment, Step } from "./step.ts";

/** A key or a CHECK that was dropped and is put back so that it admits less: rows that are there may not meet it. */
export interface Narrowed {
  at: Moment;
  /** The table as messages show it. */
  shown: string;
  /** What comes back, and what it was, as messages say it. */
  now: string;
  was: string;
  /** If the engine refuses it, the old one stays: both stand in one statement, or in a transaction that takes both back. */
  kept: boolean;
}

interface Gone {
  statement: number;
  table: string;
  columns: readonly string[] | null;
  facts: readonly FilterFact[] | null;
  was: string;
}

interface Now {
  at: Moment;
  held: boolean;
}

/** This many are remembered. */
const KEPT = 500;

/** The keys and CHECKs that a script drops, and those among them that come back narrower. */
export class NarrowedGuards {
  readonly list: Narrowed[] = [];
  #gone: Gone[] = [];
  readonly #dialect: Dialect;

  constructor(dialect: Dialect) {
    this.#dialect = dialect;
  }

  /**
   * `held`: a transaction is open that takes DDL back. `changed`: whether the script has changed rows of a table before,
   * which may have made them fit.
   */
  note({ tree, at, catalog, slice }: Step, held: boolean, changed: (table: string) => boolean): void {
    if (!catalog) return;
    const fold = (one: Parameters<typeof foldName>[0]): string => foldName(one, this.#dialect);
    if (tree.kind === "alter-table") {
      const { key, shown } = namedRelation(tree.name, catalog, this.#dialect);
      const table = catalog.byKey(key);
      for (const action of tree.actions) {
        if (action.what === "drop-index" && table) this.#drop(at, key, this.#uniqueKeys(table, fold(action.name)));
        else if (action.what === "drop-constraint" && table) {
          const { primaryKey, uniqueKeys, checks } = table;
          const name = action.name && fold(action.name);
          const given = givenNames(table, this.#dialect);
          if (primaryKey && (action.primary || given.primaryKey === name)) this.#drop(at, key, [primaryKey]);
          if (name === null) continue;
          this.#drop(at, key, named(uniqueKeys, given.uniqueKeys, name));
          for (const check of named(checks, given.checks, name)) {
            const parsed = check.enabled ? conditionTree(check, catalog.dialect) : null;
            if (parsed && this.#gone.length < KEPT) {
              const facts = filterFacts(parsed.tree, (start, end) => parsed.text.slice(start, end));
              this.#gone.push({
                statement: at.statement,
                table: key,
                columns: null,
                facts,
                was: `CHECK (${check.condition})`,
              });
            }
          }
        } else if (action.what === "add-constraint" && this.#gone.length > 0 && !changed(key)) {
          const { kind, columns, inexact, where, check } = action.constraint;
          if ((kind === "primary" || kind === "unique") && !inexact && !where)
            this.#key({ at, held }, key, shown, columns.map(fold));
          else if (kind === "check" && check) this.#check({ at, held }, key, shown, check, slice);
        }
      }
    } else if (tree.kind === "drop" && tree.object === "table") {
      // What is made under its name afterwards holds no rows of before.
      const keys = new Set(tree.names.map((name) => namedRelation(name, catalog, this.#dialect).key));
      this.#gone = this.#gone.filter(({ table }) => !keys.has(table));
    } else if (tree.kind === "drop" && tree.object === "index" && tree.on) {
      const { key } = namedRelation(tree.on, catalog, this.#dialect);
      const table = catalog.byKey(key);
      if (table)
        for (const { parts } of tree.names) this.#drop(at, key, this.#uniqueKeys(table, fold(parts[parts.length - 1])));
    } else if (tree.kind === "create-index" && tree.unique && !tree.inexact && !tree.where) {
      const { key, shown } = namedRelation(tree.table, catalog, this.#dialect);
      if (this.#gone.length > 0 && !changed(key)) this.#key({ at, held }, key, shown, tree.columns.map(fold));
    }
  }

  #uniqueKeys(table: Table, name: string): Key[] {
    return named(table.uniqueKeys, givenNames(table, this.#dialect).uniqueKeys, name);
  }

  #drop({ statement }: Moment, table: string, keys: readonly Key[]): void {
    for (const { columns, partial } of keys) {
      if (partial || this.#gone.length >= KEPT) continue;
      this.#gone.push({ statement, table, columns, facts: null, was: `a key of ${listed(columns)}` });
    }
  }

  /** Fewer columns: rows that differ only in the others have the same key now. */
  #key({ at, held }: Now, table: string, shown: string, columns: readonly string[]): void {
    const wider = this.#gone.find(
      (one) =>
        one.table === table &&
        one.columns !== null &&
        one.columns.length > columns.length &&
        columns.every((column) => one.columns?.includes(column)),
    );
    // A key that was there beside it proves the narrow one.
    const proven = this.#gone.some(
      (one) => one.table === table && one.columns?.every((column) => columns.includes(column)),
    );
    if (!wider || proven) return;
    const kept = held || wider.statement === at.statement;
    this.list.push({ at, shown, now: `a key of ${listed(columns)}`, was: wider.was, kept });
  }

  /** Fewer values: what met the old CHECK may not meet this one. */
  #check({ at, held }: Now, table: string, shown: string, check: Expr, slice: Slice): void {
    const now = filterFacts(check, slice);
    for (const { facts, was, statement, ...one } of this.#gone) {
      if (one.table !== table || !facts) continue;
      const same = now.some(({ column }) => column !== null && facts.some((fact) => fact.column === column));
      if (!same || !facts.every((fact) => implied(fact, now)) || now.every((fact) => implied(fact, facts))) continue;
      const kept = held || statement === at.statement;
      this.list.push({ at, shown, now: `CHECK (${slice(check.start, check.end)})`, was, kept });
      return;
    }
  }
}

/** Those of a list whose names, given beside it, are the one that is asked for. */
function named<Listed>(list: readonly Listed[], names: readonly (string | null)[], name: string): Listed[] {
  return list.filter((_, i) => names[i] === name);
}

function listed(columns: readonly string[]): string {
  return columns.map((one) => `\`${one}\``).join(", ");
}
