import type { Catalog } from "../../catalog/catalog.ts";
import { givenNames } from "../../catalog/ddl/given-names.ts";
import { tableKey } from "../../catalog/keys.ts";
import { shownName, type Trigger } from "../../catalog/model.ts";
import { bareName, foldName } from "../../catalog/names.ts";
import { namedRelation } from "../../catalog/relation-keys.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import { gapsShown } from "../../sql/grammar/known-text.ts";
import type { AlterAction, Ident, Statement, TableConstraint } from "../../sql/nodes/tree.ts";
import type { Creations } from "./creations.ts";
import { NarrowedGuards } from "./narrowed.ts";
import type { Moment, Step } from "./step.ts";

/** This many entries of each kind are kept. */
const KEPT = 4000;

/** This many tables whose rows are left behind are kept of a guard. */
const MOST_LEFT = 20;

const NO_CHANGES: Step["changes"] = [];

/** A guard that the script switches off. */
export interface GuardOff {
  at: Moment;
  /** `session` ends with the script; `table` stays off until somebody switches it on. */
  lasts: "session" | "table";
  what: string;
  key: string;
  shown: string;
  back: Moment | null;
  /** Where a later script of the change set has switched it on again, as messages say it; empty: none has. */
  elsewhere: string;
  /** Rows that there are have not been looked at when it was switched on again. */
  untrusted: boolean;
  changes: number;
  /** Foreign keys that are put on tables which were there before, meanwhile. */
  keys: number;
  /** Foreign keys are off with it. */
  unkeyed: boolean;
  /** Rows that go meanwhile, and the foreign keys that would have looked after what refers to them. */
  left: LeftBehind[];
}

/** Rows that are deleted while a key that refers to them is off. */
export interface LeftBehind {
  line: number;
  parent: string;
  /** The table that refers to them, by its key and as messages show it, and its columns. */
  child: string;
  shown: string;
  columns: readonly string[];
}

/** A trigger or foreign key of the catalog that the script drops. */
interface Removed {
  at: Moment;
  what: string;
  key: string;
  shown: string;
  /** When it fired; null: it is a foreign key. */
  fires: Pick<Trigger, "timing" | "events"> | null;
  /** The script makes it again, or drops its table. */
  back: boolean;
}

/** A constraint that is added without a look at the rows that are there. */
interface Unchecked {
  at: Moment;
  what: string;
  key: string;
  shown: string;
  /** The script has them looked at later. */
  checked: boolean;
}

/** A constraint of a table, as the ledger knows it. */
export function constraintKey(table: string, name: Ident | null): string {
  return `constraint ${table} ${name?.text.toLowerCase() ?? ""}`;
}

/** The guards that a script switches off or drops, and what becomes of them. */
export class GuardLedger {
  readonly off: GuardOff[] = [];
  /** Triggers and foreign keys of the catalog that the script drops; `back`: it makes them again. */
  readonly removed: Removed[] = [];
  readonly unchecked: Unchecked[] = [];
  /** Those that earlier scripts of a change set have left to be put back: theirs, to be settled when the last one has run. */
  readonly #left: { off: GuardOff[]; removed: Removed[]; unchecked: Unchecked[] } = {
    off: [],
    removed: [],
    unchecked: [],
  };
  /** The name of this script, as messages say it after a line. */
  #here = "";
  /** Constraints that are added by a name, by their keys: their kinds. */
  readonly added = new Map<string, TableConstraint["kind"]>();
  /** Keys and CHECKs that are put back narrower than they were. */
  readonly narrowed: NarrowedGuards;
  readonly #creations: Creations;
  readonly #dialect: Dialect;

  constructor(dialect: Dialect, creations: Creations) {
    this.#dialect = dialect;
    this.#creations = creations;
    this.narrowed = new NarrowedGuards(dialect);
  }

  /** Goes on where the script before it in a change set has ended: what that left off may be put back here. */
  continueFrom(earlier: GuardLedger, here: string): void {
    this.#here = here;
    for (const list of [earlier.off, earlier.#left.off])
      for (const one of list) if (!one.back && one.lasts === "table") this.#left.off.push(one);
    for (const list of [earlier.removed, earlier.#left.removed])
      for (const one of list) if (!one.back) this.#left.removed.push(one);
    for (const list of [earlier.unchecked, earlier.#left.unchecked])
      for (const one of list) if (!one.checked) this.#left.unchecked.push(one);
  }

  /** Whether a later script may still put back what this one leaves off. */
  get waits(): boolean {
    return (
      this.off.some(({ back, lasts }) => !back && lasts === "table") ||
      this.removed.some(({ back }) => !back) ||
      this.unchecked.some(({ checked }) => !checked)
    );
  }

  /** `held`: DDL can still be rolled back here. `changed`: whether rows of a table were changed before. */
  note(step: Step, held: boolean, changed: (table: string) => boolean): void {
    this.#switching(step);
    // What a text that is known in part switches off, it switches on again by another one like it.
    if (step.tree.kind === "dynamic")
      for (const tree of step.tree.pattern)
        this.#switching({ tree, at: step.at, catalog: step.catalog, changes: NO_CHANGES });
    this.#removing(step);
    this.narrowed.note(step, held, changed);
  }

  /** Triggers and foreign keys that are dropped, and those that come back. */
  #removing({ tree, at, catalog }: Step): void {
    if (!catalog) return;
    const removed = this.#left.removed.length > 0 ? [...this.removed, ...this.#left.removed] : this.removed;
    const gone = (what: string, key: string, shown: string, fires: Removed["fires"]): void => {
      if (this.removed.length < KEPT) this.removed.push({ at, what, key, shown, fires, back: false });
    };
    const back = (key: string): void => {
      for (const one of removed) if (one.key === key) one.back = true;
    };
    if (tree.kind === "drop" && tree.object === "trigger")
      for (const name of tree.names) {
        const bare = foldName(name.parts[name.parts.length - 1], this.#dialect);
        const table = tree.on ? namedRelation(tree.on, catalog, this.#dialect).key : null;
        for (const trigger of catalog.objects("trigger"))
          if (trigger.name === bare && (table === null || trigger.table === table)) {
            gone(
              `trigger \`${bare}\``,
              `trigger ${bare}`,
              trigger.table.slice(trigger.table.indexOf("\u0000") + 1),
              trigger,
            );
            break;
          }
      }
    else if (tree.kind === "create-routine" && tree.trigger && tree.name) {
      back(`trigger ${foldName(tree.name.parts[tree.name.parts.length - 1], this.#dialect)}`);
      // One that fires at the same moment takes its place, whatever it is called.
      const { table, timing, events } = tree.trigger;
      const on = table && foldName(table.parts[table.parts.length - 1], this.#dialect);
      for (const one of removed)
        if (
          one.shown === on &&
          one.fires?.timing === timing &&
          one.fires.events.some((event) => events.includes(event))
        )
          one.back = true;
    } else if (tree.kind === "alter-table") {
      const table = catalog.resolve(tree.name);
      for (const action of tree.actions) {
        if (action.what === "drop-constraint" && action.name && table) {
          const name = foldName(action.name, this.#dialect);
          const given = givenNames(table, this.#dialect).foreignKeys;
          const key = table.foreignKeys.find((_, i) => given[i] === name);
          if (key) gone(`foreign key \`${name}\``, `key ${table.name} ${key.columns.join()}`, table.name, null);
        } else if (action.what === "add-constraint" && action.constraint.kind === "foreign" && table)
          back(`key ${table.name} ${action.constraint.columns.map((one) => foldName(one, this.#dialect)).join()}`);
      }
    } else if (tree.kind === "drop" && tree.object === "table")
      // Its keys and triggers go with a table.
      for (const name of tree.names) {
        const { shown } = namedRelation(name, catalog, this.#dialect);
        const own = bareName(shown).toLowerCase();
        for (const one of removed) if (one.shown.toLowerCase() === own) one.back = true;
      }
  }

  #unchecking(action: AlterAction, key: string, shown: string, at: Moment): void {
    if (action.what === "add-constraint" && action.constraint.name && this.added.size < KEPT)
      this.added.set(constraintKey(key, action.constraint.name), action.constraint.kind);
    if (action.what === "add-constraint" && action.constraint.unchecked && !this.#creations.everMade(key)) {
      const { name } = action.constraint;
      const own = constraintKey(key, name);
      const what = name ? `constraint \`${name.text}\`` : "a constraint";
      if (this.unchecked.length < KEPT) this.unchecked.push({ at, what, key: own, shown, checked: false });
    } else if (action.what === "constraint-enabled" && action.enabled && action.trusted) {
      const own = constraintKey(key, action.name);
      for (const one of [...this.unchecked, ...this.#left.unchecked])
        if (one.key === own || (!action.name && one.key.startsWith(own))) one.checked = true;
    }
  }

  /** Takes note of rows that others refer to by a key that is off. */
  #leaving(guard: GuardOff, changes: Step["changes"], catalog: Catalog | null, at: Moment): void {
    if (!catalog || !guard.unkeyed) return;
    for (const { change, result, target } of changes) {
      const { table } = change;
      if (!table || change.action === "update" || result.reach.bound === "none") continue;
      const parent = tableKey(table.schema, table.name);
      for (const child of catalog.referencing(parent)) {
        const key = tableKey(child.schema, child.name);
        // A key of a table to itself goes with the rows.
        if (guard.left.length >= MOST_LEFT || key === parent) continue;
        if (guard.lasts === "table" && !guard.key.startsWith(`constraint ${key}`)) continue;
        const { columns } = child.foreignKeys.find((one) => one.table === parent) ?? { columns: [] };
        guard.left.push({ line: at.region.line, parent: target, child: key, shown: shownName(child), columns });
      }
    }
  }

  #switching({ tree, at, catalog, changes }: Pick<Step, "tree" | "at" | "catalog" | "changes">): void {
    const off = this.#left.off.length > 0 ? [...this.off, ...this.#left.off] : this.off;
    if (changes.length > 0)
      for (const guard of off)
        if (!guard.back) {
          guard.changes++;
          this.#leaving(guard, changes, catalog, at);
        }
    if (tree.kind === "alter-table" && this.off.length > 0 && addsKey(tree)) {
      const { key } = namedRelation(tree.name, catalog, this.#dialect);
      if (!this.#creations.everMade(key)) for (const guard of this.off) if (!guard.back) guard.keys++;
    }
    const switchOff = (lasts: GuardOff["lasts"], what: string, key: string, shown: string, unkeyed: boolean): void => {
      if (this.off.length < KEPT)
        this.off.push({
          at,
          lasts,
          what: gapsShown(what),
          key,
          shown: gapsShown(shown),
          back: null,
          elsewhere: "",
          untrusted: false,
          changes: 0,
          keys: 0,
          unkeyed,
          left: [],
        });
    };
    const on = (key: string, untrusted = false): void => {
      for (const guard of off)
        if ((guard.key === key || key.startsWith(`${guard.key} `) || guard.key.startsWith(`${key} `)) && !guard.back) {
          // Whatever its own script does comes before.
          const own = this.off.includes(guard);
          guard.back = own ? at : { ...at, statement: Number.POSITIVE_INFINITY };
          if (!own) guard.elsewhere = `line ${at.region.line}${this.#here}`;
          guard.untrusted = untrusted;
        }
    };
    if (tree.kind === "setting") {
      const guard = sessionGuard(tree.name, tree.value, this.#dialect);
      if (guard?.off) switchOff("session", guard.what, guard.key, "the session", guard.unkeyed);
      else if (guard) on(guard.key);
    } else if (tree.kind === "alter-table") {
      const { key, shown } = namedRelation(tree.name, catalog, this.#dialect);
      for (const action of tree.actions) {
        this.#unchecking(action, key, shown, at);
        if (action.what === "trigger") {
          const name = action.name?.text ?? "all triggers";
          const own = `trigger ${key}${action.name ? ` ${action.name.text.toLowerCase()}` : ""}`;
          const what = action.name ? `trigger \`${name}\`` : action.userOnly ? "the table's own triggers" : name;
          const all = this.off.find((guard) => guard.key === own && guard.what === "all triggers" && !guard.back);
          if (action.enabled === "off") switchOff("table", what, own, shown, false);
          else if (all && action.userOnly) all.what = KEYS_ONLY;
          else on(own);
        } else if (action.what === "constraint-enabled") {
          const own = `constraint ${key}${action.name ? ` ${action.name.text.toLowerCase()}` : ""}`;
          if (!action.enabled)
            switchOff(
              "table",
              action.name ? `constraint \`${action.name.text}\`` : "all constraints",
              own,
              shown,
              true,
            );
          else on(own, !action.trusted);
        }
      }
    } else if (tree.kind === "alter-trigger") {
      const table = tree.table ? namedRelation(tree.table, catalog, this.#dialect) : { key: "", shown: "" };
      for (const name of tree.names ?? [null]) {
        const bare = name ? name.parts[name.parts.length - 1].text : null;
        const own = `trigger ${table.key}${bare ? ` ${bare.toLowerCase()}` : ""}`;
        if (!tree.enabled)
          switchOff("table", bare ? `trigger \`${bare}\`` : "all triggers", own, table.shown || (bare ?? ""), false);
        else on(own);
      }
    }
  }
}

function addsKey({ actions }: Extract<Statement, { kind: "alter-table" }>): boolean {
  return actions.some((action) => action.what === "add-constraint" && action.constraint.kind === "foreign");
}

/** What is still off when DISABLE TRIGGER ALL is followed by ENABLE TRIGGER USER. */
const KEYS_ONLY = "the triggers that keep foreign keys (ENABLE TRIGGER USER leaves them off)";

/** Session settings that switch checks off, and the values that do. */
function sessionGuard(
  name: string,
  value: string,
  { engine }: Dialect,
): { what: string; key: string; off: boolean; unkeyed: boolean } | null {
  const on = /^(?:1|on|true|yes|default)$/i.test(value);
  const guard = (what: string, off: boolean, unkeyed = false) => ({ what, key: name, off, unkeyed });
  switch (name) {
    case "foreign_key_checks":
      return guard("foreign key checks", !on && !value.startsWith("@"), true);
    case "unique_checks":
      return guard("unique checks", !on && !value.startsWith("@"));
    case "check_constraint_checks":
      return guard("CHECK constraints", !on);
    case "sql_safe_updates":
      return guard("the guard against updates without a key", !on && !value.startsWith("@"));
    case "foreign_keys":
      return engine.pragmas ? guard("foreign keys", !on, true) : null;
    case "ignore_check_constraints":
      return guard("CHECK constraints", on);
    // sqlite.org, "PRAGMA writable_schema": a wrong text there makes the file unreadable.
    case "writable_schema":
      return engine.pragmas ? guard("the protection of `sqlite_master`, which holds the schema", on) : null;
    case "session_replication_role":
      return guard("triggers and foreign keys", /^replica$/i.test(value), true);
    default:
      return null;
  }
}
