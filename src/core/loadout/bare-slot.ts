import type { Part, Slot } from "../catalog/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { Tally } from "../character/tally.ts";

/**
 * A sound character with one slot laid bare, in which parts are tried that send nothing away.
 *
 * What taking the old part off breaks is found once; then each part costs only the rules that its own marks can break.
 */
export class BareSlot {
  readonly #tally: Tally;
  readonly #slot: number;
  /** Rules that the bare slot breaks: a part has to mend them. */
  readonly #broken: readonly number[];
  /** Stats that the old part gave. */
  readonly #lost: readonly number[];
  /** Slots of other parts that need some stat. */
  readonly #needy: readonly number[];

  /** @returns `undefined` where the slot is not the only one that what is in it takes, or where another part takes it. */
  static lay(tally: Tally, slot: Slot, character: Character, context: Context): BareSlot | undefined {
    tally.load(character, context);
    const old = tally.worn[slot.number];
    const takers = tally.covered[slot.number] ?? 0;
    if (takers > (old === undefined ? 0 : 1) || (old?.compiled.covers.length ?? 0) > 0) return undefined;
    tally.take(slot.number);
    return new BareSlot(tally, slot, old);
  }

  private constructor(tally: Tally, slot: Slot, old: Part | undefined) {
    this.#tally = tally;
    this.#slot = slot.number;
    this.#broken = tally.brokenRules();
    this.#lost = (old?.compiled.gives ?? []).map(({ stat }) => stat);
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
    const { more, totals, slotMarks } = tally.catalog.compiled;
    if (this.#anyBreaks(this.#broken)) return false;
    const own = slotMarks[this.#slot] ?? -1;
    if (own >= 0 && (this.#anyBreaks(more.leading[own]) || this.#anyBreaks(more.failing[own]))) return false;
    for (let at = 0; at < marks.length; at += 1) {
      const mark = marks[at] ?? 0;
      if (this.#anyBreaks(more.leading[mark]) || this.#anyBreaks(more.failing[mark])) return false;
    }
    for (let at = 0; at < gives.length; at += 1) if (this.#anyBreaks(totals[gives[at]?.stat ?? -1])) return false;
    for (const stat of this.#lost) {
      if (!gives.some((gift) => gift.stat === stat) && this.#anyBreaks(totals[stat])) return false;
    }
    for (let at = 0; at < needs.length; at += 1) {
      const { stat = 0, atLeast = 0 } = needs[at] ?? {};
      if (tally.stat(stat, this.#slot) < atLeast) return false;
    }
    return this.#needy.length === 0 || this.#needy.every((slot) => this.#isMet(slot));
  }

  #anyBreaks(numbers: readonly number[] | undefined): boolean {
    if (numbers === undefined) return false;
    const tally = this.#tally;
    const { rules } = tally.catalog.compiled;
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
