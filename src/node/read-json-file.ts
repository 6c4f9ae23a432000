import type { ValueNode } from "@humanwhocodes/momoa";
import { limits, withoutMark } from "../core/base/limits.ts";
import { message } from "../core/base/message.ts";
import { type Fix, MantleError, type Problem, pointerTo } from "../core/base/problem.ts";
import type { Allowance, CatalogFolder } from "./catalog-folder.ts";

/**
 * Reads a JSON file of a catalog folder; keys that stand twice in one object are problems, since the first of the two would be lost.
 *
 * @throws MantleError `unreadable-file`, naming the file.
 */
export async function readJsonFile(
  folder: CatalogFolder,
  name: string,
  allowance: Allowance,
): Promise<{ readonly value: unknown; readonly problems: readonly Problem[] }> {
  const bytes = await folder.read(name, allowance);
  if (bytes === undefined)
    throw new MantleError(
      "unreadable-file",
      `${name} cannot be read: there is no such file in ${folder.path}. Name a folder with a ${name}.`,
    );
  const text = withoutMark(bytes.toString("utf8"));
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { value: undefined, problems: [badJson(name, await preciseError(text, error))] };
  }
  const keys = keysIn(value, limits.depth);
  if (keys === undefined) return { value: undefined, problems: [tooDeep(name)] };
  if (countKeys(text) === keys) return { value, problems: [] };
  const { parse } = await import("@humanwhocodes/momoa");
  return { value, problems: [...repeatedKeys(parse(text).body, "", name)] };
}

function tooDeep(file: string): Problem {
  const reason = message("nested-too-deep", { max: limits.depth });
  const fixes: readonly Fix[] = [{ code: "mend-beyond-limits", params: {} }];
  return { ...message("beyond-limits", { reason }), severity: "error", place: { file, pointer: "" }, fixes };
}

/** The same error with its line and column, from a parser that knows them. */
async function preciseError(text: string, error: unknown): Promise<unknown> {
  const { parse } = await import("@humanwhocodes/momoa");
  try {
    parse(text);
  } catch (precise) {
    // Nested so deep that this parser gives up, it is broken all the same.
    return precise instanceof RangeError ? error : precise;
  }
  return error;
}

/** How many keys a text that is JSON has: strings before a colon. Every string is passed over whole, so nothing in one counts. */
function countKeys(text: string): number {
  let count = 0;
  for (let start = text.indexOf('"'); start !== -1; ) {
    let after = endOfString(text, start);
    start = text.indexOf('"', after);
    while (isSpace(text.charCodeAt(after))) after += 1;
    if (text[after] === ":") count += 1;
  }
  return count;
}

/** Where the string that begins at a quote is over. */
function endOfString(text: string, start: number): number {
  for (let end = text.indexOf('"', start + 1); ; end = text.indexOf('"', end + 1)) {
    let escapes = 0;
    while (text[end - 1 - escapes] === "\\") escapes += 1;
    if (escapes % 2 === 0) return end + 1;
  }
}

/** Space, tab, line feed and carriage return (RFC 8259). */
function isSpace(code: number): boolean {
  return code === 32 || code === 9 || code === 10 || code === 13;
}

/** How many keys a value has, all levels counted: fewer than its text where one stands twice. `undefined` for more levels than so many. */
function keysIn(value: unknown, levels: number): number | undefined {
  if (typeof value !== "object" || value === null) return 0;
  if (levels === 0) return undefined;
  const record = value as Readonly<Record<string, unknown>>;
  let count = 0;
  for (const key in record) {
    const inner = keysIn(record[key], levels - 1);
    if (inner === undefined) return undefined;
    count += inner + 1;
  }
  return Array.isArray(value) ? count - value.length : count;
}

function badJson(file: string, error: unknown): Problem {
  return {
    ...message("not-json", { reason: error instanceof Error ? error.message : String(error) }),
    severity: "error",
    place: { file, pointer: "" },
    fixes: [{ code: "mend-not-json", params: {} }],
  };
}

function* repeatedKeys(node: ValueNode, pointer: string, file: string): Iterable<Problem> {
  if (node.type === "Array") {
    for (const [number, element] of node.elements.entries())
      yield* repeatedKeys(element.value, pointer + pointerTo(number), file);
  }
  if (node.type !== "Object") return;
  const seen = new Set<string>();
  for (const { name, value, loc } of node.members) {
    const key = name.type === "String" ? name.value : name.name;
    const here = pointer + pointerTo(key);
    if (seen.has(key)) {
      yield {
        ...message("repeated-key", { key, line: loc.start.line }),
        severity: "error",
        place: { file, pointer: here },
        fixes: [{ code: "mend-repeated-key", params: {} }],
      };
    }
    seen.add(key);
    yield* repeatedKeys(value, here, file);
  }
}
