import { limits } from "../../base/limits.ts";
import type { Edit, Edits, Verb } from "./edit.ts";

/** What the value of a key in an edit is: the id of something, or something of its own. */
export type EditValue =
  | EditNoun
  | "name"
  | "text"
  | "text or null"
  | "count"
  | "step"
  | "true"
  | "appearance"
  | "edits";

/** What an edit can name. */
export type EditNoun = "part" | "slot" | "channel" | "outfit" | "body" | "preset";

/** The shape of an edit of each verb: what its keys hold. A key with a question mark may be left out. */
export const editShapes: { readonly [V in Verb]: Shape<V> } = {
  wear: { wear: "part", in: "slot?" },
  remove: { remove: "slot" },
  cycle: { cycle: "slot", step: "step" },
  paint: { paint: "channel", ramp: "text" },
  dress: { dress: "outfit" },
  body: { body: "body" },
  grow: { grow: "true" },
  rename: { rename: "name" },
  fact: { fact: "text", value: "text or null" },
  preset: { preset: "preset" },
  appearance: { appearance: "appearance" },
  split: { split: "part", count: "count" },
  drop: { drop: "part", count: "count?" },
  merge: { merge: "part" },
  together: { together: "edits" },
};

/** The verbs that are a player's to choose. */
type PlayerVerb = "cycle" | "rename" | "preset" | "appearance" | "split" | "drop" | "merge" | "together";

/** The verbs of edits that a cue may do: all others. The compiler asks for a line here or above when a verb is added. */
export type CueVerb = Exclude<Verb, PlayerVerb>;
const inCues: Readonly<Record<CueVerb, 1>> = { wear: 1, remove: 1, paint: 1, dress: 1, body: 1, grow: 1, fact: 1 };
export const cueVerbs = Object.keys(inCues) as readonly CueVerb[];

type Shape<V extends Verb> = { readonly [Key in keyof Edits[V]]-?: EditValue | `${EditValue}?` };

/** The verb of an edit. */
export function verbIn(edit: Edit): Verb {
  for (const key in edit) if (Object.hasOwn(editShapes, key)) return key as Verb;
  throw new TypeError("An edit has a verb");
}

/** What the keys of an edit hold, and whether each may be left out. */
export function shapeOf(verb: Verb): readonly { key: string; holds: EditValue; isOptional: boolean }[] {
  return Object.entries<string>(editShapes[verb]).map(([key, value]) => {
    const isOptional = value.endsWith("?");
    return { key, holds: (isOptional ? value.slice(0, -1) : value) as EditValue, isOptional };
  });
}

/** Whether an object has the shape of an edit of a verb, and nothing else. The edits that it holds are not looked at. */
export function hasShape(verb: Verb, edit: Readonly<Record<string, unknown>>): boolean {
  const shape = shapeOf(verb);
  return (
    shape.every(({ key, holds, isOptional }) => (isOptional && !(key in edit)) || isValue(holds, edit[key])) &&
    Object.keys(edit).every((key) => shape.some((each) => each.key === key))
  );
}

function isValue(holds: EditValue, value: unknown): boolean {
  switch (holds) {
    case "name":
      return isText(value, limits.nameLength);
    case "text or null":
      return value === null || isText(value);
    case "count":
      return typeof value === "number" && value <= limits.stack;
    case "step":
      return value === 1 || value === -1;
    case "true":
      return value === true;
    case "appearance": {
      // A whole character is one, so there may be more in it.
      if (typeof value !== "object" || value === null) return false;
      const { body, loadout, colors } = value as Readonly<Record<string, unknown>>;
      return (body === undefined || isText(body)) && isTexts(loadout) && isTexts(colors);
    }
    case "edits":
      return Array.isArray(value);
    default:
      return isText(value);
  }
}

function isText(value: unknown, most: number = limits.answerLength): value is string {
  return typeof value === "string" && value.length <= most;
}

function isTexts(value: unknown): boolean {
  if (typeof value !== "object" || value === null || Array.isArray(value)) return false;
  return Object.entries(value).every(([key, each]) => isText(key) && isText(each));
}
