import type { DialectId } from "../sql/dialects/dialect.ts";

/** What kind of data a table holds: see the table classes of the guide. */
export type TableClass = "business" | "log" | "scratch" | "regenerable" | "single-row";

/** The weight that a team gives a hazard; `off`: it is not looked for. */
export type PolicyWeight = "stop" | "ask" | "note" | "off";

/**
 * What a team has agreed on. All of it may be left out. In patterns of tables and scripts `*` stands for any characters, see
 * `policy/patterns.ts`.
 *
 * @example
 * const policy: Policy = {
 *   tables: { tide_reading: "log" },
 *   "unfiltered-by": { mooring: "port_id" },
 *   rules: [{ scripts: "billing/*", dialect: "mysql" }, { tables: "import_*", weights: { "every-row": "note" } }],
 * };
 */
export interface Policy {
  /** The language of the scripts, where neither the call nor the script says another. */
  dialect?: DialectId;
  /** What the database holds: DDL, a snapshot, a URL. The command reads them; the library is given a catalog. */
  catalog?: string | readonly string[];
  /** Which files of a folder are scripts, and in which order they run. */
  scripts?: ScriptFolders;
  /** The class of a table by its name or a pattern; an exact name goes before a pattern. */
  tables?: Readonly<Record<string, TableClass>>;
  /** Another weight for a hazard, or `off`. */
  weights?: Readonly<Record<string, PolicyWeight>>;
  /** How the team keeps copies. */
  backup?: {
    /** The name of a copy: `{table}` and `{date}` are filled in. `{table}_before_{date}` if left out. */
    name?: string;
    /** Where all tables are kept anyway, in a few words: nothing needs a copy of its own then. */
    elsewhere?: string;
  };
  /** Scripts of a first installation, by patterns. What they make is their own. */
  install?: readonly string[];
  /** Session settings that hold when the script begins: `foreign_keys: on`. */
  settings?: Readonly<Record<string, string>>;
  /** The columns on which every change of a table must filter, by patterns of tables: `missing-column-filter`. */
  "unfiltered-by"?: Readonly<Record<string, string | readonly string[]>>;
  /** Tables of which a statement may change one row only, by patterns: `too-many-rows`. */
  "one-by-one"?: readonly string[];
  /** The most rows that a statement may change without an expectation, by patterns of tables: `too-many-rows`. */
  "row-bounds"?: Readonly<Record<string, number>>;
  /** Statements that are not to be run: `forbidden`. */
  forbidden?: readonly Forbidden[];
  /** When nothing is to be changed: `frozen`. */
  freeze?: readonly Freeze[];
  /** What holds for some scripts, or for some tables, only. Later rules go over earlier ones. */
  rules?: readonly PolicyRule[];
}

/** Which files of a folder are scripts. */
export interface ScriptFolders {
  /** Patterns of the files that are scripts; the usual endings of SQL files if left out. */
  files?: readonly string[];
  /** Patterns of the scripts that take others back. */
  undo?: readonly string[];
  /** A file that lists the scripts in the order in which they run; by their names, with numbers as numbers, if left out. */
  index?: string;
}

/** A statement that the team does not run. */
export interface Forbidden {
  /** What it is: `truncate`, `drop table`, `drop column`, `grant`; see {@link STATEMENT_WORDS}. */
  statement: string | readonly string[];
  /** Only for these tables, by patterns. */
  tables?: string | readonly string[];
  /** Why, in the team's own words: the message of the finding. */
  because: string;
}

/** A time in which nothing is changed. Times are those of the date that the review is given; they have no zone. */
export interface Freeze {
  /** The first day of a span, `2026-12-20`, or its first moment, `2026-12-20T18:00`. */
  from?: string;
  /** The last day of a span, which belongs to it, or the moment at which it ends. */
  to?: string;
  /** The days of the week, `fri`; every day of the span if left out. */
  days?: readonly Weekday[];
  /** Hours of each of these days: `16:00-24:00`; all day if left out. */
  hours?: string;
  /** Only for these tables, by patterns. */
  tables?: string | readonly string[];
  /** Why, in the team's own words. */
  because: string;
}

export const WEEKDAYS = ["sun", "mon", "tue", "wed", "thu", "fri", "sat"] as const;
export type Weekday = (typeof WEEKDAYS)[number];

/** What holds for scripts in a folder, or for some tables. */
export interface PolicyRule {
  /** The scripts, by patterns; all if left out. */
  scripts?: string | readonly string[];
  /** The tables that a statement changes, by patterns; all if left out. With tables, only weights are given. */
  tables?: string | readonly string[];
  weights?: Readonly<Record<string, PolicyWeight>>;
  dialect?: DialectId;
  catalog?: string | readonly string[];
  backup?: Policy["backup"];
  settings?: Policy["settings"];
}
