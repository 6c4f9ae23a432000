import { message } from "../../base/message.ts";
import type { Problem } from "../../base/problem.ts";
import { artFinding } from "../found.ts";
import type { ListedPicture } from "./listed-picture.ts";

const numbers = ["x", "y", "width", "height", "left", "top", "feet-x", "feet-y"] as const;

/**
 * Reads a text that has a rectangle in each line, by a pattern of its lines: `{name}`, `{x}` `{y}` `{width}` `{height}` in the packed picture,
 * `{left}` `{top}` in the whole one, `{feet-x}` `{feet-y}` from the rectangle's corner, `{any}`; a space is any run of them. Empty lines, and
 * those that begin with `#` or `//`, are left out.
 */
export function readLines(
  file: string,
  text: string,
  pattern: string | undefined,
): { readonly pictures: readonly ListedPicture[]; readonly problems: readonly Problem[] } {
  if (pattern === undefined)
    return {
      pictures: [],
      problems: [artFinding(file, "error", message("table-without-pattern"), message("mend-table"))],
    };
  const form = formOf(pattern);
  const pictures: ListedPicture[] = [];
  const problems: Problem[] = [];
  for (const [number, line] of text.split(/\r?\n/).entries()) {
    const trimmed = line.trim();
    if (trimmed === "" || /^(#|\/\/)/.test(trimmed)) continue;
    const groups = form.exec(trimmed)?.groups;
    if (groups === undefined) {
      const shown = trimmed.length > 60 ? `${trimmed.slice(0, 57)}…` : trimmed;
      problems.push(
        artFinding(
          file,
          "error",
          message("line-without-pattern", { line: number + 1, text: shown }),
          message("mend-table"),
        ),
      );
    } else pictures.push(listed(groups));
  }
  return { pictures, problems };
}

function formOf(pattern: string): RegExp {
  const source = pattern
    .trim()
    .split(/(\{[a-z-]+\}|\s+)/)
    .map((piece) => {
      const mark = piece.slice(1, -1);
      if (piece === "{name}") return "(?<name>.+?)";
      if (piece === "{any}") return ".*?";
      if ((numbers as readonly string[]).includes(mark)) return `(?<${mark.replace("-", "_")}>-?\\d{1,9})`;
      return /^\s+$/.test(piece) ? "\\s+" : piece.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
    })
    .join("");
  return new RegExp(`^${source}$`);
}

function listed(groups: Readonly<Record<string, string | undefined>>): ListedPicture {
  const number = (key: string) => (groups[key] === undefined ? undefined : Number(groups[key]));
  const [feetX, feetY, left, top] = ["feet_x", "feet_y", "left", "top"].map(number);
  return {
    name: groups["name"] ?? "",
    rectangle: { x: number("x") ?? 0, y: number("y") ?? 0, width: number("width") ?? 0, height: number("height") ?? 0 },
    isTurned: false,
    whole: undefined,
    offset: left === undefined && top === undefined ? undefined : { x: left ?? 0, y: top ?? 0 },
    feet: feetX === undefined && feetY === undefined ? undefined : { x: feetX ?? 0, y: feetY ?? 0 },
  };
}
