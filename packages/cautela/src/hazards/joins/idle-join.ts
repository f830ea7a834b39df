import { conjuncts } from "../../analysis/changes/reach.ts";
import { plainColumn } from "../../analysis/conditions/constants.ts";
import { joinTreeOf } from "../../analysis/conditions/join-tree.ts";
import { linksOf, relationsIn } from "../../analysis/conditions/links.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { joinBy } from "./open-join.ts";

/**
 * A join condition that says nothing of the table that it joins.
 *
 * @example
 * UPDATE mooring m SET … FROM vessel v JOIN owner o ON v.owner_id = v.owner_id   -- o is not mentioned
 */
export const idleJoin: Hazard = {
  id: "idle-join",
  family: "joins",
  statements: ["update", "delete", "insert", "merge", "create-table"],
  weight: "stop",
  depends: ["catalog"],
  needs: Trait.joined,
  title: "An ON that does not refer to the table it joins",
  explanation:
    "The condition of a join mentions only the tables before it, or compares an alias with itself. It ties nothing: every row of the " +
    "joined table meets every row of the others, although the statement looks as if it were joined properly.",
  remedy: "Compare a column of the joined table with the one that it belongs to.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE owner (owner_id integer PRIMARY KEY);\nCREATE TABLE vessel (vessel_id integer PRIMARY KEY, owner_id integer NOT NULL REFERENCES owner);\nCREATE TABLE notice (owner_id integer, vessel_id integer);",
    dangerous:
      "INSERT INTO notice (owner_id, vessel_id) SELECT o.owner_id, v.vessel_id FROM vessel v JOIN owner o ON v.owner_id = v.owner_id;",
    sound:
      "INSERT INTO notice (owner_id, vessel_id) SELECT o.owner_id, v.vessel_id FROM vessel v JOIN owner o ON o.owner_id = v.owner_id;",
  },
  check(context) {
    const { tree, names, changes, show } = context;
    if (!names) return [];
    const level = joinTreeOf(tree, names, changes[0]?.change.relation?.source ?? null);
    if (!level) return [];
    const drafts: Draft[] = [];
    const here = new Set(level.scope.relations);
    const links = linksOf(level.conditions, names, level.scope);
    for (const { join, before, relation } of level.joins) {
      if (!join.on || relation.length !== 1) continue;
      const [joined] = relation;
      const parts = conjuncts(join.on);
      // ON true, ON 1 = 1: an open product, said aloud.
      if (
        parts.every(
          (part) =>
            part.kind === "literal" ||
            (part.kind === "binary" && part.left.kind === "literal" && part.right.kind === "literal"),
        )
      )
        continue;
      const mentioned = relationsIn(join.on, names, here);
      if (mentioned.undecided) continue;
      const itself = parts.find((part) => {
        if (part.kind !== "binary" || part.op !== "=") return false;
        const left = plainColumn(part.left);
        const right = plainColumn(part.right);
        const a = left ? names.bindings.get(left) : undefined;
        const b = right ? names.bindings.get(right) : undefined;
        return a?.relation && a.relation === b?.relation && a.offered?.name === b.offered?.name;
      });
      const others = before.filter((one) => mentioned.relations.has(one));
      const ties = mentioned.relations.has(joined) && others.length > 0;
      if (ties && !itself) continue;
      if (!itself && mentioned.relations.has(joined)) continue;
      // WHERE or another join may tie it; a condition on it alone does not.
      if (!itself && (links.tied.get(joined)?.size ?? 0) > 0) continue;
      drafts.push({
        message: itself
          ? `\`${show(itself)}\` compares \`${joined.name === "" ? "a table" : show(itself).split(".")[0]}\` with itself and ties nothing.`
          : `ON ${show(join.on)} does not mention \`${joined.name}\`, so each of its rows meets every row of the others.`,
        because: [
          itself
            ? "both sides are the same column of the same table"
            : `the condition refers to ${[...mentioned.relations].map((one) => `\`${one.name}\``).join(" and ") || "no table"} only`,
        ],
        remedy:
          joinBy(joined, before, context) ?? `Compare a column of \`${joined.name}\` with the one that it belongs to.`,
      });
    }
    return drafts;
  },
};
