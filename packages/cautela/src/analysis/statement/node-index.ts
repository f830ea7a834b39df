import type {
  Binary,
  Call,
  ColumnRef,
  In,
  Literal,
  Placeholder,
  Quantified,
  Query,
  Span,
  Statement,
} from "../../sql/nodes/tree.ts";
import { walk } from "../../sql/nodes/visitor.ts";
import { Trait } from "./traits.ts";

/** The nodes of a statement by what they are: gathered in one walk, for all the hazards that look for them. */
export interface NodeIndex {
  /** What occurs in it, see `Trait`. */
  readonly traits: number;
  readonly calls: readonly Call[];
  readonly columns: readonly ColumnRef[];
  readonly holes: readonly Placeholder[];
  /** Strings and dates. */
  readonly texts: readonly Literal[];
  readonly comparisons: readonly Binary[];
  readonly divisions: readonly Binary[];
  readonly memberships: readonly In[];
  readonly quantified: readonly Quantified[];
  readonly queries: readonly Query[];
  /** There is a LIMIT or a TOP somewhere. */
  readonly limited: boolean;
}

const NONE: readonly never[] = [];

/** A list with one more entry; most statements have no entry in most lists, and then there is no list either. */
function more<E>(list: readonly E[], one: E): readonly E[] {
  if (list === NONE) return [one];
  (list as E[]).push(one);
  return list;
}

/** Gathers the nodes of a statement. */
export function nodeIndexOf(statement: Statement): NodeIndex {
  let traits = 0;
  let relations = 0;
  const found: { -readonly [List in keyof NodeIndex]: NodeIndex[List] } = {
    traits,
    calls: NONE,
    columns: NONE,
    holes: NONE,
    texts: NONE,
    comparisons: NONE,
    divisions: NONE,
    memberships: NONE,
    quantified: NONE,
    queries: NONE,
    limited: false,
  };
  walk(statement, (node) => {
    switch (node.kind) {
      case "column":
        found.columns = more(found.columns, node);
        if (isTypographic(node)) traits |= Trait.typographic;
        break;
      case "literal":
        if (node.type === "string" || node.type === "date") {
          found.texts = more(found.texts, node);
          traits |= node.value === "" ? Trait.text | Trait.null : Trait.text;
        } else if (node.type === "null" || node.type === "default") traits |= Trait.null;
        break;
      case "binary":
        if (node.op === "/") found.divisions = more(found.divisions, node);
        else found.comparisons = more(found.comparisons, node);
        if (node.op === "<>" || node.op === "!=") traits |= Trait.unequal;
        break;
      case "logic":
        traits |= node.op === "and" ? Trait.and : Trait.or;
        break;
      case "call":
        found.calls = more(found.calls, node);
        traits |= Trait.call;
        break;
      case "table":
        if (++relations > 1) traits |= Trait.several;
        if (node.alias) traits |= Trait.alias;
        break;
      case "joined":
        traits |= Trait.joined | Trait.several;
        break;
      case "derived":
      case "function":
      case "opaque-source":
        if (++relations > 1) traits |= Trait.several;
        break;
      case "in":
        found.memberships = more(found.memberships, node);
        traits |= node.negated ? Trait.in | Trait.unequal : Trait.in;
        break;
      case "like":
        traits |= node.negated ? Trait.like | Trait.unequal : Trait.like;
        break;
      case "unary":
        if (node.op === "not") traits |= Trait.unequal;
        break;
      case "case":
        traits |= Trait.case;
        break;
      case "query":
        found.queries = more(found.queries, node);
        if (node.limit) found.limited = true;
        traits |= Trait.query;
        break;
      case "select":
        if ("top" in node && node.top) found.limited = true;
        break;
      case "update":
      case "delete":
        if (node.limit) found.limited = true;
        break;
      case "quantified":
        found.quantified = more(found.quantified, node);
        break;
      case "variable":
        traits |= Trait.variable;
        break;
      case "placeholder":
        found.holes = more(found.holes, node);
        traits |= Trait.hole;
        break;
      case "create-routine":
        // What a definition holds does not run here.
        return false;
      default:
    }
    return undefined;
  });
  found.traits = traits;
  return found;
}

/** Whether a name begins with a quote that a word processor has made of ' or ". */
export function isTypographic({ path }: ColumnRef): boolean {
  const { text, quoted } = path[0];
  const code = text.charCodeAt(0);
  return !quoted && code >= 0x2018 && code <= 0x201e;
}

/** Whether a node lies within a piece of the statement. */
export function within(node: Span, piece: Span): boolean {
  return node.start >= piece.start && node.end <= piece.end;
}
