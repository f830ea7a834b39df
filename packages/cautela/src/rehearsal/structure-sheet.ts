import { tableKey } from "../catalog/keys.ts";
import { type Column, shownName, type Table, type Trigger, type View } from "../catalog/model.ts";
import type { Span } from "../sql/nodes/tree.ts";
import { columnDefinition, constraintsOf, createTable } from "../writing/definitions.ts";
import { type Kept, keyOf } from "../writing/kept.ts";
import type { RehearsalSheet } from "./rehearsal.ts";
import type { ScriptStep, StructureChange } from "./script-steps.ts";
import { Sheet, type SheetContext } from "./sheet.ts";

/** The sheet of a statement that changes structure: what it would lose is copied, and the structure is put back. */
export function structureSheet(step: ScriptStep, context: SheetContext): RehearsalSheet {
  return new StructureSheet(step, context).done();
}

class StructureSheet {
  readonly #step: ScriptStep;
  readonly #context: SheetContext;
  readonly #sheet: Sheet;
  /** In the order in which they are run. */
  readonly #restore: string[] = [];
  /** A table that tells the restore that the change has been made. */
  #mark: string | null = null;

  constructor(step: ScriptStep, context: SheetContext) {
    this.#step = step;
    this.#context = context;
    this.#sheet = new Sheet(step, context.writer, context.alone);
  }

  done(): RehearsalSheet {
    const { structure, source } = this.#step;
    const sheet = this.#sheet;
    const renamed = this.#renamed();
    if (renamed) this.#restore.push(...renamed);
    else if (moves(structure)) {
      // What has another name now is no table that has come: it holds the rows.
      sheet.reason("it renames or moves a table in a way that is not undone here: no restore was written for it");
    } else {
      const dropped = structure.filter(({ after }) => after === null);
      const others = structure.filter(({ after }) => after !== null);
      // Tables come back before what depends on them.
      for (const change of dropped) if (change.before?.object === "table") this.#droppedTable(change.before);
      for (const change of dropped) if (change.before?.object !== "table") this.#droppedObject(change);
      for (const change of others.reverse()) this.#changed(change);
      this.#index();
    }
    sheet.add("change", "change", "As the script has it", source.text);
    if (this.#mark !== null)
      sheet.add(
        "change",
        "change",
        "A mark for the restore: it has been done",
        `CREATE TABLE ${this.#mark} AS\nSELECT 1 AS done`,
      );
    if (this.#restore.length > 0)
      sheet.addAll("restore", "restore", `Undo ${sheet.done().kind} of ${sheet.done().target}`, this.#restore);
    return sheet.done();
  }

  /** A rename goes back by a rename. */
  #renamed(): string[] | null {
    const { structure, source, catalog } = this.#step;
    const { tree } = source;
    const before = structure.find((one) => one.after === null && one.before?.object === "table")?.before;
    const after = structure.find((one) => one.before === null && one.after?.object === "table")?.after;
    const { writer } = this.#context;
    if (tree.kind === "rename" && tree.renames.length > 1 && !tree.schema && tree.table === null) {
      // RENAME TABLE a TO b, c TO a is one step (MySQL manual, "RENAME TABLE Statement"), and so is the way back.
      const cut = (name: Span): string => source.text.slice(name.start - source.start, name.end - source.start);
      const back = [...tree.renames].reverse().map(({ from, to }) => `${cut(to)} TO ${cut(from)}`);
      return writer.renamesTogether ? [`RENAME TABLE ${back.join(", ")}`] : null;
    }
    const rename =
      (tree.kind === "rename" && tree.renames.length === 1 && !tree.schema) ||
      (tree.kind === "alter-table" && tree.actions.length === 1 && tree.actions[0].what === "rename");
    if (!rename || !catalog || before?.object !== "table" || after?.object !== "table") return null;
    if (!this.#step.made(before) || !writer.keysFollowNames) return [writer.renameTable(after, before)];
    // The script has made it, so it goes in any case; keys that refer to its new name must not follow it back. Without the
    // mark the name may still be that of another table.
    this.#mark = writer.beside(after, this.#context.names.next(after));
    return [`DROP TABLE ${this.#mark}`, `DROP TABLE ${writer.table(after)}`];
  }

  #droppedTable(table: Table): void {
    const { writer, names } = this.#context;
    const sheet = this.#sheet;
    if (table.temporary || this.#step.made(table)) return;
    const problem = table.partial ? "not all of its columns are in the catalog" : writer.copyProblem(table);
    if (problem) {
      sheet.reason(`${shownName(table)} is not put back: ${problem}`);
      return;
    }
    if (this.#step.source.elsewhere !== null) {
      sheet.reason(`no copy is made, for ${this.#step.source.elsewhere}`);
      return;
    }
    const copy = writer.beside(table, names.next(table));
    sheet.add(
      sheet.early,
      "copy",
      `Keep all rows of ${shownName(table)}`,
      writer.copy(copy, "t.*", `FROM ${writer.table(table)}${writer.as("t")}`),
    );
    if (
      this.#step.catalog?.childrenOf(tableKey(table.schema, table.name)).length ||
      table.partitionOf ||
      table.inherits.length > 0
    ) {
      sheet.reason(
        `${shownName(table)} has partitions or heirs: make it again from its own definition, then put the rows back`,
      );
      return;
    }
    sheet.reason(
      `the restore makes ${shownName(table)} as the catalog knows it: indexes that are not unique, rights and comments are made again from its own definition`,
    );
    this.#restore.push(createTable(writer, table));
    const kept: Kept = { table, only: false, copy, key: keyOf(table), newKey: null, removed: true, changed: [] };
    this.#restore.push(...writer.putBack(kept));
    this.#restore.push(...writer.numbersOn(table));
    for (const other of this.#step.catalog?.referencing(tableKey(table.schema, table.name)) ?? []) {
      if (other === table || !this.#step.structure.some(({ before }) => before === other)) continue;
      sheet.reason(`keys of ${shownName(other)} that refer to it are gone as well`);
    }
  }

  #droppedObject({ before }: StructureChange): void {
    const { writer } = this.#context;
    const sheet = this.#sheet;
    if (!before) return;
    switch (before.object) {
      case "view": {
        const text = viewText(before, writer.table({ ...before, written: null }), (one) => writer.name(one));
        if (text && !before.materialized && writer.bareDefinitions) this.#restore.push(text);
        else sheet.reason(`${shownName(before)} is not made again: take its definition from the database first`);
        return;
      }
      case "trigger":
      case "routine": {
        const text = before.object === "trigger" ? before.body : before.definition;
        if (text !== null && writer.bareDefinitions && /^\s*create\b/i.test(text))
          this.#restore.push(text.replace(/[;\s]+$/, ""));
        else sheet.reason(`${before.name} is not made again: take its definition from the database first`);
        return;
      }
      default:
        sheet.reason(`${before.object} ${before.name} is not made again: take its definition from the database first`);
    }
  }

  #changed({ before, after }: StructureChange): void {
    const { writer } = this.#context;
    if (!after) return;
    if (!before) {
      const drop = writer.dropObject(after);
      if (drop !== null) this.#restore.push(drop);
      return;
    }
    if (before.object === "table" && after.object === "table") this.#alteredTable(before, after);
    else if (before.object === "trigger" && after.object === "trigger" && before.enabled !== after.enabled)
      this.#switched(before);
    else if (before.object === "view" && after.object === "view" && before.query !== after.query) {
      const drop = writer.dropObject(after);
      if (drop !== null) this.#restore.push(drop);
      this.#droppedObject({ before, after: null });
    } else if (before.object === "routine" && after.object === "routine" && before.definition !== after.definition)
      this.#droppedObject({ before, after: null });
  }

  #switched(trigger: Trigger): void {
    const { writer } = this.#context;
    const found = this.#step.catalog?.relation(trigger.table);
    if (found?.object !== "table") return;
    const back = writer.switchTrigger(found, trigger);
    if (back !== null) this.#restore.push(back);
    else this.#sheet.reason(`trigger ${trigger.name} is not switched back`);
  }

  // ------------------------------------------------------------ tables

  #alteredTable(before: Table, after: Table): void {
    if (this.#step.made(before) || before.temporary || this.#followsParent(before, after)) return;
    const { writer } = this.#context;
    const sheet = this.#sheet;
    const renamed = this.#renamedColumn(before, after);
    if (renamed) {
      const spelled = before.columns.find(({ name }) => name === renamed.from)?.spelling;
      this.#restore.push(writer.renameColumn(after, renamed.to, spelled ?? renamed.from));
      return;
    }
    const wasThere = (name: string): Column | undefined => before.columns.find((one) => one.name === name);
    const isThere = (name: string): Column | undefined => after.columns.find((one) => one.name === name);
    const gone = before.columns.filter(({ name }) => !isThere(name));
    const come = after.columns.filter(({ name }) => !wasThere(name));
    const other = before.columns.filter((one) => {
      const now = isThere(one.name);
      return now && now !== one && definitionOf(now) !== definitionOf(one);
    });
    const retyped = other.filter((one) => {
      const now = isThere(one.name);
      return now && (now.type !== one.type || now.typeArgs.join() !== one.typeArgs.join() || now.array !== one.array);
    });
    const lost = [...gone, ...retyped].filter(({ generated }) => !generated);
    const kept = lost.length > 0 ? this.#keepColumns(before, after, lost) : null;
    if (lost.length > 0 && !kept) return;
    for (const text of constraintsOf(writer, after))
      if (!constraintsOf(writer, before).includes(text)) {
        const name = /^CONSTRAINT (\S+)/.exec(text)?.[1] ?? null;
        const drop = name === null ? null : writer.dropConstraint(after, name, text);
        if (drop) this.#restore.push(drop);
        else if (!come.some(({ name: column }) => text.includes(column)))
          sheet.reason(`a constraint without a name stays: ${text}`);
      }
    for (const column of come) this.#restore.push(writer.dropColumn(after, column.name));
    for (const column of gone) {
      const at = before.columns.indexOf(column);
      const place = writer.columnPlace(before, at);
      if (place === null && at < before.columns.length - 1)
        sheet.reason(`${column.name} comes back as the last column of ${shownName(before)}`);
      this.#restore.push(
        `ALTER TABLE ${writer.table(before)} ADD ${writer.addColumn}${columnDefinition(writer, before, column, true)}${place ?? ""}`,
      );
    }
    for (const column of retyped) {
      const now = isThere(column.name);
      const steps = now ? writer.retype(before, now, column) : null;
      if (steps === null) {
        sheet.reason(
          `the type of ${column.name} is not put back: ${writer.dialect.title} needs the table to be made again`,
        );
        this.#restore.length = 0;
        return;
      }
      this.#restore.push(...steps);
    }
    if (kept) this.#restore.push(writer.setBack(kept, kept.changed));
    for (const column of [...gone, ...other]) {
      const now = isThere(column.name) ?? { ...column, required: false };
      const steps = writer.redefine(before, now, column);
      if (steps === null)
        sheet.reason(
          `the definition of ${column.name} is not put back: ${writer.dialect.title} needs the table to be made again`,
        );
      else this.#restore.push(...steps);
    }
    const still = constraintsOf(writer, after);
    for (const text of constraintsOf(writer, before))
      if (!still.includes(text)) {
        const add = writer.addConstraint(before, text);
        if (add) this.#restore.push(add);
        else sheet.reason(`this constraint is not put back, the table would have to be made again: ${text}`);
      }
  }

  /**
   * Whether a table has changed only as the one has that it inherits from, or is a partition of: what undoes that one undoes
   * this one, and the engine refuses to do it here (PostgreSQL 15 manual, "ALTER TABLE", Notes).
   */
  #followsParent(before: Table, after: Table): boolean {
    const parents = [...after.inherits, ...(after.partitionOf === null ? [] : [after.partitionOf])];
    const changed = changedColumns(before, after);
    return this.#step.structure.some(
      (one) =>
        one.before?.object === "table" &&
        one.after?.object === "table" &&
        parents.includes(tableKey(one.after.schema, one.after.name)) &&
        isWithin(changed, changedColumns(one.before, one.after)) &&
        constraintsOf(this.#context.writer, before).join() === constraintsOf(this.#context.writer, after).join(),
    );
  }

  /** Copies of columns that are dropped or retyped, with the key by which they come back. */
  #keepColumns(before: Table, after: Table, lost: readonly Column[]): Kept | null {
    const { writer, names } = this.#context;
    const sheet = this.#sheet;
    const columns = lost.map(({ name }) => name);
    const key = keyOf(before, columns);
    const shown = shownName(before);
    if (this.#step.source.elsewhere !== null) {
      sheet.reason(`no copy is made, for ${this.#step.source.elsewhere}`);
      return null;
    }
    if (!key || key.some((one) => !after.columns.some(({ name }) => name === one))) {
      sheet.reason(
        `${shown} has no other key by which the values of ${columns.join(", ")} could come back: copy the whole table, and put it back from there`,
      );
      sheet.add(
        sheet.early,
        "copy",
        `Keep all rows of ${shown}`,
        writer.copy(writer.beside(before, names.next(before)), "t.*", `FROM ${writer.table(before)}${writer.as("t")}`),
      );
      return null;
    }
    const copy = writer.beside(before, names.next(before));
    sheet.add(
      sheet.early,
      "copy",
      `Keep ${columns.join(", ")} of ${shown}`,
      writer.copy(
        copy,
        writer.columns("t", before, [...key, ...columns]),
        `FROM ${writer.table(before)}${writer.as("t")}`,
      ),
    );
    return { table: before, only: false, copy, key, newKey: null, removed: false, changed: columns };
  }

  #renamedColumn(before: Table, after: Table): { from: string; to: string } | null {
    if (before.columns.length !== after.columns.length) return null;
    const differing = before.columns.flatMap((one, i) => (one.name === after.columns[i].name ? [] : [i]));
    if (differing.length !== 1) return null;
    const [at] = differing;
    const to = after.columns[at].name;
    if (before.columns.some(({ name }) => name === to)) return null;
    return definitionOf({ ...before.columns[at], name: to, spelling: null }) ===
      definitionOf({ ...after.columns[at], spelling: null })
      ? { from: before.columns[at].name, to }
      : null;
  }

  /** CREATE INDEX and ADD INDEX go back by DROP INDEX; of the indexes that are not unique the catalog knows nothing. */
  #index(): void {
    const { tree } = this.#step.source;
    const { writer } = this.#context;
    if (tree.kind === "alter-table") {
      const table = this.#step.catalog?.resolve(tree.name);
      if (!table || this.#step.made(table)) return;
      for (const action of tree.actions) {
        if (action.what === "add-constraint" && action.constraint.kind === "index") {
          const { name } = action.constraint;
          if (name) this.#restore.unshift(writer.dropIndex(table, name));
          else this.#sheet.reason(`an index of ${shownName(table)} that is added without a name stays`);
        } else if (
          action.what === "drop-index" &&
          !constraintsOf(writer, table).some((text) => text.includes(action.name.text))
        )
          this.#sheet.reason(
            `index ${action.name.text} is not made again: take its definition from the database first`,
          );
      }
      return;
    }
    if (tree.kind !== "create-index" || !tree.name || tree.ifNotExists) return;
    const table = this.#step.catalog?.resolve(tree.table);
    if (!table || this.#step.made(table)) return;
    this.#restore.length = 0;
    this.#restore.push(writer.dropIndex(table, tree.name.parts[tree.name.parts.length - 1]));
  }
}

/** Whether a table goes and another one comes in the same statement. */
function moves(structure: readonly StructureChange[]): boolean {
  return (
    structure.some(({ before, after }) => !before && after?.object === "table") &&
    structure.some(({ before, after }) => before?.object === "table" && !after)
  );
}

/** What a column is, as text that compares. */
function definitionOf(column: Column): string {
  const { distinct, nulls, comment, spelling, ...rest } = column;
  return JSON.stringify(rest);
}

function viewText({ columns, query, checkOption }: View, name: string, quote: (name: string) => string): string | null {
  if (query === null) return null;
  const list = columns ? ` (${columns.map(quote).join(", ")})` : "";
  const check = checkOption === null ? "" : `\nWITH ${checkOption.toUpperCase()} CHECK OPTION`;
  return `CREATE VIEW ${name}${list} AS\n${query.trim().replace(/;$/, "")}${check}`;
}

/** The columns that a table has in another form, or only before or after. */
function changedColumns(before: Table, after: Table): ReadonlySet<string> {
  const definitions = new Map(before.columns.map((one) => [one.name, definitionOf(one)]));
  const changed = new Set<string>();
  for (const one of after.columns) {
    if (definitions.get(one.name) !== definitionOf(one)) changed.add(one.name);
    definitions.delete(one.name);
  }
  for (const name of definitions.keys()) changed.add(name);
  return changed;
}

function isWithin(some: ReadonlySet<string>, all: ReadonlySet<string>): boolean {
  return [...some].every((one) => all.has(one));
}
