import type { Draft, Hazard } from "../hazard.ts";
import { capital } from "../wording.ts";

/**
 * A guard that is not switched on again, or is switched on without looking at the rows.
 *
 * @example
 * ALTER TABLE mooring DISABLE TRIGGER mooring_audit; DELETE FROM mooring WHERE mooring_id = 3;
 */
export const guardLeftOff: Hazard = {
  id: "guard-left-off",
  family: "recovery",
  weight: "ask",
  title: "A guard stays off",
  explanation:
    "A trigger or constraint that is disabled on a table stays so for everybody, until somebody notices. A setting of the session ends with it, which is only " +
    "noted. SQL Server's CHECK CONSTRAINT without WITH CHECK, and Oracle's ENABLE NOVALIDATE, switch it on without looking at the rows that came in meanwhile. " +
    "A trigger or foreign key that is dropped and not made again is gone for good; a key or CHECK that comes back narrower is refused if one row does not meet it.",
  remedy: "Switch it on again at the end of the same script, with the check of the rows that are there.",
  example: {
    dialect: "postgresql",
    ddl: `CREATE TABLE mooring (mooring_id integer PRIMARY KEY);
CREATE TABLE mooring_log (mooring_id integer);
CREATE FUNCTION audit() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN INSERT INTO mooring_log VALUES (OLD.mooring_id); RETURN OLD; END $$;
CREATE TRIGGER mooring_audit AFTER DELETE ON mooring FOR EACH ROW EXECUTE FUNCTION audit();`,
    dangerous: "ALTER TABLE mooring DISABLE TRIGGER mooring_audit;",
    sound: `ALTER TABLE mooring DISABLE TRIGGER mooring_audit;
ALTER TABLE mooring ENABLE TRIGGER mooring_audit;`,
  },
  finish({ timeline, dialect }) {
    const drafts: Draft[] = [];
    for (const { at, lasts, what, shown, back, elsewhere, untrusted } of timeline.guards.off) {
      if (back === null) {
        // The setting of a session that only loads tables is gone with it.
        if (lasts === "session" && timeline.destructions.length === 0) continue;
        drafts.push({
          at,
          weight: lasts === "table" ? "ask" : "note",
          message:
            lasts === "table"
              ? `${capital(what)} of \`${shown}\` ${isMany(what) ? "stay" : "stays"} off when the script is over.`
              : `${capital(what)}: off for the rest of this session.`,
          because: [
            lasts === "table"
              ? "nothing after it switches it on again, and it holds for everybody"
              : "nothing after it switches it on again",
          ],
          remedy: "Switch it on again at the end of the script.",
        });
      } else if (untrusted && dialect.engine.revalidation) {
        drafts.push({
          at: elsewhere ? at : back,
          weight: "note",
          message: `${capital(what)} of \`${shown}\` ${isMany(what) ? "are" : "is"} on again, and the rows that are there have not been checked.`,
          because: [dialect.engine.revalidation.lack],
          remedy: dialect.engine.revalidation.remedy.replace("{table}", () => shown),
        });
      }
    }
    for (const { at, what, shown, checked } of timeline.guards.unchecked)
      if (!checked)
        drafts.push({
          at,
          weight: "note",
          message: `${capital(what)} of \`${shown}\` is added without checking the rows that are there.`,
          because: ["rows that break it stay as they are, and the engine does not rely on it"],
          remedy: "Look for rows that break it, and have it checked in the same script.",
        });
    for (const { at, what, shown, back } of timeline.guards.removed)
      if (!back)
        drafts.push({
          at,
          weight: "ask",
          structural: true,
          message: `${capital(what)} of \`${shown}\` is dropped and not made again.`,
          because: ["from here on nothing does what it did, for anybody"],
          remedy: "Make it again at the end of the script, or say that it is meant to go.",
        });
    for (const { at, shown, now, was, kept } of timeline.guards.narrowed.list)
      drafts.push({
        at,
        weight: kept ? "note" : "ask",
        message: `\`${shown}\` gets ${now}, where it had ${was}: rows that are there may not meet it.`,
        because: [
          kept
            ? "the engine refuses it if one row does not meet it, and the old one stays"
            : "the engine refuses it if one row does not meet it, and the old one is gone by then",
        ],
        remedy: "Count the rows that do not meet it first, and correct them before the old guard is dropped.",
      });
    return drafts;
  },
};

function isMany(what: string): boolean {
  return !what.includes("`");
}
