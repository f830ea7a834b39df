import type { Dialect } from "../sql/dialects/dialect.ts";
import { K } from "../sql/lexer/keywords.ts";
import { keywordOf } from "../sql/lexer/words.ts";
import type { Problem } from "../sql/nodes/tree.ts";
import { nearest } from "../text/nearest.ts";

/** Characters of a statement in which its likely fault is looked for. */
export const READ = 4000;

/** What often makes a statement unreadable, and how it shows. */
const LIKELY: readonly [RegExp, string][] = [
  [
    /[\u2018\u2019\u201a\u201c\u201d\u201e]/,
    "it holds typographic quotes, which a word processor has made of ' and \"",
  ],
  [/\u00a0/, "it holds a non-breaking space, which is no blank"],
  [/^(?:<<<<<<<|=======|>>>>>>>)/m, "it holds the marks of a merge conflict"],
  [/\{\{|\{%|<%|\$\{/, "it holds the marks of a template that has not been filled in"],
  [
    /^[ \t]*\d{1,5}[.:)]?[ \t]+(?:select|update|delete|insert|create|alter|drop|from|where|set|and|values)\b/im,
    "the numbers of its lines seem to have been pasted along",
  ],
];

/** Why a statement may be unreadable, in words; what shows in its text. */
export function likelyCauses(text: string, { lexical }: Dialect): string[] {
  const found = LIKELY.filter(([mark]) => mark.test(text)).map(([, said]) => said);
  if (!lexical.backslashEscapes && /\\'/.test(text))
    found.unshift("a backslash does not escape a quote here: \\' ends the text, and '' stands for a quote in it");
  return found;
}

const BEGINNINGS =
  "SELECT UPDATE DELETE INSERT MERGE REPLACE CREATE ALTER DROP TRUNCATE GRANT REVOKE BEGIN COMMIT ROLLBACK SET WITH USE".split(
    " ",
  );
const CLAUSES = "NULL NOT DEFAULT PRIMARY UNIQUE REFERENCES CHECK CONSTRAINT GENERATED COLLATE FOREIGN".split(" ");
const ENDS = "WHERE SET FROM JOIN USING ORDER GROUP HAVING RETURNING LIMIT AND OR VALUES UNION".split(" ");

/** The word that seems to be meant where another one stands: TABLE for TABEL; null where none is near. */
export function meantWord({ expected, found }: Problem, { grammar }: Dialect): string | null {
  const word = /^"([a-z_]{3,20})"$/i.exec(found)?.[1];
  // A word of another dialect is no slip of the pen.
  if (word === undefined || keywordOf(word.toUpperCase()) !== K.NONE) return null;
  const meant = nearest(word, wordsFor(expected, grammar));
  return meant === null || meant.toUpperCase() === word.toUpperCase() ? null : meant.toUpperCase();
}

function wordsFor(expected: string, { objects, tableActions }: Dialect["grammar"]): Iterable<string> {
  switch (expected) {
    case "a statement":
      return BEGINNINGS;
    case "a kind of object":
      return objects.kinds;
    case "a change of the table":
      return tableActions;
    case "a clause of the column or the constraint":
      return CLAUSES;
    case "the end of the statement":
      return ENDS;
    default:
      return expected.match(/\b[A-Z]{2,}\b/g) ?? [];
  }
}
