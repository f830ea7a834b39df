import { CautelaError, type Policy, policyFrom } from "cautela";
import { Failure } from "./failure.ts";
import { readText } from "./files.ts";

/** Reads a team's policy from a YAML or JSON file; none without a path. */
export async function loadPolicy(path: string | undefined): Promise<Policy | undefined> {
  if (path === undefined) return undefined;
  const { text } = await readText(path);
  // Most runs have no policy, and start sooner without it.
  const { parse, YAMLParseError } = await import("yaml");
  let value: unknown;
  try {
    value = parse(text);
  } catch (error) {
    if (error instanceof YAMLParseError) throw new Failure(`${path}: ${error.message.split("\n")[0]}`);
    // Aliases that grow without end, and the like.
    throw new Failure(
      `${path}: this is no policy: ${error instanceof Error ? error.message.split("\n")[0] : String(error)}`,
    );
  }
  try {
    return policyFrom(value);
  } catch (error) {
    if (error instanceof CautelaError) throw new Failure(`${path}: ${error.message}`);
    throw error;
  }
}
