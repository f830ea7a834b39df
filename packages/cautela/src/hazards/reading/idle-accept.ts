import type { Draft, Hazard } from "../hazard.ts";

/**
 * A comment that accepts a finding which is not there.
 *
 * @example
 * -- cautela: accept every-row, agreed with the office
 * DELETE FROM mooring WHERE mooring_id = 3;   -- note: nothing to accept
 */
export const idleAccept: Hazard = {
  id: "idle-accept",
  family: "reading",
  statements: [],
  weight: "note",
  title: "An accept that accepts nothing",
  explanation:
    "A comment answers a finding that this statement does not have: the statement was changed since, the comment stands " +
    "before the wrong one, or the hazard's name is misspelt. Left in place it would silently accept the finding one day.",
  remedy: "Remove the comment, or put it before the statement that it means.",
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE mooring (mooring_id integer PRIMARY KEY, fee numeric(10,2) NOT NULL);",
    dangerous: "-- cautela: accept every-row, agreed with the office\nDELETE FROM mooring WHERE mooring_id = 3;",
    sound: "DELETE FROM mooring WHERE mooring_id = 3;",
  },
  // Which accepts were of use is known when all hazards have been looked for.
  check: () => [],
};

/** The finding about an accept that was of no use. */
export function idleAcceptDraft(id: string): Draft {
  return {
    message: `The comment accepts \`${id}\`, and this statement has no such finding.`,
    because: ["nothing of that name was found here"],
    remedy: "Remove the comment, or put it before the statement that it means.",
  };
}
