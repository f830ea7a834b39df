import { type Baseline, baselineFrom, baselineOf, CautelaError, comparedWith, report, review } from "cautela";
import { expect, test } from "vitest";

const of = (text: string, path = "a.sql") => review(text, { dialect: "postgresql", path });
const script = "UPDATE berth SET code = 'x';\nDELETE FROM pilot;\nDELETE FROM pilot;";
const kept: Baseline = JSON.parse(JSON.stringify(baselineOf([of(script)])));
const left = (text: string) => {
  const { reviews, idle } = comparedWith([of(text, "b.sql")], baselineFrom(kept));
  return {
    new: reviews[0].findings
      .filter(({ weight }) => weight === "stop")
      .map(({ hazard, line, places }) => [hazard, line, places.length]),
    verdict: reviews[0].verdict,
    idle: idle.length,
  };
};

test.each([
  ["as it was", script],
  [
    "in another file, laid out anew",
    "-- moved\nUPDATE   berth\n  SET code='x';\n/* and */ DELETE FROM pilot\n;DELETE FROM pilot;",
  ],
  ["in another order", "DELETE FROM pilot;\nUPDATE berth SET code = 'x';\nDELETE FROM pilot;"],
])("%s, nothing is new", (_, text) => {
  expect(left(text)).toEqual({ new: [], verdict: "clear", idle: 0 });
});

test("a statement that is another is judged anew, and what it was is idle", () => {
  const { idle, ...found } = left(script.replace("'x'", "'y'"));
  expect(found).toEqual({ new: [["every-row", 1, 0]], verdict: "stop" });
  expect(idle).toBeGreaterThan(0);
});

test("the same statement once more is new, at its own place", () => {
  expect(left(`${script}\nDELETE FROM pilot;`)).toMatchObject({ new: [["every-row", 4, 0]], verdict: "stop" });
});

test("what a comment accepts is not kept, and needs no baseline", () => {
  expect(baselineOf([of("-- cautela: accept every-row, all of it is old\nDELETE FROM pilot;")]).findings).toEqual(
    baselineOf([of("-- cautela: accept every-row, other words\nDELETE FROM pilot;")]).findings,
  );
});

test("what the baseline holds is told apart in the reports", () => {
  const { reviews } = comparedWith([of(script)], kept);
  expect(report(reviews, "text")).toContain("nothing found, 3 in the baseline");
  expect(
    JSON.parse(report(reviews, "json")).scripts[0].known.map(({ hazard }: { hazard: string }) => hazard),
  ).toContain("every-row");
});

test.each([
  [{ format: "cautela.review" }, "this is no baseline"],
  [{ format: "cautela.baseline", version: 2, findings: [] }, "version 2, and this Cautela knows version 1"],
  [{ format: "cautela.baseline", version: 1, findings: [{ hazard: "x" }] }, "findings[1]"],
  [null, "this is no baseline"],
])("%j is refused", (value, message) => {
  expect(() => baselineFrom(value)).toThrow(CautelaError);
  expect(() => baselineFrom(value)).toThrow(message);
});
