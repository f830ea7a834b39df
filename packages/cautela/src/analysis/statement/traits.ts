/**
 * What a statement holds, as bits: a hazard names what it cannot do without, and is looked for only where
 * one of these occurs. They may be set too often, never too seldom.
 */
export const Trait = {
  /** A call of a function. */
  call: 1,
  /** A SELECT, of its own or inside. */
  query: 1 << 1,
  /** A placeholder. */
  hole: 1 << 2,
  /** IN, with a list or a query. */
  in: 1 << 3,
  like: 1 << 4,
  or: 1 << 5,
  and: 1 << 6,
  case: 1 << 7,
  /** NULL as a value, what may stand for it: DEFAULT, the empty string of some dialects. */
  null: 1 << 8,
  /** JOIN. */
  joined: 1 << 9,
  /** More than one relation. */
  several: 1 << 10,
  /** A relation under another name. */
  alias: 1 << 11,
  /** `<>`, NOT IN, NOT LIKE. */
  unequal: 1 << 12,
  /** A text or a date. */
  text: 1 << 13,
  /** Rows that it updates, deletes or truncates. */
  change: 1 << 14,
  /** Something follows from its changes: triggers, cascades, views, rules, routines. */
  ripple: 1 << 15,
  /** A name that means nothing, or several things. */
  openName: 1 << 16,
  /** ON CONFLICT names columns. */
  conflictTarget: 1 << 21,
  /** INSERT lists its columns. */
  columnList: 1 << 23,
  /** It makes, changes or drops objects. */
  structure: 1 << 26,
  /** It could not be read. */
  unread: 1 << 25,
  /** A name that begins with a typographic quote. */
  typographic: 1 << 24,
  /** A variable. */
  variable: 1 << 22,
  /** Comments before it or in it. */
  comment: 1 << 17,
  /** A table that says which values it takes: CHECK, enumerations. */
  listed: 1 << 18,
  /** A table with columns that the engine fills by itself. */
  computed: 1 << 19,
  /** A table that refers to another one, or is referred to. */
  referring: 1 << 20,
} as const;
