import type { Parser } from "../reading/parser.ts";

/** The value of the string token that the parser stands on. */
export function stringValue(p: Parser): string {
  const raw = p.tokenText();
  const { lexical } = p.dialect;
  const first = raw.charCodeAt(0);
  if (first === 36) {
    const tag = raw.indexOf("$", 1) + 1;
    return raw.slice(tag, -tag);
  }
  let open = 0;
  while (open < raw.length && raw.charCodeAt(open) !== 39 && raw.charCodeAt(open) !== 34) open++;
  const prefix = raw.slice(0, open).toUpperCase();
  if (prefix === "Q" || prefix === "NQ") return raw.slice(open + 2, -2);
  const quote = raw[open];
  const inner = raw.slice(open + 1, -1);
  const backslash = prefix === "E" || (lexical.backslashEscapes && prefix !== "B" && prefix !== "X");
  if (backslash && inner.includes("\\")) return unescaped(inner, quote);
  return inner.includes(quote) ? inner.replaceAll(quote + quote, quote) : inner;
}

const ESCAPES: Record<string, string> = { n: "\n", t: "\t", r: "\r", b: "\b", f: "\f", "0": "\0", Z: "\x1a" };

function unescaped(text: string, quote: string): string {
  let out = "";
  for (let i = 0; i < text.length; i++) {
    const character = text[i];
    if (character === "\\" && i + 1 < text.length) {
      const next = text[++i];
      // `\%` and `\_` keep their backslash: it matters to LIKE.
      out += next === "%" || next === "_" ? `\\${next}` : (ESCAPES[next] ?? next);
    } else {
      out += character;
      if (character === quote && text[i + 1] === quote) i++;
    }
  }
  return out;
}
