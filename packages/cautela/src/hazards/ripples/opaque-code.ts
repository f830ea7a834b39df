import { writesNoRows } from "../../analysis/statement/unfollowed.ts";
import { writtenName } from "../../catalog/names.ts";
import type { Draft, Hazard } from "../hazard.ts";
import { wholesale } from "../wholesale.ts";

/**
 * Code whose effects cannot be read beforehand.
 *
 * @example
 * EXECUTE IMMEDIATE v_text;   -- what it runs is put together while it runs
 */
export const opaqueCode: Hazard = {
  id: "opaque-code",
  family: "ripples",
  weight: "ask",
  depends: ["names"],
  title: "Code that cannot be read beforehand",
  explanation:
    "SQL that is put together while it runs, a trigger or routine whose body is not in the catalog or is written in another language, a view whose query is " +
    "not known: what they write is not followed. Dynamic SQL whose text is constant is read like any other statement; of a text that is known in part, what it " +
    "does to whole tables is told (`'DELETE FROM ' || name`). A trigger of unknown content on " +
    "the table of a change is asked about; in the script's own code it is noted.",
  remedy: "Print the text before it is run and read it; give Cautela a catalog that holds the routine.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2) NOT NULL);
CREATE TABLE berth (berth_id integer PRIMARY KEY, code varchar(10) NOT NULL);
CREATE FUNCTION spread() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN EXECUTE format('UPDATE %I SET fee = 0', TG_ARGV[0]); RETURN NEW; END $$;
CREATE TRIGGER mooring_spread AFTER UPDATE ON mooring FOR EACH ROW EXECUTE FUNCTION spread('berth');`,
    dangerous: "UPDATE mooring SET fee = 12 WHERE mooring_id = 3;",
    sound: "UPDATE berth SET code = 'N3' WHERE berth_id = 3;",
  },
  check(context) {
    const { ripples, tree, catalog, known, creations } = context;
    const drafts: Draft[] = [];
    for (const { ripple } of ripples) {
      for (const { kind, name, text } of ripple.notes) {
        if (kind !== "opaque") continue;
        drafts.push({
          // What the script itself has made and calls is there to be read.
          ...(ripple.nodes[0]?.action === "call" && creations.makesRoutine(name) ? { weight: "note" as const } : {}),
          cause: `${name} ${text}`,
          message: `What \`${name}\` does here cannot be read beforehand.`,
          because: [
            known ? text : text.replace("which is not in the catalog", "of which nothing is known without a catalog"),
          ],
          remedy: `Read \`${name}\` before this runs.`,
        });
      }
    }
    if (
      tree.kind === "call-statement" &&
      known &&
      catalog &&
      tree.name &&
      !catalog.routine(tree.name) &&
      !writesNoRows(tree.name)
    ) {
      const name = writtenName(tree.name);
      // It runs a text once for each table or database.
      const everywhere = /^(?:\w{0,40}\.){0,2}sp_msforeach(?:table|db|_worker)$/i.test(name);
      drafts.push({
        weight: everywhere ? "ask" : "note",
        cause: `call ${name}`,
        message: `What \`${name}\` does cannot be read beforehand.`,
        because: ["the catalog does not hold it, so what it writes is not followed"],
        remedy: `Read \`${name}\` before this runs, or give a catalog that holds it.`,
      });
    }
    if (tree.kind === "dynamic" && tree.body === null) {
      const whole = tree.pattern.flatMap((one) => wholesale(one, context) ?? []);
      for (const { does, text, business } of whole)
        drafts.push({
          weight: business ? "ask" : "note",
          cause: `wholesale ${does}`,
          message: `This ${does}.`,
          because: [
            `its text is put together: \`${text}\``,
            ...(context.inLoop ? ["it runs in a loop, so it may be many"] : []),
          ],
          remedy: "Print the texts first, and review them with the names in place.",
        });
      if (whole.length > 0) return drafts;
      drafts.push({
        weight: "note",
        message: "This runs SQL that is put together while it runs.",
        because: ["its text is not a constant, so what it writes is not followed"],
        remedy: "Print the text first, and review that.",
      });
    }
    return drafts;
  },
};
