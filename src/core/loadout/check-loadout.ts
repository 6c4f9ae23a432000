import { message } from "../base/message.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { accessTo, withheld } from "../character/bag/access.ts";
import type { Character } from "../character/character.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import { missingPacks } from "../character/needed-packs.ts";
import { fixBy, fixWith, loadoutProblem, problemAbout, unknownId, withFixes } from "../character/refuse.ts";
import type { Situation } from "../character/situation.ts";
import { explainAll } from "../rules/explain-broken.ts";
import { findBroken } from "../rules/find-broken.ts";
import { isOffered } from "../rules/is-offered.ts";
import { withLoadout } from "../rules/worn.ts";
import { mendingByTakingOff } from "./mend-by-taking-off.ts";
import type { Mending, SolvingContext } from "./solver.ts";

/**
 * Finds everything that is wrong with a character's loadout and colors, all at once, each finding with edits that mend it.
 *
 * It does not look at the name, the answers, the sizes of stacks, the places of the bag, the catalog's version, or what is concealed, and
 * takes a character of the right form: `judgeCharacter` judges what a stranger sends. With `holdings`, everything worn and carried has to
 * be owned. Costs what is worn, whatever the size of the catalog.
 *
 * Fixes take parts off one at a time. With a `solver`, what has to be put on, or takes several edits, has fixes as well.
 *
 * @returns every finding; empty when nothing is wrong. Content the catalog does not know is a warning: it is kept in the
 * character and ignored.
 * @example
 * checkLoadout(catalog, wren) // → []
 */
export function checkLoadout(
  catalog: Catalog,
  character: Character,
  { solver, ...context }: SolvingContext = {},
): readonly LoadoutProblem[] {
  const situation: Situation = { catalog, character, context };
  const mending = solver?.mending ?? mendingByTakingOff;
  if (!catalog.bodies.has(character.body))
    return [...packsMissing(catalog, character), unknownId(catalog, "body", character.body, ["body"])];
  return withLoadout(catalog, character, context, (state) => {
    const problems = [...packsMissing(catalog, character), ...unknownContent(catalog, character, state.hasUnknown)];
    if (context.holdings !== undefined) problems.push(...unowned(situation, mending));
    for (const said of explainAll(state, character, context, findBroken(state))) {
      const { subject, slot, chain, culprits: _, broken: __, keys: ___, ...whole } = said;
      const at = slot === undefined ? ["loadout"] : ["loadout", slot];
      const fixes = () => mending.fixesFor(situation, said);
      problems.push(problemAbout(whole, { subject, at, chain, fixes }));
    }
    wrongColors(catalog, character, problems);
    return problems;
  });
}

/** What is to be told before what is kept of them: the packs that are not there. */
function packsMissing(catalog: Catalog, character: Character): readonly LoadoutProblem[] {
  return missingPacks(catalog, character).map((pack) => ({
    ...loadoutProblem("missing-pack", {
      subject: { kind: "catalog", id: character.catalog.id },
      at: ["catalog", "packs", pack],
      params: { pack },
      more: [message("kept-for-pack")],
      fixes: [fixBy("load-pack", { pack })],
    }),
    severity: "warning",
  }));
}

function unknownContent(catalog: Catalog, character: Character, hasUnknown: boolean): LoadoutProblem[] {
  const { slots, parts } = catalog;
  const problems: LoadoutProblem[] = [];
  for (const slot of hasUnknown ? Object.keys(character.loadout) : []) {
    const part = character.loadout[slot] ?? "";
    if (!slots.has(slot)) problems.push(kept(unknownId(catalog, "slot", slot, ["loadout", slot])));
    else if (!parts.has(part)) problems.push(kept(unknownId(catalog, "part", part, ["loadout", slot])));
  }
  for (const part of Object.keys(character.bag)) {
    if (!parts.has(part)) problems.push(kept(unknownId(catalog, "part", part, ["bag", part])));
  }
  return problems;
}

function kept(problem: LoadoutProblem): LoadoutProblem {
  return { ...problem, severity: "warning", more: [message("kept-aside")] };
}

function unowned(situation: Situation, mending: Mending): readonly LoadoutProblem[] {
  const { catalog, character, context } = situation;
  const { parts } = catalog;
  const { holdings } = context;
  const problems: LoadoutProblem[] = [];
  for (const slot in character.loadout) {
    const part = parts.get(character.loadout[slot] ?? "");
    if (part === undefined || accessTo(part, holdings) === "owned") continue;
    for (const problem of withheld(part, holdings, ["loadout", slot]))
      problems.push(withFixes(problem, () => mending.fixesForUnowned(situation, slot)));
  }
  for (const id in character.bag) {
    const part = parts.get(id);
    if (part === undefined || accessTo(part, holdings) === "owned") continue;
    const fix = fixWith("leave-behind", { part: id }, [{ drop: id }]);
    for (const problem of withheld(part, holdings, ["bag", id])) problems.push(withFixes(problem, () => [fix]));
  }
  return problems;
}

function wrongColors(catalog: Catalog, character: Character, problems: LoadoutProblem[]): void {
  for (const id of Object.keys(character.colors)) {
    const ramp = character.colors[id] ?? "";
    const channel = catalog.channels.get(id);
    if (channel === undefined) problems.push(kept(unknownId(catalog, "channel", id, ["colors", id])));
    else if (!isOffered(channel, ramp)) {
      const shown = { ramp: channel.default };
      problems.push(
        loadoutProblem("ramp-not-offered", {
          subject: { kind: "channel", id },
          at: ["colors", id],
          params: { channel: id, ramp },
          more: [message("default-shown", shown)],
          fixes: [fixWith("paint-default", shown, [{ paint: id, ramp: channel.default }])],
        }),
      );
    }
  }
}
