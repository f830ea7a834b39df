/**
 * Pieces of syntax that not every language has, each by what it is. A dialect states which it has; the grammar asks for
 * these and never for a dialect.
 */
export interface Syntax {
  /** `INTERVAL expression unit`. */
  readonly unitIntervals: boolean;
  /** `_utf8mb4 0xE29883`: bytes in a character set. */
  readonly introducers: boolean;
  /** `Forms!berth!code`. */
  readonly bangNames: boolean;
  /** `berth@link`: a table behind a database link. */
  readonly remoteNames: boolean;
  /** `f(name => value)`. */
  readonly namedArguments: boolean;
  /** `ALTER TABLE a SWITCH PARTITION 2 TO b`. */
  readonly partitionSwitch: boolean;
  /** `harbour..berth`: the schema is left out. */
  readonly emptyNameParts: boolean;
  /** `KEY name (columns)` and `INDEX` among the columns of CREATE TABLE, and `KEY` for PRIMARY KEY after a column. */
  readonly inlineKeys: boolean;
  /** `CHECK NOT FOR REPLICATION`. */
  readonly replicationOptions: boolean;
  /** `EXCLUDE USING gist (…)`. */
  readonly exclusions: boolean;
  /** `INDEX name (columns)` among the columns of CREATE TABLE. */
  readonly inlineIndexes: boolean;
  /** Constraints of a table may follow each other without commas. */
  readonly commalessConstraints: boolean;
  /** A routine is the only statement of its batch, to whose end it goes. */
  readonly routineFillsBatch: boolean;
  /** Declarations with semicolons stand before the BEGIN of a routine. */
  readonly declaresBeforeBegin: boolean;
  /** `VALUES(column)` is a function in an upsert. */
  readonly valuesFunction: boolean;
  /** `TABLE berth` is a query. */
  readonly tableQueries: boolean;
  /** `TRANSFORM … PIVOT …`. */
  readonly crosstabs: boolean;
  /** LIMIT is no clause and may be a name. */
  readonly limitIsName: boolean;
  /** `SELECT … FROM … INTO @x`: INTO stands at the end, and only there. */
  readonly intoAtEnd: boolean;
  /** `WITH OWNERACCESS OPTION`. */
  readonly ownerAccess: boolean;
  /** `PROCEDURE ANALYSE(…)` after a query (old servers). */
  readonly procedureAnalyse: boolean;
  /** `FOR XML`, `FOR JSON` and `FOR BROWSE` after a query; rows are locked by hints. */
  readonly forXml: boolean;
  /** No FOR UPDATE stands after a query. */
  readonly noLockingReads: boolean;
  /** `WITH FUNCTION …` before the tables of WITH. */
  readonly functionsInWith: boolean;
  /** MINUS is EXCEPT. */
  readonly minusOperation: boolean;
  /** `SELECT FROM berth` gives rows without columns. */
  readonly emptySelectList: boolean;
  /** `FROM vessel IN 'other.mdb'`. */
  readonly otherFiles: boolean;
  /** `SELECT DISTINCT ON (…)`. */
  readonly distinctOn: boolean;
  /** `SELECT UNIQUE` is DISTINCT. */
  readonly selectUnique: boolean;
  /** `SELECT TOP 5`. */
  readonly topClause: boolean;
  /** `SELECT SQL_NO_CACHE …` and its like. */
  readonly selectOptions: boolean;
  /** `SELECT alias = expression`. */
  readonly aliasEquals: boolean;
  /** `SELECT fee 'the fee'`: a string may be an alias. */
  readonly stringAliases: boolean;
  /** Nearly every word may be a bare label of a column. */
  readonly bareLabels: boolean;
  /** `SELECT … INTO name` outside a routine makes a table. */
  readonly intoMakesTable: boolean;
  /** `SELECT … INTO name` makes a table in a routine as well. */
  readonly intoIsTable: boolean;
  /** `MODEL …`. */
  readonly modelClause: boolean;
  /** `GROUP BY a DESC`. */
  readonly groupDirections: boolean;
  /** `LIMIT … ROWS EXAMINED n`. */
  readonly rowsExamined: boolean;
  /** `CONVERT(value, type)` is a cast. */
  readonly convertComma: boolean;
  /** `a.id = b.id (+)`: an outer join. */
  readonly outerMarks: boolean;
  /** Parentheses may follow a call: `berths(3)(1)`. */
  readonly callsOfCalls: boolean;
  /** The last argument of a call may be left out: `f(a,)`. */
  readonly omittedArgument: boolean;
  /** `FROM a, b ON …`: a comma joins. */
  readonly commaJoins: boolean;
  /** `USE INDEX (…)`, `FORCE KEY (…)`. */
  readonly indexHints: boolean;
  /** EQV and IMP join conditions; they are no reserved words. */
  readonly wordOperators: boolean;
  /** `INNER HASH JOIN`. */
  readonly joinHints: boolean;
  /** `FROM ONLY berth`. */
  readonly onlyTables: boolean;
  /** `WITH (NOLOCK)`, and `(NOLOCK)` alone. */
  readonly tableHints: boolean;
  /** CURRENT_DATE and its like may stand as a table. */
  readonly wordFunctions: boolean;
  /** `FROM (TABLE berth) b`. */
  readonly tableInParentheses: boolean;
  /** `(SELECT … WITH CHECK OPTION)` as a target. */
  readonly inlineViewOptions: boolean;
  /** `FROM berth *`: with its heirs. */
  readonly descendantStar: boolean;
  /** A string may be the alias of a table. */
  readonly stringTableAliases: boolean;
  /** `INDEXED BY name`. */
  readonly indexedBy: boolean;
  /** `SAMPLE (5)`. */
  readonly sampledTables: boolean;
  /** `FOR PORTION OF period FROM … TO …`. */
  readonly portions: boolean;
  /** `VERSIONS BETWEEN …`. */
  readonly flashback: boolean;
  /** PIVOT is no part of FROM. */
  readonly pivotIsName: boolean;
  /** `PIVOT (…)` after a table. */
  readonly pivots: boolean;
  /** A name that begins with # is a temporary table. */
  readonly hashTemporary: boolean;
  /** `CREATE TABLE … OF type`. */
  readonly typedTables: boolean;
  /** CREATE TABLE … AS takes no list of names. */
  readonly noColumnNames: boolean;
  /** `PRIMARY KEY …, STORE AS` and its like: AS does not always begin the query. */
  readonly asAfterStorage: boolean;
  /** `CREATE TABLE … IGNORE SELECT`, `… REPLACE SELECT`. */
  readonly conflictsInSelect: boolean;
  /** `CREATE TYPE name FROM base`. */
  readonly aliasTypes: boolean;
  /** `CREATE TYPE name AS (…)`. */
  readonly compositeTypes: boolean;
  /** `RENAME a TO b`. */
  readonly bareRename: boolean;
  /** `SET NOCOUNT ON` and its like. */
  readonly setOptions: boolean;
  /** `SET LOCAL` holds for the transaction. */
  readonly localSettings: boolean;
  /** A generated column is stored where nothing is said. */
  readonly storesGenerated: boolean;
  /** `CHARSET utf8mb4`. */
  readonly charsetWord: boolean;
  /** `ADD COLUMN depth int AFTER code`, `… FIRST`. */
  readonly columnPlaces: boolean;
  /** `integer ARRAY[3]`. */
  readonly arrayTypes: boolean;
  /** Any words make a type. */
  readonly freeTypes: boolean;
  /** `RETURN … INTO …`. */
  readonly returnClause: boolean;
  /** `SET text.WRITE(…)`, `x.modify(…)`, and methods of what is in parentheses. */
  readonly columnMethods: boolean;
  /** `SET @old = fee = 12`. */
  readonly chainedAssignment: boolean;
  /** `SET VALUE(alias) = object`. */
  readonly objectRows: boolean;
  /** `berth.tags.Value` may be assigned. */
  readonly fieldPaths: boolean;
  /** `UPDATE OR IGNORE`, `INSERT OR REPLACE`. */
  readonly orConflicts: boolean;
  /** `LOW_PRIORITY`, `QUICK`, `DELAYED`, `IGNORE` after the verb; INSERT without INTO, INSERT … SET. */
  readonly changeOptions: boolean;
  /** `UPDATE TOP (10) …`; UPDATE STATISTICS is another statement. */
  readonly topInChanges: boolean;
  /** `UPDATE DISTINCTROW …`, `DELETE DISTINCTROW …`. */
  readonly distinctRows: boolean;
  /** `DELETE HISTORY FROM …`. */
  readonly deleteHistory: boolean;
  /** DELETE without FROM, or with a list of targets before it. */
  readonly bareDelete: boolean;
  /** `DELETE TABLE(…)`, and DELETE of a name alone. */
  readonly deleteExpressions: boolean;
  /** `DELETE FROM a, b USING …`. */
  readonly deleteLists: boolean;
  /** `DELETE FROM v FROM vessel v JOIN …`. */
  readonly doubleFrom: boolean;
  /** `DELETE … FROM a, b`. */
  readonly deleteJoins: boolean;
  /** `INSERT ALL`, `INSERT FIRST`. */
  readonly multiInsert: boolean;
  /** INSERT without INTO. */
  readonly insertWithoutInto: boolean;
  /** `INSERT INTO berth b`. */
  readonly aliasAfterInto: boolean;
  /** An alias without AS after INSERT INTO. */
  readonly bareInsertAlias: boolean;
  /** `VALUES record`. */
  readonly recordValues: boolean;
  /** `INSERT … VALUES (…) AS new ON DUPLICATE KEY …`. */
  readonly rowAliases: boolean;
  /** `INSERT INTO … VALUES … WHERE …` for multi-valued columns. */
  readonly filteredInsert: boolean;
  /** `.berth.code`: a name in the current database. */
  readonly dotNames: boolean;
  /** TRUE and FALSE are names. */
  readonly noBooleans: boolean;
  /** IGNORE is a value, like DEFAULT. */
  readonly ignoreValue: boolean;
  /** There is no DEFAULT among values. */
  readonly noDefaultValue: boolean;
  /** `case.x`: a reserved word before a dot is a name; ROW(…) is no constructor. */
  readonly namesFromWords: boolean;
  /** `ARRAY(SELECT …)`. */
  readonly arrayQueries: boolean;
  /** `national character varying(3) 'x'`, `double precision '1.5'`. */
  readonly typedLiterals: boolean;
  /** PRIOR and CONNECT_BY_ROOT. */
  readonly hierarchies: boolean;
  /** `BINARY name`; MATCH (…) AGAINST (…). */
  readonly binaryOperator: boolean;
  /** There is no CURRENT OF. */
  readonly noCursors: boolean;
  /** `NEW berth_type(…)`. */
  readonly newObjects: boolean;
  /** `ADD a int, b int`, `DROP COLUMN a, b`, `DROP CONSTRAINT a, b`. */
  readonly alterLists: boolean;
  /** CREATE SCHEMA takes the statements that make what stands in it. */
  readonly schemaElements: boolean;
  /** `ALTER TABLE a RENAME b`; `DROP KEY name`. */
  readonly bareTableRename: boolean;
  /** `ALTER COLUMN name type`. */
  readonly typeAfterAlter: boolean;
  /** `!a` is NOT a. */
  readonly bangIsNot: boolean;
  /** `<` binds tighter than `=`, `||` tightest of all. */
  readonly orderedComparisons: boolean;
  /** `&`, `|` and `^` bind like +. */
  readonly bitsLikeSums: boolean;
  /** `&`, the shifts and `|` each have a level of their own. */
  readonly bitLevels: boolean;
  /** `a \\ b` divides whole numbers. */
  readonly wholeDivision: boolean;
  /** XOR joins conditions. */
  readonly xorOperator: boolean;
  /** `a ISNULL`, `a NOTNULL`. */
  readonly nullTests: boolean;
  /** `a NOT NULL`, and IS compares any two values. */
  readonly notNullTest: boolean;
  /** DIV and MOD are operators. */
  readonly wordDivision: boolean;
  /** MULTISET, SUBMULTISET, LIKEC and its like, IS A SET, `(a - b) DAY TO SECOND`. */
  readonly multisets: boolean;
  /** ALIKE. */
  readonly alike: boolean;
  /** ILIKE and SIMILAR TO. */
  readonly ilike: boolean;
  /** GLOB and MATCH. */
  readonly glob: boolean;
  /** REGEXP. */
  readonly regexp: boolean;
  /** RLIKE. */
  readonly rlike: boolean;
  /** `MEMBER OF (…)`. */
  readonly memberOf: boolean;
  /** DECLARE and SET are statements of a routine; PREPARE takes a text. */
  readonly declareStatements: boolean;
  /** A name alone calls a procedure; cursors are declared by CURSOR name. */
  readonly callsByName: boolean;
  /** `x = 1;` assigns, and a value may be a query without SELECT. */
  readonly equalsAssigns: boolean;
  /** The body of a package is not read. */
  readonly packagesApart: boolean;
  /** A trigger fires for each row where nothing is said. */
  readonly rowTriggers: boolean;
  /** The body of a routine stands after AS, its arguments need no parentheses. */
  readonly bodyAfterAs: boolean;
  /** The body of a trigger follows its head; FOLLOWS and PRECEDES order triggers. */
  readonly bodyAfterHead: boolean;
  /** IF, WHILE and DECLARE stand outside routines. */
  readonly controlFlow: boolean;
  /** BEGIN and DECLARE begin a block of code; NEVER a transaction. */
  readonly anonymousBlocks: boolean;
  /** BEGIN NOT ATOMIC and its like outside routines; events. */
  readonly compoundStatements: boolean;
  /** `PARAMETERS name type;` before a query. */
  readonly parameters: boolean;
  /** `REPLACE INTO …`. */
  readonly replaceStatement: boolean;
  /** BEGIN alone begins nothing. */
  readonly beginNeedsWord: boolean;
  /** `BEGIN TRAN name`, `SAVE TRAN name`. */
  readonly namedTransactions: boolean;
  /** END commits. */
  readonly endCommits: boolean;
  /** ABORT rolls back. */
  readonly abort: boolean;
  /** `CREATE PRIVATE TEMPORARY TABLE`, `ALTER SESSION`, bodies of types. */
  readonly privateTables: boolean;
  /** ALTER FUNCTION changes no body. */
  readonly alterRoutines: boolean;
  /** `DO $$ … $$`, `PREPARE name AS …`; `INSERT INTO … (…)` in parentheses. */
  readonly doBlocks: boolean;
  /** ADD names a column without the word COLUMN. */
  readonly bareAdd: boolean;
  /** DROP INDEX names the table as well. */
  readonly indexOfTable: boolean;
  /** `ANALYZE DELETE …` runs the statement and shows its plan. */
  readonly analyzeRuns: boolean;
  /** EXPLAIN and DESCRIBE are no statements of a script. */
  readonly noExplain: boolean;
  /** `^=` and `~=` are <>; `**` is power. */
  readonly caretNotEquals: boolean;
  /** `&=`, `|=`, `^=` assign. */
  readonly bitAssignments: boolean;
  /** EXEC of the client ends with its line. */
  readonly shellLines: boolean;
  /** A semicolon does not end a routine. */
  readonly semicolonsInside: boolean;
}

/** A language with the named pieces and no others. */
export function syntaxOf(...names: (keyof Syntax)[]): Syntax {
  const syntax = { ...NONE };
  for (const name of names) syntax[name] = true;
  return syntax;
}

const NONE: { -readonly [Name in keyof Syntax]: Syntax[Name] } = {
  unitIntervals: false,
  introducers: false,
  bangNames: false,
  remoteNames: false,
  namedArguments: false,
  emptyNameParts: false,
  partitionSwitch: false,
  inlineKeys: false,
  replicationOptions: false,
  exclusions: false,
  inlineIndexes: false,
  commalessConstraints: false,
  routineFillsBatch: false,
  declaresBeforeBegin: false,
  valuesFunction: false,
  tableQueries: false,
  crosstabs: false,
  limitIsName: false,
  intoAtEnd: false,
  ownerAccess: false,
  procedureAnalyse: false,
  forXml: false,
  noLockingReads: false,
  functionsInWith: false,
  minusOperation: false,
  emptySelectList: false,
  otherFiles: false,
  distinctOn: false,
  selectUnique: false,
  topClause: false,
  selectOptions: false,
  aliasEquals: false,
  stringAliases: false,
  bareLabels: false,
  intoMakesTable: false,
  intoIsTable: false,
  modelClause: false,
  groupDirections: false,
  rowsExamined: false,
  convertComma: false,
  outerMarks: false,
  callsOfCalls: false,
  omittedArgument: false,
  commaJoins: false,
  indexHints: false,
  wordOperators: false,
  joinHints: false,
  onlyTables: false,
  tableHints: false,
  wordFunctions: false,
  tableInParentheses: false,
  inlineViewOptions: false,
  descendantStar: false,
  stringTableAliases: false,
  indexedBy: false,
  sampledTables: false,
  portions: false,
  flashback: false,
  pivotIsName: false,
  pivots: false,
  hashTemporary: false,
  typedTables: false,
  noColumnNames: false,
  asAfterStorage: false,
  conflictsInSelect: false,
  aliasTypes: false,
  compositeTypes: false,
  bareRename: false,
  setOptions: false,
  localSettings: false,
  storesGenerated: false,
  charsetWord: false,
  columnPlaces: false,
  arrayTypes: false,
  freeTypes: false,
  returnClause: false,
  columnMethods: false,
  chainedAssignment: false,
  objectRows: false,
  fieldPaths: false,
  orConflicts: false,
  changeOptions: false,
  topInChanges: false,
  distinctRows: false,
  deleteHistory: false,
  bareDelete: false,
  deleteExpressions: false,
  deleteLists: false,
  doubleFrom: false,
  deleteJoins: false,
  multiInsert: false,
  insertWithoutInto: false,
  aliasAfterInto: false,
  bareInsertAlias: false,
  recordValues: false,
  rowAliases: false,
  filteredInsert: false,
  dotNames: false,
  noBooleans: false,
  ignoreValue: false,
  noDefaultValue: false,
  namesFromWords: false,
  arrayQueries: false,
  typedLiterals: false,
  hierarchies: false,
  binaryOperator: false,
  noCursors: false,
  newObjects: false,
  alterLists: false,
  schemaElements: false,
  bareTableRename: false,
  typeAfterAlter: false,
  bangIsNot: false,
  orderedComparisons: false,
  bitsLikeSums: false,
  bitLevels: false,
  wholeDivision: false,
  xorOperator: false,
  nullTests: false,
  notNullTest: false,
  wordDivision: false,
  multisets: false,
  alike: false,
  ilike: false,
  glob: false,
  regexp: false,
  rlike: false,
  memberOf: false,
  declareStatements: false,
  callsByName: false,
  equalsAssigns: false,
  packagesApart: false,
  rowTriggers: false,
  bodyAfterAs: false,
  bodyAfterHead: false,
  controlFlow: false,
  anonymousBlocks: false,
  compoundStatements: false,
  parameters: false,
  replaceStatement: false,
  beginNeedsWord: false,
  namedTransactions: false,
  endCommits: false,
  abort: false,
  privateTables: false,
  alterRoutines: false,
  doBlocks: false,
  bareAdd: false,
  indexOfTable: false,
  analyzeRuns: false,
  noExplain: false,
  caretNotEquals: false,
  bitAssignments: false,
  shellLines: false,
  semicolonsInside: false,
};
