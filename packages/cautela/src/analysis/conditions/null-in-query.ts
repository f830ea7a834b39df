import type { Expr, Query, QueryBody, Select, Source } from "../../sql/nodes/tree.ts";
import { conjuncts } from "../changes/reach.ts";
import { comparedIn, type UsedColumn, usedColumn } from "./conditions.ts";
import { calledName } from "./constants.ts";
import { asksFor, type NullContext, nullableIn } from "./nullable.ts";

/** What may be NULL in a row that a query gives. */
export interface NullInQuery {
  /** The column that is NULL then. */
  readonly used: UsedColumn;
  /** The part of the query that gives such a row, and what it gives. */
  readonly select: Select;
  readonly value: Expr;
  /** Whether the column is one of a table that an outer join may find no row of. */
  readonly unmatched: boolean;
  /** Whether the query can be told to leave such rows out by its WHERE alone. */
  readonly plain: boolean;
}

/** What is known of columns, and which of them may hold NULL although no table says so. */
export interface QueryNullContext extends Omit<NullContext, "parts"> {
  readonly mayBeNull: (used: UsedColumn) => boolean;
  /** An expression in a form that does not depend on how it is written. */
  readonly key: (expr: Expr) => string;
}

/** Aggregates of nothing but NULLs are NULL. */
const AGGREGATES = /^(?:min|max|sum|avg)$/i;

/**
 * The column that makes a row NULL in the first column of a query; null: none that is known. What a WHERE, an inner join or HAVING asks
 * of the column is not NULL.
 *
 * @example
 * // SELECT n FROM b UNION SELECT n FROM c: c.n, where b declares n NOT NULL and c does not
 */
export function nullInQuery(query: Query, context: QueryNullContext): NullInQuery | null {
  return inQuery(query, { ...context, index: 0, looked: { queries: 0 } });
}

/** Which column of the query is asked about, and how many queries have been looked at: each may stand in several others. */
interface At extends QueryNullContext {
  readonly index: number;
  readonly looked: { queries: number };
}

const MOST_QUERIES = 60;

function inQuery(query: Query, at: At): NullInQuery | null {
  if (++at.looked.queries > MOST_QUERIES) return null;
  const found = inBody(query.body, at);
  return found && query.limit ? { ...found, plain: false } : found;
}

function inBody(body: QueryBody, at: At): NullInQuery | null {
  switch (body.kind) {
    case "query":
      return inQuery(body, at);
    case "select":
      return inSelect(body, at);
    case "compounded": {
      let found = inBody(body.first, at);
      for (const { op, body: other } of body.rest) {
        if (op === "union") found ??= inBody(other, at);
        // Of what is taken away nothing is left; of what both have, only that is.
        else if (op === "intersect" && found) found = inBody(other, at) && found;
      }
      return found;
    }
    default:
      return null;
  }
}

function inSelect(select: Select, context: At): NullInQuery | null {
  const value = select.items[context.index]?.expr;
  // Where a star stands among them, nobody has counted.
  if (!value || select.items.some(({ expr }) => expr.kind === "star")) return null;
  const grouped = select.groupBy.length > 0;
  const asked = select.where ? conjuncts(select.where) : [];
  /** WHERE asks for a value of the source: its rows without a match are gone. */
  const met = (source: Source): boolean => asked.some((part) => asksForOne(part, source, context));
  const parts = [
    ...asked,
    ...select.from.flatMap((source) => innerConditions(source, met)).flatMap(conjuncts),
    ...(select.having ? conjuncts(select.having) : []),
  ];
  const plain = !grouped && !select.having && !select.distinctOn;
  if (value.kind === "call" && AGGREGATES.test(calledName(value)) && !value.over) {
    // Of no rows at all there is nothing to be left out.
    const found = grouped && value.args.length === 1 ? nullableIn(value.args[0], { ...context, parts }) : null;
    return found && !parts.some((part) => asksForValue(part, value, context))
      ? { used: found.used, select, value, unmatched: false, plain }
      : null;
  }
  const used = usedColumn(value, context.names);
  if (!used) {
    const found = nullableIn(value, { ...context, parts });
    return found && !parts.some((part) => asksForValue(part, value, context))
      ? { used: found.used, select, value, unmatched: false, plain }
      : null;
  }
  if (parts.some((part) => asksFor(part, used, context.names))) return null;
  const { relation } = used;
  const source = relation?.source ?? null;
  const unmatched =
    source !== null && used.offered !== null && !met(source) && select.from.some((one) => mayFindNothing(one, source));
  const index = relation?.query ? (relation.columns?.findIndex(({ name }) => name === used.name) ?? -1) : -1;
  const mayBe =
    relation?.query && index >= 0 ? inQuery(relation.query, { ...context, index }) !== null : context.mayBeNull(used);
  return unmatched || mayBe ? { used, select, value, unmatched, plain } : null;
}

/** Whether a condition asks for a value not to be NULL: HAVING MAX(n) IS NOT NULL, WHERE m + n IS NOT NULL. */
function asksForValue(part: Expr, value: Expr, { key }: QueryNullContext): boolean {
  return part.kind === "is" && part.test === "null" && part.negated && key(part.operand) === key(value);
}

/** Whether a condition lets no row through that has nothing of a source. */
function asksForOne(part: Expr, source: Source, { names }: QueryNullContext): boolean {
  return comparedIn(part).some((operand) => {
    const used = usedColumn(operand, names);
    return used?.relation?.source === source && asksFor(part, used, names);
  });
}

/** The conditions of inner joins, and of those whose rows without a match WHERE leaves out: every row meets them. */
function innerConditions(source: Source, met: (source: Source) => boolean): Expr[] {
  if (source.kind !== "joined") return [];
  const outer = source.joins.some(({ type }) => type === "right" || type === "full");
  if (outer) return [];
  return [
    ...innerConditions(source.first, met),
    ...source.joins.flatMap((join) =>
      join.type === "inner" || (join.type === "left" && met(join.source))
        ? [...(join.on ? [join.on] : []), ...innerConditions(join.source, met)]
        : [],
    ),
  ];
}

/** Whether an outer join may give rows in which a source has no row. */
function mayFindNothing(from: Source, sought: Source, padded = false): boolean {
  if (from === sought) return padded;
  if (from.kind !== "joined") return false;
  // A RIGHT or FULL JOIN further right goes for everything before it.
  const afterwards = (index: number): boolean =>
    from.joins.slice(index).some(({ type }) => type === "right" || type === "full");
  return (
    mayFindNothing(from.first, sought, padded || afterwards(0)) ||
    from.joins.some(({ type, source }, i) =>
      mayFindNothing(
        source,
        sought,
        padded || type === "left" || type === "full" || type === "outer-apply" || afterwards(i + 1),
      ),
    )
  );
}
