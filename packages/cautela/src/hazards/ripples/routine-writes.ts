import { writtenPlaces } from "../../analysis/ripples/chain.ts";
import { nodeReach, type RippleNode } from "../../analysis/ripples/ripple.ts";
import { isBusiness } from "../../analysis/script/table-class.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { columnLike } from "../../catalog/columns.ts";
import type { Hazard } from "../hazard.ts";
import { listed, reachWords } from "../wording.ts";

/**
 * A routine that the statement calls writes tables.
 *
 * @example
 * SELECT close_mooring(mooring_id) FROM mooring;   -- reads like a query, and changes every row
 */
export const routineWrites: Hazard = {
  id: "routine-writes",
  family: "ripples",
  weight: "ask",
  depends: ["names", "ripples"],
  needs: Trait.ripple,
  title: "A routine that writes",
  explanation:
    "CALL and EXEC run a routine whose body writes tables; so may a function in a SELECT, a filter or a SET, where nobody looks for a write, once for " +
    "each row. A procedure that is called by its name and touches few rows is noted; a function with side effects, or a routine that reaches more, is asked about.",
  remedy: "Read the routine, and look at the tables that it writes before and after.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL);
CREATE FUNCTION close_all(p varchar) RETURNS integer LANGUAGE plpgsql AS $$ BEGIN UPDATE mooring SET status = p; RETURN 1; END $$;
CREATE FUNCTION shown(p varchar) RETURNS varchar LANGUAGE plpgsql AS $$ BEGIN RETURN upper(p); END $$;`,
    dangerous: "SELECT close_all('left');",
    sound: "SELECT shown(status) FROM mooring;",
  },
  check({ ripples, tree, policy, creations }) {
    return ripples.flatMap((fired) => {
      const [root] = fired.ripple.nodes;
      if (root?.action !== "call") return [];
      // A routine of the script that adds a column and fills it changes nothing that was there.
      const own = creations.makesRoutine(root.name);
      const places = writtenPlaces([fired]).filter(({ node }) => !(own && fillsNew(node)));
      if (places.length === 0) return [];
      const names = [...new Set(places.map(({ node }) => node.name))];
      const business = places.filter(({ node }) => isBusiness(node.name, policy));
      const wide = business.some(({ node }) => node.spread === "some" || node.spread === "every");
      const named = tree.kind === "call-statement";
      return [
        {
          weight: business.length > 0 && (!named || wide) ? ("ask" as const) : ("note" as const),
          message: `\`${root.name}\` ${places.some(({ certain }) => certain) ? "writes" : "may write"} ${listed(names)}.`,
          because: places
            .slice(0, 8)
            .map(
              ({ chain, node }) =>
                `${node.action} of \`${node.name}\`: ${reachWords(nodeReach(node, fired.firing.reach))}, by ${chain.map(({ how, name }) => `${how} \`${name}\``).join(", then ")}`,
            ),
          remedy: named ? "" : "Call it by itself, and not as part of a query, once its effects are understood.",
        },
      ];
    });
  },
};

/** Whether an update writes nothing but columns that the table has not had so far. */
function fillsNew({ action, columns, relation }: RippleNode): boolean {
  if (action !== "update" || !columns || columns.length === 0 || relation?.object !== "table") return false;
  return !columns.some((column) => columnLike(relation, column.toLowerCase()));
}
