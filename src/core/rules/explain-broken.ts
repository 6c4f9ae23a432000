import { authored, type Message, message, type ProblemCode } from "../base/message.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Evidence } from "../character/edit.ts";
import { type Dressed, wornEvidence } from "./condition.ts";
import { chosen, type Explanation } from "./explanation.ts";
import { type Broken, brokenKeys } from "./find-broken.ts";
import type { LoadoutState } from "./loadout-state.ts";
import { spokenKind } from "./spoken-kinds.ts";
import { type Worn, wornIn } from "./worn.ts";

/** Explains all that `findBroken` has found of a character. */
export function explainAll(
  state: LoadoutState,
  character: Pick<Character, "body" | "loadout" | "facts">,
  context: Context,
  found: readonly Broken[],
): readonly Explained[] {
  if (found.length === 0) return [];
  const dressed: Dressed = { catalog: state.catalog, character, context, worn: wornIn(state) };
  return found.flatMap((broken) =>
    [explainBroken(state, dressed, broken)]
      .flat()
      .map((said) => ({ ...said, broken, keys: brokenKeys(broken, state) })),
  );
}

/** An explanation, and what it explains. */
export interface Explained extends Explanation {
  readonly broken: Broken;
  /** What makes it the same before and after an edit. */
  readonly keys: readonly string[];
}

function explainBroken(state: LoadoutState, dressed: Dressed, broken: Broken): Explanation | readonly Explanation[] {
  const { character } = dressed;
  const at = (slot: number) => dressed.worn.find((worn) => worn.slot === state.slots[slot]?.id);
  const slotId = "slot" in broken ? (state.slots[broken.slot]?.id ?? "") : "";
  switch (broken.kind) {
    case "misplaced":
      return aboutPart(at(broken.slot), (part) => message("wrong-slot", { part, slot: slotId }));
    case "misfit":
      return aboutPart(at(broken.slot), (part) => message("does-not-fit", { part, body: character.body }), [
        { kind: "body", id: character.body },
      ]);
    case "need":
      return explainNeed(state, at(broken.slot), broken);
    case "taken-twice": {
      const takers = dressed.worn.filter(({ slot, part }) => slot === slotId || part.occupies.includes(slotId));
      const said = message("slot-taken-twice", { parts: takers.map(({ part }) => part.id), slot: slotId });
      return { ...aboutSlot(slotId, said), chain: takers.map(wornEvidence), culprits: chosen(takers) };
    }
    case "empty":
      return aboutSlot(slotId, message("required-slot", { slot: slotId }));
    case "never":
      return explainRule(state, dressed, broken.rule, [at(broken.one), at(broken.other)].filter(isWorn));
    case "rule":
      return explainRule(state, dressed, broken.rule);
  }
}

function explainNeed(
  state: LoadoutState,
  worn: Worn | undefined,
  need: Extract<Broken, { kind: "need" }>,
): Explanation {
  const stat = state.catalog.compiled.stats[need.stat]?.id ?? "";
  const value = state.stat(need.stat, need.slot);
  const said = (part: string) => message("need-unmet", { part, min: need.atLeast, stat, value });
  return aboutPart(worn, said, [{ kind: "stat", id: stat, value }]);
}

function explainRule(
  state: LoadoutState,
  dressed: Dressed,
  number: number,
  pair: readonly Worn[] = [],
): readonly Explanation[] {
  return state.catalog.rules.slice(number, number + 1).flatMap((rule) => {
    const reason = spokenKind(rule).explain?.(rule, dressed, state, pair);
    if (reason === undefined) return [];
    const { hints = [], ...whole } = reason;
    return {
      subject: { kind: "rule", id: String(number) },
      slot: undefined,
      ...whole,
      more: [...hints, ...authored(rule.message)],
      chain: [...reason.chain, { kind: "rule", number, message: rule.message }],
    };
  });
}

function aboutPart(
  worn: Worn | undefined,
  say: (part: string) => Message<ProblemCode>,
  facts: readonly Evidence[] = [],
): Explanation {
  const id = worn?.part.id ?? "";
  return {
    ...say(id),
    subject: { kind: "part", id },
    slot: worn?.slot,
    chain: [...(worn === undefined ? [] : [wornEvidence(worn)]), ...facts],
    culprits: chosen(worn === undefined ? [] : [worn]),
  };
}

function aboutSlot(slot: string, said: Message<ProblemCode>): Explanation {
  return { ...said, subject: { kind: "slot", id: slot }, slot, chain: [], culprits: [] };
}

function isWorn(worn: Worn | undefined): worn is Worn {
  return worn !== undefined;
}
