import { K } from "../lexer/keywords.ts";
import { T } from "../lexer/tokens.ts";
import type { Building, MergeStatement, MergeWhen, Returning, With } from "../nodes/tree.ts";
import type { Parser } from "../reading/parser.ts";
import { assignments, logErrors, returning } from "./change-clauses.ts";
import { expression, expressions } from "./expression.ts";
import { columnList, overrides } from "./insert.ts";
import { top } from "./limit.ts";
import { joined } from "./source.ts";

/** MERGE; WITH, if any, has been read. */
export function merge(p: Parser, withClause: With | null): MergeStatement {
  const start = withClause?.start ?? p.start;
  p.expect(K.MERGE);
  if (p.is(K.TOP)) top(p);
  p.accept(K.INTO);
  const target = joined(p);
  p.expect(K.USING);
  const source = joined(p);
  p.expect(K.ON);
  const on = expression(p);
  const whens: MergeWhen[] = [];
  while (p.is(K.WHEN)) whens.push(mergeWhen(p));
  if (whens.length === 0) p.fail("WHEN MATCHED or WHEN NOT MATCHED");
  let output: Returning | null = null;
  if (p.is(K.OUTPUT) || p.is(K.RETURNING)) output = returning(p);
  if (p.is(K.LOG)) logErrors(p);
  if (p.is(K.OPTION) && p.peekKind(1) === T.LPAREN) {
    p.advance();
    p.skipParens();
  }
  return { kind: "merge", with: withClause, target, source, on, whens, returning: output, start, end: p.previousEnd };
}

function mergeWhen(p: Parser): MergeWhen {
  const start = p.start;
  p.advance();
  let matched: MergeWhen["matched"] = "matched";
  if (p.accept(K.NOT)) {
    p.expect(K.MATCHED);
    matched = "not-matched";
    if (p.accept(K.BY)) {
      if (p.accept(K.SOURCE)) matched = "not-matched-by-source";
      else p.advance();
    }
  } else p.expect(K.MATCHED);
  const condition = p.accept(K.AND) ? expression(p) : null;
  p.expect(K.THEN);
  const node: Building<MergeWhen> = {
    matched,
    condition,
    action: "nothing",
    assignments: [],
    columns: null,
    values: null,
    where: null,
    overriding: false,
    deleteWhere: null,
    start,
    end: start,
  };
  if (p.accept(K.UPDATE)) {
    node.action = "update";
    p.expect(K.SET);
    node.assignments = assignments(p);
    if (p.accept(K.WHERE)) node.where = expression(p);
    if (p.accept(K.DELETE)) {
      p.expect(K.WHERE);
      node.deleteWhere = expression(p);
    }
  } else if (p.accept(K.DELETE)) node.action = "delete";
  else if (p.accept(K.INSERT)) {
    node.action = "insert";
    if (p.at(T.LPAREN)) node.columns = columnList(p);
    node.overriding = overrides(p);
    if (p.accept(K.DEFAULT)) p.expect(K.VALUES);
    else {
      p.expect(K.VALUES);
      p.expectKind(T.LPAREN, "(");
      node.values = expressions(p);
      p.expectKind(T.RPAREN, ") or ,");
    }
    if (p.accept(K.WHERE)) node.where = expression(p);
  } else {
    p.expect(K.DO);
    p.expect(K.NOTHING);
  }
  node.end = p.previousEnd;
  return node;
}
