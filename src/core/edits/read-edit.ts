import * as z from "zod/mini";
import { beyondLimits, limits, shorten } from "../base/limits.ts";
import { type Problem, pointerTo } from "../base/problem.ts";
import { quickCheck } from "../base/schema/quick-check.ts";
import type { Edit } from "../character/edit.ts";

/** What reading an edit gives: the edit, or what is wrong with its form. */
export type EditReading =
  | { readonly edit: Edit; readonly problems: readonly [] }
  | { readonly edit: undefined; readonly problems: readonly Problem[] };

const id = z.string().check(z.maxLength(limits.answerLength));
const ids = z.record(id, id);
const count = z.int().check(z.minimum(1), z.maximum(limits.stack));

/** The form of each verb, besides `together`, which holds others. */
const forms = {
  wear: z.strictObject({ wear: id, in: z.exactOptional(id) }),
  remove: z.strictObject({ remove: id }),
  cycle: z.strictObject({ cycle: id, step: z.union([z.literal(1), z.literal(-1)]) }),
  paint: z.strictObject({ paint: id, ramp: id }),
  dress: z.strictObject({ dress: id }),
  body: z.strictObject({ body: id }),
  grow: z.strictObject({ grow: z.literal(true) }),
  rename: z.strictObject({ rename: z.string().check(z.maxLength(limits.nameLength)) }),
  fact: z.strictObject({ fact: id, value: z.nullable(id) }),
  preset: z.strictObject({ preset: id }),
  resemble: z.strictObject({
    resemble: z.strictObject({ body: z.exactOptional(id), loadout: ids, colors: ids }),
  }),
  split: z.strictObject({ split: id, count }),
  merge: z.strictObject({ merge: id }),
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
    if (typeof edit !== "object" || edit === null || Array.isArray(edit)) return refused(path, "An edit is an object.");
    left -= 1;
    if (left < 0) return refused(path, `There are more than ${limits.edits} edits.`);
    const named = Object.keys(edit).filter((key) => verbs.has(key));
    const [verb, another] = named;
    if (verb === undefined) return refused(path, `It has no verb: one of ${[...verbs].join(", ")}.`);
    if (another !== undefined) return refused(path, `It has two verbs, "${verb}" and "${another}".`);
    if ("together" in edit) {
      const { together, ...more } = edit;
      if (!Array.isArray(together) || Object.keys(more).length > 0)
        return refused(path, '"together" holds a list of edits, and nothing stands beside it.');
      for (const [at, each] of together.entries()) open.push([each, [...path, "together", at]]);
    } else if (checks.get(verb)?.(edit) !== true)
      return refused(path, `"${verb}" does not have the form of such an edit.`);
  }
  return { edit: source as Edit, problems: [] };
}

function refused(path: readonly (string | number)[], because: string): EditReading {
  const place = { pointer: shorten(pointerTo(...path)) };
  const fixes = [{ say: "Send edits as the library makes them." }];
  return { edit: undefined, problems: [{ code: "not-an-edit", severity: "error", place, because, fixes }] };
}
