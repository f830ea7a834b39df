import { dirname, join } from "node:path";
import { type Policy, policyFault, policyFrom } from "cautela";
import { Failure } from "./failure.ts";
import { readText } from "./files.ts";
import { isUrl } from "./live/database-url.ts";

/** A team's policy as a file holds it. */
export interface PolicyFile {
  readonly file: string;
  /** With the paths in it as seen from the current folder. */
  readonly policy: Policy;
  /** The line on which an entry stands, by the names and indexes that lead to it. */
  line(at: readonly (string | number)[]): number;
}

/**
 * Reads a policy from a YAML or JSON file.
 *
 * @throws Failure with the line of the first mistake
 */
export async function readPolicy(file: string): Promise<PolicyFile> {
  const { text } = await readText(file);
  // Most runs have no policy, and start sooner without it.
  const { isMap, isSeq, LineCounter, parseDocument } = await import("yaml");
  const lines = new LineCounter();
  const document = parseDocument(text, { lineCounter: lines });
  const [error] = document.errors;
  if (error)
    throw new Failure(
      `${file}:${lines.linePos(error.pos[0]).line}: ${error.message.split("\n")[0].replace(/ at line \d+, column \d+:$/, "")}`,
    );
  const line = (at: readonly (string | number)[]): number => {
    let node: unknown = document.contents;
    let offset = 0;
    for (const step of at) {
      if (isMap(node)) {
        const pair = node.items.find(({ key }) => String(key) === String(step));
        if (!pair) break;
        offset = (pair.key as { range?: [number, number, number] }).range?.[0] ?? offset;
        node = pair.value;
      } else if (isSeq(node)) {
        node = node.items[Number(step)];
        offset = (node as { range?: [number, number, number] } | undefined)?.range?.[0] ?? offset;
      } else break;
    }
    return lines.linePos(offset).line;
  };
  let value: unknown;
  try {
    value = document.toJS();
  } catch (error) {
    // Aliases that grow without end, and the like.
    throw new Failure(
      `${file}: this is no policy: ${error instanceof Error ? error.message.split("\n")[0] : String(error)}`,
    );
  }
  const fault = policyFault(value);
  if (fault) throw new Failure(`${file}${fault.at.length > 0 ? `:${line(fault.at)}` : ""}: ${fault.message}`);
  return { file, policy: fromHere(policyFrom(value), dirname(file)), line };
}

/** A policy whose paths are seen from the current folder, and not from that of its file. */
function fromHere(policy: Policy, folder: string): Policy {
  const { catalog, scripts, rules } = policy;
  return {
    ...policy,
    ...(catalog === undefined ? {} : { catalog: sourcesIn(folder, catalog) }),
    ...(scripts?.index === undefined ? {} : { scripts: { ...scripts, index: join(folder, scripts.index) } }),
    ...(rules === undefined
      ? {}
      : {
          rules: rules.map((rule) =>
            rule.catalog === undefined ? rule : { ...rule, catalog: sourcesIn(folder, rule.catalog) },
          ),
        }),
  };
}

function sourcesIn(folder: string, catalog: string | readonly string[]): string[] {
  return [catalog].flat().map((source) => (isUrl(source) ? source : join(folder, source)));
}
