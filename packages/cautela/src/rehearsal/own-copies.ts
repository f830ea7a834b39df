import type { ChangeSource } from "../review/result.ts";
import type { Name, Query, Span, Statement } from "../sql/nodes/tree.ts";

/** A lasting table that the script itself fills with rows of another one, with all their columns. */
export interface OwnCopy {
  /** The table that is copied. */
  of: Name;
  name: Name;
  /** Its name as the script writes it. */
  written: string;
  /** The condition that chooses the rows, in one line; null: all of them. */
  where: string | null;
}

/**
 * The copy that a statement makes; null: none, or not a plain one. A temporary one is gone when it is needed.
 *
 * @example
 * // CREATE TABLE old_fees AS SELECT * FROM mooring WHERE fee > 5
 * ownCopy(source) // of mooring, named old_fees, where "fee > 5"
 */
export function ownCopy({ tree, text, start }: ChangeSource): OwnCopy | null {
  const made = copying(tree);
  if (!made || /^[#@]/.test(made.name.parts[made.name.parts.length - 1].text)) return null;
  const { body, limit } = made.query;
  if (made.query.with || limit || body.kind !== "select" || body.top || body.distinct || body.groupBy.length > 0)
    return null;
  const [from] = body.from;
  const [item] = body.items;
  if (body.from.length !== 1 || from.kind !== "table" || body.items.length !== 1 || item.expr.kind !== "star")
    return null;
  const cut = (span: Span): string => text.slice(span.start - start, span.end - start);
  return { of: from.name, name: made.name, written: cut(made.name), where: body.where && inOneLine(cut(body.where)) };
}

/** A condition with single blanks for any: the same text is the same condition. */
export function inOneLine(condition: string): string {
  return condition.replace(/\s+/g, " ").trim();
}

function copying(tree: Statement): { name: Name; query: Query } | null {
  switch (tree.kind) {
    case "create-table":
      return tree.query && !tree.temporary && !tree.ifNotExists && tree.withData && !/\bno\s+data\b/i.test(tree.options)
        ? { name: tree.name, query: tree.query }
        : null;
    case "select": {
      const { body } = tree.query;
      if (body.kind !== "select" || body.into?.what !== "table" || body.into.temporary) return null;
      const [target] = body.into.targets;
      if (target?.kind !== "column") return null;
      return {
        name: { kind: "name", parts: target.path, link: null, start: target.start, end: target.end },
        query: tree.query,
      };
    }
    default:
      return null;
  }
}
