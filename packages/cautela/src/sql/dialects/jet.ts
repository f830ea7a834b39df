import { K } from "../keywords.ts";
import { dialect } from "./dialect.ts";
import { coreNotAlias, coreReserved, standardGrammar, standardLexical, standardRun } from "./standard.ts";

/** The SQL of .mdb and .accdb desktop files. */
export const jet = dialect(
  "jet",
  "Jet SQL",
  {
    ...standardLexical,
    doubleQuoteIsString: true,
    brackets: true,
    backticks: true,
    hashDates: true,
  },
  {
    ...standardGrammar,
    reserved: [
      ...coreReserved.filter((word) => word !== K.CASE && word !== K.THEN && word !== K.WHEN && word !== K.DEFAULT),
      K.ALTER,
      K.BETWEEN,
      K.BY,
      K.DELETE,
      K.DISTINCTROW,
      K.DROP,
      K.EXISTS,
      K.INDEX,
      K.INNER,
      K.INSERT,
      K.IS,
      K.JOIN,
      K.LEFT,
      K.LIKE,
      K.RIGHT,
      K.SET,
      K.UPDATE,
      K.VALUES,
      K.XOR,
    ],
    notAlias: [...coreNotAlias, K.PIVOT, K.OWNERACCESS],
    joinedUpdate: true,
    fold: "keep",
    looseNames: true,
  },
  standardRun,
);
