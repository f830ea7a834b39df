import type { ResolvedScope } from "../../analysis/names/resolution.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { TableSource } from "../../sql/nodes/tree.ts";
import type { Draft, Hazard } from "../hazard.ts";

/**
 * An alias that is another table's name.
 *
 * @example
 * DELETE FROM mooring AS berth WHERE berth.berth_id = 3;   -- deletes moorings, and reads like berths
 */
export const shadowedAlias: Hazard = {
  id: "shadowed-alias",
  family: "joins",
  weight: "ask",
  depends: ["names"],
  needs: Trait.alias,
  title: "An alias that is another table's name",
  explanation:
    "A table stands under an alias that is the name of another table, or a subquery uses an alias that the query around it uses for " +
    "something else. The statement does one thing and reads like another; a column of the hidden one can no longer be named.",
  remedy: "Take an alias that is no table's name and is used once.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE berth (berth_id integer PRIMARY KEY);\nCREATE TABLE mooring (mooring_id integer PRIMARY KEY, berth_id integer NOT NULL REFERENCES berth);",
    dangerous: "DELETE FROM mooring AS berth WHERE berth.berth_id = 3;",
    sound: "DELETE FROM mooring AS m WHERE m.berth_id = 3;",
  },
  check({ names, catalog, changes, tree }) {
    if (!names || !catalog || (changes.length === 0 && tree.kind !== "insert" && tree.kind !== "merge")) return [];
    const drafts: Draft[] = [];
    for (const scope of names.scopes.values()) {
      for (const relation of scope.relations) {
        const { source } = relation;
        if (source?.kind !== "table" || !source.alias) continue;
        const own = relation.table?.name ?? source.name.parts[source.name.parts.length - 1].text;
        if (own.toLowerCase() === relation.name.toLowerCase()) continue;
        const named = catalog.resolveRelation({ kind: "name", parts: [source.alias], link: null, start: 0, end: 0 });
        // Two tables of one statement that stand for each other.
        const beside = scope.relations.some(
          (one) =>
            one !== relation && one.source?.kind === "table" && tableOf(one.source) === relation.name.toLowerCase(),
        );
        if (!named && beside)
          drafts.push({
            message: `\`${relation.name}\` is the name of another table of this statement, and here it stands for \`${own}\`.`,
            because: ["what is written of the one is done to the other"],
            remedy: `Give \`${own}\` an alias that is no table's name.`,
          });
        if (named && named.name === relation.name && named !== relation.table) {
          drafts.push({
            message: `\`${relation.name}\` is another table's name, and here it stands for \`${own}\`.`,
            because: [`the catalog holds a table \`${named.name}\``],
            remedy: `Give \`${own}\` an alias that is no table's name.`,
          });
        }
        const outer = hidden(relation.name, scope.outer);
        if (outer !== null && outer !== own) {
          drafts.push({
            weight: "note",
            message: `\`${relation.name}\` means \`${own}\` inside the subquery and \`${outer}\` outside.`,
            because: ["inside, the outer one can no longer be named"],
            remedy: "Take another alias inside the subquery.",
          });
        }
      }
    }
    return drafts;
  },
};

function tableOf({ name }: TableSource): string {
  return name.parts[name.parts.length - 1].text.toLowerCase();
}

/** What an outer level calls by that alias. */
function hidden(name: string, scope: ResolvedScope | null): string | null {
  for (let at = scope; at; at = at.outer) {
    const found = at.relations.find((one) => one.name === name);
    if (found) return found.source?.kind === "table" && found.source.alias ? (found.table?.name ?? null) : null;
  }
  return null;
}
