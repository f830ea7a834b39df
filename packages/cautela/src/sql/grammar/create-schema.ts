import { K } from "../lexer/keywords.ts";
import type { Building, CreateSchemaStatement, Ident, Name, Statement } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { ifExists } from "./if-exists.ts";
import { skipStatement } from "./statement-end.ts";

/**
 * CREATE SCHEMA and CREATE DATABASE, starting after CREATE. `element` reads one of the statements that PostgreSQL takes in
 * it, without a terminator between them.
 */
export function createSchema(p: Parser, start: number, element: () => Statement): CreateSchemaStatement {
  const object = p.accept(K.DATABASE) ? "database" : "schema";
  if (object === "schema") p.expect(K.SCHEMA);
  const ifNotExists = ifExists(p);
  const authorized = p.accept(K.AUTHORIZATION);
  const name = p.name("a name");
  const node: Building<CreateSchemaStatement> = {
    kind: "create-schema",
    object,
    name,
    ifNotExists,
    elements: [],
    start,
    end: start,
  };
  if (object === "schema" && p.dialect.syntax.schemaElements) {
    if (!authorized && p.accept(K.AUTHORIZATION)) p.name("a role");
    const { inSchema } = p;
    p.inSchema = true;
    const elements: Statement[] = [];
    while (p.is(K.CREATE) || p.is(K.GRANT)) elements.push(element());
    p.inSchema = inSchema;
    place(elements, name.parts[name.parts.length - 1]);
    node.elements = elements;
  }
  if (!p.atEnd()) skipStatement(p, { begun: true });
  node.end = p.previousEnd;
  return node;
}

/** Gives the elements, and what refers to one of them, the schema in which they are made. */
function place(elements: readonly Statement[], schema: Ident): void {
  const made = new Set<string>();
  for (const one of elements)
    if (one.kind === "create-table" || one.kind === "create-view") made.add(spelled(one.name.parts[0]));
  eachName(elements, (name) => {
    if (name.parts.length === 1 && made.has(spelled(name.parts[0]))) {
      const placed: Building<Name> = name;
      placed.parts = [schema, name.parts[0]];
    }
  });
}

function spelled({ text, quoted }: Ident): string {
  return quoted ? text : text.toLowerCase();
}

function eachName(value: unknown, take: (name: Name) => void): void {
  if (Array.isArray(value)) {
    for (const one of value) eachName(one, take);
    return;
  }
  if (typeof value !== "object" || value === null) return;
  if (isName(value)) take(value);
  else for (const one of Object.values(value)) eachName(one, take);
}

function isName(value: object): value is Name {
  return "kind" in value && value.kind === "name";
}
