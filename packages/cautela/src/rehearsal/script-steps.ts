import { codeEffects } from "../analysis/ripples/code-effects.ts";
import type { FiredRipple } from "../analysis/ripples/ripple.ts";
import type { Catalog } from "../catalog/catalog.ts";
import { replay } from "../catalog/ddl/apply.ts";
import { tableKey } from "../catalog/keys.ts";
import { type CatalogObject, type ObjectKind, shownName, type Table, type View } from "../catalog/model.ts";
import { foldName } from "../catalog/names.ts";
import { bodyStatements, viewQuery } from "../catalog/parsed-code.ts";
import { newKey, relationKey, renamedKey } from "../catalog/relation-keys.ts";
import type { ChangeSource, Review, StatementReview, Write } from "../review/result.ts";
import { dialects } from "../sql/dialects/index.ts";
import type { Name, Node, Statement } from "../sql/nodes/tree.ts";
import { walk } from "../sql/nodes/visitor.ts";
import { classOf } from "../sql/reading/script.ts";
import { type OwnCopy, ownCopy } from "./own-copies.ts";

const KINDS: readonly ObjectKind[] = ["table", "view", "trigger", "rule", "routine", "sequence", "synonym", "type"];

/** What a statement does to the rows of one table. */
export interface Written {
  table: Table;
  actions: ReadonlySet<Write["action"]>;
  /** The columns that an update gives values, those that triggers and the engine write included; null: they may be all. */
  columns: ReadonlySet<string> | null;
  /** The statement names it; it is not only reached through a trigger, a key or a routine. */
  direct: boolean;
  /** By how many ways it is reached. */
  ways: number;
  /** The columns to which triggers give other values than the statement does; null: they may be all. */
  tidied: ReadonlySet<string> | null;
}

/**
 * One statement of the script in the order in which they run; what runs inside a block belongs to the block. What it
 * answers holds until the next step is asked for.
 */
export interface ScriptStep {
  statement: StatementReview;
  source: ChangeSource;
  fired: readonly FiredRipple[];
  /** Whether it changes rows, structure, or neither. */
  does: "rows" | "structure" | "other";
  written: readonly Written[];
  /** Tables that it writes and that the catalog does not hold. */
  unknown: readonly string[];
  /** A transaction of the script is open when it begins. */
  inside: boolean;
  /** An earlier statement has changed rows, structure or variables on which its rows depend. */
  dependsOn: { line: number; table: string } | null;
  /** Earlier statements have changed which rows it meets, not only other values of them. */
  countDependsOn: number | null;
  /** Whether an earlier statement has made a table. */
  made: (table: Pick<Table, "schema" | "name">) => boolean;
  /**
   * A table with those of its columns alone that it has had since before the script, so that a copy can be made before the
   * script runs; null where none can: it has been made, renamed, or may not be without a column that it did not have.
   */
  lasting: (table: Table) => Table | null;
  /** What the database holds when it begins. */
  catalog: Catalog | null;
  /** The objects of the catalog that it makes, changes or drops. */
  structure: readonly StructureChange[];
  /** The name of a copy that the script has made of exactly these rows as they are now; null: none. */
  ownCopy: (table: Table, where: string | null) => string | null;
}

/** An object before and after a statement; null: it is not there. */
export interface StructureChange {
  before: CatalogObject | null;
  after: CatalogObject | null;
}

/** The statements of a script with what each finds when it runs, one after the other. */
export function* scriptSteps(review: Review): IterableIterator<ScriptStep> {
  const course = new Course(review);
  const { statements } = review;
  for (let at = 0; at < statements.length; at++) {
    const statement = statements[at];
    const source = review.sources.get(statement.index);
    if (!source || source.inside !== null) continue;
    const inner: StatementReview[] = [];
    while (review.sources.get(statements[at + 1]?.index)?.inside === statement.index) inner.push(statements[++at]);
    const step = course.step(statement, source, inner);
    yield step;
    course.take(step, [statement, ...inner]);
    course.noteCopies(step);
  }
}

/** What the statements so far have done. */
class Course {
  readonly #review: Review;
  readonly #catalog: Catalog | null;
  #open: boolean;
  /** Keys of tables whose rows or structure are others now, with the line that did it. */
  readonly #touched = new Map<string, { line: number; table: string; columns: Set<string> | null }>();
  readonly #made = new Set<string>();
  readonly #altered = new Set<string>();
  readonly #variables = new Map<string, number>();
  #opaque: number | null = null;
  /** The copies that the script has made and that still hold what is in their tables. */
  #copies: (OwnCopy & { ofKey: string; nameKey: string })[] = [];

  constructor(review: Review) {
    this.#review = review;
    this.#catalog = review.before?.fork() ?? null;
    this.#open = false;
  }

  step(statement: StatementReview, source: ChangeSource, inner: readonly StatementReview[]): ScriptStep {
    const { tree } = source;
    const all = [statement, ...inner];
    const fired = all.flatMap(({ index }) => this.#review.ripples.get(index) ?? []);
    const { written, unknown } = this.#written(all, fired);
    const used = this.#used(tree, written, unknown);
    const does = all.some(({ index }) => changesRows(this.#review.sources.get(index)?.tree ?? tree))
      ? "rows"
      : classOf(tree) === "structure"
        ? "structure"
        : "other";
    return {
      statement,
      source,
      fired,
      does: does === "other" && written.length > 0 ? "rows" : does,
      written,
      unknown,
      inside: this.#open,
      dependsOn: does === "other" ? null : this.#dependsOn(tree, used),
      countDependsOn: does === "other" ? null : this.#countDependsOn(tree, used),
      made: (table) => this.#made.has(keyOf(table)),
      lasting: (table) => (this.#altered.has(keyOf(table)) ? this.#lasting(table) : table),
      catalog: this.#catalog,
      structure: classOf(tree) === "rows" || classOf(tree) === "reads" ? [] : this.#structureOf(all),
      ownCopy: (table, where) =>
        this.#copies.find((copy) => copy.ofKey === keyOf(table) && copy.where === where)?.written ?? null,
    };
  }

  /** What a statement copies, and what makes the copies before it old. */
  noteCopies({ source, does, written, unknown, structure, inside }: ScriptStep): void {
    const changed = new Set([...written.map(({ table }) => keyOf(table)), ...unknown]);
    for (const { before, after } of structure)
      for (const one of [before, after]) if (one?.object === "table") changed.add(keyOf(one));
    const lost = this.#opaque !== null || (does !== "other" && source.tree.kind === "dynamic");
    this.#copies = lost
      ? []
      : this.#copies.filter(({ ofKey, nameKey }) => !changed.has(ofKey) && !changed.has(nameKey));
    const copy = lost || inside ? null : ownCopy(source);
    const of = copy && this.#catalog?.resolve(copy.of);
    if (copy && of) this.#copies.push({ ...copy, ofKey: keyOf(of), nameKey: this.#key(copy.name) });
  }

  /** What alters a table alters those that inherit from it, and its partitions. */
  #alter(key: string): void {
    if (this.#altered.has(key)) return;
    this.#altered.add(key);
    for (const heir of this.#catalog?.childrenOf(key) ?? []) this.#alter(keyOf(heir));
  }

  #lasting(table: Table): Table | null {
    const first = this.#review.before?.byKey(keyOf(table));
    if (!first || this.#made.has(keyOf(table))) return null;
    const columns = table.columns.filter((column) =>
      first.columns.some(
        (one) =>
          one.name === column.name &&
          one.type === column.type &&
          one.typeArgs.join() === column.typeArgs.join() &&
          one.array === column.array &&
          one.generated === column.generated,
      ),
    );
    const kept = new Set(columns.map(({ name }) => name));
    const missing = table.columns.some(
      (one) => !kept.has(one.name) && one.required && one.default === null && !one.identity && !one.generated,
    );
    const keys = [table.primaryKey, ...table.uniqueKeys].filter((one) => one !== null);
    if (missing || !keys.every((key) => key.partial || key.columns.every((one) => kept.has(one)))) return null;
    return { ...table, columns };
  }

  /** What the statement changes in the catalog, tried out on a layer of its own. */
  #structureOf(all: readonly StatementReview[]): StructureChange[] {
    const catalog = this.#catalog;
    if (!catalog) return [];
    const trial = catalog.fork();
    this.#replay(trial, all);
    const changes: StructureChange[] = [];
    for (const kind of KINDS)
      for (const [key, after] of trial.changed(kind)) {
        const before = catalog.object(kind, key) ?? null;
        if (before !== after && (before || after)) changes.push({ before, after });
      }
    return changes;
  }

  #replay(catalog: Catalog, all: readonly StatementReview[]): void {
    for (const { index } of all) {
      const own = this.#review.sources.get(index);
      if (own) replay(catalog, own.tree, (start, end) => own.text.slice(start - own.start, end - own.start));
    }
  }

  /** The tables that a statement writes, from the writes of the review. */
  #written(all: readonly StatementReview[], fired: readonly FiredRipple[]): { written: Written[]; unknown: string[] } {
    const unknown: string[] = [];
    const found = new Map<
      Table,
      {
        actions: Set<Write["action"]>;
        columns: Set<string> | null;
        direct: boolean;
        ways: number;
        tidied: Set<string> | null;
      }
    >();
    const add = (table: Table, write: Pick<Write, "action" | "via"> & { columns: readonly string[] | null }): void => {
      const known = found.get(table) ?? {
        actions: new Set(),
        columns: new Set<string>(),
        direct: false,
        ways: 0,
        tidied: new Set<string>(),
      };
      known.actions.add(write.action);
      known.direct ||= write.via === "statement";
      known.ways++;
      if (write.action === "update") {
        const columns = write.columns?.map((name) => columnLike(table, name));
        if (!columns || columns.includes(undefined)) known.columns = null;
        else for (const name of columns) if (name) known.columns?.add(name);
        for (const { name, onUpdate } of table.columns) if (onUpdate !== null) known.columns?.add(name);
        const rewritten = this.#rewritten(table);
        if (rewritten === null) known.columns = null;
        else for (const name of rewritten) known.columns?.add(name);
        if (rewritten === null) known.tidied = null;
        else for (const name of rewritten) known.tidied?.add(name);
      }
      found.set(table, known);
    };
    for (const { index, writes } of all) {
      for (const { table: name, action, columns, via } of writes) {
        if (action === "create") continue;
        const table = this.#shown(name) ?? this.#named(index, name);
        if (!table) {
          if (this.#catalog && !unknown.includes(name) && !name.startsWith("@")) unknown.push(name);
          continue;
        }
        // The rows of a partition are those of its table, where that is written too.
        if (!this.#isPartOf(table, writes)) add(table, { action, via, columns: columns ?? null });
      }
    }
    for (const { ripple } of fired)
      for (const { kind, node, columns } of ripple.notes) {
        const { relation } = ripple.nodes[node];
        const known =
          relation?.object === "table" ? found.get(this.#catalog?.byKey(keyOf(relation)) ?? relation) : undefined;
        if (known && (kind === "rewrites" || kind === "stamps")) for (const name of columns) known.columns?.add(name);
      }
    return { written: [...found].map(([table, one]) => ({ table, ...one })), unknown };
  }

  /** The columns that triggers may give other values before the row is written; null: they may be all. */
  #rewritten(table: Table): string[] | null {
    const catalog = this.#catalog;
    const columns: string[] = [];
    for (const trigger of catalog?.triggersOf(keyOf(table)) ?? []) {
      if (!catalog || trigger.timing !== "before" || trigger.level !== "row" || !trigger.events.includes("update"))
        continue;
      if (trigger.enabled === "off" || trigger.enabled === "replica") continue;
      const called = trigger.calls === null ? null : catalog.object("routine", trigger.calls);
      const owner = trigger.calls === null ? trigger : called?.object === "routine" ? called : null;
      const parsed = owner && bodyStatements(owner, catalog.dialect);
      const effects = parsed && codeEffects(parsed, dialects[catalog.dialect]);
      if (!effects || effects.opaque.length > 0) return null;
      for (const { column } of effects.rewrites) columns.push(column);
    }
    return columns;
  }

  /** The table that results show under a name. */
  #shown(name: string): Table | undefined {
    // It is shown as it is spelled, which need not be how it compares.
    const get = (schema: string, own: string): Table | undefined =>
      this.#catalog?.get(schema, own) ?? this.#catalog?.get(schema, own.toLowerCase());
    const bare = get("", name) ?? get("main", name);
    if (bare) return bare;
    for (let at = name.indexOf("."); at >= 0; at = name.indexOf(".", at + 1)) {
      const found = get(name.slice(0, at), name.slice(at + 1));
      if (found) return found;
    }
    return undefined;
  }

  /** A table that the writes name as the statement spells it. */
  #named(index: number, name: string): Table | undefined {
    const tree = this.#review.sources.get(index)?.tree;
    let found: Table | undefined;
    if (tree)
      walk(tree, (node) => {
        if (node.kind === "table" && !found && node.name.parts.map(({ text }) => text).join(".") === name)
          found = this.#catalog?.resolve(node.name);
        return undefined;
      });
    return found;
  }

  /** Whether one of the tables that a table is a partition of is written as well. */
  #isPartOf(table: Table, writes: readonly Write[]): boolean {
    for (let at = table.partitionOf; at !== null; ) {
      const parent = this.#catalog?.byKey(at);
      if (!parent) return false;
      if (writes.some(({ table: name }) => this.#shown(name) === parent)) return true;
      at = parent.partitionOf;
    }
    return false;
  }

  /** The keys of the tables that it reads or writes, those behind views included, and the variables it names. */
  #used(tree: Statement, written: readonly Written[], unknown: readonly string[]): Set<string> {
    const used = new Set(written.map(({ table }) => keyOf(table)));
    for (const name of unknown) used.add(name);
    const seen = new Set<View>();
    // Views may stand upon views at any depth.
    const waiting: Node[] = [tree];
    for (let root = waiting.pop(); root; root = waiting.pop())
      walk(root, (node) => {
        if (node.kind === "variable") used.add(node.name.toLowerCase());
        if (node.kind !== "table") return undefined;
        const relation = this.#catalog?.resolveRelation(node.name);
        used.add(relation ? tableKey(relation.schema, relation.name) : this.#key(node.name));
        if (relation?.object === "view" && !seen.has(relation)) {
          seen.add(relation);
          const query = viewQuery(relation, this.#review.dialect);
          if (query) waiting.push(query.tree);
        }
        return undefined;
      });
    return used;
  }

  /** The key of what a name means now. */
  #known(name: Name): string {
    return relationKey(name, this.#catalog, dialects[this.#review.dialect]);
  }

  #key(name: Name, temporary = false): string {
    return newKey(name, this.#catalog, dialects[this.#review.dialect], temporary);
  }

  #dependsOn(tree: Statement, used: ReadonlySet<string>): ScriptStep["dependsOn"] {
    for (const key of used) {
      const touched = this.#touched.get(key);
      if (touched) return touched;
      const set = this.#variables.get(key);
      if (set !== undefined) return { line: set, table: key };
    }
    return this.#opaque !== null && classOf(tree) !== "structure"
      ? { line: this.#opaque, table: "what is not known" }
      : null;
  }

  /** Whether rows have come or gone before, or a value that its conditions name is another one. */
  #countDependsOn(tree: Statement, used: ReadonlySet<string>): number | null {
    const named = new Set<string>();
    walk(tree, (node) => {
      if (node.kind === "column") named.add(foldName(node.path[node.path.length - 1], dialects[this.#review.dialect]));
      return undefined;
    });
    for (const key of used) {
      const touched = this.#touched.get(key);
      if (touched && (touched.columns === null || [...touched.columns].some((one) => named.has(one))))
        return touched.line;
      const set = this.#variables.get(key);
      if (set !== undefined) return set;
    }
    return this.#opaque;
  }

  /** Takes a statement into account for those that follow. */
  take(step: ScriptStep, all: readonly StatementReview[]): void {
    const { statement, source, written, unknown } = step;
    const { line } = statement;
    const touch = (key: string, table: string, columns: ReadonlySet<string> | null = null): void => {
      const known = this.#touched.get(key);
      if (!known) this.#touched.set(key, { line, table, columns: columns && new Set(columns) });
      else if (columns === null) known.columns = null;
      else for (const column of columns) known.columns?.add(column);
    };
    for (const { table, actions, columns } of written)
      touch(keyOf(table), shownName(table), [...actions].every((one) => one === "update") ? columns : null);
    for (const name of unknown) touch(name, name);
    for (const { index } of all) {
      const tree = this.#review.sources.get(index)?.tree;
      if (tree) this.#transaction(tree);
      if (tree) this.#structure(tree, touch);
    }
    for (const { ripple } of step.fired) if (ripple.notes.some(({ kind }) => kind === "opaque")) this.#opaque ??= line;
    if (source.tree.kind === "unread" || (source.tree.kind === "dynamic" && source.tree.body === null))
      this.#opaque ??= line;
    walk(source.tree, (node) => {
      if (node.kind === "dynamic") return false;
      if (node.kind !== "assign" && node.kind !== "declare" && node.kind !== "select") return undefined;
      const text = source.text.slice(node.start - source.start, node.end - source.start);
      for (const [name] of text.matchAll(/@{1,2}[\w$]+/g)) this.#variables.set(name.toLowerCase(), line);
      return undefined;
    });
    if (source.tree.kind === "setting")
      for (const [name] of source.text.matchAll(/@[\w$]+/g)) this.#variables.set(name.toLowerCase(), line);
    if (this.#catalog) this.#replay(this.#catalog, all);
  }

  #structure(tree: Statement, touch: (key: string, table: string) => void): void {
    const name = (one: Name, temporary = false): void => {
      const key = temporary ? this.#key(one, true) : this.#known(one);
      touch(key, one.parts.map(({ text }) => text).join("."));
      this.#alter(key);
    };
    switch (tree.kind) {
      case "create-table":
        if (!(tree.ifNotExists && this.#catalog?.resolve(tree.name)))
          this.#made.add(this.#key(tree.name, tree.temporary));
        name(tree.name, tree.temporary);
        break;
      case "alter-table":
        if (this.#made.has(this.#known(tree.name)))
          for (const action of tree.actions)
            if (action.what === "rename")
              this.#made.add(
                renamedKey(this.#known(tree.name), action.to, this.#catalog, dialects[this.#review.dialect]),
              );
        name(tree.name);
        for (const action of tree.actions) if (action.what === "rename") name(action.to);
        break;
      case "rename":
        for (const { from, to } of tree.renames) {
          if (this.#made.has(this.#known(from)))
            this.#made.add(renamedKey(this.#known(from), to, this.#catalog, dialects[this.#review.dialect]));
          name(from);
          name(to);
        }
        break;
      case "drop":
        if (tree.object === "table")
          for (const one of tree.names) {
            name(one);
            this.#made.delete(this.#known(one));
          }
        break;
      case "select": {
        const { body } = tree.query;
        const target = body.kind === "select" && body.into?.what === "table" ? body.into.targets[0] : null;
        if (target?.kind !== "column") break;
        const into: Name = { kind: "name", parts: target.path, link: null, start: target.start, end: target.end };
        const temporary = body.kind === "select" && body.into?.temporary === true;
        this.#made.add(this.#key(into, temporary));
        name(into, temporary);
        touch(this.#key(into, temporary), into.parts.map(({ text }) => text).join("."));
        break;
      }
      case "create-view":
        name(tree.name);
        break;
      default:
    }
  }

  #transaction(tree: Statement): void {
    const { run } = dialects[this.#review.dialect];
    if (tree.kind === "transaction") {
      if (tree.action === "begin") this.#open = true;
      else if (tree.action === "commit" || (tree.action === "rollback" && !tree.name)) this.#open = false;
    } else if (tree.kind === "setting" && tree.name === "autocommit") this.#open = /^(?:0|off)$/i.test(tree.value);
    else if (tree.kind === "setting" && tree.name === "implicit_transactions") this.#open = /^on$/i.test(tree.value);
    else if (run.structureCommits && classOf(tree) === "structure" && !(tree.kind === "create-table" && tree.temporary))
      this.#open = false;
  }
}

function changesRows(tree: Statement): boolean {
  return classOf(tree) === "rows";
}

function keyOf(table: Pick<Table, "schema" | "name">): string {
  return tableKey(table.schema, table.name);
}

/** The column of a table that a statement spells so, as it compares. */
function columnLike(table: Table, spelled: string): string | undefined {
  return (
    table.columns.find(({ name }) => name === spelled) ??
    table.columns.find(({ name }) => name.toLowerCase() === spelled.toLowerCase())
  )?.name;
}
