import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { Ajv } from "ajv";
import {
  baselineOf,
  catalogFromDdl,
  comparedWith,
  type ReviewedScript,
  report,
  review,
  reviewChangeSet,
} from "cautela";
import { reported } from "cautela/tools";
import fc from "fast-check";
import { XMLParser } from "fast-xml-parser";
import MarkdownIt from "markdown-it";
import type { Browser } from "playwright-core";
import { afterAll, beforeAll, describe, expect, test } from "vitest";
import { findChromium, launchChromium } from "../../../scripts/chromium.mjs";

// The reports that other programs read, and what scripts that mean harm can do in them: nothing.

const here = (path: string): string => readFileSync(fileURLToPath(new URL(path, import.meta.url)), "utf8");
const schema = catalogFromDdl(here("../../../demo/schema/postgresql.sql"), { dialect: "postgresql" });
const catalog = catalogFromDdl(here("../../../demo/data/postgresql.sql"), { dialect: "postgresql", onto: schema });
const demo = ["02-raise-all-fees", "05-renumber-berth", "08-friday-evening", "09-through-the-view"].map((name) => ({
  path: `harbour changes/${name}.sql`,
  text: here(`../../../demo/scripts/postgresql/${name}.sql`),
}));

/** Names, comments and values that try to become markup, and characters that no format likes. */
const EVIL =
  "</style></pre></details><script>document.title='run'</script><img src=x onerror=\"document.title='run'\">";
const harmful = [
  {
    path: `a&b@team/<b>|x|\`${"`"}\u202e.sql`,
    text: `-- ${EVIL} ]]>
CREATE TABLE "${EVIL.replaceAll('"', '""')}" (id int, "]]>@everyone" text);
-- cautela: accept every-row, ${EVIL} | \` & @everyone <!-- ]]> [x](javascript:1)
DELETE FROM mooring;
UPDATE "${EVIL.replaceAll('"', '""')}" SET "]]>@everyone" = E'\u0007${EVIL.replaceAll("'", "''")} \ud800';
UPDATE \`no such\` & garbage ${EVIL};`,
  },
  { path: "", text: "" },
];
const reviews = reviewChangeSet([...demo, ...harmful], { catalog });
const kept = comparedWith(reviews, baselineOf(reviews.slice(1, 2))).reviews;

describe("SARIF", () => {
  const valid = new Ajv({ strict: false, validateFormats: false, unicodeRegExp: false }).compile(
    JSON.parse(here("fixtures/sarif-schema-2.1.0.json")),
  );
  const log = (of: readonly ReviewedScript[], baseline = false) => {
    const text = report(of, "sarif", { version: "1.2.3", baseline });
    const json: { runs: ReturnType<typeof JSON.parse>[] } = JSON.parse(text);
    if (!valid(json)) throw new Error(JSON.stringify(valid.errors?.slice(0, 3)));
    return json.runs[0];
  };

  test("it fits the standard's schema, with rules, places, fixes and what is suppressed", () => {
    const { tool, results, artifacts } = log(kept, true);
    expect(tool.driver.semanticVersion).toBe("1.2.3");
    for (const { id, helpUri, help } of tool.driver.rules) {
      expect(helpUri).toBe(`https://cautela.example/hazards/${id}`);
      expect(help.text.length).toBeGreaterThan(40);
    }
    expect(artifacts[0].location.uri).toBe("harbour%20changes/02-raise-all-fees.sql");
    for (const result of results) {
      expect(tool.driver.rules[result.ruleIndex].id).toBe(result.ruleId);
      const { artifactLocation, region } = result.locations[0].physicalLocation;
      expect(artifacts[artifactLocation.index].location.uri).toBe(artifactLocation.uri);
      expect(region.startLine).toBeGreaterThanOrEqual(1);
    }
    const suppressed = results.filter(({ suppressions }: { suppressions: unknown[] }) => suppressions.length > 0);
    const kinds = new Set(suppressed.map((one: { suppressions: { kind: string }[] }) => one.suppressions[0].kind));
    expect([...kinds].sort()).toEqual(["external", "inSource"]);
    for (const { suppressions, baselineState } of results)
      expect(baselineState).toBe(suppressions[0]?.kind === "external" ? "unchanged" : "new");
  });

  test("fingerprints stay the same where a script is moved and laid out anew, and no two are the same", () => {
    const prints = (text: string) =>
      log([review(text, { dialect: "postgresql", catalog, path: "x.sql" })]).results.map(
        ({ partialFingerprints }: { partialFingerprints: object }) => Object.values(partialFingerprints)[0],
      );
    const one = prints("UPDATE mooring SET fee = fee * 2;\nDELETE FROM pilotage;\nDELETE FROM pilotage;");
    expect(new Set(one).size).toBe(one.length);
    expect(
      prints(
        "\n\n-- a word\nUPDATE   mooring\nSET fee = fee * 2 -- more\n;\nDELETE /* x */ FROM pilotage;DELETE\nFROM pilotage;",
      ),
    ).toEqual(one);
    expect(prints("UPDATE mooring SET fee = fee * 3;")).not.toContain(one[0]);
  });

  test("a fix has the edits that the finding has", () => {
    const one = review("UPDATE mooring SET fee = 1 AND paid = 2 WHERE mooring_id = 1;", { dialect: "mysql" });
    const { fix } = one.findings.find(({ hazard }) => hazard === "and-in-set") ?? {};
    const [result] = log([one]).results.filter(({ fixes }: { fixes?: unknown }) => fixes);
    expect(result.fixes[0].artifactChanges[0].replacements[0].insertedContent.text).toBe(fix?.edits[0].text);
  });
});

describe("JUnit XML", () => {
  test("parsed back: a test case for each script, failed where it must", () => {
    const parser = new XMLParser({
      ignoreAttributes: false,
      isArray: (name) => ["testcase", "failure"].includes(name),
    });
    const { testsuites } = parser.parse(report(kept, "junit", { failOn: "ask" }));
    const cases = testsuites.testsuite.testcase;
    expect(cases).toHaveLength(kept.length);
    kept.forEach((one, i) => {
      const failing = one.findings.filter(({ weight, accepted }) => accepted === null && weight !== "note");
      expect((cases[i].failure ?? []).map((failure: Record<string, string>) => failure["@_type"]).sort()).toEqual(
        failing.map(({ hazard }) => hazard).sort(),
      );
    });
    expect(Number(testsuites["@_failures"])).toBe(cases.filter(({ failure }: { failure?: unknown }) => failure).length);
    expect(cases[4]["system-out"]).toContain("Accepted: </style>");
  });

  test("whatever stands in a script, it is well-formed", () => {
    fc.assert(
      fc.property(fc.string({ unit: "binary" }), fc.string({ unit: "binary" }), (name, reason) => {
        const text = `-- cautela: accept every-row, x${reason}\nDELETE FROM "${name.replaceAll('"', '""')}";`;
        const xml = report(review(text, { dialect: "postgresql", path: name }), "junit");
        // The characters of XML 1.0 (W3C Recommendation, section 2.2).
        expect(xml).toMatch(/^[\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]*$/u);
        expect(() => new XMLParser().parse(xml, true)).not.toThrow();
      }),
    );
  });
});

describe("Markdown", () => {
  const tags = (text: string): string[] => {
    // With HTML let through, as a review page does: only our own may be left.
    const html = new MarkdownIt({ html: true, linkify: false }).render(text);
    return [...html.matchAll(/<(?!\/)([a-z0-9]+)/gi)].map(([, tag]) => tag);
  };
  const OURS = /^(?:h2|h3|p|table|thead|tbody|tr|th|td|ul|li|code|pre|strong|details|summary|em)$/;

  test("the verdict, the heaviest with their lines and their reach, the rest folded", () => {
    const text = report(kept, "markdown");
    expect(text).toMatch(/^## ■ Stop: do not run this as it is\n\n6 scripts, \d+ statements: ■ \d+ stop/);
    expect(text).toContain("### ■ every-row: harbour changes/02-raise-all-fees.sql, line 3");
    expect(text).toContain("Reach: every row, about 240 of `public.mooring`.");
    expect(text).toMatch(/<summary>\d+ notes<\/summary>/);
    expect(text).toContain("in the baseline");
    expect(tags(text).filter((tag) => !OURS.test(tag))).toEqual([]);
  });

  test("nothing of a script becomes markup, and nobody is called", () => {
    for (const one of reviews) {
      const text = report([one], "markdown");
      expect(tags(text).filter((tag) => !OURS.test(tag))).toEqual([]);
    }
    expect(report(reviews, "markdown")).toContain("a&b&#64;team/");
    fc.assert(
      fc.property(fc.string({ unit: "binary" }), fc.string({ unit: "binary" }), (name, reason) => {
        const script = `-- cautela: accept every-row, x${reason}\nDELETE FROM "${name.replaceAll('"', '""')}";\nDELETE FROM "<b>${name.replaceAll('"', '""')}";`;
        const text = report(review(script, { dialect: "postgresql", path: reason }), "markdown");
        expect(tags(text).filter((tag) => !OURS.test(tag))).toEqual([]);
      }),
    );
  });

  test("never too long for a comment; what is left out is counted", () => {
    const statement = (i: number): string =>
      `UPDATE t${i} SET a = '${"x".repeat(3000)}';\nDELETE FROM ${"n".repeat(300)}${i};\n`;
    const long = Array.from({ length: 60 }, (_, i) => ({
      path: `${"folder/".repeat(40)}${i}.sql`,
      text: Array.from({ length: 40 }, (_, k) => statement(i * 40 + k)).join(""),
    }));
    const text = report(reviewChangeSet(long), "markdown");
    expect(text.length).toBeLessThan(60_000);
    expect(text).toMatch(/and \d+ more|did not fit/);
    expect(text.match(/<details>/g)?.length).toBe(text.match(/<\/details>/g)?.length);
  });
});

describe("HTML", () => {
  const page = report(kept, "html", { date: "20261224" });
  const found = findChromium();
  let browser: Browser;
  beforeAll(async () => {
    if (!found && process.env.CI === "true") throw new Error("no Chromium for the tests of the page (set CHROMIUM)");
    if (found) browser = await launchChromium();
  });
  afterAll(async () => {
    await browser?.close();
  });

  test.runIf(found)("in Chromium it loads nothing, runs nothing, and says what was found", async () => {
    const tab = await browser.newPage({ viewport: { width: 390, height: 800 } });
    const asked: string[] = [];
    const said: string[] = [];
    tab.on("request", (request) => asked.push(request.url()));
    tab.on("console", (message) => said.push(message.text()));
    tab.on("pageerror", (error) => said.push(error.message));
    await tab.route("http://page.test/", (route) => route.fulfill({ contentType: "text/html", body: page }));
    await tab.goto("http://page.test/");
    expect(asked).toEqual(["http://page.test/"]);
    expect(said).toEqual([]);
    expect(await tab.title()).toBe("Review: 6 scripts");
    expect(await tab.locator("script, img, iframe, object, embed, link, [style], [onerror], [onclick]").count()).toBe(
      0,
    );
    expect(await tab.locator("h1").innerText()).toBe("Stop: do not run this as it is");
    expect(await tab.locator("article").count()).toBeGreaterThan(8);
    expect(await tab.locator(".drawing svg .box.view").count()).toBeGreaterThan(0);
    expect(await tab.locator("details summary", { hasText: "Rehearsal" }).first().isVisible()).toBe(true);
    // What means harm is there to be read.
    expect(await tab.locator("body").innerText()).toContain("<script>document.title='run'</script>");
    // On a phone the page does not run out of the screen.
    expect(await tab.evaluate("document.documentElement.scrollWidth")).toBe(390);
    await tab.close();
  });

  test("it holds its style and no other, and the same whether a thread has made it", () => {
    expect(page).toMatch(/default-src 'none'; style-src 'sha256-[A-Za-z0-9+/]{43}='/);
    expect(page).not.toMatch(/\b(?:src|srcset|action)="/);
    const sent = kept.map((one) => structuredClone(reported(one, { details: true, date: "20261224" })));
    expect(report(sent, "html")).toBe(page);
  });
});

test("what comments answer stands in every form", () => {
  const script = `-- cautela: backup the nightly dump
-- cautela: expect 7 rows
DELETE FROM pilotage WHERE pilot_id = 3;
-- cautela: accept every-row, a new fee for all
UPDATE mooring SET fee = 1;`;
  const one = review(script, { dialect: "postgresql", catalog, path: "a.sql" });
  for (const format of ["text", "json", "sarif", "junit", "markdown", "html"] as const)
    for (const answer of ["the nightly dump", "7 rows", "a new fee for all"])
      expect(report(one, format)).toContain(answer);
});

test("every form takes nothing, one script, and one without statements", () => {
  for (const format of ["text", "json", "sarif", "junit", "markdown", "html"] as const) {
    expect(() => report([], format)).not.toThrow();
    expect(report(review("", { dialect: "sqlite" }), format)).toBeTruthy();
  }
});
