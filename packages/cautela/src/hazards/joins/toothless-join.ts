import { assignedIn } from "../../analysis/conditions/conditions.ts";
import { joinTreeOf } from "../../analysis/conditions/join-tree.ts";
import { relationsIn } from "../../analysis/conditions/links.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { addition, capital } from "../wording.ts";

/**
 * A LEFT JOIN in the place of a filter.
 *
 * @example
 * DELETE m FROM mooring m LEFT JOIN vessel v ON v.vessel_id = m.vessel_id AND v.class = 'sail';
 */
export const toothlessJoin: Hazard = {
  id: "toothless-join",
  family: "joins",
  statements: ["update", "delete"],
  weight: "stop",
  depends: ["catalog"],
  needs: Trait.joined,
  title: "A LEFT JOIN that filters nothing",
  explanation:
    "A LEFT JOIN keeps every row of the table before it, whatever its condition says. In a change whose target stands on that side, a " +
    "joined table that neither the filter nor the new values refer to does nothing at all: the conditions in its ON filter no row.",
  remedy: "Write INNER JOIN, or move the condition to WHERE.",
  example: {
    dialect: "mysql",
    ddl: "CREATE TABLE vessel (vessel_id int PRIMARY KEY, class varchar(20) NOT NULL);\nCREATE TABLE mooring (mooring_id int PRIMARY KEY, vessel_id int NOT NULL, fee decimal(10,2));",
    dangerous: "UPDATE mooring m LEFT JOIN vessel v ON v.vessel_id = m.vessel_id AND v.class = 'sail' SET m.fee = 0;",
    sound: "UPDATE mooring m INNER JOIN vessel v ON v.vessel_id = m.vessel_id AND v.class = 'sail' SET m.fee = 0;",
  },
  check({ tree, names, changes, show }) {
    if (!names || (tree.kind !== "update" && tree.kind !== "delete")) return [];
    const [judged] = changes;
    if (!judged) return [];
    const level = joinTreeOf(tree, names, judged.change.relation?.source ?? null);
    if (!level?.target) return [];
    const here = new Set(level.scope.relations);
    const drafts: Draft[] = [];
    for (const { join, relation } of level.joins) {
      if (join.type !== "left" || relation.includes(level.target) || !join.on) continue;
      const speaks = (expr: Parameters<typeof relationsIn>[0]): boolean => {
        const found = relationsIn(expr, names, here);
        return found.undecided || relation.some((one) => found.relations.has(one));
      };
      if (level.where && speaks(level.where)) continue;
      if (level.joins.some((other) => other.join !== join && other.join.on && speaks(other.join.on))) continue;
      if (assignedIn(tree, names).some(({ value, target }) => speaks(value) || speaks(target))) continue;
      const name = relation[0]?.name ?? "";
      let column: string | null = null;
      walk(join.on, (node) => {
        if (node.kind === "column" && node.path.length > 1 && names.bindings.get(node)?.relation?.name === name)
          column ??= show(node);
        return undefined;
      });
      drafts.push({
        weight: level.where ? "ask" : "stop",
        message: `LEFT JOIN \`${relation[0]?.name ?? "…"}\` keeps every row of \`${judged.target}\`: ON ${show(join.on)} filters nothing.`,
        because: [
          "a LEFT JOIN keeps the rows before it even when nothing matches",
          `nothing else in the statement refers to \`${relation[0]?.name ?? "…"}\``,
        ],
        remedy: `${column ? capital(addition(tree, `${column} IS NULL`)) : "Ask for a column of it with IS NULL"} if the rows without a match are meant; write INNER JOIN if those with one are, or leave the join out.`,
      });
    }
    return drafts;
  },
};
