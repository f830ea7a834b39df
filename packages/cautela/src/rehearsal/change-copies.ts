import type { Change } from "../analysis/changes/change.ts";
import { columnNamed } from "../catalog/columns.ts";
import { tableKey } from "../catalog/keys.ts";
import { shownName, type Table } from "../catalog/model.ts";
import { onKeys } from "../writing/change-text.ts";
import { type Added, type Kept, keyOf } from "../writing/kept.ts";
import type { SqlWriter } from "../writing/writer.ts";
import { staysAsItIs } from "./audit.ts";
import { type Cascade, directCascade } from "./change-cascades.ts";
import { type Image, takeImages } from "./change-images.ts";
import { inherited, isDefault, overwrites, sameTable, type Target } from "./change-target.ts";
import { where } from "./looks.ts";
import { inOneLine } from "./own-copies.ts";
import { copyInto, makeRoom, type Room, roomFor, takenBy } from "./room.ts";
import type { ScriptStep, Written } from "./script-steps.ts";
import type { Sheet, SheetContext } from "./sheet.ts";

/** What is kept of the rows that a change may take or overwrite, table by table. */
export class ChangeCopies {
  readonly writer: SqlWriter;
  readonly kept: Kept[] = [];
  readonly keptOf = new Map<Table, Kept>();
  readonly added: Added[] = [];
  readonly images: Image[] = [];
  /** What is run right before the change and right after it, in one transaction with it. */
  readonly first: string[] = [];
  readonly last: string[] = [];
  /** Copies that hold the rows of a target, no more and no fewer, before the change runs. */
  readonly exact = new Map<Table, string>();
  /** Rows of the target cannot be put back, and so nothing is. */
  lost = false;
  readonly #step: ScriptStep;
  readonly #context: SheetContext;
  readonly #sheet: Sheet;
  /** Tables whose rows are kept, or need not be. */
  readonly #settled = new Set<Table>();

  constructor(step: ScriptStep, sheet: Sheet, context: SheetContext) {
    this.#step = step;
    this.#sheet = sheet;
    this.#context = context;
    this.writer = sheet.writer;
  }

  /** Keeps what may be lost; the change as it has to be run then, where that is not how it is written. */
  make(targets: readonly Target[]): string | null | undefined {
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
      const problem = this.writer.copyProblem(table);
      if (problem) {
        sheet.reason(`no copy of ${shownName(table)} is made, so nothing of it is put back: ${problem}`);
        this.#settled.add(table);
        this.lost = true;
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
        this.lost = true;
      }
      const byKey = key ?? keyOf(table);
      if (text.unsettled) {
        if (!byKey || (newKey && !key)) {
          sheet.reason(
            `two runs may meet different rows, and without a key that stays they cannot be held fast: no change was written`,
          );
          return null;
        }
        const copy = this.writer.beside(table, this.#context.names.next(table));
        const list = (alias: string): string =>
          this.writer.amongKeys(
            alias,
            table,
            byKey,
            `SELECT ${this.writer.columns("k", table, byKey)} FROM ${copy}${this.writer.as("k")}`,
          );
        rewritten = onKeys(source, text, this.writer.table(table), list);
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
    const { first, last } = takeImages(this.images, sheet);
    this.first.push(...first);
    this.last.push(...last);
    for (const { written: own, kept, added } of this.images) {
      if (kept) this.#keep(own.table, kept);
      if (added) this.added.push(added);
    }
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
  #plainTarget({ text, table, change, filter }: Target, own: Written): boolean {
    const { catalog, fired } = this.#step;
    if (!table || !catalog) return false;
    if (own.ways > 1 || inherited(catalog.childrenOf(tableKey(table.schema, table.name)))) return false;
    // A filter that may write is not run to copy by it.
    if (filter?.writes) return false;
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
  #newKey({ table, text, values }: Target): ReadonlyMap<string, string> | null {
    const key = table && keyOf(table);
    if (!key || text.joined || text.unsettled || text.movingValue || values !== null) return null;
    const tidied = this.#step.written.find((one) => one.table === table)?.tidied;
    const rewrites = tidied === null || key.some((one) => tidied?.has(one));
    const taken = new Set(table.columns.map(({ name }) => name.toLowerCase()));
    const names = new Map<string, string>();
    for (const { column, value, assignment } of text.assignments) {
      if (!key.includes(column)) continue;
      if (value === "" || isDefault(assignment) || rewrites) return null;
      let name = `new_${column.toLowerCase()}`;
      while (taken.has(name)) name = `${name}_`;
      names.set(column, this.writer.name(name));
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
    const writer = this.writer;
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
      if (newKey) this.first.push(this.#rowsCopy(target, copy, newKey, room));
      else sheet.add("change", "copy", title, this.#rowsCopy(target, copy, newKey, room));
    } else if (newKey) this.first.push(this.#rowsCopy(target, copy, newKey, room));
    else sheet.add(sheet.early, "copy", title, this.#rowsCopy(target, copy, newKey, room));
    this.#settled.add(table);
    if (!used) this.exact.set(table, copy);
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
    this.kept.push(kept);
    this.keptOf.set(table, kept);
  }

  /** The columns that a restore sets back. */
  #changedColumns(own: Written, key: readonly string[] | null): string[] {
    const columns = this.writer.updatable(own.table);
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
    return judged?.copy && text.where === null && !/^[#@]/.test(judged.copy) ? this.writer.name(judged.copy) : null;
  }

  /** The copy of the rows that a change meets. */
  #rowsCopy(target: Target, copy: string, newKey: ReadonlyMap<string, string> | null, room: Room | null): string {
    const writer = this.writer;
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

  /** The one target, where its copy is there before the change. With new keys it is filled only right before it. */
  #soleParent(targets: readonly Target[]): Table | null {
    const table = targets.length === 1 ? targets[0].table : undefined;
    const [kept] = this.kept;
    return table && kept && !kept.newKey && this.keptOf.get(table) === kept ? table : null;
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
    const parent = this.#soleParent(targets);
    const cascade = parent && !this.writer.copyProblem(table) ? directCascade(this.#step, own, parent) : null;
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
    const problem = this.writer.copyProblem(table);
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
      if (table.columns.some((one) => !this.writer.comparable(one))) {
        sheet.reason(`rows of ${shown} have no key and values that cannot be compared: no restore was written for it`);
        return;
      }
    }
    const onlyAdds = adds && !loses && !changes && !overwrites(this.#step.source.tree);
    const name = this.#context.names.next(table);
    const image = this.writer.image(this.#context.names.next(table, "_image"), table, only, onlyAdds ? key : null);
    const needsKept = !onlyAdds;
    const needsAdded = key !== null && (adds || own.columns === null || key.some((one) => own.columns?.has(one)));
    const room = roomFor(this.#step, sheet, table, true);
    const kept: Kept | null = needsKept
      ? {
          table: room.table,
          only,
          copy: this.writer.beside(table, name),
          key,
          newKey: null,
          removed: true,
          changed: key
            ? this.#changedColumns(
                { ...own, table: room.table, columns: overwrites(this.#step.source.tree) ? null : own.columns },
                key,
              ).filter((one) => !key.includes(one))
            : [],
        }
      : null;
    const list = needsAdded
      ? this.writer.beside(table, needsKept ? this.#context.names.next(table, "_new") : name)
      : null;
    this.images.push({
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
    const writer = this.writer;
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

  /** Rows that a key of their own ties to the rows that go or change. */
  #keepLinked(own: Written, key: readonly string[] | null, cascade: Cascade): void {
    const { table } = own;
    const writer = this.writer;
    const sheet = this.#sheet;
    const parent = this.kept[0];
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
}

function named({ name }: Change): { name: string } {
  return { name: name.parts[name.parts.length - 1].text };
}

function bareTable({ name, names }: Change): Pick<Table, "schema" | "name"> {
  const { parts } = name;
  const schema = parts.length > 1 ? names.fold(parts[parts.length - 2]) : names.dialect.grammar.defaultSchema;
  return { schema, name: names.fold(parts[parts.length - 1]) };
}
