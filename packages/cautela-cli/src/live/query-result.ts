import { type Catalog, catalogFromDictionary, type DialectId, type TableFacts } from "cautela";
import { schemaProblem } from "cautela/tools";
import { Failure } from "../failure.ts";

/**
 * Queries of the dictionary for engines that have no reader here. Somebody runs them in any client
 * and keeps the one JSON value that they return; `cautela catalog result.json` makes a snapshot of it.
 * They read INFORMATION_SCHEMA and the catalog views (tsql), or the ALL_ views (plsql), and write nothing.
 */
export const DICTIONARY_QUERIES: Partial<Record<DialectId, string>> = {
  tsql: `SELECT (SELECT
  'cautela.dictionary' AS [format], 1 AS [version], 'tsql' AS [dialect],
  JSON_QUERY((SELECT s.name AS [schema], t.name AS [name],
      (SELECT SUM(p.rows) FROM sys.partitions p WHERE p.object_id = t.object_id AND p.index_id IN (0, 1)) AS [rows]
    FROM sys.tables t JOIN sys.schemas s ON s.schema_id = t.schema_id FOR JSON PATH)) AS [tables],
  JSON_QUERY((SELECT c.TABLE_SCHEMA AS [schema], c.TABLE_NAME AS [table], c.COLUMN_NAME AS [name], c.DATA_TYPE AS [type],
      c.CHARACTER_MAXIMUM_LENGTH AS [length], c.NUMERIC_PRECISION AS [precision], c.NUMERIC_SCALE AS [scale],
      c.IS_NULLABLE AS [nullable], c.COLUMN_DEFAULT AS [default], c.COLLATION_NAME AS [collation],
      COLUMNPROPERTY(OBJECT_ID(QUOTENAME(c.TABLE_SCHEMA) + '.' + QUOTENAME(c.TABLE_NAME)), c.COLUMN_NAME, 'IsIdentity') AS [identity],
      (SELECT k.definition FROM sys.computed_columns k WHERE k.object_id = OBJECT_ID(QUOTENAME(c.TABLE_SCHEMA) + '.' + QUOTENAME(c.TABLE_NAME)) AND k.name = c.COLUMN_NAME) AS [computed]
    FROM INFORMATION_SCHEMA.COLUMNS c JOIN INFORMATION_SCHEMA.TABLES t ON t.TABLE_SCHEMA = c.TABLE_SCHEMA AND t.TABLE_NAME = c.TABLE_NAME
    WHERE t.TABLE_TYPE = 'BASE TABLE' ORDER BY c.TABLE_SCHEMA, c.TABLE_NAME, c.ORDINAL_POSITION FOR JSON PATH)) AS [columns],
  JSON_QUERY((SELECT s.name AS [schema], t.name AS [table], i.name AS [name], i.is_primary_key AS [primary], i.filter_definition AS [filter],
      (SELECT STRING_AGG(c.name, CHAR(9)) WITHIN GROUP (ORDER BY x.key_ordinal) FROM sys.index_columns x
        JOIN sys.columns c ON c.object_id = x.object_id AND c.column_id = x.column_id
        WHERE x.object_id = i.object_id AND x.index_id = i.index_id AND x.is_included_column = 0) AS [columns]
    FROM sys.indexes i JOIN sys.tables t ON t.object_id = i.object_id JOIN sys.schemas s ON s.schema_id = t.schema_id
    WHERE i.is_unique = 1 FOR JSON PATH)) AS [keys],
  JSON_QUERY((SELECT s.name AS [schema], t.name AS [table], f.name AS [name], rs.name AS [toSchema], r.name AS [toTable],
      f.delete_referential_action_desc AS [onDelete], f.update_referential_action_desc AS [onUpdate],
      f.is_disabled AS [disabled], f.is_not_trusted AS [untrusted],
      (SELECT STRING_AGG(COL_NAME(x.parent_object_id, x.parent_column_id), CHAR(9)) WITHIN GROUP (ORDER BY x.constraint_column_id) FROM sys.foreign_key_columns x WHERE x.constraint_object_id = f.object_id) AS [columns],
      (SELECT STRING_AGG(COL_NAME(x.referenced_object_id, x.referenced_column_id), CHAR(9)) WITHIN GROUP (ORDER BY x.constraint_column_id) FROM sys.foreign_key_columns x WHERE x.constraint_object_id = f.object_id) AS [toColumns]
    FROM sys.foreign_keys f JOIN sys.tables t ON t.object_id = f.parent_object_id JOIN sys.schemas s ON s.schema_id = t.schema_id
    JOIN sys.tables r ON r.object_id = f.referenced_object_id JOIN sys.schemas rs ON rs.schema_id = r.schema_id FOR JSON PATH)) AS [foreignKeys],
  JSON_QUERY((SELECT s.name AS [schema], t.name AS [table], c.name AS [name], c.definition AS [definition], c.is_disabled AS [disabled]
    FROM sys.check_constraints c JOIN sys.tables t ON t.object_id = c.parent_object_id JOIN sys.schemas s ON s.schema_id = t.schema_id FOR JSON PATH)) AS [checks],
  JSON_QUERY((SELECT o.type AS [type], s.name AS [schema], o.name AS [name], OBJECT_SCHEMA_NAME(o.parent_object_id) AS [tableSchema], OBJECT_NAME(o.parent_object_id) AS [table],
      m.definition AS [definition], (SELECT g.is_disabled FROM sys.triggers g WHERE g.object_id = o.object_id) AS [disabled]
    FROM sys.sql_modules m JOIN sys.objects o ON o.object_id = m.object_id JOIN sys.schemas s ON s.schema_id = o.schema_id
    ORDER BY CASE o.type WHEN 'V' THEN 1 WHEN 'TR' THEN 3 ELSE 2 END, o.create_date FOR JSON PATH)) AS [code]
FOR JSON PATH, WITHOUT_ARRAY_WRAPPER) AS dictionary;
`,
  plsql: `SELECT JSON_OBJECT(
  'format' VALUE 'cautela.dictionary', 'version' VALUE 1, 'dialect' VALUE 'plsql',
  'schema' VALUE SYS_CONTEXT('USERENV', 'CURRENT_SCHEMA'),
  'tables' VALUE (SELECT JSON_ARRAYAGG(JSON_OBJECT('schema' VALUE t.owner, 'name' VALUE t.table_name, 'rows' VALUE t.num_rows, 'temporary' VALUE t.temporary) RETURNING CLOB)
    FROM all_tables t WHERE t.owner = SYS_CONTEXT('USERENV', 'CURRENT_SCHEMA')),
  'columns' VALUE (SELECT JSON_ARRAYAGG(JSON_OBJECT('schema' VALUE c.owner, 'table' VALUE c.table_name, 'name' VALUE c.column_name, 'type' VALUE c.data_type,
      'length' VALUE c.char_length, 'precision' VALUE c.data_precision, 'scale' VALUE c.data_scale, 'nullable' VALUE c.nullable, 'identity' VALUE c.identity_column) ORDER BY c.table_name, c.column_id RETURNING CLOB)
    FROM all_tab_columns c JOIN all_tables t ON t.owner = c.owner AND t.table_name = c.table_name WHERE c.owner = SYS_CONTEXT('USERENV', 'CURRENT_SCHEMA')),
  'keys' VALUE (SELECT JSON_ARRAYAGG(JSON_OBJECT('schema' VALUE k.owner, 'table' VALUE k.table_name, 'name' VALUE k.constraint_name,
      'primary' VALUE CASE k.constraint_type WHEN 'P' THEN 1 ELSE 0 END,
      'columns' VALUE (SELECT LISTAGG(x.column_name, CHR(9)) WITHIN GROUP (ORDER BY x.position) FROM all_cons_columns x WHERE x.owner = k.owner AND x.constraint_name = k.constraint_name)) RETURNING CLOB)
    FROM all_constraints k WHERE k.constraint_type IN ('P', 'U') AND k.owner = SYS_CONTEXT('USERENV', 'CURRENT_SCHEMA')),
  'foreignKeys' VALUE (SELECT JSON_ARRAYAGG(JSON_OBJECT('schema' VALUE k.owner, 'table' VALUE k.table_name, 'name' VALUE k.constraint_name,
      'toSchema' VALUE r.owner, 'toTable' VALUE r.table_name, 'onDelete' VALUE k.delete_rule, 'disabled' VALUE CASE k.status WHEN 'DISABLED' THEN 1 ELSE 0 END,
      'untrusted' VALUE CASE k.validated WHEN 'VALIDATED' THEN 0 ELSE 1 END,
      'columns' VALUE (SELECT LISTAGG(x.column_name, CHR(9)) WITHIN GROUP (ORDER BY x.position) FROM all_cons_columns x WHERE x.owner = k.owner AND x.constraint_name = k.constraint_name),
      'toColumns' VALUE (SELECT LISTAGG(x.column_name, CHR(9)) WITHIN GROUP (ORDER BY x.position) FROM all_cons_columns x WHERE x.owner = r.owner AND x.constraint_name = r.constraint_name)) RETURNING CLOB)
    FROM all_constraints k JOIN all_constraints r ON r.owner = k.r_owner AND r.constraint_name = k.r_constraint_name
    WHERE k.constraint_type = 'R' AND k.owner = SYS_CONTEXT('USERENV', 'CURRENT_SCHEMA')),
  'checks' VALUE (SELECT JSON_ARRAYAGG(JSON_OBJECT('schema' VALUE k.owner, 'table' VALUE k.table_name, 'name' VALUE k.constraint_name, 'definition' VALUE k.search_condition_vc) RETURNING CLOB)
    FROM all_constraints k WHERE k.constraint_type = 'C' AND k.search_condition_vc NOT LIKE '%IS NOT NULL' AND k.owner = SYS_CONTEXT('USERENV', 'CURRENT_SCHEMA')),
  'code' VALUE (SELECT JSON_ARRAYAGG(JSON_OBJECT('type' VALUE o.object_type, 'schema' VALUE o.owner, 'name' VALUE o.object_name,
      'definition' VALUE DBMS_METADATA.GET_DDL(CASE o.object_type WHEN 'PACKAGE BODY' THEN 'PACKAGE_BODY' ELSE o.object_type END, o.object_name, o.owner),
      'disabled' VALUE (SELECT CASE g.status WHEN 'DISABLED' THEN 1 ELSE 0 END FROM all_triggers g WHERE g.owner = o.owner AND g.trigger_name = o.object_name)) ORDER BY CASE o.object_type WHEN 'VIEW' THEN 1 WHEN 'TRIGGER' THEN 3 ELSE 2 END RETURNING CLOB)
    FROM all_objects o WHERE o.object_type IN ('VIEW', 'TRIGGER', 'PROCEDURE', 'FUNCTION', 'PACKAGE BODY') AND o.owner = SYS_CONTEXT('USERENV', 'CURRENT_SCHEMA'))
  RETURNING CLOB) AS dictionary FROM dual;
`,
};

interface Row {
  [key: string]: unknown;
}

/** How the tables of a result are written as DDL. */
interface Form {
  quoted(name: string): string;
  /** Switches a constraint off. */
  off(table: string, name: string): string;
  /** What stands after the definition of a routine. */
  readonly separator: string;
  readonly identity: string;
  /** Types with precision and scale. */
  readonly decimal: RegExp;
}

const FORMS: Record<"tsql" | "plsql", Form> = {
  tsql: {
    quoted: (name) => `[${name.replaceAll("]", "]]")}]`,
    off: (table, name) => `ALTER TABLE ${table} NOCHECK CONSTRAINT ${name};`,
    separator: "\nGO\n",
    identity: "IDENTITY",
    decimal: /^(?:decimal|numeric)$/i,
  },
  plsql: {
    quoted: (name) => `"${name.replaceAll('"', '""')}"`,
    off: (table, name) => `ALTER TABLE ${table} DISABLE CONSTRAINT ${name};`,
    separator: "\n/\n",
    identity: "GENERATED BY DEFAULT AS IDENTITY",
    decimal: /^number$/i,
  },
};

function isFormed(dialect: unknown): dialect is keyof typeof FORMS {
  return typeof dialect === "string" && Object.hasOwn(FORMS, dialect);
}

/** The catalog of a dictionary query's JSON result; null where the JSON is something else. */
export function catalogFromQueryResult(json: unknown): Catalog | null {
  const value = Array.isArray(json) ? json[0] : json;
  if (typeof value !== "object" || value === null) return null;
  const result = value as Row;
  // Clients write the one column of the result around the value, as an object or as its text.
  if (result.dictionary !== undefined) {
    return catalogFromQueryResult(
      typeof result.dictionary === "string" ? JSON.parse(result.dictionary) : result.dictionary,
    );
  }
  if (result.format !== "cautela.dictionary" || !isFormed(result.dialect)) return null;
  const problem = schemaProblem("dictionary", result);
  if (problem !== null) throw new Failure(`the result of the dictionary query is damaged: ${problem}`);
  const { dialect } = result;
  const form = FORMS[dialect];
  const rows = (key: string): Row[] => (Array.isArray(result[key]) ? (result[key] as Row[]) : []);
  const quote = (name: unknown): string => form.quoted(String(name));
  const table = (row: Row): string => `${quote(row.schema)}.${quote(row.table)}`;
  const list = (columns: unknown): string =>
    String(columns ?? "")
      .split("\t")
      .map(quote)
      .join(", ");
  const columnsOf = new Map<string, Row[]>();
  for (const column of rows("columns")) {
    const key = table(column);
    columnsOf.set(key, [...(columnsOf.get(key) ?? []), column]);
  }
  const ddl: string[] = [];
  const facts: TableFacts[] = [];
  for (const row of rows("tables")) {
    const name = `${quote(row.schema)}.${quote(row.name)}`;
    ddl.push(
      `CREATE TABLE ${name} (${(columnsOf.get(name) ?? []).map((column) => columnDdl(column, quote, form)).join(", ")});`,
    );
    facts.push({
      schema: String(row.schema),
      name: String(row.name),
      rows: typeof row.rows === "number" ? row.rows : null,
    });
  }
  for (const row of rows("keys")) {
    if (row.filter)
      ddl.push(
        `CREATE UNIQUE INDEX ${quote(row.name)} ON ${table(row)} (${list(row.columns)}) WHERE ${String(row.filter)};`,
      );
    else
      ddl.push(
        `ALTER TABLE ${table(row)} ADD CONSTRAINT ${quote(row.name)} ${row.primary ? "PRIMARY KEY" : "UNIQUE"} (${list(row.columns)});`,
      );
  }
  for (const row of rows("checks")) {
    ddl.push(`ALTER TABLE ${table(row)} ADD CONSTRAINT ${quote(row.name)} CHECK (${String(row.definition)});`);
    if (row.disabled) ddl.push(form.off(table(row), quote(row.name)));
  }
  for (const row of rows("foreignKeys")) {
    const action = (what: string, value: unknown): string => {
      const words = String(value ?? "").replaceAll("_", " ");
      return words === "" || /^no action$/i.test(words) ? "" : ` ON ${what} ${words}`;
    };
    ddl.push(
      `ALTER TABLE ${table(row)} ADD CONSTRAINT ${quote(row.name)} FOREIGN KEY (${list(row.columns)}) REFERENCES ${quote(row.toSchema)}.${quote(row.toTable)} (${list(row.toColumns)})${action("DELETE", row.onDelete)}${action("UPDATE", row.onUpdate)};`,
    );
    if (row.disabled) ddl.push(form.off(table(row), quote(row.name)));
  }
  const code = rows("code").map((row) => String(row.definition ?? "").trim());
  const triggers = rows("code")
    .filter((row) => row.disabled && /^TR/i.test(String(row.type).trim()) && row.table)
    .map((row) => ({
      schema: String(row.tableSchema ?? row.schema),
      table: String(row.table),
      name: String(row.name),
      enabled: "off" as const,
    }));
  const searchPath = typeof result.schema === "string" ? [result.schema] : undefined;
  return catalogFromDictionary({
    dialect,
    searchPath,
    ddl: [ddl.join("\n"), ...code.map((text) => text + form.separator)],
    facts,
    triggers,
  });
}

function columnDdl(column: Row, quote: (name: unknown) => string, form: Form): string {
  const type = String(column.type);
  if (column.computed) return `${quote(column.name)} AS ${String(column.computed)}`;
  const parts = [quote(column.name), type + typeArgs(column, type, form)];
  if (column.collation) parts.push(`COLLATE ${String(column.collation)}`);
  if (column.identity === 1 || column.identity === "YES") parts.push(form.identity);
  else if (column.default !== null && column.default !== undefined) parts.push(`DEFAULT ${String(column.default)}`);
  if (column.nullable === "NO" || column.nullable === "N") parts.push("NOT NULL");
  return parts.join(" ");
}

function typeArgs(column: Row, type: string, form: Form): string {
  if (typeof column.length === "number" && /char|binary/i.test(type))
    return column.length === -1 ? "(max)" : column.length > 0 ? `(${column.length})` : "";
  if (form.decimal.test(type) && typeof column.precision === "number")
    return `(${column.precision}, ${Number(column.scale ?? 0)})`;
  return "";
}
