import { Catalog } from "../../catalog/catalog.ts";
import { tableKey } from "../../catalog/keys.ts";
import { type Routine, type Rule, shownName, type Table, type Trigger, type View } from "../../catalog/model.ts";
import { foldName } from "../../catalog/names.ts";
import { bodyStatements, conditionTree, viewQuery } from "../../catalog/parsed-code.ts";
import type { Dialect } from "../../sql/dialects/dialect.ts";
import type { Node } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { wordIn } from "../../text/word-in.ts";

/** Code that names tables. */
type CodeObject = View | Trigger | Rule | Routine;

/** Something that stops working, or is in the way, when a table, a view or a column goes. */
export interface Dependent {
  kind: "view" | "trigger" | "rule" | "routine" | "key" | "check" | "column";
  /** As messages show it. */
  name: string;
  /** The key under which the catalog holds a view; for what is made again later. */
  key: string;
  /** A CHECK that speaks of that column and of no other. */
  alone?: boolean;
}

/** Code by the bare names of the tables that it refers to. */
interface Index {
  byName: Map<string, CodeObject[]>;
  taken: number;
}

const indexes = new WeakMap<Catalog, Index>();

/** The trees of a piece of code. */
function treesOf(object: CodeObject, dialect: Dialect): readonly Node[] {
  if (object.object === "view") {
    const parsed = viewQuery(object, dialect.id);
    return parsed ? [parsed.tree] : [];
  }
  const trees: Node[] = [...(bodyStatements(object, dialect.id)?.tree ?? [])];
  if (object.object !== "routine" && object.condition !== null) {
    const condition = conditionTree(object, dialect.id);
    if (condition) trees.push(condition.tree);
  }
  return trees;
}

/** The bare names of tables in a piece of code, folded. */
function namesIn(object: CodeObject, dialect: Dialect): Set<string> {
  const names = new Set<string>();
  for (const tree of treesOf(object, dialect)) {
    walk(tree, (node) => {
      if (node.kind === "table" || node.kind === "table-query")
        names.add(foldName(node.name.parts[node.name.parts.length - 1], dialect));
      return undefined;
    });
  }
  return names;
}

/** Takes the code that a layer was given since the last time into its index. */
function indexOf(catalog: Catalog, dialect: Dialect): Index {
  const index = indexes.get(catalog) ?? { byName: new Map<string, CodeObject[]>(), taken: 0 };
  indexes.set(catalog, index);
  for (; index.taken < catalog.code.length; index.taken++) {
    const object = catalog.code[index.taken] as CodeObject;
    for (const name of namesIn(object, dialect)) {
      const list = index.byName.get(name);
      if (list) list.push(object);
      else index.byName.set(name, [object]);
    }
  }
  return index;
}

/** Code of the catalog that names a table or view, and still stands. */
function* codeNaming(name: string, catalog: Catalog, dialect: Dialect): IterableIterator<CodeObject> {
  const seen = new Set<CodeObject>();
  for (let layer: Catalog | null = catalog; layer; layer = layer.below) {
    for (const object of indexOf(layer, dialect).byName.get(name) ?? []) {
      if (seen.has(object)) continue;
      seen.add(object);
      const guard = object.object === "trigger" || object.object === "rule";
      const key = guard ? Catalog.guardKey(object) : tableKey(object.schema, object.name);
      if (catalog.object(object.object, key) === object) yield object;
    }
  }
}

/** What refers to a table or view: views, routines, triggers and rules of other tables, keys that refer to it. */
export function dependentsOf(relation: Table | View, catalog: Catalog, dialect: Dialect): Dependent[] {
  const key = tableKey(relation.schema, relation.name);
  const list: Dependent[] = [];
  for (const object of codeNaming(relation.name, catalog, dialect)) {
    // A trigger of the table itself goes with it.
    if ((object.object === "trigger" || object.object === "rule") && object.table === key) continue;
    if (object.object === "view" && tableKey(object.schema, object.name) === key) continue;
    if (!resolvesTo(object, relation, catalog, dialect)) continue;
    list.push(shownDependent(object));
  }
  if (relation.object === "table") {
    for (const child of catalog.referencing(key)) {
      if (child === relation) continue;
      for (const foreign of child.foreignKeys)
        if (foreign.table === key)
          list.push({ kind: "key", name: `${foreign.name ?? "a foreign key"} of ${shownName(child)}`, key: "" });
    }
  }
  return list;
}

/** What refers to one column of a table or view. */
export function columnDependents(
  relation: Table | View,
  column: string,
  catalog: Catalog,
  dialect: Dialect,
): Dependent[] {
  const key = tableKey(relation.schema, relation.name);
  const list: Dependent[] = [];
  for (const object of codeNaming(relation.name, catalog, dialect)) {
    if (object.object === "view" && tableKey(object.schema, object.name) === key) continue;
    if (resolvesTo(object, relation, catalog, dialect) && namesColumn(object, column, dialect))
      list.push(shownDependent(object));
  }
  for (const guard of [...catalog.triggersOf(key), ...catalog.rulesOf(key)]) {
    const listed = guard.object === "trigger" && (guard.columns?.includes(column) ?? false);
    const called = guard.object === "trigger" && guard.calls ? catalog.object("routine", guard.calls) : undefined;
    const body = called?.object === "routine" ? rowColumn(called, column, dialect) : rowColumn(guard, column, dialect);
    if ((listed || body) && !list.some(({ name }) => name === guard.name)) list.push(shownDependent(guard));
  }
  if (relation.object === "table") {
    for (const child of catalog.referencing(key)) {
      for (const foreign of child.foreignKeys) {
        const referenced = foreign.referenced.length > 0 ? foreign.referenced : (relation.primaryKey?.columns ?? []);
        if (foreign.table === key && child !== relation && referenced.includes(column))
          list.push({ kind: "key", name: `${foreign.name ?? "a foreign key"} of ${shownName(child)}`, key: "" });
      }
    }
    for (const check of relation.checks)
      if (wordIn(check.condition, column)) {
        const alone = !relation.columns.some(({ name }) => name !== column && wordIn(check.condition, name));
        list.push({ kind: "check", name: check.name ?? check.condition, key: "", alone });
      }
    for (const other of relation.columns)
      if (other.name !== column && other.expression !== null && wordIn(other.expression, column))
        list.push({ kind: "column", name: other.name, key: "" });
  }
  return list;
}

function shownDependent(object: CodeObject): Dependent {
  const guard = object.object === "trigger" || object.object === "rule";
  return {
    kind: object.object,
    name: guard ? object.name : shownName(object),
    key: guard ? Catalog.guardKey(object) : tableKey(object.schema, object.name),
  };
}

function resolvesTo(object: CodeObject, relation: Table | View, catalog: Catalog, dialect: Dialect): boolean {
  let found = false;
  for (const tree of treesOf(object, dialect)) {
    walk(tree, (node) => {
      if (found) return false;
      if ((node.kind === "table" || node.kind === "table-query") && catalog.resolveRelation(node.name) === relation)
        found = true;
      return undefined;
    });
  }
  return found;
}

/** Whether code names a column of that name, or takes all of them by a star. */
function namesColumn(object: CodeObject, column: string, dialect: Dialect): boolean {
  let found = false;
  for (const tree of treesOf(object, dialect)) {
    walk(tree, (node) => {
      if (node.kind === "column" && foldName(node.path[node.path.length - 1], dialect) === column) found = true;
      if (
        node.kind === "insert" &&
        node.columns?.some((one) => foldName(one.parts[one.parts.length - 1], dialect) === column)
      )
        found = true;
      return found ? false : undefined;
    });
  }
  return found;
}

/** Whether the code of a trigger asks OLD or NEW for a column. */
function rowColumn(object: Trigger | Rule | Routine, column: string, dialect: Dialect): boolean {
  let found = false;
  for (const tree of treesOf(object, dialect)) {
    walk(tree, (node) => {
      if (node.kind !== "column" || node.path.length !== 2) return found ? false : undefined;
      const row = node.path[0].text.toLowerCase();
      if (/^(?:old|new|inserted|deleted)$/.test(row) && foldName(node.path[1], dialect) === column) found = true;
      return undefined;
    });
  }
  return found;
}
