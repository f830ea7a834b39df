import { type Policy, policyFrom } from "cautela";
import { parse, YAMLParseError } from "yaml";
import { Failure } from "./failure.ts";
import { readText } from "./files.ts";

/** Reads a team's policy from a YAML or JSON file; none without a path. */
export function loadPolicy(path: string | undefined): Policy | undefined {
  if (path === undefined) return undefined;
  const { text } = readText(path);
  let value: unknown;
  try {
    value = parse(text);
  } catch (error) {
    if (error instanceof YAMLParseError) throw new Failure(`${path}: ${error.message.split("\n")[0]}`);
    throw error;
  }
  const result = policyFrom(value);
  if (typeof result === "string") throw new Failure(`${path}: ${result}`);
  return result;
}
