import { K, WORDS } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Name, OpaqueStatement, Statement } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { ifExists } from "./if-exists.ts";
import { skipRoutine } from "./routine.ts";
import { skipStatement, statementBegins } from "./statement-end.ts";

// CREATE, ALTER and DROP of what is known by its name, and whose definition is kept as text.

export function isBodyAhead(p: Parser, ahead: number): boolean {
  const at = p.pos + ahead;
  return /^body$/i.test(p.text.slice(p.tokens.starts[at], p.tokens.ends[at]));
}

export const OBJECTS = new Map<K, string>([
  ...[
    K.VIEW,
    K.TRIGGER,
    K.FUNCTION,
    K.PROCEDURE,
    K.PACKAGE,
    K.TYPE,
    K.EVENT,
    K.SEQUENCE,
    K.SCHEMA,
    K.DATABASE,
    K.TABLE,
    K.INDEX,
    K.RULE,
    K.POLICY,
    K.DOMAIN,
    K.SYNONYM,
    K.EXTENSION,
    K.ROLE,
    K.USER,
    K.LOGIN,
    K.AGGREGATE,
    K.OPERATOR,
    K.CAST,
    K.SERVER,
    K.COLUMN,
    K.ROUTINE,
    K.PUBLICATION,
    K.SUBSCRIPTION,
    K.TABLESPACE,
    K.COLLATION,
    K.CONVERSION,
    K.LANGUAGE,
    K.STATISTICS,
    K.SYSTEM,
    K.SESSION,
    K.LIBRARY,
    K.JAVA,
    K.DIRECTORY,
    K.LINK,
    K.PROFILE,
    K.CONTEXT,
    K.PLUGIN,
    K.DICTIONARY,
  ].map((word): [K, string] => [word, WORDS[word].toLowerCase()]),
  [K.PROC, "procedure"],
]);

/** What a statement about rights creates, alters or drops. */
export const RIGHTS_OBJECTS = new Set(["role", "user", "login", "policy", "profile"]);

export const ROUTINES = new Set(["function", "procedure", "trigger", "package", "event", "type"]);

/** Stops at a word by which the dialect knows no kind of object: CREATE TABEL. */
function checkKind(p: Parser): void {
  const { kinds, before } = p.dialect.grammar.objects;
  for (let i = 0; i < 14; i++) {
    const kind = p.peekKind(i);
    if (kind === T.EOF || kind === T.SEMICOLON || kind === T.LPAREN) break;
    if (kind !== T.WORD) continue;
    const word = p.wordAhead(i).toLowerCase();
    if (kinds.has(word)) return;
    if (i === 0 && !before.has(word)) break;
  }
  while (before.has(p.wordAhead(0).toLowerCase())) p.advance();
  p.fail("a kind of object");
}

/** CREATE, ALTER or DROP of something whose definition is kept as text. */
export function opaqueObject(p: Parser, verb: string, start: number): OpaqueStatement {
  let object = "";
  let partition = false;
  checkKind(p);
  for (let i = 0; i < 14 && !p.atEnd() && !p.at(T.LPAREN) && !(i > 0 && statementBegins(p)); i++) {
    partition ||= p.is(K.PARTITION);
    const found: string | undefined = p.at(T.WORD) ? OBJECTS.get(p.kw as K) : undefined;
    p.advance();
    if (found !== undefined) {
      object = found;
      break;
    }
  }
  if (object === "package" || object === "type") p.acceptText("BODY");
  ifExists(p);
  const named = !statementBegins(p) && (p.atName() || p.at(T.STRING)) && object !== "operator" && object !== "cast";
  const name = named ? p.name("a name") : null;
  if (ROUTINES.has(object) && !partition && object !== "type" && verb === "alter" && !p.dialect.syntax.alterRoutines)
    skipRoutine(p);
  else skipStatement(p, { begun: true, alters: verb === "alter" });
  const rights = RIGHTS_OBJECTS.has(object);
  return { kind: "opaque", verb, object, class: rights ? "rights" : "structure", name, start, end: p.previousEnd };
}

/** DROP and what is dropped; the words after the names are kept as text. */
export function drop(p: Parser, start: number): Statement {
  let object = "";
  checkKind(p);
  const temporary = p.is(K.TEMPORARY);
  for (let i = 0; i < 6 && !p.atEnd() && object === ""; i++) {
    object = (p.at(T.WORD) ? OBJECTS.get(p.kw as K) : undefined) ?? "";
    p.advance();
  }
  // It never takes a permanent table of that name (MariaDB manual, DROP TABLE).
  if (temporary && object === "table") object = "temporary table";
  if (p.at(T.WORD) && object === "package") p.acceptText("BODY");
  p.accept(K.CONCURRENTLY);
  const optional = ifExists(p);
  const names: Name[] = [];
  if ((p.atName() || p.at(T.STRING)) && object !== "operator" && object !== "cast") {
    do {
      names.push(p.name("a name"));
      // DROP FUNCTION f1(integer), f2()
      if (p.at(T.LPAREN) && ROUTINES.has(object)) p.skipParens();
    } while (p.acceptKind(T.COMMA) && (p.atName() || p.at(T.STRING)));
  }
  const from = p.pos;
  let on: Name | null = null;
  if (p.is(K.ON) && p.peekKind(1) !== T.SEMICOLON && names.length > 0 && !p.nextIs(K.DATABASE) && !p.nextIs(K.ALL)) {
    p.advance();
    if (p.atName()) on = p.name("the name of a table");
  }
  if (object === "index" && p.dialect.syntax.indexOfTable && !on && names.some(({ parts }) => parts.length < 2))
    p.fail("ON");
  if (!p.atEnd() && !statementBegins(p)) skipStatement(p);
  let cascade = false;
  for (let i = from; i < p.pos; i++)
    if (p.tokens.kinds[i] === T.WORD && p.tokens.marks[i] === K.CASCADE) cascade = true;
  return { kind: "drop", object, names, on, ifExists: optional, cascade, start, end: p.previousEnd };
}
