import type { Catalog } from "../catalog/catalog.ts";
import { brokenRules } from "../character/broken-rules.ts";
import type { Character } from "../character/character.ts";
import { dressedAs } from "../character/condition.ts";
import { conflictsBetween, sayConflict } from "../character/conflict.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import { characterProblem, unknownId } from "../character/refuse.ts";
import { sayUnmetNeed, unmetNeeds } from "../character/stats.ts";
import { fitsBody, type Worn, wornParts } from "../character/worn.ts";

/**
 * Finds everything that is wrong with a character's loadout, all at once, each finding with edits that mend it.
 *
 * The same code judges in the game and on a server that trusts no client. Ownership is not looked at.
 *
 * @returns every finding; empty when nothing is wrong. Content the catalog does not know is a warning: it is kept in the
 * character and ignored.
 * @example
 * checkLoadout(catalog, wren) // → [] when nothing is wrong
 */
export function checkLoadout(catalog: Catalog, character: Character): readonly LoadoutProblem[] {
  if (!catalog.bodies.has(character.body)) return [unknownId("body", character.body, catalog.bodies, ["body"])];
  const worn = wornParts(catalog, character);
  return [
    ...unknownContent(catalog, character),
    ...worn.filter(({ issued }) => !issued).flatMap((each) => misplaced(character, each)),
    ...overlaps(worn),
    ...conflicts(worn),
    ...needs(catalog, character),
    ...rules(catalog, character),
    ...emptySlots(catalog, worn),
    ...wrongColors(catalog, character),
  ];
}

function unknownContent(catalog: Catalog, character: Character): readonly LoadoutProblem[] {
  const problems: LoadoutProblem[] = [];
  for (const [slot, part] of Object.entries(character.loadout)) {
    if (!catalog.slots.has(slot)) problems.push(kept(unknownId("slot", slot, catalog.slots, ["loadout", slot])));
    else if (!catalog.parts.has(part)) problems.push(kept(unknownId("part", part, catalog.parts, ["loadout", slot])));
  }
  for (const part of Object.keys(character.bag)) {
    if (!catalog.parts.has(part)) problems.push(kept(unknownId("part", part, catalog.parts, ["bag", part])));
  }
  return problems;
}

function kept(problem: LoadoutProblem): LoadoutProblem {
  return { ...problem, severity: "warning", because: `${problem.because} It is kept, and not shown.` };
}

function misplaced(character: Character, { slot, part }: Worn): readonly LoadoutProblem[] {
  const place = ["loadout", slot];
  const takeOff = { say: "Take it off.", edits: [{ remove: slot }] };
  const problems: LoadoutProblem[] = [];
  if (!part.slots.includes(slot)) {
    problems.push(characterProblem("wrong-slot", place, `"${part.id}" does not go in slot "${slot}".`, takeOff));
  }
  if (!fitsBody(part, character.body)) {
    problems.push(
      characterProblem("does-not-fit", place, `"${part.id}" was not made for body "${character.body}".`, takeOff),
    );
  }
  return problems;
}

function overlaps(worn: readonly Worn[]): readonly LoadoutProblem[] {
  const problems: LoadoutProblem[] = [];
  const takenBy = new Map<string, Worn>();
  for (const each of worn) {
    for (const slot of new Set([each.slot, ...each.part.occupies])) {
      const first = takenBy.get(slot);
      if (first === undefined) takenBy.set(slot, each);
      else {
        const because = `"${first.part.id}" and "${each.part.id}" both take slot "${slot}".`;
        problems.push(
          characterProblem("slot-taken-twice", ["loadout", each.slot], because, ...takeEitherOff(first, each)),
        );
      }
    }
  }
  return problems;
}

function conflicts(worn: readonly Worn[]): readonly LoadoutProblem[] {
  const problems: LoadoutProblem[] = [];
  for (const [number, one] of worn.entries()) {
    if (one.part.rules.length === 0) continue;
    for (const other of worn.slice(number + 1)) {
      for (const conflict of conflictsBetween(one, other)) {
        problems.push(
          characterProblem(
            "never-together",
            ["loadout", other.slot],
            sayConflict(conflict),
            ...takeEitherOff(one, other),
          ),
        );
      }
    }
  }
  return problems;
}

function needs(catalog: Catalog, character: Character): readonly LoadoutProblem[] {
  return unmetNeeds(catalog, character).map((unmet) =>
    characterProblem("need-unmet", ["loadout", unmet.worn.slot], sayUnmetNeed(unmet), ...takeEitherOff(unmet.worn)),
  );
}

function rules(catalog: Catalog, character: Character): readonly LoadoutProblem[] {
  return brokenRules(dressedAs(catalog, character)).map(({ code, because, advice, culprits }) =>
    characterProblem(
      code,
      ["loadout"],
      because,
      ...takeEitherOff(...culprits),
      ...(advice === undefined ? [] : [{ say: advice }]),
    ),
  );
}

function takeEitherOff(...worn: readonly Worn[]) {
  return worn
    .filter(({ issued }) => !issued)
    .map(({ slot, part }) => ({ say: `Take "${part.id}" off.`, edits: [{ remove: slot }] }));
}

function emptySlots(catalog: Catalog, worn: readonly Worn[]): readonly LoadoutProblem[] {
  const filled = new Set(worn.flatMap(({ slot, part }) => [slot, ...part.occupies]));
  return [...catalog.slots.values()]
    .filter(({ id, required }) => required && !filled.has(id))
    .map(({ id }) =>
      characterProblem("required-slot", ["loadout", id], `Slot "${id}" must not be empty.`, {
        say: "Put something on there.",
      }),
    );
}

function wrongColors(catalog: Catalog, character: Character): readonly LoadoutProblem[] {
  const problems: LoadoutProblem[] = [];
  for (const [id, ramp] of Object.entries(character.colors)) {
    const channel = catalog.channels.get(id);
    if (channel === undefined) problems.push(kept(unknownId("channel", id, catalog.channels, ["colors", id])));
    else if (!channel.ramps.includes(ramp)) {
      const because = `Channel "${id}" does not offer ramp "${ramp}"; "${channel.default}" is shown.`;
      const fix = { say: `Paint it "${channel.default}".`, edits: [{ paint: id, ramp: channel.default }] };
      problems.push(characterProblem("ramp-not-offered", ["colors", id], because, fix));
    }
  }
  return problems;
}
