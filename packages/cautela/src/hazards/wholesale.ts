import { isBusiness } from "../analysis/script/table-class.ts";
import { foldName, writtenName } from "../catalog/names.ts";
import { relationKey } from "../catalog/relation-keys.ts";
import { GAP, gapsShown } from "../sql/grammar/known-text.ts";
import type { Name, Statement } from "../sql/nodes/tree.ts";
import type { HazardContext } from "./hazard.ts";

/** What dynamic SQL is known to do to whole tables, although not all of its text is known. */
export interface Wholesale {
  /** What it does, as messages say it: "deletes all rows of `mooring`". */
  does: string;
  /** The statement, with … for what is not known. */
  text: string;
  /** Whether it is the business's own, as far as its name tells. */
  business: boolean;
}

/**
 * What a statement, read from a text with gaps, does to a whole table; null: nothing, or what stands in the gap decides.
 *
 * @example
 * // EXECUTE format('TRUNCATE TABLE %I CASCADE', r.tablename)   empties a table whose name is known only while it runs
 */
export function wholesale(tree: Statement, context: HazardContext): Wholesale | null {
  const { slice, creations, catalog, dialect, policy } = context;
  // What follows the name may be the filter.
  const ends = (after: number): boolean => !slice(after, tree.end).includes(GAP);
  const of = (does: string, name: Name, what = "table"): Wholesale | null => {
    const written = writtenName(name);
    const made = creations.made(relationKey(name, catalog, dialect)) !== null;
    if (made || written.startsWith("#")) return null;
    const part = written.replaceAll(GAP, "") === "" ? "" : ` (\`${gapsShown(written)}\`)`;
    const shown = written.includes(GAP)
      ? `a ${what} whose name is known only while it runs${part}`
      : `${what === "table" ? "" : `the ${what} `}\`${written}\``;
    const text = gapsShown(context.show(tree));
    return { does: `${does} ${shown}`, text, business: isBusiness(written.replaceAll(GAP, "x"), policy) };
  };
  switch (tree.kind) {
    case "delete": {
      const [from] = tree.from;
      if (tree.where || tree.limit || tree.using.length > 0 || tree.named.length > 0 || tree.currentOf) return null;
      if (tree.from.length !== 1 || from.kind !== "table" || !ends(from.name.end)) return null;
      return of("deletes all rows of", from.name);
    }
    case "update": {
      const [target] = tree.target;
      if (tree.where || tree.limit || tree.from.length > 0 || tree.currentOf) return null;
      if (tree.target.length !== 1 || target.kind !== "table") return null;
      if (slice(tree.end - 1, tree.end) === GAP) return null;
      const added = creations.added(relationKey(target.name, catalog, dialect));
      const backfill = tree.assignments.every(({ targets }) =>
        targets.every((one) => one.kind === "column" && added?.has(foldName(one.path[one.path.length - 1], dialect))),
      );
      return backfill ? null : of("changes all rows of", target.name);
    }
    case "truncate":
      return tree.partitions || tree.targets.length === 0 ? null : of("empties", tree.targets[0].name);
    case "drop":
      if (tree.object === "table") return of("drops", tree.names[0]);
      return tree.object === "schema" || tree.object === "database" ? of("drops", tree.names[0], tree.object) : null;
    case "alter-table": {
      const dropped = tree.actions.find(({ what }) => what === "drop-column");
      return dropped?.what === "drop-column" ? of(`drops \`${gapsShown(dropped.name.text)}\` of`, tree.name) : null;
    }
    default:
      return null;
  }
}
