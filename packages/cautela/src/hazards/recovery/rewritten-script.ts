import type { Hazard } from "../hazard.ts";

/**
 * A script that was changed although it has probably run already.
 *
 * @example
 * -- 03_tariffs.sql, released last month and changed in this branch
 */
export const rewrittenScript: Hazard = {
  id: "rewritten-script",
  family: "recovery",
  weight: "ask",
  title: "A script that has probably run is changed",
  explanation:
    "The script was in the repository before and has a change now. Where it has run, what is new in it never does: databases that are made from here on differ " +
    "from those that are there. Some tools that run scripts refuse to go on when one of them has changed.",
  remedy: "Leave it as it was, and put what is to change into a new script that runs after it.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE tariff (tariff_id integer PRIMARY KEY);",
    dangerous: "ALTER TABLE tariff ADD COLUMN valid_from date;",
    sound: "ALTER TABLE tariff ADD COLUMN valid_from date;",
    beside: { rewritten: "it was in the repository at v1.2" },
  },
  check({ at, origin: { rewritten } }) {
    if (rewritten === null || at.statement !== 0) return [];
    return [
      {
        message: "This script has probably run already, and has been changed since.",
        because: [rewritten, "where it has run, what is new in it never will"],
        remedy: "Leave it as it was, and put the change into a new script.",
      },
    ];
  },
};
