import { Catalog, catalogFromDdl, type DialectId, dialectIds, guessDialect, isDialectId } from "cautela";
import { InvalidArgumentError } from "commander";
import { Failure } from "./failure.ts";
import { readText } from "./files.ts";

/** Checks a dialect's id. */
export function dialectOption(text: string): DialectId {
  if (isDialectId(text)) return text;
  throw new InvalidArgumentError(`it is one of ${dialectIds.join(", ")}.`);
}

/** A check that a text is one of some words. */
export function choice<W extends string>(words: readonly W[]): (text: string) => W {
  return (text) => {
    const found = words.find((word) => word === text);
    if (found === undefined) throw new InvalidArgumentError(`it is one of ${words.join(", ")}.`);
    return found;
  };
}

/** Gathers the values of an option that may be given more than once. */
export function repeated(text: string, before: string[] | undefined): string[] {
  return [...(before ?? []), text];
}

/** Builds one catalog from DDL files, each replayed on the ones before it. */
export function catalogFrom(paths: readonly string[], given: DialectId | undefined): Catalog | undefined {
  if (paths.length === 0) return undefined;
  const texts = paths.map((path) => {
    if (path === "-") throw new Failure("a catalog cannot come from standard input");
    return readText(path).text;
  });
  const dialect = given ?? guessDialect(texts.join("\n")).dialect;
  let catalog = new Catalog(dialect);
  for (const text of texts) catalog = catalogFromDdl(text, { dialect, onto: catalog });
  if (catalog.size === 0) throw new Failure(`no table was found in ${paths.join(", ")}, read as ${dialect}`);
  return catalog;
}
