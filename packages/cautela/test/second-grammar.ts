import { antlr4tsSQL, SQLDialect } from "antlr4ts-sql";
import type { DialectId } from "cautela";

// Grammars that others have written for the languages of which no engine runs here: a second opinion.

const GRAMMARS: Partial<Record<DialectId, SQLDialect>> = { tsql: SQLDialect.TSQL, plsql: SQLDialect.PLSQL };

/** Why a grammar refuses a statement; null when it takes it. */
export function refusal(dialect: DialectId, sql: string): string | null {
  const said: string[] = [];
  const { error } = console;
  console.error = (...words: unknown[]) => void said.push(words.join(" "));
  try {
    const parser = new antlr4tsSQL(GRAMMARS[dialect] ?? SQLDialect.TSQL).getParserFromSQL(
      dialect === "plsql" ? sql.replace(/\n\/$/, "") : sql,
    );
    parser.removeErrorListeners();
    parser.addErrorListener({
      syntaxError: (_r, _s, line, column, message) => void said.push(`${line}:${column} ${message}`),
    });
    if (dialect === "plsql") (parser as unknown as { sql_script(): unknown }).sql_script();
    else (parser as unknown as { tsql_file(): unknown }).tsql_file();
  } finally {
    console.error = error;
  }
  return said.length > 0 ? said[0] : null;
}
