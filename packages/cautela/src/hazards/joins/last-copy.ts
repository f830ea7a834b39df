import { conjuncts } from "../../analysis/changes/reach.ts";
import { calledName, plainColumn } from "../../analysis/conditions/constants.ts";
import { innerSources, namedTable } from "../../analysis/conditions/row-facts.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { relationKey } from "../../catalog/relation-keys.ts";
import type { DeleteStatement, Expr, Query } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";

/**
 * A DELETE that is to remove duplicates takes each of them, and none is left.
 *
 * @example
 * DELETE FROM owner a USING owner b WHERE a.mail = b.mail AND a.owner_id <> b.owner_id;   -- > keeps the first
 */
export const lastCopy: Hazard = {
  id: "last-copy",
  family: "joins",
  weight: "ask",
  statements: ["delete"],
  needs: Trait.several | Trait.query,
  title: "Duplicates are deleted to the last one",
  explanation:
    "Rows are compared with other rows of the same table, and each row that has a double is deleted. The double has one as well, so both go. " +
    "What decides which one stays is an order between the two: their keys compared by > or <, or the lowest key of each group left out.",
  remedy: "Compare the keys by > so that the first row stays, or leave out the lowest key of each group.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY, mail varchar(80) NOT NULL);",
    dangerous: "DELETE FROM owner a USING owner b WHERE a.mail = b.mail AND a.owner_id <> b.owner_id;",
    sound: "DELETE FROM owner a USING owner b WHERE a.mail = b.mail AND a.owner_id > b.owner_id;",
  },
  check(context) {
    const { changes, catalog, dialect, show } = context;
    const drafts: Draft[] = [];
    for (const { change, target } of changes) {
      const { statement, relation } = change;
      const own = relation ? namedTable(relation.source) : null;
      if (statement.kind !== "delete" || !own) continue;
      const key = relationKey(change.name, catalog, dialect);
      const level = innerSources([...statement.from, ...statement.using]);
      const parts = change.conditions.flatMap(({ expr }) => conjuncts(expr));
      const others = level?.sources.filter((one) => namedTable(one)?.alias !== own.alias) ?? [];
      const [other] = others;
      const alias = other && namedTable(other)?.alias;
      let doubles: string[] | null = null;
      if (others.length === 1 && level?.optional.length === 0 && other.kind === "table" && alias) {
        if (relationKey(other.name, catalog, dialect) === key) doubles = doubled(parts, own.alias, alias);
      } else if (others.length === 0 && parts.length > 0) {
        doubles = parts.length === 1 ? asked(parts[0], own.alias, key, context) : null;
        if (!doubles && parts.every((part) => counted(part, statement))) doubles = [];
      }
      if (!doubles) continue;
      const alike =
        doubles.length > 0
          ? `have the same ${doubles.map((one) => `\`${one}\``).join(" and ")}`
          : "its PARTITION BY puts together";
      drafts.push({
        message: `Of rows of \`${target}\` that ${alike} none is left: each is deleted for the sake of the others.`,
        because: [
          `\`${show(parts.length === 1 ? parts[0] : (parts.find(isUnequal) ?? parts[0]))}\` is true of every one of them`,
        ],
        remedy:
          "Compare their keys by > and not by <>, so that one of them stays, or leave out the lowest key of each group.",
      });
    }
    return drafts;
  },
};

function isUnequal(part: Expr): boolean {
  return part.kind === "binary" && (part.op === "<>" || part.op === "!=");
}

/** The columns in which two rows are the same, where nothing but that and "not the same row" is asked; null: more is. */
function doubled(parts: readonly Expr[], own: string, other: string): string[] | null {
  const same: string[] = [];
  let unequal = 0;
  for (const part of parts) {
    if (part.kind !== "binary") return null;
    const sides = [part.left, part.right].map((side) => {
      const path = plainColumn(side)?.path;
      return path && path.length > 1
        ? { alias: path[path.length - 2].text.toLowerCase(), column: path[path.length - 1].text }
        : null;
    });
    const [left, right] = sides;
    if (!left || !right || left.column.toLowerCase() !== right.column.toLowerCase()) return null;
    if (left.alias === right.alias || ![own, other].includes(left.alias) || ![own, other].includes(right.alias))
      return null;
    if (part.op === "=") same.push(left.column);
    else if (isUnequal(part)) unequal++;
    else return null;
  }
  return same.length > 0 && unequal > 0 ? same : null;
}

/** EXISTS another row that is the same; a value IN those that occur more than once. */
function asked(part: Expr, own: string, key: string, context: HazardContext): string[] | null {
  const query = part.kind === "exists" ? part.query : part.kind === "in" && !part.negated ? part.query : null;
  const body = query ? plainSelect(query) : null;
  const [source] = body?.from ?? [];
  if (!body || source?.kind !== "table" || body.from.length !== 1) return null;
  if (relationKey(source.name, context.catalog, context.dialect) !== key) return null;
  const inner = namedTable(source);
  if (part.kind === "exists")
    return inner && body.where && body.groupBy.length === 0 && !body.having
      ? doubled(conjuncts(body.where), own, inner.alias)
      : null;
  if (part.kind !== "in" || body.where || body.groupBy.length !== 1 || !body.having || body.items.length !== 1)
    return null;
  const names = [part.operand, body.items[0].expr, body.groupBy[0]].map((one) => {
    const path = plainColumn(one)?.path;
    return path?.[path.length - 1].text.toLowerCase();
  });
  const [column] = names;
  return column && names.every((one) => one === column) && asksForSeveral(body.having) ? [column] : null;
}

/** `n > 1` where `n` is COUNT(*) OVER (PARTITION BY …): the number is the same for each of them, the first one included. */
function counted(part: Expr, { with: clause, from }: DeleteStatement): boolean {
  const query = part.kind === "in" && !part.negated ? part.query : null;
  const body = query ? plainSelect(query) : null;
  const [filter, source] = query
    ? [
        body?.where && conjuncts(body.where).length === 1 ? body.where : null,
        body?.from.length === 1 ? body.from[0] : null,
      ]
    : [part, from.length === 1 ? from[0] : null];
  if (filter?.kind !== "binary" || filter.right.kind !== "literal" || !source) return false;
  if (!((filter.op === ">" && filter.right.value === "1") || (filter.op === ">=" && filter.right.value === "2")))
    return false;
  const path = plainColumn(filter.left)?.path;
  const column = path?.[path.length - 1].text.toLowerCase();
  const common =
    source.kind === "table"
      ? clause?.tables.find(({ name }) => name.text.toLowerCase() === source.name.parts[0].text.toLowerCase())?.body
      : null;
  const made = source.kind === "derived" ? source.query : common;
  if (made?.kind !== "query" || made.body.kind !== "select") return false;
  return made.body.items.some(
    ({ expr, alias }) =>
      expr.kind === "call" &&
      expr.over &&
      calledName(expr).toLowerCase() === "count" &&
      alias?.text.toLowerCase() === column,
  );
}

function plainSelect({ body, limit, with: clause }: Query): Extract<Query["body"], { kind: "select" }> | null {
  return body.kind === "select" && !limit && !clause && !body.top && !body.distinct ? body : null;
}

/** `COUNT(*) > 1`, `COUNT(*) >= 2`. */
function asksForSeveral(having: Expr): boolean {
  if (having.kind !== "binary" || having.left.kind !== "call" || having.right.kind !== "literal") return false;
  const { parts } = having.left.name;
  if (parts[parts.length - 1].text.toLowerCase() !== "count") return false;
  return (having.op === ">" && having.right.value === "1") || (having.op === ">=" && having.right.value === "2");
}
