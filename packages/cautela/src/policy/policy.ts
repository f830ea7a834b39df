/** What kind of data a table holds: see the table classes of the guide. */
export type TableClass = "business" | "log" | "scratch" | "regenerable" | "single-row";

/** What a team has agreed on. All of it may be left out. */
export interface Policy {
  /** The class of a table by its name: `business`, `log`, `scratch`, `regenerable`, `single-row`. */
  tables?: Readonly<Record<string, TableClass>>;
  /** Another weight for a hazard, or `off`. */
  weights?: Readonly<Record<string, "stop" | "ask" | "note" | "off">>;
  /** How the team keeps copies. */
  backup?: {
    /** The name of a copy: `{table}` and `{date}` are filled in. `{table}_before_{date}` if left out. */
    name?: string;
    /** Where all tables are kept anyway, in a few words: nothing needs a copy of its own then. */
    elsewhere?: string;
  };
  /** Scripts of a first installation, by their paths; `*` stands for any characters. What they make is their own. */
  install?: readonly string[];
  /** Session settings that hold when the script begins: `foreign_keys: on`. */
  settings?: Readonly<Record<string, string>>;
}

/** Whether a path is meant by one of the patterns, in which `*` stands for any characters. */
export function isPathOf(path: string, patterns: readonly string[]): boolean {
  return patterns.some((pattern) => {
    const parts = pattern.split("*");
    if (parts.length === 1) return path === pattern || path.endsWith(`/${pattern}`);
    if (!path.startsWith(parts[0])) return false;
    let at = parts[0].length;
    for (const part of parts.slice(1, -1)) {
      const found = path.indexOf(part, at);
      if (found < 0) return false;
      at = found + part.length;
    }
    const last = parts[parts.length - 1];
    return path.length - last.length >= at && path.endsWith(last);
  });
}
