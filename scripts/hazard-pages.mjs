// Writes docs/hazards/: a page for each hazard, from its file, and a list of all. With --check it
// writes nothing and fails when a page is out of date.
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";
import { dialects, hazards } from "cautela";
import { reviewExample } from "cautela/tools";
import { stringify } from "yaml";

const folder = join(dirname(dirname(fileURLToPath(import.meta.url))), "docs/hazards");
const check = process.argv.includes("--check");
const MARKS = { stop: "■ stop", ask: "◧ ask", note: "□ note" };

/** What Cautela says about the dangerous example. */
function said(hazard) {
  const { findings } = reviewExample(hazard, "dangerous");
  const finding = findings.find((one) => one.hazard === hazard.id);
  if (!finding) throw new Error(`${hazard.id}: its example does not show it`);
  const because = finding.because.map((reason) => `> - ${reason}`).join("\n");
  const remedy = finding.remedy === "" ? "" : `\n>\n> instead: ${finding.remedy}`;
  return `> **${MARKS[finding.weight]}** ${finding.message}\n>\n${because}${remedy}`;
}

function page(hazard) {
  const { dialect, ddl, dangerous, sound, policy, date, beside } = hazard.example;
  const under = [
    ...(policy ? [`The team's policy${date ? `, on ${date}` : ""}:\n\n\`\`\`yaml\n${stringify(policy)}\`\`\`\n`] : []),
    ...(beside?.undoes ? [`The script that it takes back:\n\n\`\`\`sql\n${beside.undoes}\n\`\`\`\n`] : []),
    ...(beside?.rewritten ? [`What is known of it: ${beside.rewritten}, and it has been changed.\n`] : []),
  ].join("\n");
  return `# ${hazard.id}: ${hazard.title.toLowerCase()}

Family **${hazard.family}**, usual weight **${MARKS[hazard.weight]}**${hazard.onRequest ? ", looked for only when the policy gives it a weight" : ""}.

${hazard.explanation}

**What to do:** ${hazard.remedy}

## Example (${dialects[dialect].title})

\`\`\`sql
${ddl}
\`\`\`

${under === "" ? "" : `${under}\n`}Dangerous:

\`\`\`sql
${dangerous}
\`\`\`

${said(hazard)}

Sound:

\`\`\`sql
${sound}
\`\`\`
`;
}

function list() {
  const families = [...new Set(hazards.map((hazard) => hazard.family))];
  const parts = families.map((family) => {
    const rows = hazards
      .filter((hazard) => hazard.family === family)
      .map((hazard) => `| [${hazard.id}](${hazard.id}.md) | ${MARKS[hazard.weight]} | ${hazard.title} |`);
    return `## ${family}\n\n| hazard | usual weight | |\n|---|---|---|\n${rows.join("\n")}\n`;
  });
  return `# Hazards\n\nGenerated from the code by \`npm run docs\`; every example is run as a test. \`cautela hazards ID\` shows the same in the\nterminal.\n\n${parts.join("\n")}`;
}

const pages = new Map([["README.md", list()], ...hazards.map((hazard) => [`${hazard.id}.md`, page(hazard)])]);
let stale = false;
if (!existsSync(folder)) mkdirSync(folder, { recursive: true });
for (const old of readdirSync(folder)) {
  if (pages.has(old)) continue;
  stale = true;
  if (!check) rmSync(join(folder, old));
}
for (const [file, text] of pages) {
  const path = join(folder, file);
  if (existsSync(path) && readFileSync(path, "utf8") === text) continue;
  stale = true;
  if (!check) writeFileSync(path, text);
}
if (check && stale) console.error("docs/hazards is out of date: run npm run docs");
process.exit(check && stale ? 1 : 0);
