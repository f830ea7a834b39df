import type { Dialect } from "../../sql/dialects/dialect.ts";
import { JetWriter } from "./jet.ts";
import { MariadbWriter, MysqlWriter } from "./mysql.ts";
import { PlsqlWriter } from "./plsql.ts";
import { PostgresqlWriter } from "./postgresql.ts";
import { SqliteWriter } from "./sqlite.ts";
import { TsqlWriter } from "./tsql.ts";
import type { SqlWriter } from "./writer.ts";

const WRITERS: Record<Dialect["id"], new (dialect: Dialect, countUpTo: number | null) => SqlWriter> = {
  postgresql: PostgresqlWriter,
  mysql: MysqlWriter,
  mariadb: MariadbWriter,
  sqlite: SqliteWriter,
  tsql: TsqlWriter,
  plsql: PlsqlWriter,
  jet: JetWriter,
};

/** The writer of a dialect. `countUpTo`: counts stop there. */
export function sqlWriter(dialect: Dialect, countUpTo: number | null = null): SqlWriter {
  return new WRITERS[dialect.id](dialect, countUpTo);
}
