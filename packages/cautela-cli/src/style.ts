import type { Style } from "cautela/tools";
import pc from "picocolors";

/** Colours for a terminal; none where the output goes elsewhere or NO_COLOR is set. */
export function terminalStyle(stream: { isTTY?: boolean }): Style {
  const plain = process.env.NO_COLOR !== undefined && process.env.NO_COLOR !== "";
  const colours = pc.createColors(stream.isTTY === true && !plain && process.env.TERM !== "dumb");
  return (role, text) => {
    switch (role) {
      case "stop":
        return colours.bold(colours.red(text));
      case "ask":
        return colours.yellow(text);
      case "note":
        return colours.cyan(text);
      case "clear":
        return colours.green(text);
      case "strong":
        return colours.bold(text);
      case "dim":
        return colours.dim(text);
      case "code":
        return text;
    }
  };
}

/** How many columns the output has; 80 where nobody says. */
export function columns(stream: { columns?: number }): number {
  return Math.min(stream.columns ?? 80, 100);
}
