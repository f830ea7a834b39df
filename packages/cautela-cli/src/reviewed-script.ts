import { type DialectId, type Review, reviewChangeSet } from "cautela";
import { loadCatalog } from "./catalog-source.ts";
import { Failure } from "./failure.ts";
import { readText } from "./files.ts";
import { Policies } from "./policies.ts";

/** What all commands are told that look at one script. */
export interface ScriptFlags {
  dialect?: DialectId;
  catalog?: string[];
  policy?: string;
  /** One statement, counted from 1. */
  statement?: number;
}

/** The files that a result is made from. */
export function inputs(path: string, { catalog, policy }: Pick<ScriptFlags, "catalog" | "policy">): string[] {
  return [path, ...(catalog ?? []), ...(policy === undefined ? [] : [policy])];
}

/** The statement that flags name, as the library counts. */
export function oneStatement({ statement }: ScriptFlags): { statement?: number } {
  return statement === undefined ? {} : { statement: statement - 1 };
}

/** One script, reviewed for a command that looks at it statement by statement. */
export async function reviewedScript(path: string, flags: ScriptFlags): Promise<Review> {
  const { policy } = await new Policies(flags.policy).ofScript(path === "-" ? "./-" : path);
  const loaded = await loadCatalog(flags.catalog ?? [policy?.catalog ?? []].flat(), flags.dialect);
  for (const problem of loaded?.problems ?? []) console.error(`cautela: ${problem}`);
  if (!loaded) console.error("cautela: no catalog was given, so keys, triggers and views are not known (--catalog)");
  const { text } = await readText(path);
  const script = { text, path: path === "-" ? "standard input" : path, dialect: flags.dialect, policy };
  // Of a script that holds both directions, what is done comes first.
  const [result] = reviewChangeSet([script], { catalog: loaded?.catalog });
  if (flags.statement !== undefined && flags.statement > result.statementCount)
    throw new Failure(`${result.path} has ${result.statementCount} statements, and no statement ${flags.statement}`);
  return result;
}
