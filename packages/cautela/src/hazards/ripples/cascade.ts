import { writtenPlaces } from "../../analysis/ripples/chain.ts";
import { nodeReach } from "../../analysis/ripples/ripple.ts";
import { preparing, wantedOf } from "../../analysis/script/prepared.ts";
import { tableClass } from "../../analysis/script/table-class.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import { droppedParents } from "../dropped-parents.ts";
import type { Draft, Hazard, HazardContext } from "../hazard.ts";
import { listed, reachWords } from "../wording.ts";

/**
 * Rows of other tables that a foreign key deletes, empties or rewrites.
 *
 * @example
 * DELETE FROM mooring WHERE status = 'left';   -- the pilotages of those moorings go too
 */
export const cascade: Hazard = {
  id: "cascade",
  family: "ripples",
  lasting: true,
  weight: "ask",
  depends: ["names", "ripples"],
  needs: Trait.ripple | Trait.structure,
  title: "Foreign keys carry the change on",
  explanation:
    "Foreign keys with ON DELETE or ON UPDATE CASCADE, SET NULL or SET DEFAULT change rows of other tables, to any depth. The statement names " +
    "none of them, the row count that it reports leaves them out, and a copy of its own table does not bring them back. One row with its " +
    "children, and a script that deletes the children by hand first, are only noted. In SQLite, DROP TABLE deletes the rows of its table first, so that a table which is rebuilt takes its children along.",
  remedy: "Count the rows that depend on those you delete, and copy those tables too.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE mooring (mooring_id integer PRIMARY KEY, status varchar(20) NOT NULL);
CREATE TABLE pilotage (pilotage_id integer PRIMARY KEY, mooring_id integer NOT NULL REFERENCES mooring ON DELETE CASCADE);`,
    dangerous: "DELETE FROM mooring WHERE status = 'left';",
    sound: "UPDATE mooring SET status = 'left' WHERE mooring_id = 3;",
  },
  check(context) {
    const { ripples, history, policy, slice } = context;
    const drafts: Draft[] = dropped(context);
    for (const fired of ripples) {
      const places = writtenPlaces([fired]).filter(
        ({ chain }) =>
          chain[chain.length - 1]?.how === "cascade" &&
          chain.every(({ how }) => how === "cascade" || how === "view" || how === "partition"),
      );
      if (places.length === 0) continue;
      const names = [...new Set(places.map(({ node }) => node.name))];
      const deletes = places.filter(({ node }) => node.action !== "update");
      const depth = Math.max(...places.map(({ chain }) => chain.filter(({ how }) => how === "cascade").length));
      const root = fired.ripple.nodes[0].relation;
      const prepared = places.every(
        ({ node }) =>
          node.relation?.object === "table" &&
          root?.object === "table" &&
          preparing(
            node.relation,
            root,
            wantedOf(fired.firing.change, slice),
            history.of(node.name).filter(({ action }) => action === "delete"),
          ) !== undefined,
      );
      // A key that is set to NULL, a log and an audit trail lose no rows of the business.
      const minor = deletes.every(({ node }) => tableClass(node.name, policy) !== "business");
      const { replaced, reach } = fired.firing;
      const unset = (places.every(({ certain }) => !certain) && !replaced) || reach.bound === "none";
      const weight = prepared || minor || unset ? "note" : "ask";
      const what = deletes.length > 0 ? "rows go" : "rows change";
      drafts.push({
        cause: `${fired.ripple.nodes[0].name} ${names.join()} ${fired.firing.action}`,
        weight,
        message: `${replaced ? "A row that is replaced is deleted first, and foreign keys carry that on" : "Foreign keys carry this on"}: ${what} in ${listed(names)}${depth > 1 ? `, ${depth} keys deep` : ""}.`,
        because: places
          .slice(0, 8)
          .map(
            ({ chain, node }) =>
              `${chain[chain.length - 1].reason} (${reachWords(nodeReach(node, fired.firing.reach))})`,
          ),
        remedy: `Count them first and copy ${listed(names)} as well.`,
      });
    }
    return drafts;
  },
};

/** A parent that is dropped, often to be rebuilt: its rows are deleted first, and the keys that are on act on their children (sqlite). */
function dropped(context: HazardContext): Draft[] {
  const parents = droppedParents(context).filter(
    ({ key }) => key.onDelete !== "no action" && key.onDelete !== "restrict",
  );
  const goes = parents.filter(({ key }) => key.onDelete === "cascade");
  const business = goes.some(({ child }) => tableClass(child, context.policy) === "business");
  const [first] = parents;
  if (!first) return [];
  const children = [...new Set((goes.length > 0 ? goes : parents).map(({ child }) => child))];
  return [
    {
      weight: business ? (first.sure ? "stop" : "ask") : first.sure ? "ask" : "note",
      message: `DROP TABLE deletes the rows of \`${first.parent}\` first, and foreign keys carry that on: rows ${goes.length > 0 ? "go" : "change"} in ${listed(children)}.`,
      because: [
        ...parents
          .slice(0, 8)
          .map(
            ({ child, key }) =>
              `\`${child}\` refers to \`${first.parent}\` with ON DELETE ${key.onDelete.toUpperCase()}`,
          ),
        first.sure
          ? "foreign keys are on"
          : "foreign keys are off by default, and whoever connects may have switched them on",
      ],
      remedy: "Write PRAGMA foreign_keys = OFF before BEGIN, and PRAGMA foreign_key_check before COMMIT.",
    },
  ];
}
