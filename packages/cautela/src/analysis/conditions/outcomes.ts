// What a condition may come to, as bits: a row that makes it true, one that makes it false, one that leaves it NULL.

/**
 * The outcomes that a condition can have over the rows it is asked of, as a set of bits. A filter
 * keeps a row only when its condition is true; false and NULL both reject it.
 */
export const TRUE = 1;

export const FALSE = 2;

export const NULL = 4;

export const ANY = 7;

export type Outcomes = number;

export function bool(value: boolean): Outcomes {
  return value ? TRUE : FALSE;
}

export function negated(outcomes: Outcomes): Outcomes {
  return (outcomes & TRUE ? FALSE : 0) | (outcomes & FALSE ? TRUE : 0) | (outcomes & NULL);
}

export function and(a: Outcomes, b: Outcomes): Outcomes {
  let result = 0;
  if (a & TRUE && b & TRUE) result |= TRUE;
  if (a & FALSE || b & FALSE) result |= FALSE;
  if ((a & NULL && b & (TRUE | NULL)) || (b & NULL && a & (TRUE | NULL))) result |= NULL;
  return result;
}

export function or(a: Outcomes, b: Outcomes): Outcomes {
  return negated(and(negated(a), negated(b)));
}
