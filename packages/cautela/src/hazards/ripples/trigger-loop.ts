import { Trait } from "../../analysis/statement/traits.ts";
import type { Hazard } from "../hazard.ts";

/**
 * A trigger whose own change sets it off again.
 *
 * @example
 * UPDATE berth SET status = 'closed' WHERE berth_id = 3;   -- its trigger updates `berth`, and fires again
 */
export const triggerLoop: Hazard = {
  id: "trigger-loop",
  family: "ripples",
  weight: "stop",
  depends: ["names"],
  needs: Trait.ripple,
  title: "A trigger that sets itself off",
  explanation:
    "The trigger's work changes the table that it watches, by itself or by way of others. PostgreSQL goes round until its stack is full; MySQL, " +
    "MariaDB and Oracle refuse a row trigger that changes the table of its statement; SQL Server stops after 32 levels. Where a condition may " +
    "end it, that is a question; a guard on the depth of triggers is understood and quiet, and so are the engines that do not fire a trigger inside itself.",
  remedy:
    "Change the row in a BEFORE trigger instead of updating the table again, or end the round by a condition (the value has changed, the depth is 1).",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE berth (berth_id integer PRIMARY KEY, status varchar(20) NOT NULL, seen integer DEFAULT 0 NOT NULL);
CREATE FUNCTION count_seen() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE berth SET seen = seen + 1 WHERE berth_id = NEW.berth_id; RETURN NULL; END $$;
CREATE TRIGGER berth_seen AFTER UPDATE ON berth FOR EACH ROW EXECUTE FUNCTION count_seen();
CREATE TABLE pilot (pilot_id integer PRIMARY KEY, active integer NOT NULL, seen integer DEFAULT 0 NOT NULL);
CREATE FUNCTION count_pilot() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN UPDATE pilot SET seen = seen + 1 WHERE pilot_id = NEW.pilot_id; RETURN NULL; END $$;
CREATE TRIGGER pilot_seen AFTER UPDATE ON pilot FOR EACH ROW WHEN (pg_trigger_depth() = 0) EXECUTE FUNCTION count_pilot();`,
    dangerous: "UPDATE berth SET status = 'closed' WHERE berth_id = 3;",
    sound: "UPDATE pilot SET active = 0 WHERE pilot_id = 3;",
  },
  check({ ripples }) {
    return ripples.flatMap(({ ripple, firing }) =>
      ripple.notes
        .filter(({ kind }) => kind === "loop")
        .slice(0, 1)
        .map(({ text, certain, name, node }) => ({
          weight: certain && firing.certain ? ("stop" as const) : ("ask" as const),
          message: `\`${name}\` ${certain ? "sets" : "may set"} itself off again: it changes \`${ripple.nodes[node].name}\`, for whose changes it fires.`,
          because: [text],
          remedy: "Let the trigger change the row before it is written, or end the round by a condition.",
        })),
    );
  },
};
