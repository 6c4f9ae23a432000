import { message } from "../base/message.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { accessTo, withheld } from "../character/bag/access.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import { fixWith, loadoutProblem, problemAbout, unknownId, withFixes } from "../character/refuse.ts";
import { isOffered } from "../edits/verbs/paint.ts";
import { type Explained, explainAll } from "../rules/explain-broken.ts";
import { findBroken } from "../rules/find-broken.ts";
import { withLoadout } from "../rules/worn.ts";
import { fixesFor, fixesForUnowned } from "./mend-finding.ts";

/**
 * Finds everything that is wrong with a character's loadout and colors, all at once, each finding with edits that mend it.
 *
 * It does not look at the name, the answers, the sizes of stacks, the places of the bag, the catalog's version, or what is concealed, and
 * takes a character of the right form: `judgeCharacter` judges what a stranger sends. With `holdings`, everything worn and carried has to
 * be owned. Costs what is worn, whatever the size of the catalog.
 *
 * @returns every finding; empty when nothing is wrong. Content the catalog does not know is a warning: it is kept in the
 * character and ignored.
 * @example
 * checkLoadout(catalog, wren) // → [] when nothing is wrong
 */
export function checkLoadout(catalog: Catalog, character: Character, context: Context = {}): readonly LoadoutProblem[] {
  if (!catalog.bodies.has(character.body)) return [unknownId(catalog, "body", character.body, ["body"])];
  return withLoadout(catalog, character, context, (state) => {
    const problems = unknownContent(catalog, character, state.hasUnknown);
    if (context.holdings !== undefined) problems.push(...unowned(catalog, character, context));
    for (const said of explainAll(state, character, context, findBroken(state)))
      problems.push(report(catalog, character, context, said));
    wrongColors(catalog, character, problems);
    return problems;
  });
}

function report(catalog: Catalog, character: Character, context: Context, explained: Explained): LoadoutProblem {
  const { subject, slot, chain, culprits: _, broken: __, keys: ___, ...said } = explained;
  const at = slot === undefined ? ["loadout"] : ["loadout", slot];
  return problemAbout(said, { subject, at, chain, fixes: () => fixesFor(catalog, character, context, explained) });
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

function unowned(catalog: Catalog, character: Character, context: Context): readonly LoadoutProblem[] {
  const { parts } = catalog;
  const { holdings } = context;
  const problems: LoadoutProblem[] = [];
  for (const slot in character.loadout) {
    const part = parts.get(character.loadout[slot] ?? "");
    if (part === undefined || accessTo(part, holdings) === "owned") continue;
    for (const problem of withheld(part, holdings, ["loadout", slot]))
      problems.push(withFixes(problem, () => fixesForUnowned(catalog, character, context, slot)));
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
