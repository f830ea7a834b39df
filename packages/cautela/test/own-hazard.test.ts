import { CautelaError, type Hazard, hazards, policyFrom, review, Trait } from "cautela";
import { expect, test } from "vitest";

// A team's own hazard, as CONTRIBUTING shows it.
const frozenLedger: Hazard = {
  id: "frozen-ledger",
  family: "recovery",
  weight: "stop",
  title: "A change of the ledger",
  explanation: "The ledger is only added to; what is wrong in it is set right by another entry.",
  remedy: "Insert an entry that corrects it.",
  statements: ["update", "delete"],
  needs: Trait.change,
  example: {
    dialect: "postgresql",
    ddl: "CREATE TABLE ledger (entry_id int PRIMARY KEY, amount numeric NOT NULL);",
    dangerous: "UPDATE ledger SET amount = 0 WHERE entry_id = 3;",
    sound: "INSERT INTO ledger VALUES (4, 0);",
  },
  check({ changes }) {
    return changes
      .filter(({ target }) => /(?:^|\.)ledger$/.test(target))
      .map(({ target }) => ({
        message: `\`${target}\` is only added to.`,
        because: ["an auditor compares it with last year's copy"],
        remedy: "Insert an entry that corrects it.",
      }));
  },
};
const options = { dialect: "postgresql", hazards: [...hazards, frozenLedger] } as const;
const found = (text: string, more = {}) =>
  review(text, { ...options, ...more }).findings.filter(({ hazard }) => hazard === frozenLedger.id);

test("is looked for beside the others", () => {
  expect(found(frozenLedger.example.dangerous)).toEqual([
    expect.objectContaining({ weight: "stop", line: 1, message: "`ledger` is only added to." }),
  ]);
  expect(found(frozenLedger.example.sound)).toEqual([]);
  expect(
    review(frozenLedger.example.dangerous, { dialect: "postgresql" }).findings.map((one) => one.hazard),
  ).not.toContain(frozenLedger.id);
});

test("is accepted in the script and weighed by the policy like the others", () => {
  const accepted = found(
    "-- cautela: accept frozen-ledger, the auditor was asked\nDELETE FROM ledger WHERE entry_id = 3;",
  );
  expect(accepted.map((one) => one.accepted)).toEqual(["the auditor was asked"]);
  const policy = policyFrom({ weights: { "frozen-ledger": "note" } }, options.hazards);
  expect(found(frozenLedger.example.dangerous, { policy }).map((one) => one.weight)).toEqual(["note"]);
  expect(() => policyFrom({ weights: { "frozen-ledger": "note" } })).toThrow(CautelaError);
});
