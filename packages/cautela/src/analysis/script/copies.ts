import type { Table } from "../../catalog/model.ts";
import { bareName, parted } from "../../catalog/names.ts";
import type { Expr, Statement } from "../../sql/nodes/tree.ts";
import { singleBlanks } from "../../text/blanks.ts";
import { ownText } from "../../text/own-text.ts";
import type { Slice } from "../../text/slice.ts";
import type { Change } from "../changes/change.ts";
import type { Reach } from "../changes/reach.ts";
import { type FilterFact, filterFacts } from "../conditions/filter-facts.ts";
import type { Mitigation } from "./mitigations.ts";
import type { Moment } from "./step.ts";

// What a script copies, and what it destroys: what a way back is judged by.

/** Before the first statement of the script, and far from it. */
const BEFORE: Moment = {
  statement: Number.NEGATIVE_INFINITY,
  region: { line: 0, column: 0, endLine: 0, endColumn: 0 },
};

/** A copy of rows of a table, made by the script. */
export class Copy {
  at: Moment;
  /** The key of the table that is copied, and of the copy. */
  of: string;
  ofShown: string;
  name: string;
  shown: string;
  /** The columns that it holds, folded to lower case; null: all. */
  columns: readonly string[] | null = null;
  /** The columns from which it holds something that was made of them: COALESCE(fee, 0), CAST(fee AS integer). */
  derived: readonly string[] = [];
  #filter: Filter = NO_FILTER;
  /** It joins, groups, limits or leaves rows out in a way that is not followed. */
  uncertain: string | null = null;
  /** It holds no rows: WITH NO DATA, WHERE 1 = 0, LIKE. */
  structureOnly = false;
  temporary = false;
  /** Where it was dropped or emptied again. */
  gone: Moment | null = null;
  /** Where the transaction that made it was rolled back. */
  undone: Moment | null = null;
  /** Where it took the name of the table that it was made from: it is that table now, and no copy of what has the name. */
  became: Moment | null = null;
  /** Rows go into a table that was there before. */
  into = false;
  /** An earlier script of the change set has made it. */
  earlier = false;
  /** The statement that takes the rows away hands them on itself. */
  handedOn = false;
  /** Its number among the copies of the script. */
  place = 0;

  constructor(at: Moment, of: { key: string; shown: string }, made: { key: string; shown: string }) {
    this.at = at;
    this.of = of.key;
    this.ofShown = of.shown;
    this.name = made.key;
    this.shown = made.shown;
  }

  /** The same as a later script of a change set finds it, before its first statement. */
  carried(): Copy {
    const copy = Object.assign(
      new Copy(BEFORE, { key: this.of, shown: this.ofShown }, { key: this.name, shown: this.shown }),
      {
        columns: this.columns,
        uncertain: this.uncertain,
        structureOnly: this.structureOnly,
        into: this.into,
        handedOn: this.handedOn,
        earlier: true,
      },
    );
    copy.#filter = this.#filter;
    return copy;
  }

  /** Its name says that it is one. */
  get saysSo(): boolean {
    return namesCopy(this.shown);
  }

  /** Whether it was made for the way back: whole rows, or a name that says so. A list of keys is a tool. */
  isMeantFor(table: string): boolean {
    const { columns, into } = this;
    if ((columns === null && !into) || this.handedOn) return true;
    // Several columns of the table, under a name made from its own.
    if (!into && (columns?.length ?? 0) > 1 && parted(bareName(this.shown)).startsWith(`${parted(bareName(table))}_`))
      return true;
    return this.saysSo;
  }

  filters(where: Expr, slice: Slice, facts: boolean): void {
    this.#filter = new Filter(where, slice, facts, false);
  }

  /** Its rows by conditions that have been read already, see `rowFacts`. */
  takes(facts: readonly FilterFact[], where: Expr | null, slice: Slice): void {
    this.#filter = facts.length === 0 ? NO_FILTER : new Filter(where, slice, false, true, facts);
  }

  /** Whether it is still a copy at the end of what has run. */
  get isKept(): boolean {
    return !this.gone && !this.undone && !this.became;
  }

  /** The same for the table of a key: one that took the place of its table still keeps the rows of that under its new name. */
  keeps(key: string): boolean {
    return !this.gone && !this.undone && !(this.became && key === this.of);
  }

  /** It holds every row. */
  get holdsAllRows(): boolean {
    return !this.filtered && this.uncertain === null && !this.structureOnly;
  }

  get filtered(): boolean {
    return this.#filter !== NO_FILTER;
  }

  /** The conditions that its rows met; null: none, it holds every row. */
  get filter(): readonly FilterFact[] | null {
    return this.#filter.facts;
  }

  get filterText(): string {
    return this.#filter.text;
  }
}

/** A filter as it is compared and shown, read when somebody asks. */
class Filter {
  readonly #where: Expr | null;
  readonly #wanted: boolean;
  readonly #joined: boolean;
  /** The text of the filter: the script's own is let go. */
  readonly #own: string;
  #facts: readonly FilterFact[] | null | undefined = undefined;
  #text: string | undefined = undefined;

  constructor(where: Expr | null, slice: Slice, wanted: boolean, joined: boolean, facts?: readonly FilterFact[]) {
    this.#facts = facts;
    this.#where = where;
    this.#wanted = wanted;
    this.#joined = joined;
    this.#own = where ? ownText(slice(where.start, wanted ? where.end : Math.min(where.end, where.start + 401))) : "";
  }

  get facts(): readonly FilterFact[] | null {
    if (this.#facts === undefined) {
      const where = this.#where;
      const from = where?.start ?? 0;
      this.#facts = !where
        ? this.#joined
          ? NO_FACTS
          : null
        : this.#wanted
          ? filterFacts(where, (start, end) => this.#own.slice(start - from, end - from))
          : NO_FACTS;
    }
    return this.#facts;
  }

  get text(): string {
    this.#text ??= this.#where ? shortText(this.#own, this.#where) : "";
    return this.#text;
  }
}

/** Rows or structure that a statement destroys. */
export class Destruction {
  at: Moment;
  key: string;
  shown: string;
  action:
    | "delete"
    | "truncate"
    | "update"
    | "drop"
    | "replace"
    | "drop-partition"
    | "switch"
    | "exchange"
    | "flashback";
  /** The columns whose values are lost; null: whole rows. */
  columns: readonly string[] | null;
  #filter: Filter;
  #said: string;
  reach: Reach;
  table: Table | null;
  softener: Mitigation | null;
  /** What the author or the policy says about a copy that is kept elsewhere; null: nothing. */
  declared: string | null;
  /** Other tables whose rows go or change with these: they need a copy as well. */
  ripples: readonly { name: string; action: string }[];
  /** The transaction in which it stands. */
  span: TransactionSpan | null;
  /** Copies are looked for among those made before it. */
  copies: number;
  /** ROLLBACK TO a savepoint before it takes it back. */
  undone = false;
  /** The keys of tables that hold the key of every row that it meets, see `takenFrom`. */
  among: readonly string[];
  /** The change and its own text, from which its rows can be asked for; null: it is long, or stands in code. */
  source: ChangeSourceText | null;
  /** What its filter and its joins ask; empty where it is too long to matter. */
  conditions: Change["conditions"];

  constructor(
    at: Moment,
    one: Lost,
    declared: string | null,
    ripples: Destruction["ripples"],
    span: TransactionSpan | null,
    copies: number,
  ) {
    this.at = at;
    this.key = one.key;
    this.shown = one.shown;
    this.action = one.action;
    this.columns = one.columns;
    this.#said = one.filterText ?? "";
    this.#filter =
      one.where || one.joined || one.filterText
        ? new Filter(one.where ?? null, one.slice ?? NO_SLICE, one.facts ?? false, true, one.rows)
        : NO_FILTER;
    this.reach = one.reach ?? { bound: "every" };
    this.table = one.table ?? null;
    this.softener = one.softener ?? null;
    this.declared = declared;
    this.ripples = ripples;
    this.span = span;
    this.copies = copies;
    this.among = one.among ?? [];
    this.source = one.source ?? null;
    this.conditions = one.conditions ?? [];
  }

  /** The conditions, for the copies made before it; null: there is no condition. */
  get filter(): readonly FilterFact[] | null {
    return this.#filter.facts;
  }

  get filterText(): string {
    return this.#said === "" ? this.#filter.text : this.#said;
  }
}

/** What is said of a destruction where it is noted. */
export interface Lost {
  key: string;
  shown: string;
  action: Destruction["action"];
  columns: readonly string[] | null;
  where?: Expr | null;
  joined?: boolean;
  facts?: boolean;
  /** The conditions on its rows, those of other tables included, where they could be told; see `rowFacts`. */
  rows?: readonly FilterFact[];
  slice?: Slice;
  filterText?: string;
  reach?: Reach;
  table?: Table | null;
  softener?: Mitigation | null;
  among?: readonly string[];
  source?: ChangeSourceText | null;
  conditions?: Change["conditions"];
}

/** A change with the text of its statement; offsets of the tree count from `start`. */
export interface ChangeSourceText {
  change: Change;
  tree: Statement;
  text: string;
  start: number;
}
const NO_SLICE = (): string => "";

/** From BEGIN to COMMIT, ROLLBACK, or the end of the script. */
export interface TransactionSpan {
  at: Moment;
  /** Nobody has begun it: the engine is always in one, and the client commits it at its end (plsql). */
  implied: boolean;
  end: "open" | "commit" | "rollback" | "silent";
  endAt: Moment | null;
  changes: number;
  /** How many batches end inside it (tsql): each is sent by itself. */
  batches: number;
  /** The script looks inside it whether something has failed: IF @@ERROR <> 0. */
  checked: boolean;
  /** A branch that rolls it back and lets the script go on, and the first change after that. */
  goesOn: { at: Moment; next: Moment | null } | null;
}

const NO_FACTS: readonly FilterFact[] = [];
const NO_FILTER = new Filter(null, NO_SLICE, false, false);

/** A filter as messages show it: in one line, cut where it is very long. */
function shortText(own: string, { start, end }: Expr): string {
  const text = singleBlanks(own.slice(0, Math.min(end - start, 400)));
  return ownText(end - start > 400 ? `${text}…` : text);
}

/** Whether a table has the name of a copy: `mooring_before`, `TariffBackup`. */
export function namesCopy(shown: string): boolean {
  return SAYS_SO.test(parted(bareName(shown)));
}

const SAYS_SO = /backup|bak|before|copy|save|_old|archive|orig|\d{6,8}/i;

const ARCHIVES =
  /(?:^|[._])(?:bak|backup|old|past|before|copy|save|saved|orig|arch|archive|archived|hist|history|deleted|removed)(?:[_\d]|$)/i;

/**
 * Whether rows that go into another table are those of this one, kept there: most of their columns go, or its name says so. A key
 * and some constants begin new rows of another kind.
 */
export function isMove(copy: Copy, table: Table | null): boolean {
  const { columns, shown } = copy;
  if (columns === null) return true;
  if (columns.length === 0) return false;
  const own = table?.name.toLowerCase();
  const named = ARCHIVES.test(parted(shown)) || (own !== undefined && shown.toLowerCase().includes(own));
  // A key with some constants, in a history, tells of a change of the row and does not keep it.
  if (named) return table === null || table.partial || columns.length * 3 >= table.columns.length;
  return table === null || table.partial ? columns.length > 1 : columns.length * 2 >= table.columns.length;
}
