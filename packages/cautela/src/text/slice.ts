/** The text of a script between two offsets. */
export type Slice = (start: number, end: number) => string;
