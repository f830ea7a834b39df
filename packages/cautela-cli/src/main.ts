import { CautelaError, type ReportFormat } from "cautela";
import { visible } from "cautela/tools";
import { Command, CommanderError, Option } from "commander";
import { type CatalogFlags, catalogCommand } from "./catalog-command.ts";
import { type DemoFlags, demoCommand } from "./demo-command.ts";
import { Failure } from "./failure.ts";
import { hazardsCommand } from "./hazards-command.ts";
import { hearInterrupt } from "./interrupt.ts";
import { withoutSecrets } from "./live/database-url.ts";
import { type MeasureFlags, measureCommand } from "./measure-command.ts";
import { dialectOption, momentOption, repeated, rowsOption, secondsOption, statementOption } from "./options.ts";
import { hearOutput } from "./output.ts";
import { type PolicyFlags, policyCommand } from "./policy-command.ts";
import { type RehearseFlags, rehearseCommand } from "./rehearse-command.ts";
import { type ReviewFlags, reviewCommand } from "./review-command.ts";
import { type TraceFlags, traceCommand } from "./trace-command.ts";

export { reviewExamples } from "./examples.ts";
export { reviewWorker } from "./review-worker.ts";

/** The version of the package, put in where it is bundled. */
declare const VERSION: string;

const FORMATS = ["text", "json"] as const;
const FORMS = [...FORMATS, "sarif", "junit", "markdown", "html"] satisfies readonly ReportFormat[];
const WEIGHTS = ["stop", "ask", "note"] as const;

/** What is needed to review anything: the language, the database, the team's rules. */
function reviewing(command: Command): Command {
  return command
    .option("--dialect <id>", "the language of the script (default: as the script looks)", dialectOption)
    .option("--catalog <source>", "DDL, snapshot, SQLite file or database URL; may be given more than once", repeated)
    .option("--policy <file>", "the team's rules (default: cautela.policy.yaml, found from the script upwards)");
}

/** The commands that look at one script, or at one of its statements. */
function oneScript(command: Command): Command {
  return reviewing(
    command
      .argument("<script>", "an SQL file; - is standard input")
      .option("--statement <n>", "only the n-th statement, counted from 1", statementOption),
  );
}

function program(done: (status: number) => void): Command {
  const root = new Command("cautela")
    .description("Reviews SQL change scripts before they run, without executing them.")
    .version(VERSION)
    .exitOverride()
    .showHelpAfterError("(cautela --help lists the commands and options)");

  reviewing(root.command("review"))
    .description("review change scripts: each folder as a change set of its own, files in the order given")
    .argument("<path...>", "SQL files, and folders of them; - is standard input")
    .addOption(new Option("--format <form>", "how the result is printed").choices(FORMS).default("text"))
    .option(
      "--output <file>",
      "write the result to a file too; its ending names the form: .json .sarif .xml (JUnit) .md .html .txt; may be given more than once",
      repeated,
    )
    .option("--full", "everything that was found, with all reasons; the text is short otherwise")
    .option("--since <revision>", "only the scripts that the git repository has added or changed since then")
    .option("--baseline <file>", "report only what this file does not keep")
    .option("--write-baseline <file>", "keep what is found today in a file")
    .option(
      "--date <day>",
      "when the scripts are to run, for the policy's freezes: 2026-12-24, 2026-12-24T17:30, now",
      momentOption,
    )
    .option("--watch", "go on, and review again what changes")
    .addOption(
      new Option("--fail-on <weight>", "exit with 1 at findings of this weight or heavier")
        .choices(WEIGHTS)
        .default("stop"),
    )
    .action(async (scripts: string[], flags: ReviewFlags) => done(await reviewCommand(scripts, flags)));

  oneScript(root.command("trace"))
    .description("show what each statement writes besides what it names: views, triggers, keys, routines")
    .addOption(
      new Option("--format <form>", "how the result is written").choices(["text", "json", "mermaid"]).default("text"),
    )
    .option("--output <file>", "write the result to a file")
    .action(async (path: string, flags: TraceFlags) => done(await traceCommand(path, flags)));

  oneScript(root.command("rehearse"))
    .description("write the queries to run by hand: count, preview, copy, guarded change, checks, restore")
    .option("--date <day>", "the day in the names of copies (default: today, as 20261125)")
    .addOption(
      new Option("--format <form>", "how the result is written").choices(["text", "json", "markdown"]).default("text"),
    )
    .option("--output <place>", "a folder for one .sql file of each phase; a file for json and markdown")
    .action(async (path: string, flags: RehearseFlags) => done(await rehearseCommand(path, flags)));

  oneScript(root.command("measure"))
    .description("run only the counting queries of a rehearsal, in a read-only transaction of the last --catalog")
    .option("--seconds <n>", "give up a query after this many seconds", secondsOption, 10)
    .option("--rows <n>", "stop counting after this many rows", rowsOption, 10_000_000)
    .addOption(new Option("--format <form>", "how the result is written").choices(FORMATS).default("text"))
    .action(async (path: string, flags: MeasureFlags) => done(await measureCommand(path, flags)));

  root
    .command("catalog")
    .description("read what a database holds, and write a snapshot of it")
    .argument("[source...]", "DDL files, a database URL, an SQLite file, a snapshot")
    .option("--dialect <id>", "the language of DDL files (default: as they look)", dialectOption)
    .option("--output <file>", "write the snapshot to a file")
    .option("--query <dialect>", "print the dictionary query for an engine without a reader", dialectOption)
    .action(async (sources: string[], flags: CatalogFlags) => done(await catalogCommand(sources, flags)));

  root
    .command("policy")
    .description("print the policy in force for a script, and where each entry stands")
    .argument("[script]", "an SQL file, or a folder")
    .option("--policy <file>", "this policy, and none that is found")
    .option("--init", "write a first cautela.policy.yaml here, with comments")
    .addOption(new Option("--format <form>", "how it is printed").choices(FORMATS).default("text"))
    .action(async (path: string | undefined, flags: PolicyFlags) => done(await policyCommand(path, flags)));

  root
    .command("hazards")
    .description("list the hazards, or explain one")
    .argument("[id]", "a hazard, such as every-row")
    .action(async (id: string | undefined) => done(await hazardsCommand(id)));

  root
    .command("demo")
    .description("review the demo scripts against the demo database")
    .option("--dialect <id>", "which dialect's demo", dialectOption, "postgresql")
    .option("--full", "everything that was found, with all reasons")
    .addOption(new Option("--format <form>", "how the result is written").choices(FORMS).default("text"))
    .action(async (flags: DemoFlags) => done(await demoCommand(flags)));

  return root;
}

/** Runs the command line; returns the exit status. */
export async function run(args: readonly string[]): Promise<number> {
  let status = 0;
  hearOutput();
  hearInterrupt();
  try {
    await program((code) => {
      status = code;
    }).parseAsync([...args], { from: "user" });
    return status;
  } catch (error) {
    if (error instanceof CommanderError) return error.exitCode === 0 ? 0 : 2;
    if (error instanceof Failure || error instanceof CautelaError) {
      console.error(`cautela: ${visible(withoutSecrets(error.message))}`);
      return 2;
    }
    // A defect of Cautela itself: said in a line, with its place where somebody looks for it.
    const { message, stack } = error instanceof Error ? error : new Error(String(error));
    console.error(`cautela: this should not happen: ${visible(withoutSecrets(message))}`);
    if (process.env.CAUTELA_DEBUG && stack) console.error(withoutSecrets(stack));
    return 2;
  }
}
