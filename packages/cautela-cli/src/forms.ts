import type { ReportFormat, ReportOptions, ReviewedScript } from "cautela";
import { jsonPieces, type TextOptions, textReport } from "cautela/tools";
import { Failure } from "./failure.ts";

/** Reviews in one of the forms, in pieces; what only some runs need is loaded then. */
export async function inForm(
  reviews: readonly ReviewedScript[],
  format: ReportFormat,
  options: ReportOptions & TextOptions,
): Promise<Iterable<string>> {
  if (format === "json") return jsonPieces(reviews);
  try {
    if (format === "text") return [textReport(reviews, options)];
    const { report } = await import("./document-forms.ts");
    return [report(reviews, format, options)];
  } catch (error) {
    // A string has its bounds (RangeError: Invalid string length).
    if (error instanceof RangeError)
      throw new Failure(`this is too much for one result as ${format}: review fewer scripts`);
    throw error;
  }
}

/** The form that the ending of a file names; null: none. */
export function formOf(file: string): ReportFormat | null {
  const name = file.toLowerCase();
  for (const [ending, format] of ENDINGS) if (name.endsWith(ending)) return format;
  return null;
}

const ENDINGS: readonly (readonly [string, ReportFormat])[] = [
  [".sarif.json", "sarif"],
  [".sarif", "sarif"],
  [".json", "json"],
  [".xml", "junit"],
  [".md", "markdown"],
  [".markdown", "markdown"],
  [".html", "html"],
  [".htm", "html"],
  [".txt", "text"],
];
