import { objectWords, words } from "../objects.ts";

/** What CREATE, ALTER and DROP name a kind of object by; words after: PostgreSQL 18 manual, part VI: SQL commands. */
export const postgresqlObjects = objectWords(
  "access aggregate cast collation conversion database default domain event extension foreign function " +
    "group index language large materialized operator owned policy procedure property publication role " +
    "routine rule schema sequence server statistics subscription system table tablespace text transform " +
    "trigger type user view",
  "constraint event procedural recursive trusted",
);

/** The first words of what ALTER TABLE does. */
export const postgresqlTableActions = words(
  "add alter attach cluster detach disable drop enable force inherit merge no not of owner rename replica " +
    "reset set split validate",
);

/** Words of the clauses of a column or a constraint that the grammar need not know. */
export const postgresqlClauseWords = words("enforced valid");
