import type { Region } from "../../text/region.ts";
import { RowKeys } from "../changes/references.ts";
import type { Step as NumberStep } from "../conditions/bands.ts";
import type { ConstantValue } from "../conditions/conditions.ts";
import type { FilterFact } from "../conditions/filter-facts.ts";
import { BatchVariables } from "./batch-variables.ts";
import { CarriedMap } from "./carried-map.ts";
import type { Precheck } from "./precheck.ts";
import type { Coverage } from "./prepared.ts";
import { RunOnce } from "./run-once.ts";

/** A change that the script has made before, as far as later ones are compared with it. */
export interface PastChange {
  statement: number;
  /** Where it stands, as messages say it: `line 3`, or `line 3 of 01.sql` in an earlier script of a change set. */
  place: string;
  action: "update" | "delete" | "truncate" | "insert";
  /** The target as messages show it. */
  target: string;
  /** Columns that it set to a constant. */
  set: Map<string, ConstantValue>;
  /** What it did to the numbers in a column: the same to all rows. */
  steps: ReadonlyMap<string, NumberStep>;
  /** All columns that it assigned, with the texts of their values. */
  assigned: Map<string, string>;
  /** Columns that its filter pins to one constant, when the filter is nothing else. */
  where: Map<string, ConstantValue> | null;
  /** Its filter, where that is more than such columns and no join; null where nobody will ask. */
  facts: readonly FilterFact[] | null;
  /** It met every row of its table. */
  every: boolean;
  /** It runs in a loop: other rows each time. */
  looped: boolean;
  /** It stands in a branch that need not run. */
  perhaps: boolean;
  /** Which rows it met, where the table refers to others; null: nobody asks. */
  covers: Coverage | null;
}

/** Something that is gone, with the code that still refers to it. */
export interface Broken {
  at: { statement: number; region: Region };
  table: string;
  column: boolean;
  dependents: { key: string; shown: string }[];
  what: string;
  verb: string;
}

interface Touched {
  /** Rows came in. */
  brought: number;
  updated: number;
  /** Rows went, or the table itself came or went. */
  removed: number;
  /** Any of these. */
  changed: number;
}

/** When something happened that has not: statements of earlier scripts have negative numbers. */
export const NEVER = Number.NEGATIVE_INFINITY;
const UNTOUCHED: Touched = { brought: NEVER, updated: NEVER, removed: NEVER, changed: NEVER };

const KEPT_BROKEN = 500;

/** How many changes of one table are remembered, and how many texts. */
const KEPT = 24;
const TEXTS = 5000;
const WORDS = 5000;

/** What a script has done so far, bounded however long it is. */
export class History {
  readonly #changes = new CarriedMap<PastChange[]>();
  readonly #texts = new Map<number, { line: number; statement: number; count: number }>();
  readonly #dropped = new Map<string, number>();
  readonly #renamed = new Map<string, number>();
  readonly #gaveAway = new Set<string>();
  /** Tables that were wanted before anything made them, by key: where. */
  readonly wanted = new Map<string, { statement: number; region: Region; shown: string }[]>();

  /** The rows that it has brought, removed and referred to by their keys. */
  readonly keys = new RowKeys<{ statement: number; region: Region }>();

  /** Columns of tables that are not known which it has dropped or renamed, by table and column: where, and the new name. */
  readonly #gone = new Map<string, Map<string, { line: number; to: string | null }>>();

  /** A column of a table goes, or takes another name. */
  noteGone(key: string, column: string, line: number, to: string | null): void {
    if (this.#gone.size >= KEPT_BROKEN) return;
    const columns = this.#gone.get(key) ?? new Map<string, { line: number; to: string | null }>();
    columns.set(column, { line, to });
    this.#gone.set(key, columns);
  }

  /** A column of a table is there again; null: all of them may be. */
  noteBack(key: string, column: string | null): void {
    if (column === null) this.#gone.delete(key);
    else this.#gone.get(key)?.delete(column);
  }

  /** Where a column of a table that is not known went, and the name that it has now; null where it may be there. */
  goneColumn(key: string, column: string): { line: number; to: string | null } | null {
    return this.#gone.get(key)?.get(column) ?? null;
  }

  get hasGone(): boolean {
    return this.#gone.size > 0;
  }

  /** What it leaves behind by which a second run leaves statements out. */
  readonly runOnce = new RunOnce();

  /** The columns that changes of a target have assigned at any time. */
  readonly #assigned = new CarriedMap<Set<string>>();

  hasAssigned(target: string, column: string): boolean {
    return this.#assigned.get(anyCase(target))?.has(column) ?? false;
  }

  /** The changes of a target, the latest last. */
  of(target: string): readonly PastChange[] {
    return this.#changes.get(anyCase(target)) ?? [];
  }

  /**
   * Takes over what an earlier script of a change set has done to rows, and what it may have made. It had so many
   * statements; `place` follows its lines in messages.
   */
  continueFrom(earlier: History, statements: number, place: string): void {
    this.#changes.continueFrom(earlier.#changes, (list) =>
      list.map((one) => ({
        ...one,
        statement: one.statement - statements,
        place: one.statement < 0 ? one.place : one.place + place,
      })),
    );
    this.#assigned.continueFrom(earlier.#assigned, (columns) => new Set(columns));
    this.#touched.continueFrom(earlier.#touched, ({ brought, updated, removed, changed }) => ({
      brought: brought - statements,
      updated: updated - statements,
      removed: removed - statements,
      changed: changed - statements,
    }));
    for (const [index, table] of earlier.indexes) this.indexes.set(index, table);
    for (const word of earlier.#unread) this.#unread.add(word);
    this.mayHaveMade = earlier.mayHaveMade || earlier.setting("search_path") !== null;
  }

  note(change: PastChange): void {
    if (change.assigned.size > 0) {
      let columns = this.#assigned.get(anyCase(change.target));
      if (!columns) {
        columns = new Set();
        this.#assigned.set(anyCase(change.target), columns);
      }
      for (const column of change.assigned.keys()) columns.add(column);
    }
    const target = anyCase(change.target);
    const list = this.#changes.get(target);
    if (!list) this.#changes.set(target, [change]);
    else {
      list.push(change);
      if (list.length > KEPT) list.shift();
    }
  }

  /** What has been changed from a statement on is taken back. */
  takeBack(from: number): void {
    for (const [target, list] of this.#changes.own())
      this.#changes.set(
        target,
        list.filter(({ statement }) => statement < from),
      );
  }

  /** Whatever else happens to a table's rows makes comparisons with what was there before void. */
  forget(target: string): void {
    this.#changes.delete(anyCase(target));
  }

  /** Where the same statement stood before; null the first time. */
  seen(text: number): { line: number; statement: number; count: number } | null {
    return this.#texts.get(text) ?? null;
  }

  noteText(text: number, line: number, statement: number): void {
    const known = this.#texts.get(text);
    if (known) known.count++;
    else if (this.#texts.size < TEXTS) this.#texts.set(text, { line, statement, count: 1 });
  }

  readonly #touched = new CarriedMap<Touched>();
  /** Variables of the session that the script has named before, in small letters: it may have set them. */
  readonly variables = new Set<string>();

  /** Variables that the script declares, batch by batch. */
  readonly batch = new BatchVariables();

  /** When a variable last got a value. */
  assigned = -1;

  touch(key: string, how: Exclude<keyof Touched, "changed">, statement: number): void {
    const at = this.#touched.get(key) ?? { ...UNTOUCHED };
    at[how] = statement;
    at.changed = statement;
    this.#touched.set(key, at);
  }

  /** When what last happened to a table, by the statement's number; see `NEVER`. */
  touched(key: string): Readonly<Touched> {
    return this.#touched.get(key) ?? UNTOUCHED;
  }

  /** The indexes that the script has made, by `indexKey`, with the keys of their tables. */
  readonly indexes = new Map<string, string>();

  /** Something has run whose doings are not known: dynamic SQL, a routine, another file. It may have made any object. */
  mayHaveMade = false;

  /** The words of what could not be read: it may have done anything to what they name. */
  readonly #unread = new Set<string>();

  noteUnread(text: string): void {
    for (const [word] of text.matchAll(/[a-z_]\w*/gi))
      if (this.#unread.size < WORDS) this.#unread.add(word.toLowerCase());
  }

  /** Whether a statement that could not be read names this. */
  isInUnread(name: string): boolean {
    return this.#unread.has(name.toLowerCase());
  }

  /** The latest SELECT that looks at rows of one table. */
  precheck: (Precheck & { statement: number; line: number }) | null = null;

  readonly #droppedViews = new Map<string, { columns: readonly string[]; line: number }>();

  noteDroppedView(key: string, columns: readonly string[], line: number): void {
    this.#droppedViews.set(key, { columns, line });
  }

  /** The columns of a view that the script has dropped. */
  droppedView(key: string): { columns: readonly string[]; line: number } | null {
    return this.#droppedViews.get(key) ?? null;
  }

  /** What was dropped or renamed while other code still spoke of it, and nothing has mended that yet. */
  broken: Broken[] = [];

  noteBroken(one: Broken): void {
    if (this.broken.length < KEPT_BROKEN) this.broken.push(one);
  }

  /** An object is made again or dropped: it no longer refers to what is gone. A table of that name mends all of them. */
  mend(key: string): void {
    if (this.broken.length === 0) return;
    this.broken = this.broken
      .filter(({ table, column }) => column || table !== key)
      .map((one) => ({ ...one, dependents: one.dependents.filter((dependent) => dependent.key !== key) }))
      .filter(({ dependents }) => dependents.length > 0);
  }

  readonly #settings = new Map<string, string>();

  /** The value of a session setting as the script has left it; null where it has not touched it. */
  setting(name: string): string | null {
    return this.#settings.get(name) ?? null;
  }

  noteSetting(name: string, value: string): void {
    this.#settings.set(name, value);
  }

  noteDrop(key: string, line: number): void {
    this.#dropped.set(key, line);
  }

  noteCreate(key: string): void {
    this.#dropped.delete(key);
    this.#renamed.delete(key);
  }

  /** A table has another name from here on. */
  noteRename(key: string, line: number): void {
    this.#renamed.set(key, line);
    if (this.#gaveAway.size < KEPT_BROKEN) this.#gaveAway.add(key);
  }

  /** Whether a name was that of another table before, which has been renamed since. */
  gaveAway(key: string): boolean {
    return this.#gaveAway.has(key);
  }

  /** The line on which a table was given another name, since when nothing has taken the old one. */
  renamedOn(key: string): number | null {
    return this.#renamed.get(key) ?? null;
  }

  /** The line on which a table was dropped and not made again. */
  droppedOn(key: string): number | null {
    return this.#dropped.get(key) ?? null;
  }
}

/**
 * A number that two texts share when they are the same but for blanks, comments and the case of their
 * letters. (Two hashes of 32 and 21 bits: other texts do not share it in any script that fits on a disk.)
 */
export function fingerprint(text: string): number {
  let a = 2166136261;
  let b = 5381;
  let blank = true;
  for (let i = 0; i < text.length; i++) {
    let code = text.charCodeAt(i);
    if (code === 45 && text.charCodeAt(i + 1) === 45) {
      const end = text.indexOf("\n", i);
      i = end < 0 ? text.length : end;
      code = 32;
    } else if (code === 47 && text.charCodeAt(i + 1) === 42) {
      const end = text.indexOf("*/", i + 2);
      i = end < 0 ? text.length : end + 1;
      code = 32;
    }
    if (code <= 32) {
      // Blanks count once, and not at all at the ends.
      blank = true;
      continue;
    }
    if (code >= 65 && code <= 90) code |= 32;
    if (blank) {
      a = Math.imul(a ^ 32, 16777619);
      b = (Math.imul(b, 33) + 32) | 0;
      blank = false;
    }
    a = Math.imul(a ^ code, 16777619);
    b = (Math.imul(b, 33) + code) | 0;
  }
  return (a >>> 0) * 2097152 + ((b >>> 0) & 2097151);
}

/** Two spellings of a table are one: a script that has no catalog writes it now one way, now another. */
function anyCase(target: string): string {
  return target.toLowerCase();
}
