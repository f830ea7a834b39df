import { K } from "../../lexer/keywords.ts";
import { dialect } from "../dialect.ts";
import { engineOf } from "../engine.ts";
import {
  mysqlEngineRules,
  mysqlFamilyEngine,
  mysqlFamilySyntax,
  mysqlGrammar,
  mysqlLexical,
  mysqlRun,
} from "../mysql/dialect.ts";
import { syntaxOf } from "../syntax.ts";
import { mariadbClauseWords, mariadbObjects, mariadbTableActions } from "./objects.ts";

/** MariaDB 10.11; words after its manual's "Reserved Words". */
export const mariadb = dialect(
  "mariadb",
  "MariaDB",
  // MariaDB runs `/*!` text up to its own version, but not that of MySQL 5.7 to 9.9.
  { ...mysqlLexical, conditionalComments: 101199, conditionalGap: [50700, 99999] },
  {
    ...mysqlGrammar,
    objects: mariadbObjects,
    tableActions: mariadbTableActions,
    clauseWords: mariadbClauseWords,
    reserved: [...mysqlGrammar.reserved, K.EXCEPT, K.INTERSECT, K.OVER, K.PARTITION, K.RECURSIVE, K.RETURNING, K.ROWS],
    notAlias: [...mysqlGrammar.notAlias, K.RETURNING, K.OFFSET],
  },
  syntaxOf(
    ...mysqlFamilySyntax,
    "analyzeRuns",
    "minusOperation",
    "rowsExamined",
    "portions",
    "deleteHistory",
    "ignoreValue",
  ),
  engineOf([...mysqlFamilyEngine, "jsonIsText", "nullIsDefault"], mysqlEngineRules),
  mysqlRun,
);
