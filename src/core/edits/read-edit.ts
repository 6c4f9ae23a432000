import * as v from "valibot";
import { beyondLimits, limits, shorten } from "../base/limits.ts";
import { type Message, message } from "../base/message.ts";
import { type Fix, type Problem, pointerTo } from "../base/problem.ts";
import { quickCheck } from "../base/schema/quick-check.ts";
import type { Edit } from "../character/edit.ts";

/** What reading an edit gives: the edit, or what is wrong with its form. */
export type EditReading =
  | { readonly edit: Edit; readonly problems: readonly [] }
  | { readonly edit: undefined; readonly problems: readonly Problem[] };

const id = v.pipe(v.string(), v.maxLength(limits.answerLength));
const ids = v.record(id, id);
const count = v.pipe(v.number(), v.safeInteger(), v.minValue(1), v.maxValue(limits.stack));

/** The form of each verb, besides `together`, which holds others. */
const forms = {
  wear: v.strictObject({ wear: id, in: v.exactOptional(id) }),
  remove: v.strictObject({ remove: id }),
  cycle: v.strictObject({ cycle: id, step: v.union([v.literal(1), v.literal(-1)]) }),
  paint: v.strictObject({ paint: id, ramp: id }),
  dress: v.strictObject({ dress: id }),
  body: v.strictObject({ body: id }),
  grow: v.strictObject({ grow: v.literal(true) }),
  rename: v.strictObject({ rename: v.pipe(v.string(), v.maxLength(limits.nameLength)) }),
  fact: v.strictObject({ fact: id, value: v.nullable(id) }),
  preset: v.strictObject({ preset: id }),
  resemble: v.strictObject({
    resemble: v.strictObject({ body: v.exactOptional(id), loadout: ids, colors: ids }),
  }),
  split: v.strictObject({ split: id, count }),
  merge: v.strictObject({ merge: id }),
};

type Verb = keyof typeof forms | "together";

const verbs: ReadonlySet<string> = new Set<Verb>([...(Object.keys(forms) as (keyof typeof forms)[]), "together"]);
const checks = new Map(Object.entries(forms).map(([verb, form]) => [verb, quickCheck(form)]));

/**
 * Reads an edit from parsed JSON, for servers that believe nobody. Only its form is judged; `applyEdit` does it or refuses it.
 *
 * @returns the edit, or the first thing that is wrong with its form. Never throws for bad content.
 * @example
 * const { edit, problems } = readEdit(JSON.parse(body))
 */
export function readEdit(source: unknown): EditReading {
  const beyond = beyondLimits(source, limits.characterLength);
  if (beyond !== undefined) return refused([], beyond);
  let left: number = limits.edits;
  const open: (readonly [edit: unknown, path: readonly (string | number)[]])[] = [[source, []]];
  for (let next = open.pop(); next !== undefined; next = open.pop()) {
    const [edit, path] = next;
    if (typeof edit !== "object" || edit === null || Array.isArray(edit))
      return refused(path, message("edit-no-object"));
    left -= 1;
    if (left < 0) return refused(path, message("edit-too-many", { max: limits.edits }));
    const named = Object.keys(edit).filter((key) => verbs.has(key));
    const [verb, another] = named;
    if (verb === undefined) return refused(path, message("edit-without-verb", { verbs: [...verbs] }));
    if (another !== undefined) return refused(path, message("edit-of-two-verbs", { verb, other: another }));
    if ("together" in edit) {
      const { together, ...more } = edit;
      if (!Array.isArray(together) || Object.keys(more).length > 0) return refused(path, message("edit-not-together"));
      for (const [at, each] of together.entries()) open.push([each, [...path, "together", at]]);
    } else if (checks.get(verb)?.(edit) !== true) return refused(path, message("edit-of-wrong-form", { verb }));
  }
  return { edit: source as Edit, problems: [] };
}

function refused(path: readonly (string | number)[], reason: Message): EditReading {
  const place = { pointer: shorten(pointerTo(...path)) };
  const fixes: readonly Fix[] = [{ code: "mend-not-an-edit", params: {} }];
  const problem: Problem = { code: "not-an-edit", params: { reason }, severity: "error", place, fixes };
  return { edit: undefined, problems: [problem] };
}
