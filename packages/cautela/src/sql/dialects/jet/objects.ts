import { objectWords, words } from "../objects.ts";

/** What CREATE, ALTER and DROP name a kind of object by; words after: Microsoft Access database engine SQL reference. */
export const jetObjects = objectWords("database group index proc procedure table user view");

/** The first words of what ALTER TABLE does. */
export const jetTableActions = words("add alter drop");

/** Words of the clauses of a column or a constraint that the grammar need not know. */
export const jetClauseWords = words("comp compressed");
