import type { Change } from "../analysis/change.ts";
import type { FiredRipple, RippleEdge } from "../analysis/ripples/ripple.ts";
import { tableKey } from "../catalog/catalog.ts";
import { columnNamed } from "../catalog/columns.ts";
import { shownName, type Table } from "../catalog/model.ts";
import type { Policy } from "../policy.ts";
import { walk } from "../sql/children.ts";
import { staysAsItIs } from "./audit.ts";
import { holes, withoutReturning } from "./change-pieces.ts";
import { type AssignedText, type ChangeText, changeText, onKeys } from "./change-text.ts";
import type { CopyNames } from "./copy-names.ts";
import { harmOf } from "./harmless.ts";
import { insertLooks } from "./insert-looks.ts";
import { type Added, type Kept, keyOf } from "./kept.ts";
import { arithmetic, changingSql, count, countSql, figures, preview, rows, warn, where } from "./looks.ts";
import { inOneLine } from "./own-copies.ts";
import type { RehearsalSheet } from "./rehearsal.ts";
import { restore } from "./restore.ts";
import { copyInto, makeRoom, type Room, roomFor, takenBy } from "./room.ts";
import type { ScriptStep, Written } from "./script-steps.ts";
import { PREVIEW, Sheet } from "./sheet.ts";
import type { SqlWriter } from "./writing/writer.ts";

/** What is the same for all sheets of a rehearsal. */
export interface SheetContext {
  writer: SqlWriter;
  names: CopyNames;
  policy: Policy;
  /** Only this statement is asked for: its looks and copies come before it, whatever the script does earlier. */
  alone: boolean;
}

/** The clauses of one target of the statement. */
interface Target {
  change: Change;
  table: Table | undefined;
  text: ChangeText;
}

/** An image of a table from before the change, and the table with the differences. */
interface Image {
  written: Written;
  room: Room;
  name: string;
  drop: readonly string[];
  take: readonly string[];
  kept: Kept | null;
  added: Added | null;
}

/** The sheet of a statement that changes rows. */
export function changeSheet(step: ScriptStep, context: SheetContext): RehearsalSheet {
  return new ChangeSheet(step, context).done();
}

class ChangeSheet {
  readonly #step: ScriptStep;
  readonly #context: SheetContext;
  readonly #writer: SqlWriter;
  readonly #sheet: Sheet;
  readonly #kept: Kept[] = [];
  readonly #keptOf = new Map<Table, Kept>();
  readonly #added: Added[] = [];
  readonly #images: Image[] = [];
  /** What is run right before the change and right after it, in one transaction with it. */
  readonly #first: string[] = [];
  readonly #last: string[] = [];
  /** Copies that hold the rows of a target, no more and no fewer, before the change runs. */
  readonly #exact = new Map<Table, string>();
  /** Rows of the target cannot be put back, and so nothing is. */
  #lost = false;
  /** Tables whose rows are kept, or need not be. */
  readonly #settled = new Set<Table>();

  constructor(step: ScriptStep, context: SheetContext) {
    this.#step = step;
    this.#context = context;
    this.#writer = context.writer;
    this.#sheet = new Sheet(step, context.writer, context.alone);
  }

  done(): RehearsalSheet {
    const { source, catalog, unknown, fired } = this.#step;
    const sheet = this.#sheet;
    if (source.repeat > 1) sheet.reason(`its batch runs ${source.repeat} times; the change stands here once`);
    if (catalog) for (const name of unknown) sheet.reason(`${name} is not in the catalog, so its rows are not kept`);
    warn(sheet, fired);
    const targets = this.#targets();
    this.#looks(targets);
    const rewritten = this.#copies(targets);
    this.#change(targets, rewritten);
    this.#checks(targets);
    if (source.elsewhere !== null)
      sheet.reason(`no copy is made, for ${source.elsewhere}: what has to come back comes back from there`);
    else if (catalog && this.#lost) return sheet.done();
    else if (catalog) restore(sheet, this.#step, this.#context.policy, this.#kept, this.#added);
    else if (source.changes.length > 0)
      sheet.reason("the table is not in the catalog: without its key and columns no restore can be written");
    return sheet.done();
  }

  // ------------------------------------------------------------ what is changed

  /** The targets whose clauses can be taken apart; for the others the reason is given. */
  #targets(): Target[] {
    const { source } = this.#step;
    if (source.tree.kind !== "update" && source.tree.kind !== "delete") return [];
    const targets: Target[] = [];
    for (const { change } of source.changes) {
      const text = changeText(source, change, this.#writer);
      if (typeof text === "string") {
        this.#sheet.reason(`no query was written: ${text}`);
        return [];
      }
      targets.push({ change, table: this.#viewed(change) ? undefined : this.#current(change.table), text });
    }
    return targets;
  }

  /** The table as the steps have it: the review has an object of its own for it. */
  #current(table: Table | undefined): Table | undefined {
    return table && (this.#step.written.find((one) => sameTable(one.table, table))?.table ?? table);
  }

  /** The view through which a change goes. */
  #viewed(change: Change): FiredRipple | undefined {
    return this.#step.fired.find(
      ({ firing, ripple }) =>
        ripple.nodes[0]?.object === "view" &&
        (firing.change === change || firing.change?.statement === change.statement),
    );
  }

  /** The columns of a view, where the change goes through one: rows are told apart by what it shows. */
  #viewKey(change: Change): readonly string[] | null {
    const view = this.#viewed(change)?.ripple.nodes[0].relation;
    const base = this.#step.written.find(({ direct }) => direct)?.table;
    const key = base ? keyOf(base) : null;
    const shown = view?.columns?.map((one) => (typeof one === "string" ? one : one.name));
    return key?.every((one) => shown?.includes(one)) ? key : null;
  }

  #keyOf({ table, change }: Target): readonly string[] | null {
    return table ? keyOf(table) : this.#viewed(change) ? this.#viewKey(change) : null;
  }

  // ------------------------------------------------------------ looks

  #looks(targets: readonly Target[]): void {
    const { source, catalog, written } = this.#step;
    const sheet = this.#sheet;
    const { tree } = source;
    if (tree.kind === "insert") this.#insertLooks();
    if (tree.kind === "merge")
      sheet.reason("which branch of MERGE takes a row depends on both tables: its rows are compared afterwards");
    if (tree.kind === "truncate")
      for (const { table } of written)
        sheet.add(
          sheet.early,
          "count",
          `How many rows ${shownName(table)} holds`,
          `SELECT COUNT(*) AS rows_touched\nFROM ${this.#writer.table(table)}`,
        );
    for (const target of targets) {
      const { text, table, change } = target;
      if (targets.length > 1 && table) sheet.titled(shownName(table));
      const key = this.#keyOf(target);
      const filter = catalog ? harmOf(`${text.head}SELECT 1 FROM ${text.from}${where(text)}`, catalog) : null;
      if (filter?.writes) {
        sheet.reason(`${filter.why}, so no query was written that would call it beforehand`);
        continue;
      }
      if (filter) sheet.reason(`${filter.why}: make sure that it only reads before you run the queries`);
      if (text.unsettled)
        sheet.reason(
          text.unsettled === "clock"
            ? "its filter depends on the clock, so the copy decides which rows are changed"
            : "nobody can say beforehand which rows it takes, so the copy decides: the looks may show others",
        );
      const setHarm = catalog && table ? this.#valueHarm(text) : null;
      if (setHarm) sheet.reason(`${setHarm}, so the new values are not shown`);
      count(sheet, setHarm ? { ...text, assignments: [] } : text, table, key);
      if (source.tree.kind === "delete") rows(sheet, text, table, key);
      else if (!setHarm) preview(sheet, text, table, key);
      if (!table) continue;
      const phase = sheet.early;
      figures(
        sheet,
        phase,
        table,
        text.assignments,
        written.map((one) => one.table),
      );
      if (targets.length === 1 && !this.#viewed(change) && !setHarm && this.#step.dependsOn === null)
        arithmetic(sheet, text, table, this.#step.fired);
    }
    sheet.titled("");
  }

  #insertLooks(): void {
    const { source, catalog } = this.#step;
    const { tree, into } = source;
    const sheet = this.#sheet;
    if (tree.kind !== "insert") return;
    const query = tree.source
      ? source.text.slice(tree.source.start - source.start, tree.source.end - source.start)
      : null;
    const harm = query !== null && catalog && tree.source?.body.kind !== "values" ? harmOf(query, catalog) : null;
    if (harm?.writes) sheet.reason(`${harm.why}, so its rows are not shown beforehand`);
    else insertLooks(sheet, source, into?.object === "table" ? into : null);
    if (into?.object !== "table") return;
    for (const phase of [sheet.early, "after"] as const)
      if (phase !== "after" || sheet.early === "before") figures(sheet, phase, into, [], []);
  }

  /** What the new values may do when they are looked at; null: nothing. */
  #valueHarm(text: ChangeText): string | null {
    const { catalog } = this.#step;
    if (!catalog) return null;
    const values = text.assignments
      .filter(({ value, assignment }) => value !== "" && !isDefault(assignment))
      .map(({ value }) => `(${value})`);
    if (values.length === 0) return null;
    const found = harmOf(`${text.head}SELECT ${values.join(", ")} FROM ${text.from}`, catalog);
    return found?.writes ? found.why : null;
  }

  // ------------------------------------------------------------ copies

  /** Keeps what may be lost; the change as it has to be run then, where that is not how it is written. */
  #copies(targets: readonly Target[]): string | null | undefined {
    const { source, catalog, written } = this.#step;
    const sheet = this.#sheet;
    if (source.elsewhere !== null) return undefined;
    let rewritten: string | null | undefined;
    for (const target of targets) {
      const { text, table, change } = target;
      if (!table) {
        if (!catalog && !this.#step.made(bareTable(change)))
          sheet.add(
            sheet.early,
            "copy",
            "Keep the rows",
            this.#rowsCopy(target, this.#context.names.next(named(change)), null, null),
          );
        continue;
      }
      const own = written.find((one) => one.table === table);
      if (!own || this.#noNeed(own) || this.#settled.has(table)) continue;
      if (!this.#plainTarget(target, own)) continue;
      if (this.#onlyNew(own)) {
        sheet.reason(
          "it fills columns that the script has added: they go again when that is undone, and nothing is copied",
        );
        this.#settled.add(table);
        continue;
      }
      const problem = this.#writer.copyProblem(table);
      if (problem) {
        sheet.reason(`no copy of ${shownName(table)} is made, so nothing of it is put back: ${problem}`);
        this.#settled.add(table);
        this.#lost = true;
        if (!text.unsettled) continue;
        sheet.reason("two runs may meet different rows, and no copy can hold them fast: no change was written");
        return null;
      }
      const changed = text.assignments.map(({ column }) => column);
      const key = keyOf(table, changed);
      const newKey = key === null && source.tree.kind === "update" ? this.#newKey(target) : null;
      if (source.tree.kind === "update" && !key && !newKey) {
        sheet.reason(
          keyOf(table)
            ? `the key of ${shownName(table)} changes in a way that cannot be traced back: no restore was written`
            : `rows of ${shownName(table)} have no key, so they cannot be told apart afterwards: no restore was written`,
        );
        this.#settled.add(table);
        this.#lost = true;
      }
      const byKey = key ?? keyOf(table);
      if (text.unsettled) {
        if (!byKey || (newKey && !key)) {
          sheet.reason(
            `two runs may meet different rows, and without a key that stays they cannot be held fast: no change was written`,
          );
          return null;
        }
        const copy = this.#writer.beside(table, this.#context.names.next(table));
        const list = (alias: string): string =>
          this.#writer.amongKeys(
            alias,
            table,
            byKey,
            `SELECT ${this.#writer.columns("k", table, byKey)} FROM ${copy}${this.#writer.as("k")}`,
          );
        rewritten = onKeys(source, text, this.#writer.table(table), list);
        if (rewritten === null) {
          sheet.reason("two runs may meet different rows, and its values come from a join: no change was written");
          return null;
        }
        this.#keepRows(target, own, key, null, copy);
        continue;
      }
      this.#keepRows(target, own, key ?? (newKey ? keyOf(table) : null), newKey, null);
    }
    for (const one of written) this.#keepRipple(one, targets);
    this.#makeImages();
    return rewritten;
  }

  /** Every column that it changes has come in the script. */
  #onlyNew({ table, actions, columns }: Written): boolean {
    const lasting = this.#step.lasting(table);
    if (!lasting || columns === null || columns.size === 0) return false;
    const updates = [...actions].every((action) => action === "update");
    return updates && [...columns].every((name) => !lasting.columns.some((one) => one.name === name));
  }

  /** What is made by the script goes with it; rows that tell what happened stay. */
  #noNeed(one: Written): boolean {
    const { table } = one;
    if (table.temporary || this.#step.made(table)) return true;
    if (staysAsItIs(one, this.#context.policy)) {
      this.#sheet.reason(
        `${shownName(table)} records what happened: its rows stay, and the restore adds rows of its own`,
      );
      return true;
    }
    return false;
  }

  /** The rows that the filter meets are all that changes in the table, and they can be copied by it. */
  #plainTarget({ text, table, change }: Target, own: Written): boolean {
    const { catalog, fired } = this.#step;
    if (!table || !catalog) return false;
    if (own.ways > 1 || inherited(catalog.childrenOf(tableKey(table.schema, table.name)))) return false;
    // A filter that may write is not run to copy by it.
    if (harmOf(`${text.head}SELECT 1 FROM ${text.from}${where(text)}`, catalog)?.writes) return false;
    const again = fired.some(({ ripple }) =>
      ripple.nodes.some(({ id, relation, written }) => id !== 0 && written && sameTable(relation, table)),
    );
    const loops = fired.some(({ ripple }) =>
      ripple.edges.some(({ to }) => sameTable(ripple.nodes[to]?.relation, table) && to === 0),
    );
    return (
      !again &&
      !loops &&
      !text.assignments.some(({ value }) => value === "" && keyOf(table)?.length === 0) &&
      change.relation !== null
    );
  }

  /** The new values of a key that the change rewrites, where a copy can hold them beside the old ones. */
  #newKey({ table, text }: Target): ReadonlyMap<string, string> | null {
    const key = table && keyOf(table);
    if (!key || text.joined || text.unsettled || text.movingValue) return null;
    const tidied = this.#step.written.find((one) => one.table === table)?.tidied;
    const rewrites = tidied === null || key.some((one) => tidied?.has(one));
    const taken = new Set(table.columns.map(({ name }) => name.toLowerCase()));
    const names = new Map<string, string>();
    for (const { column, value, assignment } of text.assignments) {
      if (!key.includes(column)) continue;
      if (value === "" || isDefault(assignment) || rewrites) return null;
      let name = `new_${column.toLowerCase()}`;
      while (taken.has(name)) name = `${name}_`;
      names.set(column, this.#writer.name(name));
    }
    return names;
  }

  #keepRows(
    target: Target,
    own: Written,
    key: readonly string[] | null,
    newKey: ReadonlyMap<string, string> | null,
    name: string | null,
  ): void {
    const { source } = this.#step;
    const { table } = target;
    if (!table) return;
    const sheet = this.#sheet;
    const writer = this.#writer;
    const used = name === null && newKey === null ? this.#scriptCopy(target) : null;
    const room = roomFor(this.#step, sheet, table, newKey !== null);
    const copy = used ?? name ?? writer.beside(table, this.#context.names.next(table));
    const deletes = source.tree.kind === "delete";
    const title = deletes ? "Keep the rows that go" : "Keep the rows that will change";
    if (used) sheet.reason(`${used} keeps these rows: the script makes it, and no second copy is made`);
    else if (room.when === "filled") {
      const extra = [...(newKey ?? [])].map(([column, as]) => `, t.${writer.column(table, column)} AS ${as}`).join("");
      makeRoom(sheet, room, copy, extra);
      // With new keys it must not be there without the change: rows would be taken for others.
      if (newKey) this.#first.push(this.#rowsCopy(target, copy, newKey, room));
      else sheet.add("change", "copy", title, this.#rowsCopy(target, copy, newKey, room));
    } else if (newKey) this.#first.push(this.#rowsCopy(target, copy, newKey, room));
    else sheet.add(sheet.early, "copy", title, this.#rowsCopy(target, copy, newKey, room));
    this.#settled.add(table);
    if (!used) this.#exact.set(table, copy);
    if (source.tree.kind === "update" && !key && !newKey) return;
    this.#keep(table, {
      table: room.table,
      only: false,
      copy,
      key,
      newKey,
      removed: deletes,
      changed: deletes ? [] : this.#changedColumns({ ...own, table: room.table }, key),
    });
  }

  #keep(table: Table, kept: Kept): void {
    this.#kept.push(kept);
    this.#keptOf.set(table, kept);
  }

  /** The columns that a restore sets back. */
  #changedColumns(own: Written, key: readonly string[] | null): string[] {
    const columns = this.#writer.updatable(own.table);
    const touched = own.columns;
    return columns.filter((one) => (touched ? touched.has(one) : true) && (!key?.includes(one) || touched?.has(one)));
  }

  /** A copy of the same rows that the script itself has made, whole or by the same filter. */
  #scriptCopy({ change, text, table }: Target): string | null {
    if (!table || text.joined || text.limited || text.unsettled) return null;
    // What goes with these rows is copied by their copy, and before the script has made one of its own.
    if (this.#step.written.length > 1) return null;
    const name = this.#step.ownCopy(table, text.where === null ? null : inOneLine(text.where));
    if (name) return name;
    const judged = this.#step.source.changes.find((one) => one.change === change);
    return judged?.copy && text.where === null && !/^[#@]/.test(judged.copy) ? this.#writer.name(judged.copy) : null;
  }

  /** The copy of the rows that a change meets. */
  #rowsCopy(target: Target, copy: string, newKey: ReadonlyMap<string, string> | null, room: Room | null): string {
    const writer = this.#writer;
    const { text, table } = target;
    const list = (alias: string): string => {
      const own = room && table ? takenBy(this.#sheet, room, table, alias) : `${alias}.*`;
      const extra = [...(newKey ?? [])].map(([column, as]) => {
        const value = text.assignments.find((one) => one.column === column)?.value ?? "";
        return `, ${writer.stored(`(${value})`, columnNamed(table, column))} AS ${as}`;
      });
      return own + extra.join("");
    };
    const made = (columns: string, rest: string): string =>
      room?.when === "filled"
        ? `${writer.headFirst ? text.head : ""}INSERT INTO ${copy}\n${writer.headFirst ? "" : text.head}SELECT ${columns}\n${rest}`
        : writer.copy(copy, columns, rest, text.head);
    const key = table ? keyOf(table) : null;
    if (text.joined && table && key) {
      const keys = `SELECT ${text.top}${writer.columns(text.ref, table, key)} FROM ${text.from}${where(text)}${text.tail}`;
      return made(
        list("t"),
        `FROM ${writer.table(table)}${writer.as("t")}\nWHERE ${writer.amongKeys("t", table, key, keys)}`,
      );
    }
    return made(
      `${text.joined ? "DISTINCT " : ""}${text.top}${list(text.ref)}`,
      `FROM ${text.from}${where(text)}${text.tail}`,
    );
  }

  /** Keeps rows of a table that the statement reaches in another way than by its own filter. */
  #keepRipple(own: Written, targets: readonly Target[]): void {
    const { table } = own;
    if (this.#settled.has(table) || this.#noNeed(own)) return;
    this.#settled.add(table);
    const sheet = this.#sheet;
    const { actions } = own;
    const key = keyOf(table, [...(own.columns ?? [])]) ?? keyOf(table);
    if (actions.has("truncate")) {
      this.#keepWhole(own, key);
      return;
    }
    const cascade = targets.length === 1 ? this.#directCascade(own, targets[0]) : null;
    if (cascade) {
      this.#keepLinked(own, key, cascade);
      return;
    }
    const only = inherited(this.#step.catalog?.childrenOf(tableKey(table.schema, table.name)) ?? []);
    if (only)
      sheet.reason(`tables inherit from ${shownName(table)}: the rows of each are kept and compared by themselves`);
    const adds = actions.has("insert");
    const loses = actions.has("delete") || actions.has("truncate");
    const changes = actions.has("update") || actions.has("delete");
    const shown = shownName(table);
    const problem = this.#writer.copyProblem(table);
    if (problem) {
      sheet.reason(`no copy of ${shown} is made, so nothing of it is put back: ${problem}`);
      return;
    }
    if (!key) {
      if (adds || actions.has("update")) {
        sheet.reason(
          `rows of ${shown} have no key, so those that ${adds ? "come" : "change"} cannot be told from the others: no restore was written for it`,
        );
        return;
      }
      if (table.columns.some((one) => !this.#writer.comparable(one))) {
        sheet.reason(`rows of ${shown} have no key and values that cannot be compared: no restore was written for it`);
        return;
      }
    }
    const onlyAdds = adds && !loses && !changes && !this.#overwrites();
    const name = this.#context.names.next(table);
    const image = this.#writer.image(this.#context.names.next(table, "_image"), table, only, onlyAdds ? key : null);
    const needsKept = !onlyAdds;
    const needsAdded = key !== null && (adds || own.columns === null || key.some((one) => own.columns?.has(one)));
    const room = roomFor(this.#step, sheet, table, true);
    const kept: Kept | null = needsKept
      ? {
          table: room.table,
          only,
          copy: this.#writer.beside(table, name),
          key,
          newKey: null,
          removed: true,
          changed: key
            ? this.#changedColumns(
                { ...own, table: room.table, columns: this.#overwrites() ? null : own.columns },
                key,
              ).filter((one) => !key.includes(one))
            : [],
        }
      : null;
    const list = needsAdded
      ? this.#writer.beside(table, needsKept ? this.#context.names.next(table, "_new") : name)
      : null;
    this.#images.push({
      written: own,
      room,
      name: image.name,
      take: image.take,
      drop: image.drop,
      kept,
      added: list && key ? { table, only, list, key } : null,
    });
    this.#sheet.addAll("before", "copy", `Room for an image of ${shown}`, image.before);
  }

  /** All rows of a table that is emptied: some engines commit then, so an image would come too late. */
  #keepWhole({ table }: Written, key: readonly string[] | null): void {
    const writer = this.#writer;
    const sheet = this.#sheet;
    const problem = writer.copyProblem(table);
    if (problem) {
      sheet.reason(`no copy of ${shownName(table)} is made: ${problem}`);
      return;
    }
    const only = inherited(this.#step.catalog?.childrenOf(tableKey(table.schema, table.name)) ?? []);
    const copy = writer.beside(table, this.#context.names.next(table));
    const room = roomFor(this.#step, sheet, table);
    const rest = `FROM ${writer.from(table, only)}${writer.as("t")}`;
    copyInto(sheet, room, table, copy, `Keep all rows of ${shownName(table)}`, rest);
    this.#keep(table, { table: room.table, only, copy, key, newKey: null, removed: true, changed: [] });
  }

  /** An upsert, REPLACE or MERGE may also overwrite rows that are there. */
  #overwrites(): boolean {
    const { tree } = this.#step.source;
    if (tree.kind === "merge") return true;
    return (
      tree.kind === "insert" &&
      (tree.replace || tree.conflicts.some(({ action }) => action === "update" || action === "replace"))
    );
  }

  /** Tables that the differences go to, and what is run before and after the change to find them. */
  #makeImages(): void {
    const sheet = this.#sheet;
    const writer = this.#writer;
    for (const { written, room, name, take, drop, kept, added } of this.#images) {
      const { table } = written;
      const shown = shownName(table);
      const make = (sql: string): void => {
        if (room.when === "within") this.#first.push(sql);
        else sheet.add("before", "copy", `A table for what changes in ${shown}, filled in the change`, sql);
      };
      if (kept) make(writer.emptyCopy(kept.copy, kept.table, null));
      if (added) make(writer.emptyCopy(added.list, table, added.key));
      this.#first.push(...take);
      if (kept) this.#last.push(this.#differences(kept, name, takenBy(sheet, room, table, "s")));
      if (added) {
        const t = writer.from(table, added.only);
        this.#last.push(
          `INSERT INTO ${added.list}\nSELECT ${writer.columns("t", table, added.key)}\nFROM ${t}${writer.as("t")}\nWHERE NOT EXISTS (SELECT 1 FROM ${name}${writer.as("s")} WHERE ${writer.match("s", "t", table, added.key)})`,
        );
      }
      this.#last.push(...drop);
      if (kept) this.#keep(table, kept);
      if (added) this.#added.push(added);
    }
  }

  /** The rows of an image that are gone, or hold other values. */
  #differences({ table, only, copy, key, changed }: Kept, image: string, list: string): string {
    const writer = this.#writer;
    const from = writer.from(table, only);
    const all = table.columns.map((one) => one.name);
    if (!key) {
      const same = writer.anyDiffers("t", "s", table, writer.writable(table)) ?? "1 = 0";
      return `INSERT INTO ${copy}\nSELECT ${list}\nFROM ${image}${writer.as("s")}\nWHERE NOT EXISTS (SELECT 1 FROM ${from}${writer.as("t")} WHERE NOT (${same}))`;
    }
    const comparable = table.columns.filter((one) => changed.includes(one.name)).every((one) => writer.comparable(one));
    const differing = comparable ? writer.anyDiffers("t", "s", table, changed.length > 0 ? changed : all) : null;
    const or = differing === null ? (changed.length > 0 ? "\n   OR 1 = 1" : "") : `\n   OR ${differing}`;
    return `INSERT INTO ${copy}\nSELECT ${list}\nFROM ${image}${writer.as("s")}\nLEFT JOIN ${from}${writer.as("t")} ON ${writer.match("t", "s", table, key)}\nWHERE t.${writer.column(table, key[0])} IS NULL${or}`;
  }

  /** Rows that a key of their own ties to the rows that go or change. */
  #keepLinked(own: Written, key: readonly string[] | null, cascade: Cascade): void {
    const { table } = own;
    const writer = this.#writer;
    const sheet = this.#sheet;
    const parent = this.#kept[0];
    const copy = writer.beside(table, this.#context.names.next(table));
    const on = cascade.on
      .map(([child, referenced]) => `p.${writer.column(parent.table, referenced)} = t.${writer.column(table, child)}`)
      .join(" AND ");
    const room = roomFor(this.#step, sheet, table);
    const rest = `FROM ${writer.table(table)}${writer.as("t")}\nWHERE EXISTS (SELECT 1 FROM ${parent.copy}${writer.as("p")} WHERE ${on})`;
    const title = `Keep the rows of ${shownName(table)} that refer to them`;
    copyInto(sheet, room, table, copy, title, rest);
    if (!key && !cascade.deletes) {
      sheet.reason(`rows of ${shownName(table)} have no key, so they cannot be put back one by one`);
      return;
    }
    this.#keep(table, {
      table: room.table,
      only: false,
      copy,
      key,
      newKey: null,
      removed: cascade.deletes,
      changed: cascade.deletes ? [] : this.#changedColumns({ ...own, table: room.table }, key),
    });
  }

  /** The columns by which a table refers to the changed one, when nothing but its key carries the change to it. */
  #directCascade(own: Written, target: Target): Cascade | null {
    const { table: parent } = target;
    const [kept] = this.#kept;
    if (!parent || !kept || this.#keptOf.get(parent) !== kept || own.ways !== 1) return null;
    // With new keys the parents' copy is filled only right before the change.
    if (kept.newKey) return null;
    if (this.#writer.copyProblem(own.table)) return null;
    const nodes = this.#step.fired.flatMap(({ ripple }) =>
      ripple.nodes
        .filter((node) => node.written && sameTable(node.relation, own.table))
        .map((node) => ({ node, ripple })),
    );
    if (nodes.length !== 1) return null;
    const [{ node, ripple }] = nodes;
    const incoming: RippleEdge[] = ripple.edges.filter((edge) => edge.to === node.id);
    if (incoming.length !== 1 || incoming[0].how !== "cascade" || incoming[0].from !== 0) return null;
    // What happens to these rows in turn is found by images.
    if (ripple.edges.some((edge) => edge.from === node.id && edge.how === "cascade" && edge.to === node.id))
      return null;
    if (ripple.notes.some((note) => note.node === node.id && (note.kind === "rewrites" || note.kind === "swallows")))
      return null;
    const foreign = own.table.foreignKeys.find(
      (one) =>
        one.table === tableKey(parent.schema, parent.name) &&
        (one.name ?? `${own.table.name}(${one.columns.join(", ")})`) === incoming[0].name,
    );
    const referenced =
      foreign && foreign.referenced.length > 0 ? foreign.referenced : (parent.primaryKey?.columns ?? []);
    if (!foreign || referenced.length !== foreign.columns.length) return null;
    if (node.action !== "delete" && node.action !== "update") return null;
    return { on: foreign.columns.map((column, i) => [column, referenced[i]]), deletes: node.action === "delete" };
  }

  // ------------------------------------------------------------ the change

  #change(targets: readonly Target[], rewritten: string | null | undefined): void {
    const { source, inside } = this.#step;
    const sheet = this.#sheet;
    const writer = this.#writer;
    if (rewritten === null) {
      this.#kept.length = 0;
      this.#added.length = 0;
      return;
    }
    const text = rewritten ?? source.text;
    const title = rewritten === undefined ? "The change" : "The change, on the rows of the copy";
    const own = this.#first.length > 0 && !inside ? writer.transaction : null;
    if (own && own.begin !== "") sheet.add("change", "script", "One transaction", own.begin);
    sheet.addAll("change", "copy", "Keep the rows as they are right before the change", this.#first);
    const form = this.#guarded(text, targets, inside || own !== null, rewritten !== undefined);
    if (form) sheet.add("change", "guarded", `${title}, undone at another number of rows`, form);
    else sheet.add("change", "change", title, text);
    sheet.addAll("change", "copy", "Keep what has changed in the tables that it reaches besides", this.#last);
    if (own) sheet.add("change", "script", "", own.commit);
  }

  /** The change with an assertion on its number of rows; null where that cannot be told, with the reason. */
  #guarded(change: string, targets: readonly Target[], inside: boolean, rewritten: boolean): string | null {
    const { source, fired, statement } = this.#step;
    const sheet = this.#sheet;
    const writer = this.#writer;
    const { expected } = sheet;
    const { tree } = source;
    const given = expected && !expected.atMost ? String(expected.rows) : null;
    if (tree.kind === "insert" && !this.#overwrites() && given === null) return null;
    if (tree.kind !== "update" && tree.kind !== "delete" && tree.kind !== "insert") return null;
    if (tree.kind === "insert" && (given === null || this.#overwrites())) return null;
    if (tree.kind !== "insert" && targets.length === 0) return null;
    if (
      source.changes.some(({ change }) =>
        this.#viewed(change)?.ripple.edges.some(({ from, how }) => from === 0 && how === "trigger"),
      )
    ) {
      sheet.reason("a trigger writes in the view's place, and what the engine counts is not what that writes");
      return null;
    }
    if (fired.some(({ ripple }) => ripple.notes.some(({ kind }) => kind === "swallows"))) {
      sheet.reason("a trigger or rule may drop rows without a word, so fewer may change than the count says");
      return null;
    }
    if (fired.some(({ ripple }) => ripple.edges.some(({ from, how }) => from === 0 && how === "rule"))) {
      sheet.reason("a rule writes besides, and its rows are counted too: compare the number of rows by hand");
      return null;
    }
    if (writer.cascadesAtOnce && tree.kind === "delete" && targets.some((target) => this.#movesMeanwhile(target))) {
      sheet.reason(
        "rows that a key takes along are gone before the statement comes to them, and the engine counts them otherwise",
      );
      return null;
    }
    if (holes(source)) {
      sheet.reason("a placeholder has to be filled in first, so the number of rows is not asserted");
      return null;
    }
    const counts: string[] = [];
    for (const target of targets) {
      const copy = target.table && this.#exact.get(target.table);
      const exact =
        copy !== undefined
          ? `SELECT COUNT(*) FROM ${copy}`
          : rewritten
            ? null
            : countSql(writer, target.text, target.table, this.#keyOf(target));
      if (exact === null) return null;
      counts.push(`(${exact})`);
    }
    const exact = given ?? counts.join(" + ");
    let changing: string | null = null;
    if (writer.countsChanged && tree.kind === "update") {
      const rewrites = this.#step.written.some(({ tidied }) => tidied === null || tidied.size > 0);
      const parts = targets.map(({ text, table, change }) =>
        rewrites || this.#viewed(change) ? null : changingSql(writer, text, table, table ? keyOf(table) : null),
      );
      if (parts.includes(null)) {
        sheet.reason(
          "ROW_COUNT() counts rows whose values really change, which cannot be told beforehand here: compare it by hand",
        );
        return null;
      }
      changing = parts.map((one) => `(${one})`).join(" + ");
      // Fewer rows may change than are met; those that are met have to be as many as the author expects.
      if (given !== null) changing = `IF(${counts.join(" + ")} = ${given}, ${changing}, -1)`;
    }
    const form = writer.guarded(withoutReturning(source, change), {
      expected: exact,
      changing,
      inside,
      line: statement.line,
    });
    if (form === null)
      sheet.reason(
        `${writer.dialect.title} has no assertion outside of routines: compare the number of rows by hand${writer.transaction ? " before COMMIT" : ""}`,
      );
    return form;
  }

  /** Rows of the target, or of a table that its filter reads, go or change by a key while the statement still runs. */
  #movesMeanwhile({ table, change }: Target): boolean {
    const moved = new Set<string>();
    const key = (one: Pick<Table, "schema" | "name"> | null | undefined): string =>
      one ? tableKey(one.schema, one.name) : "";
    for (const { ripple } of this.#step.fired)
      for (const { to, how } of ripple.edges) if (how === "cascade") moved.add(key(ripple.nodes[to].relation));
    if (moved.has(key(table))) return true;
    let reads = false;
    walk(change.statement, (node) => {
      if (node.kind === "table" && moved.has(key(this.#step.catalog?.resolve(node.name)))) reads = true;
      return undefined;
    });
    return reads;
  }

  // ------------------------------------------------------------ checks

  #checks(targets: readonly Target[]): void {
    const { source, written } = this.#step;
    const sheet = this.#sheet;
    for (const { table, text } of targets) {
      if (!table) continue;
      const kept = this.#keptOf.get(table);
      if (kept && source.tree.kind === "delete") this.#gone(kept);
      else if (kept?.key) this.#compared(kept, text.assignments);
      if (targets.length === 1 && this.#step.dependsOn === null)
        figures(
          sheet,
          "after",
          table,
          text.assignments,
          written.map((one) => one.table),
        );
    }
    for (const { kept, added } of this.#images) {
      if (kept && !targets.some(({ table }) => table && this.#keptOf.get(table) === kept))
        sheet.add(
          "after",
          "check",
          `Rows of ${shownName(kept.table)} as they were, those that have changed or are gone`,
          this.#writer.first(PREVIEW, "b.*", `FROM ${kept.copy}${this.#writer.as("b")}`),
        );
      if (added) this.#came(added);
    }
  }

  #gone({ table, copy, key, only }: Kept): void {
    if (!key) return;
    const writer = this.#writer;
    this.#sheet.add(
      "after",
      "check",
      "None of the rows is left (0 is right)",
      `SELECT COUNT(*) AS still_there\nFROM ${writer.from(table, only)}${writer.as("t")}\nWHERE EXISTS (SELECT 1 FROM ${copy}${writer.as("b")} WHERE ${writer.match("b", "t", table, key)})`,
    );
  }

  #came({ table, only, list, key }: Added): void {
    const writer = this.#writer;
    this.#sheet.add(
      "after",
      "check",
      `The rows of ${shownName(table)} that have come`,
      writer.first(
        PREVIEW,
        "t.*",
        `FROM ${writer.from(table, only)}${writer.as("t")}\nINNER JOIN ${list}${writer.as("b")} ON ${writer.match("b", "t", table, key)}\nORDER BY ${writer.columns("t", table, key)}`,
      ),
    );
  }

  /** Old and new values of the rows that were kept. */
  #compared(kept: Kept, assignments: readonly AssignedText[]): void {
    const { table, copy, key, newKey, only } = kept;
    const writer = this.#writer;
    // A column that the script has made was not there to be copied.
    const columns = [...new Set(assignments.map(({ column }) => column))].filter((one) =>
      table.columns.some(({ name }) => name === one),
    );
    if (!key || columns.length === 0) return;
    const list = [
      writer.columns("b", table, key),
      ...columns.flatMap((one) => [
        `b.${writer.column(table, one)} AS ${writer.name(`was_${one.toLowerCase()}`)}`,
        `t.${writer.column(table, one)} AS ${writer.name(`is_${one.toLowerCase()}`)}`,
      ]),
    ].join(",\n       ");
    const match = key
      .map((one) => `t.${writer.column(table, one)} = b.${newKey?.get(one) ?? writer.column(table, one)}`)
      .join(" AND ");
    this.#sheet.add(
      "after",
      "check",
      "Before and now, row by row",
      writer.first(
        PREVIEW,
        list,
        `FROM ${copy}${writer.as("b")}\nLEFT JOIN ${writer.from(table, only)}${writer.as("t")} ON ${match}\nORDER BY ${writer.columns("b", table, key)}`,
      ),
    );
  }
}

interface Cascade {
  on: [string, string][];
  deletes: boolean;
}

/** Whether two objects are one table, in the review's catalog and in that of the steps. */
function sameTable(
  a: Pick<Table, "schema" | "name" | "object"> | { object: "view"; schema: string; name: string } | null | undefined,
  b: Table,
): boolean {
  return !!a && a.object === b.object && a.schema === b.schema && a.name === b.name;
}

function inherited(children: readonly Table[]): boolean {
  return children.some(({ partitionOf }) => partitionOf === null);
}

function isDefault({ value }: AssignedText["assignment"]): boolean {
  return value.kind === "literal" && value.type === "default";
}

function named({ name }: Change): { name: string } {
  return { name: name.parts[name.parts.length - 1].text };
}

function bareTable({ name, names }: Change): Pick<Table, "schema" | "name"> {
  const { parts } = name;
  const schema = parts.length > 1 ? names.fold(parts[parts.length - 2]) : names.dialect.grammar.defaultSchema;
  return { schema, name: names.fold(parts[parts.length - 1]) };
}
