import { type Reached, writtenPlaces } from "../../analysis/ripples/chain.ts";
import { nodeReach, type RippleNode } from "../../analysis/ripples/ripple.ts";
import { isBusiness } from "../../analysis/script/table-class.ts";
import { Trait } from "../../analysis/statement/traits.ts";
import type { Hazard } from "../hazard.ts";
import { listed, reachWords } from "../wording.ts";

/**
 * A trigger or rule that writes other tables, followed to the end of the chain.
 *
 * @example
 * UPDATE mooring SET fee = 12 WHERE mooring_id = 3;   -- trigger mooring_paid also changes `account`
 */
export const triggerWrites: Hazard = {
  id: "trigger-writes",
  family: "ripples",
  weight: "ask",
  depends: ["names", "ripples"],
  needs: Trait.ripple,
  title: "A trigger writes other tables",
  explanation:
    "The table has a trigger (or, in PostgreSQL, a rule) that writes other tables, and those may have triggers of their own; or it deletes or changes other rows of the same table. " +
    "None of it stands in the script. Rows for an audit trail are only noted, once for each trigger; other tables are asked about, with " +
    "the whole chain and the number of rows at its end.",
  remedy: "Look at the tables at the end of the chain before and after, and keep a copy of those too.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2) NOT NULL, remark varchar(40));
CREATE TABLE account (mooring_id integer PRIMARY KEY, owed numeric(10,2) NOT NULL);
CREATE FUNCTION charge() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE account SET owed = NEW.fee WHERE mooring_id = NEW.mooring_id; RETURN NEW; END $$;
CREATE TRIGGER mooring_charged AFTER UPDATE OF fee ON mooring FOR EACH ROW EXECUTE FUNCTION charge();`,
    dangerous: "UPDATE mooring SET fee = 12 WHERE mooring_id = 3;",
    sound: "UPDATE mooring SET remark = 'paid' WHERE mooring_id = 3;",
  },
  check({ ripples, policy }) {
    if (ripples.length === 0) return [];
    const places = writtenPlaces(ripples).filter(
      ({ node, chain, fired }) =>
        // What a called routine writes is told by `routine-writes`.
        fired.ripple.nodes[0].action !== "call" &&
        (node.name !== fired.ripple.nodes[0].name || isOther(node, fired.ripple.nodes[0])) &&
        chain.some(({ how }) => how === "trigger" || how === "rule"),
    );
    const business: Reached[] = [];
    const trail: Reached[] = [];
    for (const place of places) {
      (isBusiness(place.node.name, policy) ? business : trail).push(place);
    }
    const [first] = business;
    if (first) {
      const names = [...new Set(business.map(({ node }) => node.name))];
      const { node, fired, chain, certain } = first;
      return [
        {
          weight: "ask" as const,
          message: `Besides ${names.includes(fired.ripple.nodes[0].name) ? "the rows that it names" : "its own table"} this ${certain ? "" : "may "}${certain ? "writes" : "write"} ${listed(names)}, through ${through(chain)}.`,
          because: [
            ...business.slice(0, 6).flatMap((one) => one.chain.map(({ reason }) => reason)),
            `in \`${node.name}\` that ${VERBS[node.action]} ${reachWords(nodeReach(node, fired.firing.reach))}`,
          ].filter((reason, i, all) => all.indexOf(reason) === i),
          remedy: `Look at ${listed(names)} before and after, and keep a copy of ${names.length === 1 ? "it" : "them"} as well.`,
        },
      ];
    }
    if (trail.length === 0) return [];
    const names = [...new Set(trail.map(({ node }) => node.name))];
    return [
      {
        weight: "note" as const,
        cause: trail.map(({ chain, node }) => `${chain[chain.length - 1].name} ${node.name}`).join(),
        message: `Each changed row also leaves a trace in ${listed(names)}, by ${through(trail[0].chain)}.`,
        because: trail
          .flatMap(({ chain }) => chain.map(({ reason }) => reason))
          .filter((one, i, all) => all.indexOf(one) === i),
        remedy: "",
      },
    ];
  },
};

const VERBS: Record<string, string> = {
  insert: "adds",
  update: "changes",
  delete: "deletes",
  truncate: "deletes",
  call: "touches",
};

function through(chain: Reached["chain"]): string {
  return chain
    .filter(({ how }) => how !== "view" && how !== "partition")
    .map(({ how, name }) => `${how === "cascade" ? "key" : how} \`${name}\``)
    .join(", then ");
}

/** Whether a trigger does something else to the table that is changed: it deletes rows, or changes others than those. */
function isOther({ action, spread, id }: RippleNode, root: RippleNode): boolean {
  if (id === root.id || action === "insert") return false;
  if (action !== root.action && (action === "delete" || action === "truncate")) return spread !== "same";
  return spread === "every";
}
