import { valueAt } from "../base/record.ts";
import type { CountRule, NeedsRule, Rule, TotalRule } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Fact, Subject } from "../character/edit.ts";
import type { TextCode } from "../character/english-texts.ts";
import { sayAuthored, type Voice, type Words } from "../character/wording.ts";
import { type Dressed, factsIn, matches, partsIn, wornFact } from "./condition.ts";
import type { Broken } from "./find-broken.ts";
import type { Tally } from "./tally.ts";
import { type Worn, wornIn } from "./worn.ts";

/** What is broken, in a form that can be said. */
export interface Explanation {
  readonly code: TextCode;
  readonly subject: Subject;
  /** The slot it is about; the loadout as a whole when left out. */
  readonly slot: string | undefined;
  readonly words: Words;
  /** What the author says of the rule. */
  readonly authored: readonly string[];
  readonly chain: readonly Fact[];
  /** The worn parts without which it would hold. Issued ones cannot be taken off and are not among them. */
  readonly culprits: readonly Worn[];
  /** What to do other than take something off. */
  readonly advice: { readonly code: TextCode; readonly words?: Words } | undefined;
}

/** Explains all that `findBroken` has found of a character. */
export function explainAll(
  tally: Tally,
  character: Pick<Character, "body" | "loadout" | "facts">,
  context: Context,
  found: readonly Broken[],
): readonly Explanation[] {
  if (found.length === 0) return [];
  const dressed: Dressed = { catalog: tally.catalog, character, context, worn: wornIn(tally) };
  return found.map((broken) => explainBroken(tally, dressed, broken));
}

function explainBroken(tally: Tally, dressed: Dressed, broken: Broken): Explanation {
  const { character, context } = dressed;
  const voice = { catalog: tally.catalog, context };
  const at = (slot: number) => dressed.worn.find((worn) => worn.slot === tally.slots[slot]?.id);
  const slotId = "slot" in broken ? (tally.slots[broken.slot]?.id ?? "") : "";
  switch (broken.kind) {
    case "misplaced":
      return aboutPart("wrong-slot", at(broken.slot), { slot: slotId });
    case "misfit":
      return aboutPart("does-not-fit", at(broken.slot), { body: character.body }, [
        { kind: "body", id: character.body },
      ]);
    case "need":
      return explainNeed(tally, at(broken.slot), broken);
    case "taken-twice": {
      const takers = dressed.worn.filter(({ slot, part }) => slot === slotId || part.occupies.includes(slotId));
      const [first, second] = takers;
      const words = { part: first?.part.id ?? "", other: second?.part.id ?? "", slot: slotId };
      return { ...aboutSlot("slot-taken-twice", slotId, words), chain: takers.map(wornFact), culprits: chosen(takers) };
    }
    case "empty":
      return { ...aboutSlot("required-slot", slotId, { slot: slotId }), advice: { code: "put-something-on" } };
    case "never": {
      const [one, other] = [at(broken.one), at(broken.other)];
      return explainNever(voice, tally.catalog.rules[broken.rule], [one, other].filter(isWorn));
    }
    case "rule":
      return explainRule(voice, tally, dressed, tally.catalog.rules[broken.rule], broken.rule);
  }
}

function explainNeed(tally: Tally, worn: Worn | undefined, need: Extract<Broken, { kind: "need" }>): Explanation {
  const stat = tally.catalog.compiled.stats[need.stat]?.id ?? "";
  const value = tally.stat(need.stat, need.slot);
  return aboutPart("need-unmet", worn, { least: need.atLeast, stat, value }, [{ kind: "stat", id: stat, value }]);
}

function explainNever(voice: Voice, rule: Rule | undefined, [one, other]: readonly Worn[]): Explanation {
  const pair = [one, other].filter(isWorn);
  return {
    code: "never-together",
    subject: { kind: "part", id: one?.part.id ?? "" },
    slot: other?.slot,
    words: { part: one?.part.id ?? "", other: other?.part.id ?? "" },
    authored: sayAuthored(voice, rule?.say),
    chain: [...pair.map(wornFact), ...ruleFact(voice, rule)],
    culprits: chosen(pair),
    advice: undefined,
  };
}

function explainRule(
  voice: Voice,
  tally: Tally,
  dressed: Dressed,
  rule: Rule | undefined,
  number: number,
): Explanation {
  const said = explainWhole(tally, dressed, rule);
  return {
    ...said,
    subject: { kind: "rule", id: String(number) },
    slot: undefined,
    authored: sayAuthored(voice, rule?.say),
    chain: [...said.chain, ...ruleFact(voice, rule)],
  };
}

type Said = Pick<Explanation, "code" | "words" | "chain" | "culprits" | "advice">;

function explainWhole(tally: Tally, dressed: Dressed, rule: Rule | undefined): Said {
  switch (rule?.kind) {
    case "needs":
      return explainMissing(dressed, rule);
    case "total":
      return explainTotal(tally, dressed, rule);
    case "count":
      return explainCount(dressed, rule);
    default:
      throw new TypeError(`Rule ${rule?.number} is about pairs, not about the whole loadout`);
  }
}

function explainMissing(dressed: Dressed, { when, needs }: NeedsRule): Said {
  return {
    code: "needs-missing",
    words: { when, needs },
    chain: [...factsIn(when, dressed), { kind: "missing", condition: needs }],
    culprits: chosen(partsIn(when, dressed)),
    advice: { code: "see-to", words: { needs } },
  };
}

function explainTotal(tally: Tally, dressed: Dressed, rule: TotalRule): Said {
  const value = statIn(tally, rule.stat);
  const limit = (bound: TotalRule["atMost"]) => (typeof bound === "object" ? statIn(tally, bound.stat) : bound);
  const most = limit(rule.atMost);
  const high = most !== undefined && value > most;
  const bound = (high ? most : limit(rule.atLeast)) ?? 0;
  const bounding = high ? rule.atMost : rule.atLeast;
  const givers = dressed.worn.filter(({ part }) => {
    const gift = valueAt(part.gives, rule.stat);
    return gift !== undefined && gift.add > 0 === high;
  });
  return {
    code: high ? "total-too-high" : "total-too-low",
    words: { stat: rule.stat, value, bound },
    chain: [
      ...givers.map(wornFact),
      { kind: "stat", id: rule.stat, value },
      ...(typeof bounding === "object" ? [{ kind: "stat", id: bounding.stat, value: bound } as const] : []),
    ],
    culprits: chosen(givers),
    advice: undefined,
  };
}

function statIn(tally: Tally, stat: string): number {
  return tally.stat(tally.catalog.compiled.statNumbers.get(stat) ?? -1);
}

function explainCount(dressed: Dressed, rule: CountRule): Said {
  const counted = dressed.worn.filter((worn) => matches(rule.of, worn));
  const value = counted.length;
  const high = rule.atMost !== undefined && value > rule.atMost;
  const bound = (high ? rule.atMost : rule.atLeast) ?? 0;
  return {
    code: high ? "count-too-high" : "count-too-low",
    words: { pattern: rule.of, value, bound },
    chain: high ? counted.map(wornFact) : [{ kind: "missing", condition: rule.of }],
    culprits: high ? chosen(counted) : [],
    advice: high ? undefined : { code: "put-on-more", words: { pattern: rule.of } },
  };
}

function aboutPart(code: TextCode, worn: Worn | undefined, words: Words, facts: readonly Fact[] = []): Explanation {
  return {
    code,
    subject: { kind: "part", id: worn?.part.id ?? "" },
    slot: worn?.slot,
    words: { part: worn?.part.id ?? "", ...words },
    authored: [],
    chain: [...(worn === undefined ? [] : [wornFact(worn)]), ...facts],
    culprits: chosen(worn === undefined ? [] : [worn]),
    advice: undefined,
  };
}

function aboutSlot(code: TextCode, slot: string, words: Words): Explanation {
  const subject = { kind: "slot", id: slot } as const;
  return { code, subject, slot, words, authored: [], chain: [], culprits: [], advice: undefined };
}

function ruleFact(voice: Voice, rule: Rule | undefined): readonly Fact[] {
  if (rule === undefined) return [];
  return [{ kind: "rule", number: rule.number, say: sayAuthored(voice, rule.say)[0] }];
}

function chosen(worn: readonly Worn[]): readonly Worn[] {
  return worn.filter(({ issued }) => !issued);
}

function isWorn(worn: Worn | undefined): worn is Worn {
  return worn !== undefined;
}
