import type { CompiledPart, CompiledRules, Part, Slot } from "../catalog/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Tally } from "../character/tally.ts";

const none: readonly number[] = [];

/**
 * A sound character with one slot laid bare, in which parts are tried that send nothing away.
 *
 * What taking the old part off breaks is found once; then each part costs only the rules that its own marks can break.
 */
export class BareSlot {
  readonly #tally: Tally;
  readonly #slot: number;
  readonly #rules: CompiledRules;
  readonly #anchors: Int32Array;
  /** Rules that the bare slot breaks, which a part has to mend, and those that filling it can break. */
  readonly #always: readonly number[];
  /** What the old part gave. */
  readonly #lost: CompiledPart["gives"];
  /** Slots of other parts that need some stat. */
  readonly #needy: readonly number[];

  /** @returns `undefined` where the slot is not the only one that what is in it takes, or where another part takes it. */
  static lay(
    tally: Tally,
    slot: Slot,
    character: Character,
    context: Context,
    anchors: Int32Array,
  ): BareSlot | undefined {
    tally.load(character, context);
    const old = tally.worn[slot.number];
    const takers = tally.covered[slot.number] ?? 0;
    if (takers > (old === undefined ? 0 : 1) || (old?.compiled.covers.length ?? 0) > 0) return undefined;
    tally.take(slot.number);
    return new BareSlot(tally, slot, old, anchors);
  }

  private constructor(tally: Tally, slot: Slot, old: Part | undefined, anchors: Int32Array) {
    this.#anchors = anchors;
    this.#tally = tally;
    this.#slot = slot.number;
    this.#rules = tally.catalog.compiled;
    const { slotMarks, more } = this.#rules;
    const own = slotMarks[slot.number] ?? -1;
    this.#always = [...tally.brokenRules(), ...(more.leading[own] ?? none), ...(more.failing[own] ?? none)];
    this.#lost = old?.compiled.gives ?? [];
    this.#needy = [...tally.worn.keys()].filter((at) => (tally.worn[at]?.compiled.needs.length ?? 0) > 0);
  }

  /** Whether a part that takes only this slot can be worn in it. Whether it may be beside the others is not asked. */
  accepts(part: Part): boolean {
    const tally = this.#tally;
    tally.put(this.#slot, part);
    const holds = this.#holds(part);
    tally.take(this.#slot);
    return holds;
  }

  #holds({ compiled: { marks, gives, needs } }: Part): boolean {
    const tally = this.#tally;
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
      if (gift === undefined || this.#isTheSame(gift)) continue;
      if (this.#anyBreaks(totals[gift.stat])) return false;
    }
    for (let at = 0; at < this.#lost.length; at += 1) {
      const stat = this.#lost[at]?.stat ?? -1;
      if (!gives.some((gift) => gift.stat === stat) && this.#anyBreaks(totals[stat])) return false;
    }
    for (let at = 0; at < needs.length; at += 1) {
      const { stat = 0, atLeast = 0 } = needs[at] ?? {};
      if (tally.stat(stat, this.#slot) < atLeast) return false;
    }
    return this.#needy.length === 0 || this.#needy.every((slot) => this.#isMet(slot));
  }

  /** Whether any rule breaks that one more of a mark leads to; those whose `needs` hang on other slots cannot. */
  #anyLeadBreaks(numbers: readonly number[]): boolean {
    const tally = this.#tally;
    const { rules } = this.#rules;
    for (let at = 0; at < numbers.length; at += 1) {
      const number = numbers[at] ?? 0;
      const anchor = this.#anchors[number] ?? -2;
      if (anchor === -1 || (anchor >= 0 && anchor !== this.#slot)) continue;
      const rule = rules[number];
      if (rule !== undefined && tally.breaks(rule)) return true;
    }
    return false;
  }

  /** Whether a part gives of a stat just what the old one gave, so that nothing about it changes. */
  #isTheSame({ stat, add, times }: CompiledPart["gives"][number]): boolean {
    return this.#lost.some((gift) => gift.stat === stat && gift.add === add && gift.times === times);
  }

  #anyBreaks(numbers: readonly number[] | undefined): boolean {
    if (numbers === undefined) return false;
    const tally = this.#tally;
    const { rules } = this.#rules;
    for (let at = 0; at < numbers.length; at += 1) {
      const rule = rules[numbers[at] ?? 0];
      if (rule !== undefined && tally.breaks(rule)) return true;
    }
    return false;
  }

  #isMet(slot: number): boolean {
    const needs = this.#tally.worn[slot]?.compiled.needs ?? [];
    return needs.every(({ stat, atLeast }) => this.#tally.stat(stat, slot) >= atLeast);
  }
}
