// Draws docs/screenshots from the demo data: the page in headless Chromium, the command line in a
// terminal window under Xvfb. Needs Debian's chromium, xvfb, xterm and imagemagick.
import { spawn, spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, readFileSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { setTimeout as wait } from "node:timers/promises";
import { fileURLToPath } from "node:url";
import MarkdownIt from "markdown-it";
import { preview } from "vite";
import { launchChromium } from "./chromium.mjs";

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const shots = join(root, "docs/screenshots");
mkdirSync(shots, { recursive: true });
const only = process.argv[2];

async function pages() {
  const server = await preview({
    root: join(root, "examples/review-desk"),
    preview: { port: 4179, strictPort: true },
    logLevel: "error",
  });
  const browser = await launchChromium();
  const shot = async (name, scheme, act) => {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: scheme });
    await page.goto("http://localhost:4179/");
    await page.getByTestId("verdict").waitFor();
    await act(page);
    await wait(300);
    await page.screenshot({ path: join(shots, `${name}.png`) });
    await page.close();
  };
  await shot("desk", "light", async (page) => {
    await page.locator(".findings button").first().click();
  });
  await shot("desk-dark", "dark", async (page) => {
    await page.getByRole("combobox", { name: "Script" }).selectOption("tsql/02-through-the-alias");
    await page.getByText("tsql/02-through-the-alias").first().waitFor();
  });
  await shot("desk-catalog", "light", async (page) => {
    await page.getByRole("button", { name: /^Catalog/ }).click();
    await page.locator(".objects summary").nth(3).click();
  });
  await shot("desk-ripples", "light", async (page) => {
    await page.getByRole("combobox", { name: "Script" }).selectOption("postgresql/09-through-the-view");
    await page.getByRole("tab", { name: "ripples" }).click();
    await page.locator(".arrow", { hasText: "key mooring_berth" }).locator("text").click();
  });
  await shot("desk-rehearsal", "light", async (page) => {
    await page.getByRole("combobox", { name: "Script" }).selectOption("postgresql/02-raise-all-fees");
    await page.getByRole("tab", { name: "rehearsal" }).click();
    await page.locator(".query").first().waitFor();
  });
  await browser.close();
  await server.close();
}

/** The reports of the gate's demo: the page, and the comment as a common renderer shows it. */
async function reports() {
  const folder = mkdtempSync(join(tmpdir(), "cautela-shots-"));
  spawnSync(process.execPath, [join(root, "examples/merge-gate/dist/demo.js"), folder]);
  const comment = new MarkdownIt({ html: true }).render(readFileSync(join(folder, "comment.md"), "utf8"));
  const style = `body{font:15px/1.5 sans-serif;max-width:860px;margin:24px auto;color:#22262b}pre{padding:8px 12px;background:#f4f1ea}
    code{font:.87em DejaVu Sans Mono}table{border-collapse:collapse}td,th{border:1px solid #dcd8cf;padding:3px 10px}`;
  writeFileSync(join(folder, "comment.html"), `<meta charset="utf-8"><style>${style}</style>${comment}`);
  const demo = spawnSync(
    process.execPath,
    [
      join(root, "packages/cautela-cli/bin/cautela.cjs"),
      ..."review demo/scripts/postgresql --catalog demo/schema/postgresql.sql --catalog demo/data/postgresql.sql".split(
        " ",
      ),
      ...["--output", join(folder, "demo.html")],
    ],
    { cwd: root },
  );
  if (demo.status === 2) throw new Error(demo.stderr.toString());
  const browser = await launchChromium();
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const shot = async (name) => page.screenshot({ path: join(shots, `${name}.png`) });
  await page.goto(`file://${folder}/comment.html`);
  await shot("comment");
  await page.goto(`file://${folder}/demo.html`);
  await shot("page");
  await page.locator("#script-9 article").first().scrollIntoViewIfNeeded();
  await page.evaluate(() => document.querySelector("#script-9")?.scrollIntoView());
  await page.locator("#script-9 details summary", { hasText: "Rehearsal" }).first().click();
  await page.evaluate(() => document.querySelector("#script-9 .drawing")?.scrollIntoView());
  await shot("page-statement");
  await browser.close();
}

async function terminals() {
  const display = ":97";
  const xvfb = spawn("Xvfb", [display, "-screen", "0", "1280x800x24"], { stdio: "ignore" });
  await wait(1500);
  const shot = async (name, command) => {
    const script = `cd ${root}; clear; printf '$ %s\\n' ${JSON.stringify(command)}; export PATH=${root}/node_modules/.bin:$PATH; ${command}; sleep 60`;
    const term = spawn(
      "xterm",
      [
        "-fa",
        "DejaVu Sans Mono",
        "-fs",
        "11",
        "-geometry",
        "100x43+0+0",
        "-bg",
        "#16181b",
        "-fg",
        "#e4e2dc",
        "-e",
        "bash",
        "-c",
        script,
      ],
      { stdio: "ignore", env: { ...process.env, DISPLAY: display, TERM: "xterm-256color" } },
    );
    await wait(3500);
    spawnSync("import", ["-window", "root", join(shots, `${name}.png`)], { env: { ...process.env, DISPLAY: display } });
    spawnSync("mogrify", ["-fuzz", "12%", "-trim", "+repage", join(shots, `${name}.png`)]);
    term.kill();
    await wait(300);
  };
  await shot(
    "review",
    "cautela review demo/scripts/postgresql/0[45]*.sql --catalog demo/schema/postgresql.sql --catalog demo/data/postgresql.sql",
  );
  await shot("demo", "cautela demo");
  const catalog = "--catalog demo/schema/postgresql.sql --catalog demo/data/postgresql.sql";
  await shot("trace", `cautela trace demo/scripts/postgresql/09-through-the-view.sql ${catalog}`);
  await shot(
    "rehearse",
    `cautela rehearse demo/scripts/postgresql/09-through-the-view.sql --statement 2 ${catalog} | head -38`,
  );
  await shot("hazards", "cautela hazards loose-or; cautela hazards outer-slip");
  await shot("catalog", "cautela catalog demo/schema/postgresql.sql demo/data/postgresql.sql");
  xvfb.kill();
}

if (!only || only === "page") await pages();
if (!only || only === "report") await reports();
if (!only || only === "terminal") await terminals();
