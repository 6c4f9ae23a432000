import { textIn } from "../../core/base/text.ts";
import type { Body, Catalog, Part } from "../../core/catalog/model/catalog.ts";
import type { Character } from "../../core/character/character.ts";
import { applyEdit } from "../../core/edits/apply-edit.ts";
import { createCharacter } from "../../core/edits/create-character.ts";
import { createFromPreset } from "../../core/edits/create-from-preset.ts";
import { wornParts } from "../../core/rules/worn.ts";

/** Somebody who is shown in a survey. */
export interface Figure {
  readonly character: Character;
  /** The chapter of the report it belongs to. */
  readonly chapter: "pairs" | "parts" | "outfits" | "presets";
  readonly title: string;
  /** The part that is shown alone, as its option icon; `undefined` for the whole figure. */
  readonly icon: string | undefined;
  /** What is worn, in words, besides what everybody wears. */
  readonly wears: readonly string[];
  /** What it is found by. */
  readonly words: readonly string[];
}

/** Who is shown besides the characters of the pairs: each part alone, each outfit on each body, each preset. */
export function otherFigures(catalog: Catalog): readonly Figure[] {
  const [first] = catalog.bodies.values();
  if (first === undefined) return [];
  const seen = partsInOrder(catalog).filter(({ layers, meshes }) => layers.length + meshes.length > 0);
  return [
    ...seen.map((part) => partFigure(catalog, bodyFor(catalog, part) ?? first, part)),
    ...[...catalog.outfits.keys()].flatMap((outfit) =>
      [...catalog.bodies.values()].flatMap((body) => outfitFigure(catalog, outfit, body) ?? []),
    ),
    ...[...catalog.presets.values()].map(({ id, title }) =>
      figureOf(catalog, createFromPreset(catalog, id, { id: `preset-${id}` }), "presets", textIn(title)),
    ),
  ];
}

/** All parts, slot by slot. */
export function partsInOrder({ slots, parts }: Catalog): readonly Part[] {
  return [...new Set([...[...slots.values()].flatMap((slot) => slot.parts), ...parts.values()])];
}

/** A figure of a whole character. */
export function figureOf(catalog: Catalog, character: Character, chapter: Figure["chapter"], title: string): Figure {
  const worn = wornParts(catalog, character);
  const body = catalog.bodies.get(character.body);
  return {
    character,
    chapter,
    title,
    icon: undefined,
    wears: worn.filter(({ issued }) => !issued).map(({ part }) => textIn(part.title)),
    words: [character.body, textIn(body?.title ?? ""), ...worn.flatMap(({ part }) => [part.id, textIn(part.title)])],
  };
}

function bodyFor({ bodies }: Catalog, { fits }: Part): Body | undefined {
  return [...bodies.values()].find(({ id }) => fits === undefined || fits.has(id));
}

function partFigure(catalog: Catalog, body: Body, part: Part): Figure {
  const character = createCharacter(catalog, { body: body.id, id: `plain-${body.id}` });
  const title = textIn(part.title);
  const slots = part.slots.map((slot) => textIn(catalog.slots.get(slot)?.title ?? slot));
  return {
    character,
    chapter: "parts",
    title,
    icon: part.id,
    wears: slots,
    words: [part.id, title, ...part.slots, ...slots, ...part.tags],
  };
}

/** Somebody of a body in an outfit; `undefined` where it cannot be put on. */
function outfitFigure(catalog: Catalog, outfit: string, body: Body): Figure | undefined {
  const bare = createCharacter(catalog, { body: body.id, id: `outfit-${outfit}-${body.id}` });
  const result = applyEdit(catalog, bare, { dress: outfit });
  if (!result.ok) return undefined;
  const title = `${textIn(catalog.outfits.get(outfit)?.title ?? outfit)}, ${textIn(body.title)}`;
  return figureOf(catalog, result.character, "outfits", title);
}
