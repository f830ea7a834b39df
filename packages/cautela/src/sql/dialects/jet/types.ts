/** Names of types, and the names under which Jet keeps them. */
export const jetTypeNames: Readonly<Record<string, string>> = {
  integer: "long",
  int: "long",
  autoincrement: "counter",
  varchar: "text",
  char: "text",
  string: "text",
  longtext: "memo",
  bit: "yesno",
  boolean: "yesno",
  date: "datetime",
  time: "datetime",
  timestamp: "datetime",
  money: "currency",
  float: "double",
  number: "double",
  real: "single",
};
