import type { CompiledPart, CompiledRules, Part, Slot } from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { LoadoutState } from "../rules/loadout-state.ts";

type StatModifier = CompiledPart["gives"][number];

const none: readonly number[] = [];

function givenOf(gifts: readonly StatModifier[], stat: number): StatModifier | undefined {
  for (let at = 0; at < gifts.length; at += 1) if (gifts[at]?.stat === stat) return gifts[at];
  return undefined;
}

/**
 * A sound character with one slot laid bare, in which parts are tried that send nothing away.
 *
 * What taking the old part off breaks is found once; then each part costs only the rules that its own marks can break.
 */
export class BareSlot {
  readonly #state: LoadoutState;
  readonly #slot: number;
  readonly #rules: CompiledRules;
  readonly #anchors: Int32Array;
  /** Rules that the bare slot breaks, which a part has to mend, and those that filling it can break. */
  readonly #always: readonly number[];
  /** What the old part gave. */
  readonly #lost: CompiledPart["gives"];
  /** By stat, how much more there may be for sure. */
  readonly #room: readonly number[];
  /** Slots of other parts that need some stat. */
  readonly #needy: readonly number[];

  /** @returns `undefined` where the slot is not the only one that what is in it takes, or where another part takes it. */
  static lay(
    state: LoadoutState,
    slot: Slot,
    character: Character,
    context: Context,
    anchors: Int32Array,
  ): BareSlot | undefined {
    state.load(character, context);
    const old = state.worn[slot.number];
    const takers = state.covered[slot.number] ?? 0;
    if (takers > (old === undefined ? 0 : 1) || (old?.compiled.covers.length ?? 0) > 0) return undefined;
    state.take(slot.number);
    return new BareSlot(state, slot, old, anchors);
  }

  private constructor(state: LoadoutState, slot: Slot, old: Part | undefined, anchors: Int32Array) {
    this.#anchors = anchors;
    this.#state = state;
    this.#slot = slot.number;
    this.#rules = state.catalog.compiled;
    const { slotMarks, more } = this.#rules;
    const own = slotMarks[slot.number] ?? -1;
    this.#always = [...state.brokenRules(), ...(more.leading[own] ?? none), ...(more.failing[own] ?? none)];
    this.#lost = old?.compiled.gives ?? [];
    this.#room = this.#rules.stats.map((_, stat) => this.#roomFor(stat));
    this.#needy = [...state.worn.keys()].filter((at) => (state.worn[at]?.compiled.requires.length ?? 0) > 0);
  }

  /** Whether a part that takes only this slot can be worn in it. Whether it may be beside the others is not asked. */
  accepts(part: Part): boolean {
    const state = this.#state;
    state.put(this.#slot, part);
    const holds = this.#holds(part);
    state.take(this.#slot);
    return holds;
  }

  #holds({ compiled: { marks, gives, requires: needs } }: Part): boolean {
    const state = this.#state;
    const { totals } = this.#rules;
    const { leading, failing } = this.#rules.more;
    if (this.#always.length > 0 && this.#anyBreaks(this.#always)) return false;
    for (let at = 0; at < marks.length; at += 1) {
      const mark = marks[at] ?? 0;
      const leads = leading[mark] ?? none;
      if (leads.length > 0 && this.#anyLeadBreaks(leads)) return false;
      const fails = failing[mark] ?? none;
      if (fails.length > 0 && this.#anyBreaks(fails)) return false;
    }
    for (let at = 0; at < gives.length; at += 1) {
      const gift = gives[at];
      if (gift === undefined || this.#isHarmless(gift)) continue;
      if (this.#anyBreaks(totals[gift.stat])) return false;
    }
    for (let at = 0; at < this.#lost.length; at += 1) {
      const stat = this.#lost[at]?.stat ?? -1;
      if (givenOf(gives, stat) === undefined && this.#anyBreaks(totals[stat])) return false;
    }
    for (let at = 0; at < needs.length; at += 1) {
      const { stat = 0, atLeast = 0 } = needs[at] ?? {};
      if (state.stat(stat, this.#slot) < atLeast) return false;
    }
    return this.#needy.length === 0 || this.#needy.every((slot) => this.#isMet(slot));
  }

  /** Whether any rule breaks that one more of a mark leads to; those whose `needs` hang on other slots cannot. */
  #anyLeadBreaks(numbers: readonly number[]): boolean {
    const state = this.#state;
    const { rules } = this.#rules;
    for (let at = 0; at < numbers.length; at += 1) {
      const number = numbers[at] ?? 0;
      const anchor = this.#anchors[number] ?? -2;
      if (anchor === -1 || (anchor >= 0 && anchor !== this.#slot)) continue;
      const rule = rules[number];
      if (rule !== undefined && state.breaks(rule)) return true;
    }
    return false;
  }

  /** Whether a gift breaks no total for sure: it is just what the old part gave, or there is more room than it takes. */
  #isHarmless({ stat, add, times }: StatModifier): boolean {
    if ((this.#rules.bonuses[stat] ?? none).length > 0) return false;
    if (times === 1 && add <= (this.#room[stat] ?? Number.NEGATIVE_INFINITY)) return true;
    const lost = givenOf(this.#lost, stat);
    return lost !== undefined && lost.add === add && lost.times === times;
  }

  /** How much more of a stat there may be before any total is near its bound; nothing where that is not so simple. */
  #roomFor(stat: number): number {
    const value = this.#state.stat(stat);
    const { min = 0, max = 0 } = this.#rules.stats[stat] ?? {};
    if (this.#state.stats.isMultiplied || value <= min || value >= max) return Number.NEGATIVE_INFINITY;
    return (this.#rules.totals[stat] ?? []).reduce((room, number) => {
      const { stat: bounded, atLeast, atMost } = this.#rules.rules[number] ?? {};
      if (bounded !== stat || atLeast !== undefined || typeof atMost !== "number") return Number.NEGATIVE_INFINITY;
      // Far enough from the bound that no order of summing makes a difference.
      return Math.min(room, atMost - value - 1e-6 * (1 + Math.abs(atMost) + Math.abs(value)));
    }, Number.POSITIVE_INFINITY);
  }

  #anyBreaks(numbers: readonly number[] | undefined): boolean {
    if (numbers === undefined) return false;
    const state = this.#state;
    const { rules } = this.#rules;
    for (let at = 0; at < numbers.length; at += 1) {
      const rule = rules[numbers[at] ?? 0];
      if (rule !== undefined && state.breaks(rule)) return true;
    }
    return false;
  }

  #isMet(slot: number): boolean {
    const needs = this.#state.worn[slot]?.compiled.requires ?? [];
    return needs.every(({ stat, atLeast }) => this.#state.stat(stat, slot) >= atLeast);
  }
}
