import { authored, type Message, message, type ProblemCode } from "../base/message.ts";
import type { Fix } from "../base/problem.ts";
import { getOwn } from "../base/record.ts";
import type { CountRule, NeedsRule, Rule, TotalRule } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Edit, Evidence, Subject } from "../character/edit.ts";
import { fixBy } from "../character/refuse.ts";
import { type Dressed, evidenceIn, matches, partsIn, wornEvidence } from "./condition.ts";
import { conditionMessage } from "./condition-message.ts";
import type { Broken } from "./find-broken.ts";
import type { LoadoutState } from "./loadout-state.ts";
import { type Worn, wornIn } from "./worn.ts";

/** What is broken, as it is reported; `more` is what the author says of the rule. */
export interface Explanation extends Message<ProblemCode> {
  readonly subject: Subject;
  /** The slot it is about; the loadout as a whole when left out. */
  readonly slot: string | undefined;
  readonly chain: readonly Evidence[];
  /** The worn parts without which it would hold. Issued ones cannot be taken off and are not among them. */
  readonly culprits: readonly Worn[];
  /** What to do other than take something off. */
  readonly advice: Fix<Edit> | undefined;
}

/** Explains all that `findBroken` has found of a character. */
export function explainAll(
  state: LoadoutState,
  character: Pick<Character, "body" | "loadout" | "facts">,
  context: Context,
  found: readonly Broken[],
): readonly Explanation[] {
  if (found.length === 0) return [];
  const dressed: Dressed = { catalog: state.catalog, character, context, worn: wornIn(state) };
  return found.map((broken) => explainBroken(state, dressed, broken));
}

function explainBroken(state: LoadoutState, dressed: Dressed, broken: Broken): Explanation {
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
      const [first, second] = takers;
      const [part, other] = [first?.part.id ?? "", second?.part.id ?? ""];
      const said = message("slot-taken-twice", { part, other, slot: slotId });
      return { ...aboutSlot(slotId, said), chain: takers.map(wornEvidence), culprits: chosen(takers) };
    }
    case "empty":
      return { ...aboutSlot(slotId, message("required-slot", { slot: slotId })), advice: fixBy("put-something-on") };
    case "never": {
      const [one, other] = [at(broken.one), at(broken.other)];
      return explainNever(state.catalog.rules[broken.rule], [one, other].filter(isWorn));
    }
    case "rule":
      return explainRule(state, dressed, state.catalog.rules[broken.rule], broken.rule);
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

function explainNever(rule: Rule | undefined, [one, other]: readonly Worn[]): Explanation {
  const pair = [one, other].filter(isWorn);
  const [part, another] = [one?.part.id ?? "", other?.part.id ?? ""];
  return {
    ...message("never-together", { part, other: another }),
    more: authored(rule?.say),
    subject: { kind: "part", id: part },
    slot: other?.slot,
    chain: [...pair.map(wornEvidence), ...ruleFact(rule)],
    culprits: chosen(pair),
    advice: undefined,
  };
}

function explainRule(state: LoadoutState, dressed: Dressed, rule: Rule | undefined, number: number): Explanation {
  const said = explainWhole(state, dressed, rule);
  return {
    ...said,
    more: authored(rule?.say),
    subject: { kind: "rule", id: String(number) },
    slot: undefined,
    chain: [...said.chain, ...ruleFact(rule)],
  };
}

type Said = Pick<Explanation, "code" | "params" | "chain" | "culprits" | "advice">;

function explainWhole(state: LoadoutState, dressed: Dressed, rule: Rule | undefined): Said {
  switch (rule?.kind) {
    case "needs":
      return explainMissing(dressed, rule);
    case "total":
      return explainTotal(state, dressed, rule);
    case "count":
      return explainCount(dressed, rule);
    default:
      throw new TypeError(`Rule ${rule?.number} is about pairs, not about the whole loadout`);
  }
}

function explainMissing(dressed: Dressed, { when, needs }: NeedsRule): Said {
  const needed = conditionMessage(needs);
  return {
    ...message("needs-missing", { when: conditionMessage(when), needs: needed }),
    chain: [...evidenceIn(when, dressed), { kind: "missing", condition: needs }],
    culprits: chosen(partsIn(when, dressed)),
    advice: fixBy("see-to", { needs: needed }),
  };
}

function explainTotal(state: LoadoutState, dressed: Dressed, rule: TotalRule): Said {
  const value = statIn(state, rule.stat);
  const limit = (bound: TotalRule["atMost"]) => (typeof bound === "object" ? statIn(state, bound.stat) : bound);
  const most = limit(rule.atMost);
  const high = most !== undefined && value > most;
  const bound = (high ? most : limit(rule.atLeast)) ?? 0;
  const bounding = high ? rule.atMost : rule.atLeast;
  const givers = dressed.worn.filter(({ part }) => {
    const gift = getOwn(part.gives, rule.stat);
    return gift !== undefined && gift.add > 0 === high;
  });
  return {
    ...message(high ? "total-too-high" : "total-too-low", { stat: rule.stat, value, bound }),
    chain: [
      ...givers.map(wornEvidence),
      { kind: "stat", id: rule.stat, value },
      ...(typeof bounding === "object" ? [{ kind: "stat", id: bounding.stat, value: bound } as const] : []),
    ],
    culprits: chosen(givers),
    advice: undefined,
  };
}

function statIn(state: LoadoutState, stat: string): number {
  return state.stat(state.catalog.compiled.statNumbers.get(stat) ?? -1);
}

function explainCount(dressed: Dressed, rule: CountRule): Said {
  const pattern = conditionMessage(rule.of);
  const counted = dressed.worn.filter((worn) => matches(rule.of, worn));
  const value = counted.length;
  const high = rule.atMost !== undefined && value > rule.atMost;
  const bound = (high ? rule.atMost : rule.atLeast) ?? 0;
  return {
    ...message(high ? "count-too-high" : "count-too-low", { pattern, value, bound }),
    chain: high ? counted.map(wornEvidence) : [{ kind: "missing", condition: rule.of }],
    culprits: high ? chosen(counted) : [],
    advice: high ? undefined : fixBy("put-on-more", { pattern }),
  };
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
    advice: undefined,
  };
}

function aboutSlot(slot: string, said: Message<ProblemCode>): Explanation {
  return { ...said, subject: { kind: "slot", id: slot }, slot, chain: [], culprits: [], advice: undefined };
}

function ruleFact(rule: Rule | undefined): readonly Evidence[] {
  return rule === undefined ? [] : [{ kind: "rule", number: rule.number, say: rule.say }];
}

function chosen(worn: readonly Worn[]): readonly Worn[] {
  return worn.filter(({ issued }) => !issued);
}

function isWorn(worn: Worn | undefined): worn is Worn {
  return worn !== undefined;
}
