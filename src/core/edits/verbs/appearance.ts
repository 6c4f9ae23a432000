import { message } from "../../base/message.ts";
import { getOwn } from "../../base/record.ts";
import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import type { Context } from "../../character/context.ts";
import type { Appearance, Displaced, EditResult, Edits, LoadoutProblem } from "../../character/edit.ts";
import { loadoutProblem, refuse, unknownId } from "../../character/refuse.ts";
import { wornParts } from "../../rules/worn.ts";
import { takeOff } from "../take-off.ts";
import type { VerbModule } from "../verb.ts";
import { changeBody } from "./change-body.ts";
import { paint } from "./paint.ts";
import { wear } from "./wear.ts";

/** Makes a character look like a preset of the catalog, and gives it the preset's answers. */
export function takePreset(
  catalog: Catalog,
  character: Character,
  edit: Edits["preset"],
  context: Context,
): EditResult {
  const preset = catalog.presets.get(edit.preset);
  if (preset === undefined) return refuse(character, unknownId(catalog, "preset", edit.preset, ["loadout"]));
  const result = appearance(catalog, character, { appearance: preset }, context);
  if (!result.ok) return result;
  const facts = { ...result.character.facts, ...preset.facts };
  return { ...result, character: { ...result.character, facts } };
}

/**
 * Gives a character the body, the parts and the colors of a likeness, and takes off what the likeness does not have. Either all
 * of it is done, or nothing. What the catalog does not know stays as it is, unless its place is wanted.
 */
export function appearance(
  catalog: Catalog,
  character: Character,
  { appearance: likeness }: Edits["appearance"],
  context: Context,
): EditResult {
  const displaced: Displaced[] = [];
  const problems: LoadoutProblem[] = [];
  let current = character;
  const take = (result: EditResult) => {
    if (!result.ok) problems.push(...result.problems);
    else displaced.push(...result.displaced);
    current = result.character;
  };
  if (likeness.body !== undefined && likeness.body !== character.body)
    take(changeBody(catalog, current, { body: likeness.body }, context));
  const because = message("likeness-without");
  const leaving = wornParts(catalog, current)
    .filter(({ slot, part, issued }) => !issued && getOwn(likeness.loadout, slot) !== part.id)
    .map((worn) => ({ worn, because }));
  take({ ok: true, ...takeOff(catalog, current, leaving) });
  for (const [slot, part] of Object.entries(likeness.loadout))
    take(wear(catalog, current, { wear: part, in: slot }, context));
  current = withoutKnownColors(catalog, current);
  for (const [channel, ramp] of Object.entries(likeness.colors))
    take(paint(catalog, current, { paint: channel, ramp }));
  if (problems.length === 0) problems.push(...notThere(catalog, likeness, current));
  return problems.length > 0 ? refuse(character, ...problems) : { ok: true, character: current, displaced };
}

function withoutKnownColors(catalog: Catalog, character: Character): Character {
  const kept = Object.entries(character.colors).filter(([channel]) => !catalog.channels.has(channel));
  return { ...character, colors: Object.fromEntries(kept) };
}

/** What of a likeness was sent away again by the rest of it. */
function notThere(catalog: Catalog, likeness: Appearance, character: Character): readonly LoadoutProblem[] {
  const worn = new Map(wornParts(catalog, character).map(({ slot, part }) => [slot, part.id]));
  return Object.entries(likeness.loadout)
    .filter(([slot, part]) => worn.get(slot) !== part)
    .map(([slot, part]) => {
      const subject = { kind: "part", id: part } as const;
      return loadoutProblem("likeness-clash", { subject, at: ["loadout", slot], params: { part } });
    });
}

/** The verb `preset`. */
export const presetVerb: VerbModule<"preset"> = {
  apply: (edit, { catalog, character, context }) => takePreset(catalog, character, edit, context),
};

/** The verb `appearance`. */
export const appearanceVerb: VerbModule<"appearance"> = {
  apply: (edit, { catalog, character, context }) => appearance(catalog, character, edit, context),
};
