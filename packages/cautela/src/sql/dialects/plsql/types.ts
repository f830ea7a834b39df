/** Names of types, and the names under which Oracle keeps them. */
export const plsqlTypeNames: Readonly<Record<string, string>> = {
  integer: "number",
  int: "number",
  smallint: "number",
  decimal: "number",
  dec: "number",
  numeric: "number",
  varchar: "varchar2",
  "character varying": "varchar2",
  character: "char",
  "double precision": "float",
  real: "float",
};
