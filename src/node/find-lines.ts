import type { DocumentNode, MemberNode, ValueNode } from "@humanwhocodes/momoa";
import { limits, withoutMark } from "../core/base/limits.ts";
import { MantleError, type Place, type Problem } from "../core/base/problem.ts";
import type { CatalogFolder } from "./catalog-folder.ts";

/**
 * Adds to each problem the line and column of what it is about, and the file where that was not said.
 *
 * @param files - the JSON files of the catalog.
 */
export async function findLines<P extends Problem>(
  folder: CatalogFolder,
  files: readonly string[],
  problems: readonly P[],
): Promise<readonly P[]> {
  const known = new Map<string, DocumentNode | undefined>();
  const allowance = { bytes: limits.catalogLength };
  const read = async (file: string) => {
    if (!known.has(file)) known.set(file, await parsed(folder, file, allowance));
    return known.get(file);
  };
  const found: P[] = [];
  for (const problem of problems) {
    const related: Place[] = [];
    for (const place of problem.related ?? []) related.push(await located(place, files, read));
    const place = await located(problem.place, files, read);
    found.push({ ...problem, place, ...(problem.related === undefined ? {} : { related }) });
  }
  return found;
}

async function located(
  place: Place,
  files: readonly string[],
  read: (file: string) => Promise<DocumentNode | undefined>,
): Promise<Place> {
  const { file, pointer } = place;
  if (pointer === "") return place;
  for (const each of file === undefined ? files : files.filter((other) => other === file)) {
    const document = await read(each);
    const spot = document === undefined ? undefined : spotOf(document.body, pointer);
    // A problem without a file is in the one that has all of its pointer; else as much as there is will do.
    if (spot === undefined || (file === undefined && !spot.isWhole)) continue;
    return { ...place, file: each, line: spot.line, column: spot.column };
  }
  return place;
}

async function parsed(
  folder: CatalogFolder,
  file: string,
  allowance: { bytes: number },
): Promise<DocumentNode | undefined> {
  const { parse } = await import("@humanwhocodes/momoa");
  try {
    const bytes = await folder.read(file, allowance);
    if (bytes === undefined) return undefined;
    const text = withoutMark(bytes.toString("utf8"));
    JSON.parse(text);
    return parse(text);
  } catch (error) {
    // What cannot be read, is no JSON or is nested too deep has a problem of its own, without lines.
    if (error instanceof MantleError || error instanceof SyntaxError || error instanceof RangeError) return undefined;
    throw error;
  }
}

interface Spot {
  readonly line: number;
  readonly column: number;
  /** Whether all of the pointer is there. */
  readonly isWhole: boolean;
}

/** Where a JSON Pointer (RFC 6901) leads: to the name of a member, to an element, or as near as there is something. */
function spotOf(root: ValueNode, pointer: string): Spot {
  let node = root;
  let { line, column } = root.loc.start;
  for (const escaped of pointer.split("/").slice(1)) {
    const key = escaped.replaceAll("~1", "/").replaceAll("~0", "~");
    const inner = innerOf(node, key);
    if (inner === undefined) return { line, column, isWhole: false };
    ({ line, column } = inner.loc.start);
    node = inner.value;
  }
  return { line, column, isWhole: true };
}

function innerOf(node: ValueNode, key: string): Pick<MemberNode, "loc" | "value"> | undefined {
  if (node.type === "Object")
    // Of a name that stands twice, the last counts.
    return node.members.findLast(({ name }) => (name.type === "String" ? name.value : name.name) === key);
  const element = node.type === "Array" ? node.elements[Number(key)] : undefined;
  return element === undefined ? undefined : { loc: element.loc, value: element.value };
}
