import { Trait } from "../../analysis/statement/traits.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * A trigger that gives columns of the changed row values of its own.
 *
 * @example
 * UPDATE vessel SET length_m = 12 WHERE vessel_id = 3;   -- a trigger sets `class` from the length
 */
export const triggerRewrites: Hazard = {
  id: "trigger-rewrites",
  family: "ripples",
  weight: "ask",
  depends: ["names", "ripples"],
  needs: Trait.ripple,
  title: "A trigger changes the row as well",
  explanation:
    "A trigger that fires before the change assigns columns of the new row. Columns that the statement does not name change too, and a " +
    "value that the statement sets may be replaced by another one. A trigger that only tidies the column that is written (capitals, blanks) " +
    "is noted; time stamps are a matter of `auto-stamp`.",
  remedy: "Compare these columns before and after, or write the value that the trigger would give.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE vessel (vessel_id integer PRIMARY KEY, length_m integer NOT NULL, class varchar(20) NOT NULL, name varchar(60));
CREATE FUNCTION classify() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN NEW.class := CASE WHEN NEW.length_m > 20 THEN 'ship' ELSE 'boat' END; RETURN NEW; END $$;
CREATE TRIGGER vessel_classified BEFORE UPDATE OF length_m ON vessel FOR EACH ROW EXECUTE FUNCTION classify();`,
    dangerous: "UPDATE vessel SET length_m = 12 WHERE vessel_id = 3;",
    sound: "UPDATE vessel SET name = 'Alma' WHERE vessel_id = 3;",
  },
  check({ ripples }) {
    return ripples.flatMap(({ ripple, firing }) => {
      const tidied = ripple.notes.filter(({ kind, node }) => kind === "tidies" && node === 0);
      const notes = ripple.notes.filter(({ kind }) => kind === "rewrites");
      const byPlace = new Map<string, typeof notes>();
      for (const note of notes) {
        const key = `${note.node} ${note.name}`;
        byPlace.set(key, [...(byPlace.get(key) ?? []), note]);
      }
      const [tidy] = tidied;
      const against = tidied.find((note) => note.against)?.against ?? null;
      const beside: Draft[] =
        tidy && firing.action === "update"
          ? [
              {
                weight: against ? "ask" : "note",
                cause: `${tidy.name} tidies`,
                message: against
                  ? `Trigger \`${tidy.name}\` also rewrites ${listed([...new Set(tidied.flatMap(({ columns }) => columns))])}, in another form than \`${against}\` gives to new rows.`
                  : `Trigger \`${tidy.name}\` also tidies ${listed([...new Set(tidied.flatMap(({ columns }) => columns))])}: rows that were written before it was there change with this.`,
                because: tidied.map(({ text }) => text),
                remedy: "",
              },
            ]
          : [];
      const inStead = ripple.edges.find(
        ({ from, to, how }) => from === 0 && how === "rule" && ripple.nodes[to].name === ripple.nodes[0].name,
      );
      const other = inStead && ripple.nodes[inStead.to];
      const turned: Draft[] =
        other && other.action !== firing.action && !ripple.nodes[0].written
          ? [
              {
                weight: "ask",
                message: `Rule \`${inStead.name}\` makes an ${other.action.toUpperCase()} of this ${firing.action.toUpperCase()}: the rows of \`${other.name}\` ${other.action === "update" ? "stay, and are changed" : "are not what it names"}.`,
                because: [inStead.reason],
                remedy: "Look at the rule, and write what is meant.",
              },
            ]
          : [];
      return [
        ...turned,
        ...beside,
        ...[...byPlace.values()].flatMap((list): Draft[] => {
          const node = ripple.nodes[list[0].node];
          const columns = [...new Set(list.flatMap((note) => note.columns))];
          const named = node.columns ?? columns;
          const others = columns.filter((column) => !named.includes(column));
          const [{ name }] = list;
          const may = list.every(({ certain }) => certain) ? "gives" : "may give";
          if (others.length === 0) {
            const sure = list.every(({ certain }) => certain);
            if (node.id !== 0 || (firing.action === "insert" && !(sure && firing.columns !== null))) return [];
            return [
              {
                weight: "note" as const,
                message: `Trigger \`${name}\` ${may} ${listed(columns)} a value of its own in place of the one that is set here.`,
                because: list.map(({ text }) => text),
                remedy: "",
              },
            ];
          }
          // What a new row gets from a trigger is what defaults are for.
          if (node.action === "insert") return [];
          return [
            {
              weight: node.id === 0 ? ("ask" as const) : ("note" as const),
              message: `Trigger \`${name}\` also changes ${listed(others)} of \`${node.name}\`, which ${node.id === 0 ? "the statement does" : "is"} not name${node.id === 0 ? "" : "d here"}.`,
              because: list.map(({ text }) => text),
              remedy: `Compare ${listed(others)} before and after.`,
            },
          ];
        }),
      ];
    });
  },
};
