import { readFile } from "node:fs/promises";
import { type DocumentNode, parse, type ValueNode } from "@humanwhocodes/momoa";
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
  let document: DocumentNode;
  let value: unknown;
  try {
    document = parse(text);
    value = JSON.parse(text);
  } catch (error) {
    return { value: undefined, problems: [badJson(name, error)] };
  }
  return { value, problems: [...repeatedKeys(document.body, "", name)] };
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
