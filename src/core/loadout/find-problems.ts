import { message } from "../base/message.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { accessTo, withheld } from "../character/bag/access.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { LoadoutProblem } from "../character/edit.ts";
import { missingPacks } from "../character/needed-packs.ts";
import { fixBy, fixWith, loadoutProblem, problemAbout, unknownId, withFixes } from "../character/refuse.ts";
import { isOffered } from "../edits/verbs/paint.ts";
import { type Explained, explainAll } from "../rules/explain-broken.ts";
import { findBroken } from "../rules/find-broken.ts";
import { withLoadout } from "../rules/worn.ts";

/** How findings are mended. */
export interface Mending {
  fixesFor(catalog: Catalog, character: Character, context: Context, said: Explained): LoadoutProblem["fixes"];
  /** Fixes of a part that is worn in a slot and not owned. */
  fixesForUnowned(catalog: Catalog, character: Character, context: Context, slot: string): LoadoutProblem["fixes"];
}

/** Finds everything that is wrong with a character's loadout and colors. What mends a finding is found out when it is asked for. */
export function findProblems(
  catalog: Catalog,
  character: Character,
  context: Context,
  mending: Mending,
): readonly LoadoutProblem[] {
  if (!catalog.bodies.has(character.body))
    return [...packsMissing(catalog, character), unknownId(catalog, "body", character.body, ["body"])];
  return withLoadout(catalog, character, context, (state) => {
    const problems = [...packsMissing(catalog, character), ...unknownContent(catalog, character, state.hasUnknown)];
    if (context.holdings !== undefined) problems.push(...unowned(catalog, character, context, mending));
    for (const said of explainAll(state, character, context, findBroken(state))) {
      const { subject, slot, chain, culprits: _, broken: __, keys: ___, ...whole } = said;
      const at = slot === undefined ? ["loadout"] : ["loadout", slot];
      const fixes = () => mending.fixesFor(catalog, character, context, said);
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

function unowned(
  catalog: Catalog,
  character: Character,
  context: Context,
  mending: Mending,
): readonly LoadoutProblem[] {
  const { parts } = catalog;
  const { holdings } = context;
  const problems: LoadoutProblem[] = [];
  for (const slot in character.loadout) {
    const part = parts.get(character.loadout[slot] ?? "");
    if (part === undefined || accessTo(part, holdings) === "owned") continue;
    for (const problem of withheld(part, holdings, ["loadout", slot]))
      problems.push(withFixes(problem, () => mending.fixesForUnowned(catalog, character, context, slot)));
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
