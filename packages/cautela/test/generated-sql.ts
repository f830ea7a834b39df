import type { DialectId } from "cautela";
import fc from "fast-check";

// Generators of SQL: statements from a small grammar, as wild as the engines allow.

type Text = fc.Arbitrary<string>;

const join = (...parts: (Text | string)[]): Text =>
  fc.tuple(...parts.map((part) => (typeof part === "string" ? fc.constant(part) : part))).map((list) => list.join(""));
const maybe = (text: Text): Text => fc.oneof({ weight: 2, arbitrary: fc.constant("") }, { weight: 1, arbitrary: text });
const pick = (...words: string[]): Text => fc.constantFrom(...words);
const listOf = (item: Text, most = 3): Text =>
  fc.array(item, { minLength: 1, maxLength: most }).map((list) => list.join(", "));

const isMysql = (dialect: DialectId): boolean => dialect === "mysql" || dialect === "mariadb";

/** Values and conditions over the columns a, b, c (whole numbers) and s (text) of a table t. */
function expressions(dialect: DialectId): { value: Text; condition: Text } {
  const number = pick("a", "b", "c", "0", "1", "2", "7", "NULL");
  const text = pick("s", "'north'", "'x'", "'it''s'", "''");
  const arithmetic = pick("+", "-", "*", ...(dialect === "postgresql" ? ["%"] : ["%", "&", "|", "<<"]));
  const comparison = pick("=", "<>", "<", ">", "<=", ">=", "!=", ...(isMysql(dialect) ? ["<=>"] : []));
  const { value, condition } = fc.letrec<{ value: string; condition: string }>((tie) => ({
    value: fc.oneof(
      { maxDepth: 4, withCrossShrink: true },
      number,
      join(tie("value"), " ", arithmetic, " ", tie("value")),
      join("-", number),
      join("(", tie("value"), ")"),
      join("CASE WHEN ", tie("condition"), " THEN ", tie("value"), " ELSE ", tie("value"), " END"),
      join("coalesce(", tie("value"), ", ", tie("value"), ")"),
    ),
    condition: fc.oneof(
      { maxDepth: 4, withCrossShrink: true },
      join(number, " ", comparison, " ", number),
      join(tie("value"), " ", comparison, " ", tie("value")),
      join(tie("condition"), " ", pick("AND", "OR"), " ", tie("condition")),
      join("NOT ", tie("condition")),
      join("(", tie("condition"), ")"),
      join(tie("value"), pick(" IS NULL", " IS NOT NULL")),
      join(tie("value"), pick(" IN (", " NOT IN ("), listOf(tie("value")), ")"),
      join(tie("value"), pick(" BETWEEN ", " NOT BETWEEN "), tie("value"), " AND ", tie("value")),
      join(text, pick(" LIKE ", " NOT LIKE "), pick("'n%'", "'_'", "s")),
      join(text, pick(" = ", " <> "), text),
      ...(dialect === "sqlite" ? [] : [join("(", tie("condition"), ")", pick(" IS TRUE", " IS NOT FALSE"))]),
      ...(dialect === "postgresql" ? [join(tie("value"), " IS DISTINCT FROM ", tie("value"))] : []),
      ...(isMysql(dialect) ? [join(tie("condition"), pick(" && ", " || ", " XOR "), tie("condition"))] : []),
    ),
  }));
  return { value, condition };
}

export const value = (dialect: DialectId): Text => expressions(dialect).value;
export const condition = (dialect: DialectId): Text => expressions(dialect).condition;

/** Statements that read and change rows, with names that need not exist. */
export function change(dialect: DialectId): Text {
  const id = dialect;
  const table = pick("berth", "vessel", "owner", "mooring", "harbour.berth", "harbour.vessel");
  const alias = pick("x", "y", "z", "b2");
  const column = pick("a", "b", "c", "s", "fee", "x.a", "y.b", "status", "value", "name");
  const plain = pick("a", "b", "fee", "status", "name");
  const quoted = isMysql(id) ? pick("`a b`", "`fee`") : pick('"a b"', '"fee"');
  const literal = pick("1", "0", "-2.5", "'x'", "NULL", "'it''s'", "1e3", ...(id === "sqlite" ? ["x'4d'"] : []));
  const { select, value, condition, source } = fc.letrec<Record<"select" | "value" | "condition" | "source", string>>(
    (tie) => ({
      value: fc.oneof(
        { maxDepth: 5 },
        column,
        literal,
        quoted,
        join(tie("value"), pick(" + ", " * ", " - ", " || ", "/"), tie("value")),
        join("(", tie("value"), ")"),
        join("CASE WHEN ", tie("condition"), " THEN ", tie("value"), maybe(join(" ELSE ", tie("value"))), " END"),
        join("CASE ", column, " WHEN ", literal, " THEN ", tie("value"), " END"),
        join(pick("coalesce", "f", "lower", "max"), "(", listOf(tie("value")), ")"),
        join("CAST(", tie("value"), pick(" AS char(3))", isMysql(id) ? " AS SIGNED)" : " AS integer)")),
        join("(", tie("select"), ")"),
        join("count(", pick("*", "DISTINCT a", "b"), ")"),
        join("sum(", column, ") OVER (PARTITION BY ", column, " ORDER BY ", column, ")"),
        ...(id === "postgresql"
          ? [
              join(column, pick("::text", "::numeric(5,2)", "[1]", " -> 'k'")),
              join("ARRAY[", listOf(tie("value")), "]"),
            ]
          : []),
      ),
      condition: fc.oneof(
        { maxDepth: 5 },
        join(column, pick(" = ", " <> ", " < ", " >= "), literal),
        join(tie("value"), pick(" = ", " <> ", " > "), tie("value")),
        join(tie("condition"), pick(" AND ", " OR "), tie("condition")),
        join("NOT ", tie("condition")),
        join("(", tie("condition"), ")"),
        join(column, pick(" IS NULL", " IS NOT NULL", " LIKE 'x%'", " NOT IN (1, 2)", " BETWEEN 1 AND 2")),
        join(column, pick(" IN (", " NOT IN ("), tie("select"), ")"),
        join(pick("EXISTS (", "NOT EXISTS ("), tie("select"), ")"),
        join("(a, b) IN (", tie("select"), ")"),
        join(column, " = ", pick("ANY", "ALL"), " (", tie("select"), ")"),
      ),
      source: fc.oneof(
        { maxDepth: 4 },
        join(table, maybe(join(pick(" AS ", " "), alias))),
        join("(", tie("select"), ") AS ", alias),
        join(tie("source"), pick(" JOIN ", " LEFT JOIN ", " INNER JOIN "), tie("source"), " ON ", tie("condition")),
        join(tie("source"), " CROSS JOIN ", table),
        join(tie("source"), " JOIN ", table, " USING (", plain, ")"),
        // MariaDB takes more after a comma than anybody writes.
        ...(isMysql(id) ? [] : [join(tie("source"), ", ", table, " ", alias)]),
      ),
      select: fc.oneof(
        { maxDepth: 5 },
        join("SELECT ", listOf(tie("value")), " FROM ", table),
        join(
          "SELECT ",
          maybe(pick("DISTINCT ")),
          listOf(join(tie("value"), maybe(join(" AS ", plain)))),
          " FROM ",
          tie("source"),
          maybe(join(" WHERE ", tie("condition"))),
          maybe(join(" GROUP BY ", column, maybe(join(" HAVING ", tie("condition"))))),
          maybe(join(" ORDER BY ", column, maybe(pick(" DESC")), maybe(pick(" LIMIT 3", " LIMIT 5 OFFSET 2")))),
        ),
        join("SELECT * FROM ", tie("source"), " WHERE ", tie("condition")),
        join(tie("select"), pick(" UNION ", " UNION ALL ", " EXCEPT "), "SELECT ", column, " FROM ", table),
        join("WITH z AS (", tie("select"), ") SELECT * FROM z"),
      ),
    }),
  );
  const assignments = listOf(join(plain, " = ", fc.oneof(value, pick("DEFAULT"))));
  const where = maybe(join(" WHERE ", condition));
  const returning =
    id === "postgresql" || id === "sqlite" ? maybe(join(" RETURNING ", listOf(column))) : fc.constant("");
  const own: Text[] = isMysql(id)
    ? [
        join("UPDATE ", source, " SET ", listOf(join(column, " = ", value)), where),
        join("UPDATE ", table, " SET ", assignments, where, maybe(pick(" ORDER BY a LIMIT 3", " LIMIT 1"))),
        join("DELETE x FROM ", table, " AS x JOIN ", source, " ON ", condition, where),
        join("DELETE FROM x USING ", table, " AS x, ", source, where),
        join("DELETE FROM ", table, where, maybe(pick(" ORDER BY a LIMIT 3"))),
        join(
          "INSERT ",
          maybe(pick("IGNORE ")),
          "INTO ",
          table,
          " (a, b) VALUES (",
          value,
          ", ",
          value,
          ") ON DUPLICATE KEY UPDATE ",
          assignments,
        ),
        join("REPLACE INTO ", table, " ", select),
        join("INSERT INTO ", table, " SET ", assignments),
      ]
    : [
        join(
          "UPDATE ",
          table,
          maybe(join(" AS ", alias)),
          " SET ",
          assignments,
          maybe(join(" FROM ", source)),
          where,
          returning,
        ),
        join("UPDATE ", table, " SET (a, b) = (", select, ")", where),
        join(
          "DELETE FROM ",
          table,
          maybe(join(" AS ", alias)),
          id === "postgresql" ? maybe(join(" USING ", source)) : "",
          where,
          returning,
        ),
        join(
          "INSERT INTO ",
          table,
          " (a, b) VALUES (",
          value,
          ", ",
          value,
          ") ON CONFLICT ",
          pick("DO NOTHING", "(a) DO UPDATE SET b = excluded.b"),
          returning,
        ),
        join("WITH z AS (", select, ") DELETE FROM ", table, where),
      ];
  if (id === "postgresql") {
    own.push(
      join(
        "MERGE INTO ",
        table,
        " AS t USING ",
        table,
        " AS u ON ",
        condition,
        " WHEN MATCHED THEN UPDATE SET ",
        assignments,
        " WHEN NOT MATCHED THEN INSERT (a) VALUES (",
        value,
        ")",
      ),
      join("WITH z AS (DELETE FROM ", table, where, " RETURNING *) INSERT INTO ", table, " SELECT * FROM z"),
    );
  }
  return fc.oneof(
    select,
    join("INSERT INTO ", table, " (a, b) VALUES ", listOf(join("(", value, ", ", value, ")")), returning),
    join("INSERT INTO ", table, " ", select),
    ...own,
  );
}
