import type { Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import type { Edit, LoadoutProblem } from "../../character/edit.ts";
import { checkLoadout } from "../../loadout/check-loadout.ts";
import { repairLoadout } from "../../solver/repair-loadout.ts";

/** What becomes of a character under another version of its catalog. */
export interface CharacterChange {
  /** What is wrong now and was not before. */
  readonly problems: readonly LoadoutProblem[];
  /** What it has that the catalog had and has no more: `part:storm-hat`, `ramp:indigo`. */
  readonly lost: readonly string[];
  /** The fewest edits that mend it; empty where nothing is wrong, `undefined` where nothing mends it. */
  readonly edits: readonly Edit[] | undefined;
}

/** Says what becomes of a character when a catalog takes the place of an older one. */
export function compareCharacter(older: Catalog, newer: Catalog, character: Character): CharacterChange {
  const named = namedBy(character);
  const lost = named
    .filter(({ ids, id }) => ids(older).has(id) && !ids(newer).has(id))
    .map(({ kind, id }) => `${kind}:${id}`);
  const before = new Set(checkLoadout(older, character).map(keyOf));
  const problems = checkLoadout(newer, character).filter((problem) => !before.has(keyOf(problem)));
  if (problems.length === 0) return { problems, lost, edits: [] };
  const edits = newer.bodies.has(character.body) ? repairLoadout(newer, character).edits : undefined;
  return { problems, lost, edits };
}

function keyOf({ code, params, subject }: LoadoutProblem): string {
  return JSON.stringify([code, subject, params]);
}

interface Named {
  readonly kind: string;
  readonly id: string;
  readonly ids: (catalog: Catalog) => { has(id: string): boolean };
}

/** Everything of a catalog that a character names, each once. */
function namedBy({ body, loadout, bag, colors }: Character): readonly Named[] {
  const parts = new Set([...Object.values(loadout), ...Object.keys(bag)]);
  return [
    { kind: "body", id: body, ids: ({ bodies }) => bodies },
    ...Object.keys(loadout).map((id): Named => ({ kind: "slot", id, ids: ({ slots }) => slots })),
    ...[...parts].map((id): Named => ({ kind: "part", id, ids: (catalog) => catalog.parts })),
    ...Object.keys(colors).map((id): Named => ({ kind: "channel", id, ids: ({ channels }) => channels })),
    ...[...new Set(Object.values(colors))].map((id): Named => ({ kind: "ramp", id, ids: ({ ramps }) => ramps })),
  ];
}
