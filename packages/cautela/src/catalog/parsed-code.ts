import type { Dialect, DialectId } from "../sql/dialects/dialect.ts";
import type { CreateRoutineStatement, Expr, Query, Statement } from "../sql/nodes/tree.ts";
import type { InnerText } from "../sql/reading/inner-text.ts";
import { readScript } from "../sql/reading/script.ts";
import type { Check, Column, Routine, Rule, Trigger, View } from "./model.ts";
import { foldName } from "./names.ts";

// The trees behind the texts of the catalog: read when they are first asked for, and kept as long as
// the object they belong to.

/** A tree with the text that its ranges refer to. */
export interface Parsed<Tree> {
  tree: Tree;
  text: string;
  /** The texts that its dynamic SQL runs. */
  inner?: readonly InnerText[];
}

const queries = new WeakMap<View, Parsed<Query> | null>();
const conditions = new WeakMap<object, Parsed<Expr> | null>();
const bodies = new WeakMap<object, Parsed<readonly Statement[]> | null>();

function cached<Key extends object, Value>(map: WeakMap<Key, Value>, key: Key, make: () => Value): Value {
  const known = map.get(key);
  if (known !== undefined) return known;
  const made = make();
  map.set(key, made);
  return made;
}

/** The query of a view; null where it is not known or cannot be read. */
export function viewQuery(view: View, dialect: DialectId): Parsed<Query> | null {
  return cached(queries, view, () => {
    if (view.query === null) return null;
    const tree = readScript(view.query, { dialect }).statements[0]?.tree;
    return tree?.kind === "select" ? { tree: tree.query, text: view.query } : null;
  });
}

/** A condition on its own: of a check, a WHEN, a partial index. */
export function conditionTree(
  owner: Check | Trigger | Rule | { condition: string },
  dialect: DialectId,
): Parsed<Expr> | null {
  return cached(conditions, owner, () => expressionOf(owner.condition, dialect));
}

/** The default of a column. */
export function defaultTree(column: Column, dialect: DialectId): Parsed<Expr> | null {
  return cached(conditions, column, () => expressionOf(column.default, dialect));
}

function expressionOf(source: string | null, dialect: DialectId): Parsed<Expr> | null {
  if (source === null) return null;
  const text = `SELECT ${source}`;
  const tree = readScript(text, { dialect }).statements[0]?.tree;
  if (tree?.kind !== "select" || tree.query.body.kind !== "select") return null;
  return { tree: tree.query.body.items[0].expr, text };
}

/** The statements of a trigger's own body, a routine's, or a rule's; null where they are not known. */
export function bodyStatements(
  owner: Trigger | Routine | Rule,
  dialect: DialectId,
): Parsed<readonly Statement[]> | null {
  return cached(bodies, owner, () => {
    const text = owner.object === "routine" ? owner.definition : owner.body;
    if (text === null) return null;
    const { statements } = readScript(text, { dialect });
    const inner = statements.flatMap((one) => one.inner ?? []);
    if (owner.object === "rule") return { tree: statements.map((one) => one.tree), text, inner };
    const tree = statements[0]?.tree as Statement | undefined;
    if (tree?.kind !== "create-routine") return null;
    return tree.body === null ? null : { tree: members(tree), text, inner };
  });
}

const packages = new WeakMap<Routine, ReadonlyMap<string, Routine>>();

const owners = new WeakMap<Routine, Routine>();

/** The package that a routine is a member of; null: none. */
export function packageOf(member: Routine): Routine | null {
  return owners.get(member) ?? null;
}

/** The procedures and functions of a package body, by their folded names, each with its own definition (plsql). */
export function packageMembers(owner: Routine, dialect: Dialect): ReadonlyMap<string, Routine> {
  return cached(packages, owner, () => {
    const found = new Map<string, Routine>();
    if (owner.kind !== "package" || owner.definition === null) return found;
    const tree = readScript(owner.definition, { dialect: dialect.id }).statements[0]?.tree;
    if (tree?.kind !== "create-routine") return found;
    for (const one of tree.body ?? []) {
      if (one.kind !== "create-routine" || one.name === null || one.body === null) continue;
      const name = foldName(one.name.parts[one.name.parts.length - 1], dialect);
      const kind = one.object === "procedure" ? "procedure" : "function";
      const definition = `CREATE ${owner.definition.slice(one.start, one.end)}`;
      const member: Routine = { ...owner, name: `${owner.name}.${name}`, kind, arguments: null, definition };
      owners.set(member, owner);
      found.set(name, member);
    }
    return found;
  });
}

function members(tree: CreateRoutineStatement): readonly Statement[] {
  return tree.body ?? [];
}
