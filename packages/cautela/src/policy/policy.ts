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
  /** Session settings that hold when the script begins: `foreign_keys: on`. */
  settings?: Readonly<Record<string, string>>;
}
