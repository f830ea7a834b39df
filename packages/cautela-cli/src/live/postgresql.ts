import { Failure } from "../failure.ts";
import { databaseUrl, shownSource, withoutSecrets } from "./database-url.ts";
import { type LiveDictionary, type Progress, TIME_LIMIT } from "./live.ts";

const OWN =
  "n.nspname NOT IN ('pg_catalog', 'information_schema') AND n.nspname NOT LIKE 'pg\\_toast%' AND n.nspname NOT LIKE 'pg\\_temp%'";
const NOT_OF_EXTENSION = (catalog: string, oid: string): string =>
  `NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend d WHERE d.classid = 'pg_catalog.${catalog}'::regclass AND d.objid = ${oid} AND d.deptype = 'e')`;

interface Client {
  query(text: string): Promise<{ rows: Record<string, unknown>[] }>;
}

/**
 * Reads the dictionary of a PostgreSQL server, in a read-only transaction with a time limit, with the
 * rights that every user has on `pg_catalog`. No table is scanned: row counts are the estimates of the
 * last ANALYZE.
 */
export async function readPostgresql(url: string, progress: Progress): Promise<LiveDictionary> {
  const client = await connectPostgresql(url, "cautela catalog");
  try {
    await client.query(`BEGIN TRANSACTION READ ONLY; SET LOCAL statement_timeout = '${TIME_LIMIT}s'`);
    return await postgresqlDictionary(client, progress);
  } catch (error) {
    throw new Failure(`the dictionary could not be read: ${reason(error)}`);
  } finally {
    await client.end().catch(() => undefined);
  }
}

/** Opens a connection; a server that takes none is a failure with its reason. */
export async function connectPostgresql(url: string, name: string): Promise<Client & { end(): Promise<void> }> {
  const { user, password, host, port, database, parameters } = databaseUrl(url);
  const { default: pg } = await import("pg");
  // Put together again, with every part written so that the driver cannot misread it.
  const query = [...parameters]
    .filter(([key]) => key !== "user" && key !== "password")
    .map(([key, value]) => `${encodeURIComponent(key)}=${encodeURIComponent(value)}`);
  // sslmode means what it means to the server's own clients.
  if (parameters.has("sslmode") && !parameters.has("uselibpqcompat")) query.push("uselibpqcompat=true");
  const who =
    user === "" ? "" : `${encodeURIComponent(user)}${password === "" ? "" : `:${encodeURIComponent(password)}`}@`;
  const place = `${host.includes(":") ? `[${host}]` : encodeURIComponent(host)}${port === null ? "" : `:${port}`}`;
  const connectionString = `postgres://${who}${place}/${encodeURIComponent(database)}${query.length > 0 ? `?${query.join("&")}` : ""}`;
  try {
    const client = new pg.Client({ connectionString, connectionTimeoutMillis: 10_000, application_name: name });
    await client.connect();
    return client;
  } catch (error) {
    throw new Failure(`cannot connect to ${shownSource(url)}: ${reason(error)}`);
  }
}

/** One line of what a driver says, without the password that a URL may hold. */
export function reason(error: unknown): string {
  const text = error instanceof Error ? error.message || error.name : String(error);
  const code = (error as { code?: unknown }).code;
  const line = withoutSecrets(text.split("\n", 1)[0]);
  return line === "" || line === "AggregateError" ? `no answer (${String(code ?? "unknown reason")})` : line;
}

/** Reads the dictionary over any connection that takes queries: the server's, or the engine in WebAssembly. */
export async function postgresqlDictionary(
  client: Client,
  progress: Progress = () => undefined,
): Promise<LiveDictionary> {
  const problems: string[] = [];
  const rows = async <Row>(sql: string): Promise<Row[]> => (await client.query(sql)).rows as Row[];
  const version = Number((await rows<{ v: string }>("SELECT current_setting('server_version_num') AS v"))[0].v);
  if (version < 100000)
    throw new Failure(`this PostgreSQL is of version ${Math.floor(version / 10000)}; 10 or newer can be read`);
  const generated = version >= 120000 ? "a.attgenerated" : "''";

  const path = await rows<{ path: string[] }>("SELECT current_schemas(false)::text[] AS path");
  const types = await rows<{ ddl: string }>(`
    SELECT 'CREATE TYPE ' || format('%I.%I', n.nspname, t.typname) || ' AS ENUM (' ||
           (SELECT string_agg(quote_literal(e.enumlabel), ', ' ORDER BY e.enumsortorder) FROM pg_catalog.pg_enum e WHERE e.enumtypid = t.oid) || ')' AS ddl
    FROM pg_catalog.pg_type t JOIN pg_catalog.pg_namespace n ON n.oid = t.typnamespace
    WHERE t.typtype = 'e' AND ${OWN}
    UNION ALL
    SELECT 'CREATE DOMAIN ' || format('%I.%I', n.nspname, t.typname) || ' AS ' || format_type(t.typbasetype, t.typtypmod) ||
           CASE WHEN t.typnotnull THEN ' NOT NULL' ELSE '' END ||
           coalesce((SELECT string_agg(' ' || pg_get_constraintdef(c.oid), '') FROM pg_catalog.pg_constraint c WHERE c.contypid = t.oid AND c.contype = 'c'), '')
    FROM pg_catalog.pg_type t JOIN pg_catalog.pg_namespace n ON n.oid = t.typnamespace
    WHERE t.typtype = 'd' AND ${OWN}`);
  const tables = await rows<TableRow>(`
    SELECT c.oid::text, n.nspname AS schema, c.relname AS name, c.relkind AS kind, c.relpersistence AS persistence,
           c.reltuples AS rows, obj_description(c.oid, 'pg_class') AS comment, c.relispartition AS partition,
           (SELECT array_agg(ARRAY[pn.nspname, p.relname]::text[] ORDER BY i.inhseqno) FROM pg_catalog.pg_inherits i
             JOIN pg_catalog.pg_class p ON p.oid = i.inhparent JOIN pg_catalog.pg_namespace pn ON pn.oid = p.relnamespace
             WHERE i.inhrelid = c.oid) AS parents
    FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
    WHERE c.relkind IN ('r', 'p', 'f') AND ${OWN} AND ${NOT_OF_EXTENSION("pg_class", "c.oid")}
    ORDER BY 2, 3`);
  progress(0, tables.length);
  const columns = await rows<ColumnRow>(`
    SELECT a.attrelid::text AS oid, a.attname AS name, format_type(a.atttypid, a.atttypmod) AS type, a.attnotnull AS required,
           pg_get_expr(d.adbin, d.adrelid) AS default, a.attidentity AS identity, ${generated} AS generated,
           CASE WHEN a.attcollation <> t.typcollation THEN co.collname END AS collation,
           col_description(a.attrelid, a.attnum) AS comment
    FROM pg_catalog.pg_attribute a JOIN pg_catalog.pg_class c ON c.oid = a.attrelid
    JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace JOIN pg_catalog.pg_type t ON t.oid = a.atttypid
    LEFT JOIN pg_catalog.pg_attrdef d ON d.adrelid = a.attrelid AND d.adnum = a.attnum
    LEFT JOIN pg_catalog.pg_collation co ON co.oid = a.attcollation
    WHERE a.attnum > 0 AND NOT a.attisdropped AND c.relkind IN ('r', 'p', 'f') AND ${OWN}
    ORDER BY a.attrelid, a.attnum`);
  const statistics = await rows<{ schema: string; name: string; column: string; distinct: number; nulls: number }>(`
    SELECT schemaname AS schema, tablename AS name, attname AS column, n_distinct AS distinct, null_frac AS nulls
    FROM pg_catalog.pg_stats WHERE schemaname NOT IN ('pg_catalog', 'information_schema')`).catch(() => {
    problems.push("the statistics of columns may not be read");
    return [];
  });
  const constraints = await rows<{ ddl: string }>(`
    SELECT 'ALTER TABLE ' || format('%I.%I', n.nspname, c.relname) || ' ADD CONSTRAINT ' || quote_ident(k.conname) || ' ' || pg_get_constraintdef(k.oid) AS ddl
    FROM pg_catalog.pg_constraint k JOIN pg_catalog.pg_class c ON c.oid = k.conrelid JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
    WHERE k.contype IN ('p', 'u', 'f', 'c', 'x') AND ${OWN} AND NOT (k.contype = 'f' AND k.conparentid <> 0)
    ORDER BY CASE k.contype WHEN 'p' THEN 1 WHEN 'u' THEN 2 WHEN 'c' THEN 3 ELSE 4 END, k.oid`);
  const indexes = await rows<{ ddl: string }>(`
    SELECT pg_get_indexdef(i.indexrelid) AS ddl
    FROM pg_catalog.pg_index i JOIN pg_catalog.pg_class c ON c.oid = i.indrelid JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
    WHERE i.indisunique AND ${OWN} AND NOT EXISTS (SELECT 1 FROM pg_catalog.pg_constraint k WHERE k.conindid = i.indexrelid AND k.contype IN ('p', 'u', 'x'))
    ORDER BY i.indexrelid`);
  const views = await rows<ViewRow>(`
    SELECT n.nspname AS schema, c.relname AS name, c.relkind AS kind, pg_get_viewdef(c.oid) AS query,
           array_to_string(c.reloptions, ',') AS options,
           (SELECT array_agg(a.attname::text ORDER BY a.attnum) FROM pg_catalog.pg_attribute a WHERE a.attrelid = c.oid AND a.attnum > 0 AND NOT a.attisdropped) AS columns
    FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
    WHERE c.relkind IN ('v', 'm') AND ${OWN} AND ${NOT_OF_EXTENSION("pg_class", "c.oid")} ORDER BY c.oid`);
  const kind = version >= 110000 ? "p.prokind IN ('f', 'p')" : "NOT p.proisagg AND NOT p.proiswindow";
  const routines = await rows<{ ddl: string }>(`
    SELECT pg_get_functiondef(p.oid) AS ddl
    FROM pg_catalog.pg_proc p JOIN pg_catalog.pg_namespace n ON n.oid = p.pronamespace JOIN pg_catalog.pg_language l ON l.oid = p.prolang
    WHERE ${kind} AND l.lanname NOT IN ('c', 'internal') AND ${OWN} AND ${NOT_OF_EXTENSION("pg_proc", "p.oid")} ORDER BY p.oid`);
  const triggers = await rows<{ schema: string; table: string; name: string; enabled: string; ddl: string }>(`
    SELECT n.nspname AS schema, c.relname AS table, t.tgname AS name, t.tgenabled AS enabled, pg_get_triggerdef(t.oid) AS ddl
    FROM pg_catalog.pg_trigger t JOIN pg_catalog.pg_class c ON c.oid = t.tgrelid JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
    WHERE NOT t.tgisinternal AND ${OWN} ORDER BY t.oid`);
  const rules = await rows<{ ddl: string }>(`
    SELECT pg_get_ruledef(r.oid) AS ddl FROM pg_catalog.pg_rewrite r JOIN pg_catalog.pg_class c ON c.oid = r.ev_class
    JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace WHERE r.rulename <> '_RETURN' AND ${OWN} ORDER BY r.oid`);
  const sequences = await rows<{ ddl: string }>(`
    SELECT 'CREATE SEQUENCE ' || format('%I.%I', n.nspname, c.relname) AS ddl
    FROM pg_catalog.pg_class c JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
    WHERE c.relkind = 'S' AND ${OWN} AND NOT EXISTS (SELECT 1 FROM pg_catalog.pg_depend d WHERE d.objid = c.oid AND d.deptype IN ('i', 'a')) ORDER BY 1`);

  const byTable = new Map<string, ColumnRow[]>();
  for (const column of columns) {
    const list = byTable.get(column.oid);
    if (list) list.push(column);
    else byTable.set(column.oid, [column]);
  }
  const facts = new Map<string, { distinct: number; nulls: number }>();
  for (const { schema, name, column, distinct, nulls } of statistics)
    facts.set(`${schema}\0${name}\0${column}`, { distinct, nulls });
  const list = (texts: readonly { ddl: string }[]): string => texts.map(({ ddl }) => `${ddl};`).join("\n");
  progress(tables.length, tables.length);
  return {
    dialect: "postgresql",
    searchPath: path[0].path.length > 0 ? path[0].path : ["public"],
    problems,
    ddl: [
      list(types),
      list(sequences),
      tables.map((table) => tableDdl(table, byTable.get(table.oid) ?? [])).join("\n"),
      list(constraints),
      list(indexes),
      views.map(viewDdl).join("\n"),
      list(routines),
      list(triggers),
      list(rules),
    ].filter((text) => text !== ""),
    facts: tables.map((table) => ({
      schema: table.schema,
      name: table.name,
      // -1: never analysed.
      rows: table.rows < 0 ? null : Math.round(table.rows),
      kind: table.kind === "f" ? "linked" : table.kind === "p" ? "partitioned" : "table",
      temporary: table.persistence === "t",
      comment: table.comment,
      partitionOf: table.partition && table.parents ? table.parents[0] : null,
      inherits: table.partition ? [] : (table.parents ?? []),
      columns: (byTable.get(table.oid) ?? []).map(({ name, comment }) => {
        const fact = facts.get(`${table.schema}\0${table.name}\0${name}`);
        // A negative number is a share of the rows (the manual, "pg_stats").
        const distinct = fact
          ? fact.distinct < 0
            ? Math.round(-fact.distinct * Math.max(table.rows, 0))
            : fact.distinct
          : null;
        return { name, comment, distinct, nulls: fact?.nulls ?? null };
      }),
    })),
    triggers: triggers
      .filter(({ enabled }) => enabled !== "O")
      .map(({ schema, table, name, enabled }) => ({
        schema,
        table,
        name,
        enabled: enabled === "D" ? "off" : enabled === "R" ? "replica" : "always",
      })),
  };
}

interface TableRow {
  oid: string;
  schema: string;
  name: string;
  kind: string;
  persistence: string;
  rows: number;
  comment: string | null;
  partition: boolean;
  parents: [string, string][] | null;
}

interface ColumnRow {
  oid: string;
  name: string;
  type: string;
  required: boolean;
  default: string | null;
  identity: string;
  generated: string;
  collation: string | null;
  comment: string | null;
}

interface ViewRow {
  schema: string;
  name: string;
  kind: string;
  query: string;
  options: string | null;
  columns: string[];
}

const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`;

function tableDdl({ schema, name }: TableRow, columns: readonly ColumnRow[]): string {
  const list = columns.map((column) => {
    const parts = [quoted(column.name), column.type];
    if (column.collation !== null) parts.push(`COLLATE ${quoted(column.collation)}`);
    if (column.generated !== "")
      parts.push(`GENERATED ALWAYS AS (${column.default}) ${column.generated === "v" ? "VIRTUAL" : "STORED"}`);
    else if (column.default !== null) parts.push(`DEFAULT ${column.default}`);
    if (column.identity !== "")
      parts.push(`GENERATED ${column.identity === "a" ? "ALWAYS" : "BY DEFAULT"} AS IDENTITY`);
    if (column.required) parts.push("NOT NULL");
    return parts.join(" ");
  });
  return `CREATE TABLE ${quoted(schema)}.${quoted(name)} (${list.join(", ")});`;
}

function viewDdl({ schema, name, kind, query, options, columns }: ViewRow): string {
  const check = /check_option=(\w+)/.exec(options ?? "")?.[1];
  const tail = check ? ` WITH ${check.toUpperCase()} CHECK OPTION` : "";
  const head = kind === "m" ? "CREATE MATERIALIZED VIEW" : "CREATE VIEW";
  return `${head} ${quoted(schema)}.${quoted(name)} (${columns.map(quoted).join(", ")}) AS ${query.trim().replace(/;$/, "")}${tail};`;
}
