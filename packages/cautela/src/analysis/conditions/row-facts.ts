import type { Expr, Query, Source } from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Slice } from "../../text/slice.ts";
import { conjuncts } from "../changes/reach.ts";
import { plainColumn } from "./constants.ts";
import { type FilterFact, factOf, filterFacts } from "./filter-facts.ts";

/**
 * Which rows of one table a statement takes, as conditions on them: its own, and one for each table that it is tied to,
 * whether by a join, by IN or by EXISTS. Null where a condition cannot be laid at the door of one table. `always` says of a
 * join that it finds a row for every row: by a foreign key whose columns are never NULL.
 *
 * @example
 * // vessel v JOIN owner o ON o.owner_id = v.owner_id WHERE o.town = 'Ulm'
 * // vessel WHERE owner_id IN (SELECT owner_id FROM owner WHERE town = 'Ulm')      give the same facts
 */
export function rowFacts(
  target: string,
  sources: readonly Source[],
  conditions: readonly Expr[],
  slice: Slice,
  always: (table: string, ties: readonly Tie[]) => boolean = () => false,
): readonly FilterFact[] | null {
  const others = new Map<string, Other>();
  for (const source of sources) {
    const own = namedTable(source);
    if (!own) return null;
    if (own.alias !== target) others.set(own.alias, { table: own.table, ties: [], facts: [] });
  }
  const facts: FilterFact[] = [];
  const single = others.size === 0 ? target : null;
  for (const part of conditions.flatMap(conjuncts)) {
    const asked = askedTable(part, target, single, slice);
    if (asked) {
      facts.push(semi(asked));
      continue;
    }
    const about = aliasesIn(part, single);
    if (!about) return null;
    const [one, second, ...more] = about;
    if (more.length > 0) return null;
    if (second === undefined) {
      const list = filterFacts(part, slice);
      if (one === undefined || one === target) facts.push(...list);
      else {
        const other = others.get(one);
        if (!other) return null;
        other.facts.push(...list);
      }
      continue;
    }
    const tie = tieOf(part, target, single);
    const other = tie ? others.get(tie.alias) : undefined;
    if (!tie || !other) return null;
    other.ties.push(tie);
  }
  for (const other of others.values()) {
    if (other.ties.length === 0) return null;
    if (other.facts.length === 0 && always(other.table, other.ties)) continue;
    facts.push(semi(other));
  }
  return facts;
}

/** The tables of a FROM, joins taken apart: those without which no row comes, and the conditions of their joins. */
export function innerSources(sources: readonly Source[]): { sources: Source[]; on: Expr[]; optional: string[] } | null {
  const inner: Source[] = [];
  const on: Expr[] = [];
  const optional: string[] = [];
  const take = (source: Source): boolean => {
    if (source.kind !== "joined") {
      inner.push(source);
      return true;
    }
    if (!take(source.first)) return false;
    for (const join of source.joins) {
      if (join.natural || join.using) return false;
      if (join.type === "left") {
        const named = namedTable(join.source);
        if (!named) return false;
        optional.push(named.alias);
      } else if (join.type === "inner" || join.type === "cross") {
        if (!take(join.source)) return false;
        if (join.on) on.push(join.on);
      } else return false;
    }
    return true;
  };
  return sources.every(take) ? { sources: inner, on, optional } : null;
}

/** A column of the target that equals one of another table. */
export interface Tie {
  own: string;
  column: string;
}

interface Other {
  table: string;
  ties: Tie[];
  facts: FilterFact[];
}

function semi({ table, ties, facts }: Other): FilterFact {
  const keys = [...new Set(facts.map(({ key }) => key))].sort();
  const tied = [...new Set(ties.map(({ own, column }) => `${own}=${column}`))].sort();
  const key = `in ${table} by ${tied.join()} where ${keys.join(" and ")}`;
  return factOf(key);
}

/** The name under which a statement refers to a table, in small letters, and the table's own. */
export function namedTable(source: Source): { alias: string; table: string } | null {
  if (source.kind !== "table") return null;
  const table = source.name.parts[source.name.parts.length - 1].text.toLowerCase();
  return { alias: source.alias?.text.toLowerCase() ?? table, table };
}

/** `owner_id IN (SELECT …)` and EXISTS over one table. */
function askedTable(part: Expr, target: string, single: string | null, slice: Slice): Other | null {
  if (part.kind === "in" && part.query && !part.negated) {
    const own = columnOf(part.operand, single);
    const inner = oneTable(part.query);
    if (!own || own.alias !== target || !inner || inner.items.length !== 1) return null;
    const selected = columnOf(inner.items[0].expr, inner.alias);
    if (!selected || selected.alias !== inner.alias) return null;
    const facts = inner.parts.flatMap((one) => filterFacts(one, slice));
    const local = inner.parts.every((one) => aliasesIn(one, inner.alias)?.every((alias) => alias === inner.alias));
    return local ? { table: inner.table, ties: [{ own: own.column, column: selected.column }], facts } : null;
  }
  if (part.kind !== "exists") return null;
  const inner = oneTable(part.query);
  if (!inner) return null;
  const other: Other = { table: inner.table, ties: [], facts: [] };
  for (const one of inner.parts) {
    const about = aliasesIn(one, inner.alias);
    if (!about) return null;
    if (about.every((alias) => alias === inner.alias)) {
      other.facts.push(...filterFacts(one, slice));
      continue;
    }
    const tie = tieOf(one, target, inner.alias);
    if (!tie || tie.alias !== inner.alias) return null;
    other.ties.push(tie);
  }
  return other.ties.length > 0 ? other : null;
}

function oneTable({ body, limit, with: clause }: Query) {
  if (body.kind !== "select" || limit || clause || body.top || body.groupBy.length > 0 || body.having) return null;
  const named = body.from.length === 1 ? namedTable(body.from[0]) : null;
  return named && { ...named, items: body.items, parts: body.where ? conjuncts(body.where) : [] };
}

/** `target.a = other.b`, whichever way round. */
function tieOf(part: Expr, target: string, bare: string | null): { own: string; alias: string; column: string } | null {
  if (part.kind !== "binary" || part.op !== "=") return null;
  const [a, b] = [columnOf(part.left, bare), columnOf(part.right, bare)];
  if (!a || !b || (a.alias === target) === (b.alias === target)) return null;
  const [own, other] = a.alias === target ? [a, b] : [b, a];
  return { own: own.column, alias: other.alias, column: other.column };
}

function columnOf(expr: Expr, bare: string | null): { alias: string; column: string } | null {
  const ref = plainColumn(expr);
  if (!ref) return null;
  const column = ref.path[ref.path.length - 1].text.toLowerCase();
  const alias = ref.path.length > 1 ? ref.path[ref.path.length - 2].text.toLowerCase() : bare;
  return alias === null ? null : { alias, column };
}

/** The tables whose columns a condition holds; `bare` is the one that columns without a table belong to. */
function aliasesIn(part: Expr, bare: string | null): string[] | null {
  const aliases = new Set<string>();
  let clear = true;
  walk(part, (node) => {
    if (node.kind === "query") clear = false;
    if (node.kind === "column") {
      const alias = columnOf(node, bare)?.alias;
      if (alias === undefined) clear = false;
      else aliases.add(alias);
    }
    return clear;
  });
  return clear ? [...aliases] : null;
}
