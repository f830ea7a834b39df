/** What may depend on a table or a column, see `dependentsOf`. */
export type DependentKind = "view" | "trigger" | "routine" | "rule" | "key" | "check" | "column";

/** A drop, as far as it matters to what depends on it. */
export interface LossRules {
  /** A column goes, and not the whole object. */
  readonly column: boolean;
  readonly cascade: boolean;
  /** A CHECK speaks of the column and of no other. */
  readonly alone: boolean;
  /** Foreign keys are checked in this session. */
  readonly keysChecked: boolean;
}

/** A column that a key, a check or a computed column uses is not dropped, nor a table to which a key refers. */
export function keysOrConstraints(kind: DependentKind, { column }: LossRules): boolean {
  return kind === "key" || (column && (kind === "check" || kind === "column"));
}

/** How an engine deals with types, values, names, keys and triggers, as far as engines differ. */
export interface EngineRules {
  /** A foreign key may refer to a table that is not there yet. */
  readonly lateReferences: boolean;
  /** A DEFAULT is a constraint with a name. */
  readonly namedDefaults: boolean;
  /** Every table that an UPDATE joins must be one that could be written itself, and SET takes no subquery. */
  readonly writableJoins: boolean;
  /** Where the name of a constraint may stand once: in its table, or in the schema, for keys alone or for all of them. */
  readonly constraintNames: "table" | "keys-in-schema" | "schema";
  /** What the engine calls a constraint that has no name: `mooring_fee_check` after its columns, `mooring_ibfk_1` by numbers. */
  readonly constraintsCalled: "by-columns" | "by-numbers" | "unknown";
  /** How a CHECK without a name is called (mysql, mariadb; there one that stands in a column has the name of the column). */
  readonly checksCalled: "constraint_n" | "table_chk_n" | null;
  /** Whether a subquery may read the table that its UPDATE, DELETE or INSERT … VALUES changes. */
  readonly ownTableRead: "allowed" | "no-named-delete" | "refused";
  /** The width of `int(11)` says nothing. */
  readonly dropsWidths: boolean;
  /** `json` is a long text with a check. */
  readonly jsonIsText: boolean;
  /** `text(40)` bounds the text. */
  readonly textLengths: boolean;
  /** `serial` is an integer with a sequence. */
  readonly serialTypes: boolean;
  /** A DATE holds a time as well. */
  readonly dateHasTime: boolean;
  /** A column takes any value of any length, whatever its type (sqlite.org/datatype3.html). */
  readonly affinities: boolean;
  /** Integer types have bounds. */
  readonly boundedIntegers: boolean;
  /** `tinyint` begins at 0. */
  readonly unsignedTinyint: boolean;
  /** Values of an enumeration compare with regard to case; enumerations are types of their own. */
  readonly exactEnumerations: boolean;
  /** Text compares without regard to case where nothing else is said. */
  readonly looseText: boolean;
  /** `bit` holds strings of bits. */
  readonly bitStrings: boolean;
  /** A boolean column takes true and false, in words too, and no number. */
  readonly strictBooleans: boolean;
  /** Types can be made, with functions of their own that run when values are compared or read. */
  readonly ownTypes: boolean;
  /** The year of a date is read first, whatever the settings say (dev.mysql.com, "Date and Time Literals"). */
  readonly datesYearFirst: boolean;
  /** A date column takes no number. */
  readonly strictDates: boolean;
  /** A fraction is cut off on the way into a column of whole numbers, and not rounded. */
  readonly truncatesNumbers: boolean;
  /** An empty text is read as a number or a date: 0, or NULL. */
  readonly emptyTextReads: boolean;
  /** 'today', 'infinity' and their like are dates. */
  readonly dateWords: boolean;
  /** The empty string is NULL; REPLACE and concatenation leave NULLs out. */
  readonly emptyIsNull: boolean;
  /** `&` joins texts and leaves NULLs out. */
  readonly ampersandSkipsNull: boolean;
  /** CONCAT gives NULL where an argument is NULL. */
  readonly concatBlanks: boolean;
  /** `7 / 2` is 3. */
  readonly integerDivision: boolean;
  /** A text column is not compared with a number. */
  readonly refusesTextWithNumber: boolean;
  /** A text that is no number is 0 where a number is wanted. */
  readonly textReadsAsZero: boolean;
  /** Words that later versions reserved: names of tables that older ones take bare. Null: none. */
  readonly laterWords: RegExp | null;
  /** A column that is added NOT NULL and without a default gets 0 or an empty text in the rows that are there (mysql). */
  readonly fillsNewColumns: boolean;
  /** A unique key is looked at after each row, and not at the end of the statement. */
  readonly checksKeysByRow: boolean;
  /** LIKE has `*`, `?` and `#`. */
  readonly likeStar: boolean;
  /** True is -1, and a yes/no column holds nothing but -1 and 0 (Jet). */
  readonly trueIsMinusOne: boolean;
  /** A backslash escapes in a pattern of LIKE. */
  readonly backslashInLike: boolean;
  /** An INTEGER PRIMARY KEY is the number of the row; other primary keys may hold NULLs. */
  readonly rowidKey: boolean;
  /** A required timestamp column fills itself. */
  readonly stampsTimestamps: boolean;
  /** `timestamp` counts the changes of its row. */
  readonly rowversion: boolean;
  /** NULL is DEFAULT for a generated column. */
  readonly nullIsDefault: boolean;
  /** An identity is never updated, and takes a value only under IDENTITY_INSERT. */
  readonly fixedIdentity: boolean;
  /** OVERRIDING SYSTEM VALUE lets a value into an identity. */
  readonly overridingIdentity: boolean;
  /** A GENERATED ALWAYS identity takes no value at all. */
  readonly closedIdentity: boolean;
  /** OUTPUT without INTO is refused on a table with a trigger. */
  readonly outputNeedsInto: boolean;
  /** A trigger may fire again by way of another one although triggers do not fire themselves (nested triggers). */
  readonly indirectRecursion: boolean;
  /** A MERGE may not change a column of its ON. */
  readonly mergeKeepsCondition: boolean;
  /** A unique key takes one NULL only. */
  readonly oneNullInUnique: boolean;
  /** INSERT without a list may give fewer values than the table has columns. */
  readonly shorterInsert: boolean;
  /** MODIFY changes of a column only what it names. */
  readonly modifyKeeps: boolean;
  /** CREATE TABLE (LIKE …) takes only what INCLUDING names. */
  readonly likeIncludes: boolean;
  /** The type of a column may be a domain. */
  readonly domains: boolean;
  /** `DROP INDEX berth.index`. */
  readonly indexOfTable: boolean;
  /** A computed column without an alias is called `?column?`. */
  readonly questionLabels: boolean;
  /** SET search_path decides where names are looked up. */
  readonly searchPath: boolean;
  /** Triggers fire in the order of their names; functions state their volatility. */
  readonly triggersByName: boolean;
  /** The name after UPDATE may be an alias of FROM, or its table named again. */
  readonly targetThroughFrom: boolean;
  /** Every clause sees the aliases of the select list. */
  readonly aliasesEverywhere: boolean;
  /** GROUP BY and ORDER BY see the aliases of the select list. */
  readonly aliasesInGroup: boolean;
  /** HAVING sees the aliases of the select list. */
  readonly aliasesInHaving: boolean;
  /** The select list sees its own aliases. */
  readonly aliasesInList: boolean;
  /** An alias of the select list hides a column of that name. */
  readonly aliasHidesColumn: boolean;
  /** A function in FROM sees the tables before it. */
  readonly lateralFunctions: boolean;
  /** Joins of FROM do not see the target of UPDATE. */
  readonly targetBesideFrom: boolean;
  /** A joined UPDATE changes whichever table SET names. */
  readonly manyUpdateTargets: boolean;
  /** A name in double quotes that is no column is a string (sqlite.org/quirks.html, 8). */
  readonly quotedStrings: boolean;
  /** `database.schema.table`: tables of another database than the script began in are kept apart. */
  readonly threePartNames: boolean;
  /** USER_ and ALL_ views are the engine's own. */
  readonly dictionaryViews: boolean;
  /** A text becomes a date by a setting of the session (NLS_DATE_FORMAT), and is refused where it does not fit. */
  readonly datesBySession: boolean;
  /** Triggers fire for rows that a key changes. */
  readonly cascadesFireTriggers: boolean;
  /** TRUNCATE … CASCADE empties every table that refers to it. */
  readonly truncateCascades: boolean;
  /** Delete triggers fire for replaced rows only under recursive_triggers. */
  readonly replaceNeedsRecursion: boolean;
  /** Long text: cut at 255 characters by DISTINCT, and lost in a shorter column; outer joins add rows to the side that is filled (jet). */
  readonly desktopRules: boolean;
  /** A foreign key refers to a table of the schema in which its own table is, whatever else has that name. */
  readonly keysStayInSchema: boolean;
  /** A trigger may roll the transaction back. */
  readonly rollbackInTriggers: boolean;
  /** RAISE(…) is a function of triggers. */
  readonly raiseFunction: boolean;
  /** A row trigger may not change a table that its statement changes. */
  readonly mutatingTables: boolean;
  /** Rules act besides or instead. */
  readonly rules: boolean;
  /** A trigger fires once for a statement. */
  readonly statementTriggers: boolean;
  /** A row trigger that fires before drops the row by returning NULL. */
  readonly nullSwallowsRow: boolean;
  /** BEGIN inside a transaction counts; only the outermost COMMIT commits. */
  readonly nestedTransactions: boolean;
  /** `foreign_keys` is a setting of the session. */
  readonly pragmas: boolean;
  /** DROP TABLE deletes the rows of the table first, by which foreign keys that are on act on other tables. */
  readonly dropDeletesRows: boolean;
  /** A query may stand where the table to be changed stands. */
  readonly queryTargets: boolean;
  /** A joined view takes values for columns of several tables. */
  readonly writesBothSides: boolean;
  /** CREATE OR REPLACE VIEW may only add columns at the end. */
  readonly appendsViewColumns: boolean;
  /** A comparison is a value that a column takes. */
  readonly booleansAreValues: boolean;
  /** A column may be assigned twice: the last one wins. */
  readonly lastAssignmentWins: boolean;
  /** An assignment sees what the ones before it have assigned. */
  readonly assignsInOrder: boolean;
  /** Double quotes are for names, and a name that is none is refused. */
  readonly strictQuotedNames: boolean;
  /** Modules of the database may hold functions that no catalog tells. */
  readonly moduleFunctions: boolean;
  /** An unknown name becomes a prompt. */
  readonly promptsForNames: boolean;
  /** ROWNUM limits rows. */
  readonly rownum: boolean;
  /** `DELETE a.* FROM …` names its target. */
  readonly starTargets: boolean;
  /** SELECT … INTO makes a copy, and not CREATE TABLE … AS. */
  readonly copiesByInto: boolean;
  /** USE changes the database. */
  readonly useDatabase: boolean;
  /** DROP … CASCADE takes the views that read what is dropped. */
  readonly cascadeTakesViews: boolean;
  /** A view goes on reading its tables and columns when they get other names. */
  readonly viewsFollowNames: boolean;
  /** IGNORE also bends values that do not fit. */
  readonly ignoreBendsValues: boolean;
  /** A rename is refused while any view is broken. */
  readonly renameChecksViews: boolean;
  /** Names of types, and the names under which the catalog keeps them. */
  readonly typeNames: Readonly<Record<string, string>>;
  /** Precision and scale of a bare DECIMAL; null: none. */
  readonly decimalDefault: readonly string[] | null;
  /** The length of a text without one; null: no bound. */
  readonly defaultTextLength: number | null;
  /** The type of COUNT. */
  readonly countType: string;
  /** How else a number may be written in a text; null: in any way that holds a digit. */
  readonly numberForms: RegExp | null;
  /** Types whose values are compared with nothing: = and IN are refused, LIKE and IS NULL may be taken. */
  readonly uncomparable: { readonly types: RegExp; readonly remedy: string } | null;
  /** Characters that a name may have. */
  readonly longestName: number;
  /** Names that every row has, or functions without parentheses, folded. */
  readonly pseudoColumns: ReadonlySet<string>;
  /** Functions whose first argument is a word: the unit of DATEADD. */
  readonly unitFirst: RegExp | null;
  /** Functions whose later arguments are a type. */
  readonly typeLast: RegExp | null;
  /** How the body of a routine is written. */
  readonly routineBody: "quoted" | "batch" | "package" | "statement" | "trigger" | "compound";
  /** What is missing where a key is enabled and its rows are not checked, and what is written; `{table}` is filled in. */
  readonly revalidation: { readonly lack: string; readonly remedy: string } | null;
  /** Whether a dependent makes the engine refuse a drop. */
  readonly refusesDrop: (dependent: DependentKind, loss: LossRules) => boolean;
  /** Whether a dependent stops working when what it names is renamed. */
  readonly breaksOnRename: (dependent: DependentKind, column: boolean) => boolean;
}

type Flag = { [Name in keyof EngineRules]: EngineRules[Name] extends boolean ? Name : never }[keyof EngineRules];
type Rule = Omit<EngineRules, Flag>;

/** An engine with the named properties and no others, and with rules of its own. */
export function engineOf(names: readonly Flag[], rules: Partial<Rule> = {}): EngineRules {
  const engine: Record<Flag, boolean> = { ...NONE };
  for (const name of names) engine[name] = true;
  return { ...engine, ...USUAL, ...rules };
}

const USUAL: Rule = {
  constraintNames: "table",
  checksCalled: null,
  constraintsCalled: "unknown",
  ownTableRead: "allowed",
  typeNames: {},
  decimalDefault: ["10", "0"],
  defaultTextLength: null,
  countType: "bigint",
  numberForms: null,
  uncomparable: null,
  longestName: 64,
  pseudoColumns: new Set(),
  unitFirst: null,
  typeLast: null,
  laterWords: null,
  routineBody: "compound",
  revalidation: null,
  refusesDrop: () => false,
  breaksOnRename: () => true,
};

const NONE: Record<Flag, boolean> = {
  lateReferences: false,
  namedDefaults: false,
  writableJoins: false,
  dropsWidths: false,
  jsonIsText: false,
  textLengths: false,
  serialTypes: false,
  dateHasTime: false,
  affinities: false,
  boundedIntegers: false,
  unsignedTinyint: false,
  exactEnumerations: false,
  looseText: false,
  bitStrings: false,
  strictBooleans: false,
  ownTypes: false,
  datesYearFirst: false,
  strictDates: false,
  truncatesNumbers: false,
  emptyTextReads: false,
  dateWords: false,
  emptyIsNull: false,
  ampersandSkipsNull: false,
  concatBlanks: false,
  integerDivision: false,
  refusesTextWithNumber: false,
  textReadsAsZero: false,
  fillsNewColumns: false,
  checksKeysByRow: false,
  likeStar: false,
  trueIsMinusOne: false,
  backslashInLike: false,
  rowidKey: false,
  stampsTimestamps: false,
  rowversion: false,
  nullIsDefault: false,
  fixedIdentity: false,
  overridingIdentity: false,
  closedIdentity: false,
  outputNeedsInto: false,
  indirectRecursion: false,
  mergeKeepsCondition: false,
  oneNullInUnique: false,
  shorterInsert: false,
  modifyKeeps: false,
  likeIncludes: false,
  domains: false,
  indexOfTable: false,
  questionLabels: false,
  searchPath: false,
  triggersByName: false,
  targetThroughFrom: false,
  aliasesEverywhere: false,
  aliasesInGroup: false,
  aliasesInHaving: false,
  aliasesInList: false,
  aliasHidesColumn: false,
  lateralFunctions: false,
  targetBesideFrom: false,
  manyUpdateTargets: false,
  quotedStrings: false,
  threePartNames: false,
  dictionaryViews: false,
  datesBySession: false,
  cascadesFireTriggers: false,
  truncateCascades: false,
  replaceNeedsRecursion: false,
  desktopRules: false,
  keysStayInSchema: false,
  rollbackInTriggers: false,
  raiseFunction: false,
  mutatingTables: false,
  rules: false,
  statementTriggers: false,
  nullSwallowsRow: false,
  nestedTransactions: false,
  pragmas: false,
  dropDeletesRows: false,
  queryTargets: false,
  writesBothSides: false,
  appendsViewColumns: false,
  booleansAreValues: false,
  lastAssignmentWins: false,
  assignsInOrder: false,
  strictQuotedNames: false,
  moduleFunctions: false,
  promptsForNames: false,
  rownum: false,
  starTargets: false,
  copiesByInto: false,
  useDatabase: false,
  cascadeTakesViews: false,
  viewsFollowNames: false,
  ignoreBendsValues: false,
  renameChecksViews: false,
};
