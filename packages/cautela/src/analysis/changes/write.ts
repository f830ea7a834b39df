/** A table whose rows a statement writes. */
export interface Write {
  table: string;
  action: "insert" | "update" | "delete" | "truncate" | "create";
  columns?: string[];
  /** `statement`, or through what: `trigger mooring_audit`. */
  via: string;
}
