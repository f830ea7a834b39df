import { conjuncts } from "../../analysis/changes/reach.ts";
import { assignedIn, pinnedConstants } from "../../analysis/conditions/conditions.ts";
import { joinTreeOf } from "../../analysis/conditions/join-tree.ts";
import { asksOf, connected, isAggregate, linksOf, relationsIn, uniqueOn } from "../../analysis/conditions/links.ts";
import { isEnginesOwn } from "../../analysis/names/missing.ts";
import type { BoundRelation, Resolution } from "../../analysis/names/resolution.ts";
import { holdsOneRow, namesSettings, namesVersion } from "../../analysis/script/table-class.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { writtenName } from "../../catalog/names.ts";
import { sqlWriter } from "../../sql/dialects/writing.ts";
import type { Statement } from "../../sql/nodes/tree.ts";
import { columnText } from "../../writing/relation-names.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * A table that is tied to nothing: every row of it meets every row of the others.
 *
 * @example
 * INSERT INTO notice SELECT o.owner_id, t.class FROM owner o, tariff t;   -- every owner with every class
 */
export const openJoin: Hazard = {
  id: "open-join",
  family: "joins",
  statements: ["update", "delete", "insert", "merge", "create-table"],
  weight: "stop",
  subsumes: ["fan-out"],
  depends: ["names"],
  needs: Trait.several,
  title: "A table that is tied to nothing",
  explanation:
    "One of the tables is mentioned in no condition together with another one, so each of its rows meets each row of the " +
    "others. In an INSERT the rows multiply; in an UPDATE each row is met many times. CROSS JOIN says so openly and is not reported.",
  remedy: "Add the join condition, or write CROSS JOIN if every combination is meant.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY);\nCREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer REFERENCES owner);\nCREATE TABLE notice (owner_id integer, vessel_id integer);",
    dangerous: "INSERT INTO notice (owner_id, vessel_id) SELECT o.owner_id, v.vessel_id FROM owner o, vessel v;",
    sound:
      "INSERT INTO notice (owner_id, vessel_id) SELECT o.owner_id, v.vessel_id FROM owner o, vessel v WHERE v.owner_id = o.owner_id;",
  },
  check(context) {
    const { tree, names, changes } = context;
    if (!names) return [];
    // ON 1 = 0 and nothing but NOT MATCHED: all rows are to come in.
    if (tree.kind === "merge" && tree.whens.every(({ matched }) => matched !== "matched")) return [];
    const level = joinTreeOf(tree, names, changes[0]?.change.relation?.source ?? null);
    if (!level || level.scope.relations.length < 2) return [];
    const explicit =
      level.joins.length === 0
        ? NO_RELATIONS
        : new Set(
            level.joins
              .filter(
                ({ join }) =>
                  join.type === "cross" ||
                  join.type === "apply" ||
                  join.type === "outer-apply" ||
                  join.natural ||
                  join.using,
              )
              .flatMap(({ relation }) => relation),
          );
    const links = linksOf(level.conditions, names, level.scope);
    if (links.undecided) return [];
    const [first] = level.target ? [level.target] : level.scope.relations;
    const tied = connected(first, links);
    if (tied.size === level.scope.relations.length) return [];
    // USING and NATURAL tie without a condition.
    if (level.joins.some(({ join }) => join.natural || join.using)) return [];
    const drafts: Draft[] = [];
    // A join whose ON says nothing of its table is the other hazard.
    const conditioned = new Set(level.joins.filter(({ join }) => join.on !== null).flatMap(({ relation }) => relation));
    for (const relation of level.scope.relations) {
      if (tied.has(relation) || conditioned.has(relation) || explicit.has(relation) || oneRow(relation)) continue;
      const loose = level.target !== null && tied.size === 1 && tree.kind !== "insert" && tree.kind !== "merge";
      if (loose && level.target) {
        // A target without a tie to a FROM that is filtered is the other hazard; so are two copies of one table.
        if (
          asksOf(level, names, (one) => one !== level.target) ||
          (relation.table && relation.table === level.target.table)
        )
          continue;
        // Unless a value is taken from it, all that matters is that every row is met.
        if (!readsFrom(tree, relation, names) || holdsOne(relation)) continue;
      }
      const pinned = new Set(links.pinned.filter((one) => one.relation === relation).map(({ column }) => column));
      if (pinned.size > 0 && uniqueOn(relation, pinned)) continue;
      if (relation.source?.kind === "table" && isEnginesOwn(relation.source, context.dialect)) continue;
      if (relation.source?.kind !== "table" && relation.columns === null) continue;
      // Of a table that is not known the value may pick the one row.
      const parts = relation.columns === null ? level.conditions.flatMap(conjuncts) : [];
      if (pinnedConstants(parts, names).some(({ column }) => column.relation === relation)) continue;
      const byKey = joinBy(relation, [...tied], context);
      drafts.push({
        // What is looked up by a value may be one row, where no key says how the two belong together; so may a table that is not known.
        ...((pinned.size > 0 && byKey === null) || relation.columns === null ? { weight: "ask" as const } : {}),
        message: `\`${relation.name}\` is tied to no other table here, so each of its rows meets each row of the others.`,
        because: [
          `no condition mentions \`${relation.name}\` together with another table`,
          ...(loose ? ["which of its rows gives the value is left to chance"] : []),
          ...(pinned.size > 0 ? [`${listed([...pinned])} ${pinned.size === 1 ? "is" : "are"} no key of it`] : []),
        ],
        remedy: byKey ?? `Add the condition that ties \`${relation.name}\`, or write CROSS JOIN.`,
      });
    }
    return drafts;
  },
};

const NO_RELATIONS: ReadonlySet<BoundRelation> = new Set();

/** Whether a value that is assigned comes from a table. */
function readsFrom(tree: Statement, relation: BoundRelation, names: Resolution): boolean {
  const here = new Set([relation]);
  return assignedIn(tree, names).some(({ value }) => relationsIn(value, names, here).relations.has(relation));
}

/** A table that holds one row by design, as far as the catalog or its name says. */
function holdsOne({ source, table }: BoundRelation): boolean {
  if (holdsOneRow(table ?? null)) return true;
  if (source?.kind !== "table") return false;
  const name = writtenName(source.name);
  return namesSettings(name) || namesVersion(name);
}

/** A derived table that gives one row at most, whatever it meets. */
function oneRow({ query, source }: BoundRelation): boolean {
  if (source?.kind === "function") return true;
  if (!query) return false;
  const { body } = query;
  if (body.kind === "values") return body.rowCount === 1;
  if (body.kind !== "select") return false;
  return (
    body.from.length === 0 ||
    query.limit !== null ||
    body.top !== null ||
    (body.groupBy.length === 0 && body.items.some(({ expr }) => isAggregate(expr)))
  );
}

/** The join that a declared foreign key asks for. */
export function joinBy(
  relation: BoundRelation,
  others: readonly BoundRelation[],
  { dialect }: Pick<HazardContext, "dialect">,
): string | null {
  const writer = sqlWriter(dialect);
  for (const other of others) {
    for (const [from, to] of [
      [relation, other],
      [other, relation],
    ]) {
      const key = from.table?.foreignKeys.find(
        (one) => to.table && one.table === `${to.table.schema}\u0000${to.table.name}`,
      );
      if (!key || !to.table) continue;
      const referenced = key.referenced.length > 0 ? key.referenced : (to.table.primaryKey?.columns ?? []);
      const pairs = key.columns.map(
        (column, i) =>
          `${columnText(from, column, writer)} = ${referenced[i] ? columnText(to, referenced[i], writer) : "…"}`,
      );
      return `By the declared key: ${pairs.join(" AND ")}`;
    }
  }
  return null;
}
