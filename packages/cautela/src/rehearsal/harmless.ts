import type { Catalog } from "../catalog/catalog.ts";
import { columnNamed } from "../catalog/columns.ts";
import type { Table, View } from "../catalog/model.ts";
import { foldName, writtenName } from "../catalog/names.ts";
import { viewQuery } from "../catalog/parsed-code.ts";
import type { Dialect } from "../sql/dialects/dialect.ts";
import { hasFunction, partialFunctions } from "../sql/dialects/functions.ts";
import { dialects } from "../sql/dialects/index.ts";
import type { ColumnRef, Name, Node, TypeName } from "../sql/nodes/tree.ts";
import { walk } from "../sql/nodes/visitor.ts";
import { readScript } from "../sql/reading/script.ts";

/** Functions of the engines that read nothing but their arguments, the clock and the session. */
const BUILT_IN = new Set(
  (
    "abs acos array_length asin atan atan2 avg bit_length btrim cast ceil ceiling char_length character_length charindex chr coalesce concat " +
    "concat_ws convert cos count current_date current_schema current_time current_timestamp current_user curdate curtime date date_add date_format " +
    "date_part date_sub date_trunc dateadd datediff datename datepart datetime day dayofmonth dayofweek dayofyear decode degrees div encode exp extract field " +
    "find_in_set floor format from_unixtime getdate getutcdate greatest group_concat hex hour if ifnull iif initcap instr isnull json_extract json_value " +
    "jsonb_extract_path_text julianday last_day lcase least left len length listagg ln localtime localtimestamp locate log log10 log2 lower lpad ltrim max " +
    "md5 mid min minute mod month now nullif nvl nvl2 octet_length pi position pow power printf quarter radians rank regexp_like regexp_matches " +
    "regexp_replace regexp_substr replace reverse right round row_number rpad rtrim second sign sin split_part sqrt str_to_date strftime string_agg strpos substr " +
    "substring substring_index sum sysdate sysdatetime systimestamp tan time timestamp timestampdiff to_char to_date to_number to_timestamp total translate trim " +
    "trunc truncate typeof ucase unicode unix_timestamp upper user utc_date utc_timestamp week weekday year array_agg bool_and bool_or every any_value " +
    "exists cardinality age make_date isfinite dense_rank lag lead first_value last_value ntile percent_rank switch choose val cdate cint clng cdbl cstr nz"
  ).split(" "),
);

/** Operators that PostgreSQL has by itself (`pg_operator`, schema `pg_catalog`); another one is somebody's own function. */
const OPERATORS = new Set(
  (
    "!! !~ !~* !~~ !~~* # ## #- #> #>> % & && &< &<| &> * *< *<= *<> *= *> *>= + - -> ->> -|- / < <-> << <<= <<| <= <> <@ <^ = > >= >> >>= >^ " +
    "? ?# ?& ?- ?-| ?| ?|| @ @-@ @> @? @@ @@@ ^ ^@ | |&> |/ |>> || ||/ ~ ~* ~<=~ ~<~ ~= ~>=~ ~>~ ~~ ~~* != and or xor not like is mod div " +
    "== <=> !< !>"
  ).split(" "),
);

/** Types that the engines have by themselves: a value of another one may run functions of its own when it is read. */
const TYPES =
  /^(?:big|small|tiny|medium)?(?:int(?:eger)?|serial)\d?$|^(?:int2|int4|int8|float4|float8|bool(?:ean)?|bit(?: varying)?|varbit|numeric|decimal|dec|number|money|smallmoney|real|float|double(?: precision)?|single|currency|byte|short|long|counter|autoincrement|char(?:acter)?(?: varying)?|bpchar|name|n?varchar2?|nchar|national char(?:acter)?(?: varying)?|(?:tiny|medium|long)?text|ntext|n?clob|memo|longchar|string|date|datetime\d?|smalldatetime|datetimeoffset|time(?:stamp)?(?:tz)?(?: with(?:out)?(?: local)? time zone)?|year|interval(?: .*)?|bytea|(?:tiny|medium|long)?blob|(?:var)?binary|raw|image|uuid|uniqueidentifier|guid|json|jsonb|xml|inet\d?|cidr|macaddr8?|point|line|lseg|box|path|polygon|circle|tsvector|tsquery|oid|reg[a-z]+|signed|unsigned|signed integer|unsigned integer|enum|set|yesno|logical|rowversion|sysname|sql_variant|hierarchyid|geometry|geography|citext|hstore|jsonpath|(?:int4|int8|num|ts|tstz|date)(?:multi)?range|binary_float|binary_double|u?rowid|bfile|long raw|)$/;

/** Collations that engines come with; another one may be a function of the application (sqlite). */
const COLLATIONS =
  /^(?:c|posix|default|ucs_basic|unicode|und|binary|nocase|rtrim|database_default|[a-z]{2,3}[-_].*|(?:utf|ucs|latin|cp|koi|ascii|sql_|binary|nls|xnls|modern_|generic_).*)$/i;

/** What may happen when a query is run; null: it only reads. `writes`: it may write, and is not only unknown. */
export function harmOf(sql: string, catalog: Catalog): { why: string; writes: boolean } | null {
  const why = whyNotReadOnly(sql, catalog);
  return why === null ? null : { why, writes: / (?:may|could) write/.test(why) };
}

/**
 * Why a query is not run against a database without being asked: it is more than a SELECT, locks rows, sets variables, or
 * uses a function, an operator, a type or a collation that is volatile or not known to be harmless, itself or through a view.
 * Null: it only reads.
 */
export function whyNotReadOnly(sql: string, catalog: Catalog): string | null {
  const dialect = dialects[catalog.dialect];
  const { statements } = readScript(sql, { dialect: dialect.id });
  if (statements.length !== 1 || statements[0].kind !== "select") return "it is not one SELECT";
  return new Inspection(catalog, dialect).of(statements[0].tree);
}

class Inspection {
  readonly #catalog: Catalog;
  readonly #dialect: Dialect;
  readonly #seen = new Set<View>();
  /** Views that are still to be looked into; they may stand upon each other at any depth. */
  readonly #waiting: View[] = [];

  constructor(catalog: Catalog, dialect: Dialect) {
    this.#catalog = catalog;
    this.#dialect = dialect;
  }

  /** Why a statement or a query is not harmless. */
  of(tree: Node): string | null {
    let found = this.#inside(tree);
    for (let view = this.#waiting.pop(); view && found === null; view = this.#waiting.pop()) {
      const parsed = viewQuery(view, this.#dialect.id);
      const inside = parsed ? this.#inside(parsed.tree) : "its query is not known";
      if (inside !== null) found = `the view ${view.name}: ${inside}`;
    }
    return found;
  }

  #inside(tree: Node): string | null {
    const common = new Set<string>();
    /** The tables of the query by the names under which it has them. */
    const named = new Map<string, Table>();
    walk(tree, (node) => {
      if ("with" in node && node.with)
        for (const { name } of node.with.tables) common.add(foldName(name, this.#dialect));
      if (node.kind !== "table") return undefined;
      const table = this.#catalog.resolve(node.name);
      const { parts } = node.name;
      if (table) named.set(foldName(node.alias ?? parts[parts.length - 1], this.#dialect), table);
      return undefined;
    });
    let found: string | null = null;
    walk(tree, (node) => {
      found ??= this.#inNode(node, common, named);
      return found === null ? undefined : false;
    });
    return found;
  }

  #inNode(node: Node, common: ReadonlySet<string>, named: ReadonlyMap<string, Table>): string | null {
    switch (node.kind) {
      case "insert":
      case "update":
      case "delete":
      case "merge":
      case "opaque":
        return "a part of it could write, or is not read";
      case "placeholder":
        return `${node.text} has no value yet`;
      case "query":
        if (node.locking) return "it locks rows";
        return node.into ? "it selects INTO something" : null;
      case "select":
        return "items" in node && node.into ? "it selects INTO something" : null;
      case "binary":
        if (node.op === ":=") return "it assigns a variable";
        return this.#operator(node.op);
      case "unary":
        return this.#operator(node.op);
      case "quantified":
        return this.#operator(node.op);
      case "cast":
        return this.#type(node.type);
      case "compound":
        if (node.what === "collate" && !COLLATIONS.test(node.name))
          return `what the collation ${node.name} does is not known`;
        // In PostgreSQL a field of a row may be a function that is given the row.
        return node.what === "field" && this.#dialect.lexical.freeOperators
          ? `${node.name || "a field of a row"} may be a function, which may write`
          : null;
      case "column":
        return this.#column(node, named);
      case "call":
        return this.#call(node.name);
      case "table":
        return this.#table(node.name, common);
      case "opaque-source":
        return "a part of it could write, or is not read";
      default:
        return null;
    }
  }

  #operator(op: string): string | null {
    if (!this.#dialect.lexical.freeOperators || OPERATORS.has(op.toLowerCase()) || /^[a-z ]+$/i.test(op)) return null;
    return `the operator ${op} is not the engine's own, and may write`;
  }

  #type({ name }: TypeName): string | null {
    return !this.#dialect.engine.ownTypes || TYPES.test(name) || this.#plainType(name, 0)
      ? null
      : `the type ${name} may have functions of its own, which may write`;
  }

  /** An enumeration, or a domain without conditions over a type of the engine. */
  #plainType(name: string, depth: number): boolean {
    const type = this.#catalog.type(name);
    if (!type || depth > 8) return false;
    if (type.enumeration !== null) return true;
    return (
      type.checks.length === 0 && type.base !== null && (TYPES.test(type.base) || this.#plainType(type.base, depth + 1))
    );
  }

  #column({ path }: ColumnRef, named: ReadonlyMap<string, Table>): string | null {
    const name = foldName(path[path.length - 1], this.#dialect);
    const qualifier = path.length > 1 ? foldName(path[path.length - 2], this.#dialect) : null;
    const tables = qualifier === null ? [...named.values()] : [named.get(qualifier)].filter((one) => one !== undefined);
    for (const table of tables) {
      const column = columnNamed(table, name);
      if (column) {
        return !this.#dialect.engine.ownTypes || TYPES.test(column.type) || this.#plainType(column.type, 0)
          ? null
          : `the type ${column.type} may have functions of its own, which may write`;
      }
    }
    // A name that is no column may be a function of the row (PostgreSQL's manual, 38.5.2 "Functional notation").
    return qualifier !== null &&
      this.#dialect.lexical.freeOperators &&
      tables.some((one) => !one.partial) &&
      !SYSTEM.has(name)
      ? `${qualifier}.${name} is no column and may be a function, which may write`
      : null;
  }

  #call(name: Name): string | null {
    const routine = this.#catalog.routine(name);
    const { parts } = name;
    const last = parts[parts.length - 1].text.toLowerCase();
    if (routine)
      return routine.volatility === "immutable" || routine.volatility === "stable"
        ? null
        : `${writtenName(name)} may write`;
    const own = parts.length === 1 || /^(?:pg_catalog|sys|standard|dbms_lob)$/i.test(parts[parts.length - 2].text);
    // A function of another database may have the name of a built-in one, and so may one in a dialect that has no such.
    const has = hasFunction(partialFunctions.get(last), this.#dialect);
    return own && has && BUILT_IN.has(last) ? null : `what ${writtenName(name)} does is not known`;
  }

  #table(name: Name, common: ReadonlySet<string>): string | null {
    const { parts } = name;
    if (parts.length === 1 && common.has(foldName(parts[0], this.#dialect))) return null;
    const relation = this.#catalog.resolveRelation(name);
    if (!relation) {
      // Variables, temporary tables, and the catalogs of the engine itself.
      if (/^[#@]/.test(parts[parts.length - 1].text) || /^dual$/i.test(parts[0].text)) return null;
      return `${writtenName(name)} is not in the catalog, so what reading it does is not known`;
    }
    if (relation.object === "table")
      return relation.kind === "linked" || relation.kind === "virtual"
        ? `what reading ${relation.name} does elsewhere is not known`
        : null;
    if (this.#seen.has(relation) || relation.materialized) return null;
    this.#seen.add(relation);
    this.#waiting.push(relation);
    return null;
  }
}

/** Columns that every table of PostgreSQL has. */
const SYSTEM = new Set(["ctid", "xmin", "xmax", "cmin", "cmax", "tableoid", "oid"]);
