import { readFile } from "node:fs/promises";
import type { ValueNode } from "@humanwhocodes/momoa";
import { MantleError, type Problem, pointerTo } from "../core/problem.ts";
import { reasonOf } from "./file-error.ts";

/** Reads a JSON file; keys that stand twice in one object are problems, since the first of the two would be lost. */
export async function readJsonFile(
  path: string,
  name: string,
): Promise<{ readonly value: unknown; readonly problems: readonly Problem[] }> {
  const text = await readFile(path, "utf8").catch((error: unknown) => {
    throw new MantleError(
      "unreadable-file",
      `${name} cannot be read: ${reasonOf(error)} (${path}). Name a folder with a catalog.json.`,
    );
  });
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { value: undefined, problems: [badJson(name, await preciseError(text, error))] };
  }
  if (countKeys(text) === keysIn(value)) return { value, problems: [] };
  const { parse } = await import("@humanwhocodes/momoa");
  return { value, problems: [...repeatedKeys(parse(text).body, "", name)] };
}

/** The same error with its line and column, from a parser that knows them. */
async function preciseError(text: string, error: unknown): Promise<unknown> {
  const { parse } = await import("@humanwhocodes/momoa");
  try {
    parse(text);
  } catch (precise) {
    return precise;
  }
  return error;
}

/** How many keys a text that is JSON has: strings before a colon. Every string is passed over whole, so nothing in one counts. */
function countKeys(text: string): number {
  const strings = /"(?:[^"\\]|\\.)*"\s*:?/g;
  const colon = 58;
  let count = 0;
  while (strings.test(text)) if (text.charCodeAt(strings.lastIndex - 1) === colon) count += 1;
  return count;
}

/** How many keys a value has, all levels counted; fewer than its text where one stands twice. */
function keysIn(value: unknown): number {
  if (typeof value !== "object" || value === null) return 0;
  let count = Array.isArray(value) ? 0 : Object.keys(value).length;
  for (const each of Object.values(value)) count += keysIn(each);
  return count;
}

function badJson(file: string, error: unknown): Problem {
  return {
    code: "bad-json",
    severity: "error",
    place: { file, pointer: "" },
    because: `This is not JSON: ${error instanceof Error ? error.message : String(error)}.`,
    fixes: [{ say: "Mend it at the line and column named." }],
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
        code: "duplicate-id",
        severity: "error",
        place: { file, pointer: here },
        because: `"${key}" stands twice in the same object, the second time in line ${loc.start.line}.`,
        fixes: [{ say: "Rename one of the two, or remove it." }],
      };
    }
    seen.add(key);
    yield* repeatedKeys(value, here, file);
  }
}
