import { missingTables } from "../analysis/names/missing.ts";
import { unfollowed } from "../analysis/statement/unfollowed.ts";
import type { Catalog, UnreadDdl } from "../catalog/catalog.ts";
import type { Declarations } from "./declarations.ts";
import type { PlacedUnchecked } from "./result.ts";
import type { StatementContext } from "./statement-context.ts";

/** This many statements of a catalog that could not be read are listed one by one. */
const LACKING = 20;

/** What could not be judged, the same reason once for all the statements that it holds for. */
export class Unchecked {
  readonly list: PlacedUnchecked[] = [];
  readonly #byReason = new Map<string, PlacedUnchecked>();
  readonly #depending: Declarations["depending"];

  constructor({ depending }: Declarations) {
    this.#depending = depending;
  }

  add(missing: string, hazards: readonly string[], statement: number, line: number): void {
    const key = `${missing}\0${hazards.join(" ")}`;
    const known = this.#byReason.get(key);
    if (!known) {
      const one: PlacedUnchecked = { statement, statements: [statement], missing, hazards, lines: [line] };
      this.#byReason.set(key, one);
      this.list.push(one);
    } else if (known.statements[known.statements.length - 1] !== statement) {
      known.statements.push(statement);
      known.lines.push(line);
    }
  }

  /** Lists what could not be judged about a statement. */
  note({ tree, names, changes, ripples, catalog, known, dialect, at }: StatementContext): void {
    const missing = (what: string, hazards: readonly string[]): void =>
      this.add(what, hazards, at.statement, at.region.line);
    if (names && known) {
      for (const table of missingTables(names, { dialect }))
        missing(`table ${table} is not in the catalog`, this.#depending.names);
    } else if (changes.some(({ change, softener }) => !change.table && !softener)) {
      missing("no catalog was given, so keys, required columns and row counts are not known", this.#depending.catalog);
    }
    if (!known && tree.kind === "alter-table" && !catalog?.resolve(tree.name)?.columns.length)
      if (tree.actions.some(({ what }) => what === "column-type" || what === "change-column"))
        missing("no catalog was given, so the types that columns have so far are not known", ["lossy-structure"]);
    const cutOff = ripples.find(({ ripple }) => ripple.cutOff !== null)?.ripple.cutOff;
    if (cutOff) missing(cutOff, this.#depending.ripples);
    const runs = unfollowed(tree, catalog);
    if (runs !== null) missing(runs, this.#depending.code);
    if (tree.kind === "create-routine" && tree.problem)
      missing(
        `the body could not be read: ${tree.problem.found} stands where ${tree.problem.expected} was expected`,
        [],
      );
  }

  /** Lists what is missing in the catalog because its DDL could not be read. */
  lacking(catalog: Catalog | null): void {
    const unread = catalog?.unread ?? [];
    const place = ({ path, line, text }: UnreadDdl): string =>
      `line ${line} of ${path === "" ? "the catalog's DDL" : path} could not be read, so what it makes is not known: ${text}`;
    const more = unread.length - LACKING;
    const missing = unread.slice(0, LACKING).map(place);
    if (more > 0) missing.push(`${more} more statements of the catalog's DDL could not be read`);
    for (const what of missing) this.add(what, this.#depending.names, 0, 1);
  }
}
