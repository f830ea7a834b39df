import type { GuardOff } from "../../analysis/script/guard-ledger.ts";
import { type History, NEVER } from "../../analysis/script/history.ts";
import type { Hazard } from "../hazard.ts";
import { listed } from "../wording.ts";

/**
 * Foreign keys, triggers, constraints or row-count guards are switched off for a change.
 *
 * @example
 * SET FOREIGN_KEY_CHECKS = 0; DELETE FROM vessel WHERE owner_id = 3;
 */
export const guardOff: Hazard = {
  id: "guard-off",
  family: "recovery",
  weight: "ask",
  title: "A guard is switched off",
  explanation:
    "While it is off the engine takes rows that refer to nothing, breaks rules that it otherwise keeps, leaves the audit trail out, or updates whole tables " +
    "without asking. Asked where rows change meanwhile; a load of tables that the script has made itself is only noted.",
  remedy: "Order the statements so that the guard can stay on; or check afterwards for what it would have refused.",
  example: {
    dialect: "mariadb",
    ddl: `CREATE TABLE owner (owner_id int PRIMARY KEY);
CREATE TABLE vessel (vessel_id int PRIMARY KEY, owner_id int NOT NULL, FOREIGN KEY (owner_id) REFERENCES owner (owner_id));`,
    dangerous: `SET FOREIGN_KEY_CHECKS = 0;
UPDATE vessel SET owner_id = 7 WHERE vessel_id = 3;
SET FOREIGN_KEY_CHECKS = 1;`,
    sound: "UPDATE vessel SET owner_id = 7 WHERE vessel_id = 3;",
  },
  finish({ timeline, history, known }) {
    return timeline.guards.off.map((guard) => {
      const trigger = guard.lasts === "table" && /^(?:all )?triggers?\b/.test(guard.what);
      const real = timeline.destructions.some(
        (lost) =>
          lost.softener === null &&
          lost.at.statement > guard.at.statement &&
          (guard.back === null || lost.at.statement < guard.back.statement),
      );
      const keys = guard.keys > 0 && guard.lasts === "session";
      return {
        at: guard.at,
        // What a trigger that is known would have done, `trigger-skipped` tells where the rows change.
        weight:
          keys || (guard.changes > 0 && (real || guard.lasts === "table") && !(trigger && known))
            ? ("ask" as const)
            : ("note" as const),
        message: `This switches off ${guard.what}${guard.lasts === "table" ? ` of \`${guard.shown}\`` : ""}${guard.changes > 0 ? `, and ${guard.changes === 1 ? "one statement changes" : `${guard.changes} statements change`} rows meanwhile` : ""}.`,
        because: [
          ...leftBehind(guard, history),
          ...(keys ? ["foreign keys are added meanwhile, and rows that break them are not looked for"] : []),
          guard.back
            ? `it is on again from ${guard.elsewhere || `line ${guard.back.region.line}`}`
            : "it stays off until the end of the script",
        ],
        remedy: trigger
          ? "Do by hand what it would have done, or refused."
          : "Look afterwards for rows that it would have refused.",
      };
    });
  },
};

/** The tables whose rows refer to what is deleted meanwhile, unless the script removes rows of them as well. */
function leftBehind({ left }: GuardOff, history: History): string[] {
  const kept = left.filter(
    ({ child, parent }, i) =>
      history.touched(child).removed === NEVER &&
      left.findIndex((one) => one.child === child && one.parent === parent) === i,
  );
  return kept
    .slice(0, 3)
    .map(
      ({ line, parent, shown, columns }) =>
        `rows of \`${shown}\` that refer to those which line ${line} deletes from \`${parent}\` stay, and their ${listed(columns)} then ${columns.length === 1 ? "refers" : "refer"} to nothing`,
    );
}
