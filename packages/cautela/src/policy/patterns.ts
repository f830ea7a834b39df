/**
 * Whether a text is meant by a pattern in which `*` stands for any characters, none included. Linear in both.
 *
 * @example
 * matches("mooring_log", "mooring*") // true
 */
export function matches(text: string, pattern: string): boolean {
  const parts = pattern.split("*");
  const [first] = parts;
  if (parts.length === 1) return text === pattern;
  const last = parts[parts.length - 1];
  if (!text.startsWith(first) || text.length < first.length + last.length || !text.endsWith(last)) return false;
  let at = first.length;
  for (const part of parts.slice(1, -1)) {
    const found = text.indexOf(part, at);
    if (found < 0) return false;
    at = found + part.length;
  }
  return text.length - last.length >= at;
}

/**
 * Whether a script is meant by one of the patterns: one with a `/` is compared with its path, any other with the name of its
 * file. A path may have further folders before it.
 *
 * @example
 * isScriptOf("db/billing/3_rates.undo.sql", ["*.undo.sql"]) // true: the name of the file
 * isScriptOf("db/billing/3_rates.sql", ["billing/*"])       // true: folders may stand before
 */
export function isScriptOf(path: string, patterns: readonly string[]): boolean {
  const steps = path.replaceAll("\\", "/");
  const name = steps.slice(steps.lastIndexOf("/") + 1);
  return patterns.some((pattern) => {
    if (!pattern.includes("/")) return matches(name, pattern);
    const own = pattern.replace(/^\.?\//, "");
    return matches(steps, own) || matches(steps, `*/${own}`);
  });
}

/**
 * Whether a table is meant by one of the patterns, whatever the case: a pattern with a dot is compared with its name and
 * schema, any other with its name alone.
 *
 * @example
 * isTableOf("public.tide_reading", ["tide_*"]) // true
 */
export function isTableOf(shown: string, patterns: readonly string[]): boolean {
  const full = shown.toLowerCase();
  const bare = full.slice(full.lastIndexOf(".") + 1);
  return patterns.some((pattern) => matches(pattern.includes(".") ? full : bare, pattern.toLowerCase()));
}

/** What may be one or several, as several. */
export function listOf(one: string | readonly string[] | undefined): readonly string[] {
  return one === undefined ? [] : typeof one === "string" ? [one] : one;
}
