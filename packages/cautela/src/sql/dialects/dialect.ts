import type { K } from "../lexer/keywords.ts";
import type { EngineRules } from "./engine.ts";
import type { ObjectWords } from "./objects.ts";
import type { Syntax } from "./syntax.ts";

/** The languages that Cautela reads, by their design ids. */
export type DialectId = "postgresql" | "mysql" | "mariadb" | "sqlite" | "tsql" | "plsql" | "jet";

/** How characters become tokens. Only what differs between dialects is here. */
export interface LexicalRules {
  /** `"x"` is a string and not a name (mysql without ANSI_QUOTES, jet). */
  readonly doubleQuoteIsString: boolean;
  readonly backticks: boolean;
  /** `[x]` is a name. */
  readonly brackets: boolean;
  /** A backslash escapes the next character in every ordinary string. */
  readonly backslashEscapes: boolean;
  /** `E'…'` strings with backslash escapes, `U&'…'`, dollar quotes. */
  readonly escapeStrings: boolean;
  readonly dollarQuotes: boolean;
  /** Oracle's `q'[…]'`. */
  readonly alternativeQuotes: boolean;
  readonly nestedComments: boolean;
  /** `# to the end of the line`. */
  readonly hashComments: boolean;
  /** `--` begins a comment only before a blank (mysql). */
  readonly dashNeedsBlank: boolean;
  /** The newest version number whose `/*!NNNNN` text is executed; 0: an ordinary comment. */
  readonly conditionalComments: number;
  /** Versions between these two are not executed either (mariadb skips MySQL's 5.7 to 9.9). */
  readonly conditionalGap: readonly [number, number] | null;
  /** `@x` and `@@x` are variables. */
  readonly atVariables: boolean;
  /** Any run of operator characters is one operator (postgresql). */
  readonly freeOperators: boolean;
  /** `#2024-12-31#`. */
  readonly hashDates: boolean;
  /** Characters beyond letters, digits and `_` that stand inside a word: `$`, `#`, `@`. */
  readonly wordCharacters: string;
  /** `&name` stands for text that the client asks for. */
  readonly ampersandHoles: boolean;
  /** `$(name)` stands for a variable of the client. */
  readonly parenHoles: boolean;
  /** The client program whose directive lines and separators the files hold; several dialects may share one. */
  readonly client: "psql" | "mysql-client" | "sqlite-client" | "sqlcmd" | "sqlplus" | "none";
}

/** What the grammar does differently. */
export interface GrammarRules {
  /** Words that are never a name, an alias or a function unless quoted. */
  readonly reserved: readonly K[];
  /** Words that may name a column but are no alias without AS. */
  readonly notAlias: readonly K[];
  readonly objects: ObjectWords;
  /** The first words of what ALTER TABLE does, in lower case. */
  readonly tableActions: ReadonlySet<string>;
  /** Words, in lower case, that clauses of columns and constraints have besides the words of the grammar. */
  readonly clauseWords: ReadonlySet<string>;
  /** Statements follow each other without a terminator (tsql). */
  readonly bareStatements: boolean;
  /** `UPDATE a JOIN b … SET` and `UPDATE a, b SET`. */
  readonly joinedUpdate: boolean;
  /** `SET a = 1 AND b = 2` is one assignment of a boolean. */
  readonly booleanAssignment: boolean;
  /** `||` is OR (mysql). */
  readonly pipesAreOr: boolean;
  /** `&&` is AND. */
  readonly ampersandsAreAnd: boolean;
  /** How an unquoted name is folded before it is compared. */
  readonly fold: "lower" | "upper" | "keep";
  /** Names compare without regard to case even when quoted. */
  readonly looseNames: boolean;
  /** The schema of a name without one. */
  readonly defaultSchema: string;
  /** The databases that come with the engine, folded: a script that begins in one of them is meant for another. */
  readonly systemDatabases: readonly string[];
  /** The schema of temporary tables, which hide others of their name; empty: they are told apart by their names. */
  readonly temporarySchema: string;
  /** A temporary table belongs to a schema, and hides that schema's table of its name (mysql). */
  readonly temporaryBesides: boolean;
}

/** The settings of a session that decide what fires. */
export interface SessionState {
  /** Foreign keys are enforced; null: the engine's default says no, and whoever connects may have said yes (sqlite). */
  readonly keys: boolean | null;
  /** Triggers of ordinary sessions fire (false under `session_replication_role = replica`). */
  readonly triggers: boolean;
  /** A trigger can fire itself again: `recursive_triggers` (sqlite). */
  readonly recursion: boolean;
}

/** The value of a session setting in lower case; null where nobody has set it. */
export type SessionSetting = (name: string) => string | null;

/** Whether a setting is on, in any way to write that. */
export function isOn(value: string): boolean {
  return /^(?:on|1|true|yes)$/.test(value);
}

/** How statements take effect. */
export interface RunRules {
  /** What fires, as settings have it. */
  readonly session: (setting: SessionSetting) => SessionState;
  /** DDL statements commit the open transaction silently. */
  readonly structureCommits: boolean;
  /** There is always a transaction open; nothing commits by itself. */
  readonly alwaysInTransaction: boolean;
  /** The heads of statements that are refused inside a transaction. */
  readonly refusedInTransaction: RegExp | null;
  /** Settings that do nothing inside a transaction, by their names. */
  readonly idleInTransaction: ReadonlySet<string>;
}

/** One dialect: the differences, and nothing that all share. */
export interface Dialect {
  readonly id: DialectId;
  readonly title: string;
  readonly lexical: LexicalRules;
  readonly grammar: GrammarRules;
  readonly syntax: Syntax;
  readonly engine: EngineRules;
  readonly run: RunRules;
  /** 1 for a reserved word, 2 for a word that is no bare alias, 3 for both; by keyword number. */
  readonly wordClass: Uint8Array;
}

/** Builds a dialect from its differences and prepares its table of words. */
export function dialect(
  id: DialectId,
  title: string,
  lexical: LexicalRules,
  grammar: GrammarRules,
  syntax: Syntax,
  engine: EngineRules,
  run: RunRules,
): Dialect {
  const wordClass = new Uint8Array(1024);
  for (const word of grammar.reserved) wordClass[word] = 3;
  for (const word of grammar.notAlias) wordClass[word] |= 2;
  return { id, title, lexical, grammar, syntax, engine, run, wordClass };
}
