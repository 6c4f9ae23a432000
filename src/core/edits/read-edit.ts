import { beyondLimits, limits, shorten } from "../base/limits.ts";
import { type Message, message } from "../base/message.ts";
import { type Fix, type Place, type Problem, pointerTo } from "../base/problem.ts";
import { isRecord, type Path } from "../base/schema/bounds.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { editShapes, hasShape } from "../catalog/model/edit-shapes.ts";
import type { Edit, LoadoutProblem, Verb } from "../character/edit.ts";
import { type Answers, factProblem } from "./given-facts.ts";

/** What reading an edit gives: the edit, or what is wrong with its form. */
export type EditReading =
  | { readonly edit: Edit; readonly problems: readonly [] }
  | { readonly edit: undefined; readonly problems: readonly Problem[] };

const verbs = Object.keys(editShapes) as readonly Verb[];

/**
 * Reads an edit that a stranger sent from parsed JSON, for servers that believe nobody. Its form is judged, and that it answers only what
 * the catalog, or the game besides, offers; `applyEdit` does it or refuses it.
 *
 * @param answers - that the game keeps and the catalog does not give.
 * @returns the edit, or the first thing that is wrong with it. Never throws for bad content.
 * @example
 * const { edit, problems } = readEdit(catalog, JSON.parse(body))
 */
export function readEdit(catalog: Catalog, source: unknown, answers: Answers = {}): EditReading {
  const beyond = beyondLimits(source, limits.characterLength);
  const forged = (edit: Edit) =>
    edit.fact === undefined || edit.value === null ? undefined : factProblem(catalog, edit.fact, edit.value, answers);
  const problem = beyond === undefined ? wrongForm(source, limits.edits, forged) : notAnEdit([], beyond);
  return problem === undefined ? { edit: source as Edit, problems: [] } : { edit: undefined, problems: [problem] };
}

/**
 * What is wrong with the form of an edit, if anything is.
 *
 * @param most - how many edits may stand together in one.
 * @param judge - finds what else is wrong with an edit of the right form.
 */
export function wrongForm(
  source: unknown,
  most = Number.POSITIVE_INFINITY,
  judge?: (edit: Edit) => LoadoutProblem | undefined,
): Problem | undefined {
  let left = most;
  // A list of what is left to look at, since edits that hold edits may be nested deeper than calls may.
  const open: Nested[] = [{ edit: source, within: undefined, at: 0 }];
  for (let next = open.pop(); next !== undefined; next = open.pop()) {
    const { edit } = next;
    if (!isRecord(edit)) return notAnEdit(pathTo(next), message("edit-no-object"));
    left -= 1;
    if (left < 0) return notAnEdit(pathTo(next), message("edit-too-many", { max: most }));
    const [verb, another] = verbs.filter((each) => edit[each] !== undefined);
    if (verb === undefined) return notAnEdit(pathTo(next), message("edit-without-verb", { verbs }));
    if (another !== undefined) return notAnEdit(pathTo(next), message("edit-of-two-verbs", { verb, other: another }));
    if (!hasShape(verb, edit)) return notAnEdit(pathTo(next), message("edit-of-wrong-form", { verb }));
    const problem = judge?.(edit as Edit);
    if (problem !== undefined) return { ...problem, place: placeOf(pathTo(next)), fixes: [] };
    const inner = verb === "together" ? (edit["together"] as readonly unknown[]) : [];
    for (const [at, each] of inner.entries()) open.push({ edit: each, within: next, at });
  }
  return undefined;
}

/** An edit, and the one that holds it. */
interface Nested {
  readonly edit: unknown;
  readonly within: Nested | undefined;
  readonly at: number;
}

function pathTo(nested: Nested): Path {
  const path: (string | number)[] = [];
  for (let each = nested; each.within !== undefined; each = each.within) path.unshift("together", each.at);
  return path;
}

function placeOf(path: Path): Place {
  return { pointer: shorten(pointerTo(...path)) };
}

function notAnEdit(path: Path, reason: Message): Problem {
  const place = placeOf(path);
  const fixes: readonly Fix[] = [{ code: "mend-not-an-edit", params: {} }];
  return { code: "not-an-edit", params: { reason }, severity: "error", place, fixes };
}
