import { randomUUID } from "node:crypto";
import pc from "picocolors";
import type { Colors } from "picocolors/types.js";

/** What a terminal takes for a command, or for a turn in the direction of writing. */
// biome-ignore lint/suspicious/noControlCharactersInRegex: these are the ones to be shown.
const unseen = /[\u0000-\u001f\u007f-\u009f\u061c\u200e\u200f\u2028\u2029\u202a-\u202e\u2066-\u2069\ufeff]/g;

/**
 * A line in which control and bidirectional characters are shown by their number, `\u001b`, so that no data can command the terminal,
 * hide, or pass for another line.
 */
export function escapeLine(line: string): string {
  return line.replace(unseen, (character) => `\\u${character.charCodeAt(0).toString(16).padStart(4, "0")}`);
}

/** The same for text of several lines, which may have tabs. */
export function escapeText(text: string): string {
  return text
    .split("\n")
    .map((line) => line.split("\t").map(escapeLine).join("\t"))
    .join("\n");
}

/** Colors for lines that are escaped after they were put together. */
export interface SafeColors {
  readonly colors: Colors;
  /** Escapes what came from data, and leaves the colors as they are. */
  escaped(line: string): string;
}

/**
 * Makes colors that data cannot make: they are written with a mark that nobody can know, and become the terminal's own at last.
 *
 * @param isColored - whether there are any.
 */
export function safeColors(isColored: boolean): SafeColors {
  const plain = pc.createColors(isColored);
  const mark = randomUUID();
  const marked = Object.entries(plain).map(([name, format]: [string, unknown]) => [
    name,
    typeof format === "function"
      ? (text: unknown) => String(format(escapeLine(String(text)))).replaceAll("\u001b[", mark)
      : format,
  ]);
  return {
    colors: Object.fromEntries(marked) as Colors,
    escaped: (line) => escapeLine(line).replaceAll(mark, "\u001b["),
  };
}
