import type { DialectId } from "../sql/dialects/dialect.ts";
import { dialects } from "../sql/dialects/index.ts";
import { type DialectGuess, reads } from "../sql/reading/guess.ts";
import { pathDialect } from "../sql/reading/path-dialect.ts";
import type { ReviewOptions } from "./options.ts";
import { knownDialect, scriptDialect } from "./script-dialect.ts";

/** A script of a set, as far as its language depends on it. */
interface SetScript {
  text: string;
  path?: string;
  options: ReviewOptions;
}

/** The share of the scripts of a folder that must look alike for the others to be read like them. */
const MOST = 2 / 3;

/**
 * The languages of scripts that stand together: what each says or shows itself; where that is nothing, or little and against the
 * others of its folder, what most of them show, as long as it reads the script.
 */
export function setDialects(scripts: readonly SetScript[]): DialectGuess[] {
  const guesses = scripts.map(({ text, options }) => scriptDialect(text, options));
  const folders = new Map<string, number[]>();
  for (const [i, { text, path = "", options }] of scripts.entries()) {
    // What somebody says, and the name of the script itself, stand.
    if (knownDialect(text, options) !== null || pathDialect(path)?.near) continue;
    const folder = path.replaceAll("\\", "/").replace(/[^/]*$/, "");
    const list = folders.get(folder);
    if (list) list.push(i);
    else folders.set(folder, [i]);
  }
  for (const list of folders.values()) {
    const votes = new Map<DialectId, number>();
    let signs = 0;
    for (const i of list) {
      if (guesses[i].reason === "") continue;
      signs++;
      votes.set(guesses[i].dialect, (votes.get(guesses[i].dialect) ?? 0) + 1);
    }
    const [first] = [...votes].sort((a, b) => b[1] - a[1]);
    if (!first || first[1] < signs * MOST) continue;
    const [dialect] = first;
    const reason = `the scripts beside it look like ${dialects[dialect].title}`;
    for (const i of list)
      if (guesses[i].dialect !== dialect && reads(scripts[i].text, dialect)) guesses[i] = { dialect, reason };
  }
  return guesses;
}
