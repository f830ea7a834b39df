import { fileURLToPath } from "node:url";
import type { Browser, Page } from "playwright-core";
import { type PreviewServer, preview } from "vite";
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, test } from "vitest";
import { findChromium, launchChromium } from "../../../scripts/chromium.mjs";

const found = findChromium();
if (!found) {
  if (process.env.CI === "true") throw new Error("no Chromium for the tests of the page (set CHROMIUM)");
  console.log("no Chromium found (set CHROMIUM to its path): the tests of the page are skipped");
}

describe.runIf(found)("the review desk", () => {
  let server: PreviewServer;
  let browser: Browser;
  let page: Page;
  let address: string;
  const errors: string[] = [];
  const foreign: string[] = [];

  beforeAll(async () => {
    server = await preview({
      root: fileURLToPath(new URL("..", import.meta.url)),
      preview: { port: 0 },
      logLevel: "error",
    });
    address = server.resolvedUrls?.local[0] ?? "";
    browser = await launchChromium();
  });
  afterAll(async () => {
    await browser.close();
    await server.close();
  });
  beforeEach(async () => {
    page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    page.on("pageerror", (error) => errors.push(error.message));
    page.on("console", (message) => {
      if (message.type() === "error") errors.push(message.text());
    });
    page.on("request", (request) => {
      if (!request.url().startsWith(address) && !/^(?:data|blob):/.test(request.url())) foreign.push(request.url());
    });
    await page.goto(address);
    await page.getByTestId("verdict").waitFor();
  });
  afterEach(async () => {
    await page.close();
    expect(errors).toEqual([]);
    expect(foreign).toEqual([]);
  });

  const verdict = () => page.getByTestId("verdict").locator("strong").textContent();
  const write = async (text: string) => {
    await page.locator(".cm-content").click();
    await page.keyboard.press("Control+A");
    await page.keyboard.insertText(text);
  };

  test("reviews while one types, with the catalog that is open", async () => {
    await write("DELETE FROM berth;");
    await page.getByText("This deletes all rows of").waitFor();
    expect(await verdict()).toBe("stop");
    await expect.poll(() => page.locator(".findings li.stop").count()).toBe(1);
    await write("DELETE FROM berth;\n\nDELETE FROM berth;");
    await page.getByText("also on line 3").first().waitFor();
    await expect.poll(() => page.locator(".gutter-mark").count()).toBe(2);
    await write("UPDATE berth SET status = 'open' WHERE berth_id = 3 AND status = 'closed';");
    await page.getByText("Nothing was found").waitFor();
    expect(await verdict()).toBe("clear");
  });

  test("jumps from a finding to its place, and from a place to its finding", async () => {
    const current = () => page.locator(".findings [aria-current='true'] code").first().textContent();
    await page.locator(".findings button", { hasText: "every-row" }).click();
    expect(await page.locator(".cm-activeLine").textContent()).toContain("TRUNCATE");
    await page.keyboard.press("F8");
    const next = await current();
    expect(next).not.toBe("every-row");
    await page.keyboard.press("Shift+F8");
    expect(await current()).toBe("every-row");
    await page.locator(".cm-line", { hasText: "DELETE FROM owner" }).click();
    const owner = page.locator(".findings li", { hasText: "public.owner" }).first().locator("button");
    await expect.poll(() => owner.getAttribute("aria-current")).toBe("true");
    // The first mark is that of the first statement, whose note comes last in the list.
    await page.locator(".gutter-mark").first().click();
    await expect
      .poll(() => page.locator(".findings [aria-current='true'] .place").first().textContent())
      .toBe("line 2");
  });

  test("opens demo scripts with their dialect and catalog", async () => {
    await page.getByRole("combobox", { name: "Script" }).selectOption("tsql/01-cut-off");
    await page.getByText("This deletes all rows of").waitFor();
    expect(await page.getByRole("combobox", { name: "Dialect" }).inputValue()).toBe("tsql");
    await expect.poll(() => page.locator(".gutter-mark").count()).toBe(2);
  });

  test("takes a script by the file dialog and a catalog by hand", async () => {
    const picked = page.waitForEvent("filechooser");
    await page.getByRole("button", { name: "Open a file" }).click();
    await (await picked).setFiles({
      name: "my.sql",
      mimeType: "text/plain",
      buffer: Buffer.from("\uFEFFDELETE FROM anchor WHERE code IS NULL;"),
    });
    await page.getByText("is not in the catalog").waitFor();
    await page.getByRole("button", { name: /^Catalog/ }).click();
    await page.getByRole("button", { name: "DDL" }).click();
    await page.getByLabel("DDL of the database").fill("CREATE TABLE anchor (code int NOT NULL);");
    await page.getByText("1 table", { exact: false }).first().waitFor();
    await page.getByRole("button", { name: "Done" }).click();
    await page.getByText("No row of", { exact: true }).waitFor();
    expect(await verdict()).toBe("ask");
  });

  test("shows what the catalog holds, and searches it", async () => {
    await page.getByRole("button", { name: /^Catalog/ }).click();
    await expect.poll(() => page.locator(".objects li").count()).toBeGreaterThan(15);
    await page.getByLabel("Search the catalog").fill("call_sign trigger");
    await expect.poll(() => page.locator(".objects li").count()).toBeLessThan(5);
    expect(await page.locator(".objects").textContent()).toContain("tidy_call_sign, before insert or update");
    await page.getByLabel("Search the catalog").fill("no such thing");
    await page.getByText("Nothing in the catalog").waitFor();
  });

  test("takes a dropped file", async () => {
    const transfer = await page.evaluateHandle(() => {
      const data = new DataTransfer();
      data.items.add(new File(["TRUNCATE vessel;"], "dropped.sql"));
      return data;
    });
    await page.dispatchEvent(".desk", "drop", { dataTransfer: transfer });
    await page.getByText("This empties the table").waitFor();
    expect(await page.locator(".title").textContent()).toBe("dropped.sql");
  });

  test("keeps up with a large script and shows light and dark", async () => {
    const buffer = Buffer.from("UPDATE berth SET depth_m = 1 WHERE berth_id = 1;\n".repeat(3000));
    await page.getByLabel("Open files").setInputFiles({ name: "large.sql", mimeType: "text/plain", buffer });
    await page.getByText("3000 statements").first().waitFor();
    await page.getByRole("combobox", { name: "Colours" }).selectOption("dark");
    const dark = await page.evaluate(() => getComputedStyle(document.body).backgroundColor);
    await page.getByRole("combobox", { name: "Colours" }).selectOption("light");
    expect(await page.evaluate(() => getComputedStyle(document.body).backgroundColor)).not.toBe(dark);
  });

  test("reviews first and rehearses after it, and drops the rehearsal of an older text", async () => {
    await page.getByRole("tab", { name: "rehearsal" }).click();
    const buffer = Buffer.from("UPDATE berth SET depth_m = 1 WHERE berth_id = 1;\n".repeat(10_000));
    await page.getByLabel("Open files").setInputFiles({ name: "large.sql", mimeType: "text/plain", buffer });
    await page.getByText("10000 statements").first().waitFor();
    await page.getByText("The rehearsal is being written.").waitFor();
    await write("DELETE FROM berth WHERE berth_id = 77;");
    await page.getByText("in 1 statement").waitFor();
    await expect.poll(async () => (await page.locator(".query pre").allTextContents()).join()).toContain("77");
  });

  test("draws what a statement writes, and shows what defines it", async () => {
    await page.getByRole("combobox", { name: "Script" }).selectOption("postgresql/09-through-the-view");
    await page.getByRole("tab", { name: "ripples" }).click();
    await expect.poll(() => page.locator(".box").count()).toBe(5);
    await page.locator(".arrow", { hasText: "trigger mooring_audit" }).locator("text").click();
    await expect.poll(() => page.locator(".definition pre").textContent()).toContain("CREATE FUNCTION mooring_audit");
    await page.locator(".graph").focus();
    for (let i = 0; i < 3; i++) await page.keyboard.press("ArrowDown");
    expect(await page.locator(".definition h2").textContent()).toBe("public.mooring");
    const width = async () => Number(await page.locator(".graph svg").getAttribute("width"));
    const before = await width();
    await page.keyboard.press("+");
    expect(await width()).toBeGreaterThan(before);
    const [download] = await Promise.all([
      page.waitForEvent("download"),
      page.getByRole("button", { name: "Save as SVG" }).click(),
    ]);
    expect(download.suggestedFilename()).toBe("ripples-line-2.svg");
    await page.getByRole("button", { name: "Next" }).click();
    await expect.poll(() => page.locator(".box").count()).toBe(3);
  });

  test("says that a review broke off, and leaves no old verdict standing", async () => {
    await page.route(/review-worker/, async (route) => {
      const response = await route.fetch();
      const breaks =
        "let broken; self.addEventListener('message', ({ data }) => { broken = data.text.includes('pier'); });" +
        "performance.now = () => { if (broken) throw new Error('out of order'); return 0; };";
      await route.fulfill({ response, body: breaks + (await response.text()) });
    });
    await page.reload();
    await page.getByTestId("verdict").waitFor();
    await write("DELETE FROM pier;");
    await page.getByRole("alert").waitFor();
    expect(await page.getByRole("alert").textContent()).toContain("no verdict: out of order");
    expect(await page.getByTestId("verdict").count()).toBe(0);
    await write("DELETE FROM berth;");
    await page.getByText("This deletes all rows of").waitFor();
    expect(await page.getByRole("alert").count()).toBe(0);
  });

  test("marks characters that turn the direction of writing", async () => {
    await write('DELETE FROM "ber\u202Eth";');
    await expect.poll(() => page.locator(".findings").textContent()).toContain("ber\u27E8U+202E\u27E9th");
    expect(await page.locator(".cm-specialChar").count()).toBe(1);
  });

  test("shows the queries to run by hand, phase by phase, and copies them", async () => {
    await page.context().grantPermissions(["clipboard-read", "clipboard-write"]);
    await page.getByRole("combobox", { name: "Script" }).selectOption("postgresql/09-through-the-view");
    await page.getByRole("tab", { name: "rehearsal" }).click();
    await page.getByText("Old and new values side by side").waitFor();
    await page.locator(".query", { hasText: "Old and new values" }).getByRole("button", { name: "Copy" }).click();
    await page.getByText("Copied").waitFor();
    expect(await page.evaluate(() => navigator.clipboard.readText())).toContain("AS new_berth_id");
    await page.getByRole("tab", { name: /^Restore/ }).click();
    await expect.poll(() => page.locator(".query").count()).toBeGreaterThan(5);
    await page.locator(".cm-line", { hasText: "N12 (old)" }).click();
    await expect.poll(async () => (await page.locator(".query pre").allTextContents()).join()).toContain("SET code =");
    await page.getByRole("button", { name: "Copy the phase for the whole script" }).click();
    await page.getByText("Copied").waitFor();
    const whole = await page.evaluate(() => navigator.clipboard.readText());
    expect(whole).toContain("\nBEGIN;\n");
    expect(whole).toMatch(/line 7:[\s\S]*line 2:[\s\S]*\nCOMMIT;\n$/);
  });
});
