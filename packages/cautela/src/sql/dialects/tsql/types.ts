/** Names of types, and the names under which T-SQL keeps them. */
export const tsqlTypeNames: Readonly<Record<string, string>> = {
  integer: "int",
  dec: "decimal",
  numeric: "decimal",
  character: "char",
  "character varying": "varchar",
  "national character varying": "nvarchar",
  "national char varying": "nvarchar",
  "national character": "nchar",
  "double precision": "float",
  rowversion: "timestamp",
};
