import { mkdirSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { parseArgs } from "node:util";
import { isAtLeast, type ReportFormat, report } from "cautela";
import { Repository } from "./repository.ts";
import { type Layout, reviewBranch } from "./review-branch.ts";

const LAYOUT: Layout = {
  dialect: "postgresql",
  schema: "schema.sql",
  scripts: "changes",
  policy: "cautela.policy.json",
  baseline: "cautela.baseline.json",
};

/** What is written, for whom. */
const REPORTS: readonly (readonly [file: string, form: ReportFormat])[] = [
  ["comment.md", "markdown"],
  ["review.sarif", "sarif"],
  ["review.html", "html"],
];

/** Reviews a branch and writes the reports; the exit status is 1 where something is to be stopped. */
export function gate(args: string[]): number {
  const { values, positionals } = parseArgs({
    args,
    allowPositionals: true,
    options: {
      into: { type: "string", default: "main" },
      branch: { type: "string", default: "HEAD" },
      output: { type: "string", default: "review" },
      date: { type: "string", default: new Date().toISOString().slice(0, 10) },
    },
  });
  const repository = new Repository(positionals[0] ?? ".");
  const reviews = reviewBranch(repository, values.branch, values.into, LAYOUT, values.date);
  mkdirSync(values.output, { recursive: true });
  for (const [file, form] of REPORTS) {
    const day = values.date.slice(0, 10).replaceAll("-", "");
    writeFileSync(join(values.output, file), report(reviews, form, { date: day, baseline: true }));
  }
  process.stdout.write(report(reviews, "text"));
  return reviews.some(({ verdict }) => isAtLeast(verdict, "stop")) ? 1 : 0;
}

if (process.argv[1] && /[/\\]gate\.js$/.test(process.argv[1])) {
  try {
    process.exitCode = gate(process.argv.slice(2));
  } catch (error) {
    console.error(`gate: ${error instanceof Error ? error.message.split("\n")[0] : error}`);
    process.exitCode = 2;
  }
}
