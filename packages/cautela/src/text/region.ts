/** A range of the script in lines and columns, from 1; columns in UTF-16 units. */
export interface Region {
  line: number;
  column: number;
  endLine: number;
  endColumn: number;
}
