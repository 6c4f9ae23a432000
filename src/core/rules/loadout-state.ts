import type {
  Body,
  Catalog,
  CompiledBound,
  CompiledCondition,
  CompiledRule,
  Part,
  Slot,
  Threshold,
} from "../catalog/model/catalog.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { judgedKind } from "./judged-kinds.ts";
import { WornStats } from "./worn-stats.ts";

/**
 * What a character wears, counted by mark and by stat, so that rules can be judged without asking every part.
 *
 * Putting on and taking off cost what the part carries.
 */
export class LoadoutState {
  readonly catalog: Catalog;
  /** In the order of the catalog. */
  readonly slots: readonly Slot[];
  /** The numbers of the slots that must not be empty. */
  readonly required: readonly number[];
  /** What is worn, by slot number. */
  readonly worn: (Part | undefined)[];
  /** 1 where what is worn is issued, by slot number. */
  readonly issued: Int32Array;
  /** How many of what is worn, and of the character's answers, have each mark. */
  readonly counts: Int32Array;
  /** How many worn parts take each slot. */
  readonly covered: Int32Array;
  /** What is worn gives to each weighed stat. */
  readonly stats: WornStats;
  body: Body | undefined;
  /** Whether the character loaded last has slots or parts that the catalog does not know. */
  hasUnknown = false;
  readonly #chosenCover: Int32Array;
  /** All of the counts above in one piece, so that they are cleared in one go. */
  readonly #allCounts: Int32Array;
  /** By rule, the round in which it was looked at last: a number that grows, so that nothing has to be cleared. */
  readonly #seen: Uint32Array;
  #round = 0;
  readonly #slotMarks: readonly number[];
  readonly #withDefault: readonly { readonly slot: Slot; readonly part: Part }[];

  constructor(catalog: Catalog) {
    const { compiled } = catalog;
    this.catalog = catalog;
    this.slots = [...catalog.slots.values()];
    this.required = this.slots.filter(({ required }) => required).map(({ number }) => number);
    this.worn = new Array<Part | undefined>(this.slots.length).fill(undefined);
    const places = this.slots.length;
    const markCount = compiled.marks.size;
    this.#allCounts = new Int32Array(markCount + 3 * places);
    this.counts = this.#allCounts.subarray(0, markCount);
    this.issued = this.#allCounts.subarray(markCount, markCount + places);
    this.covered = this.#allCounts.subarray(markCount + places, markCount + 2 * places);
    this.#chosenCover = this.#allCounts.subarray(markCount + 2 * places);
    this.#seen = new Uint32Array(compiled.rules.length);
    this.stats = new WornStats(compiled, places);
    this.#slotMarks = compiled.slotMarks;
    this.#withDefault = this.slots.flatMap((slot) => {
      const part = slot.required && slot.default !== undefined ? catalog.parts.get(slot.default) : undefined;
      return part === undefined ? [] : [{ slot, part }];
    });
  }

  /** Takes everything off and puts on what a character wears; slots and parts the catalog does not know are left out. */
  load(character: Pick<Character, "body" | "loadout" | "facts">, context: Context): void {
    this.reset(character, context);
    this.hasUnknown = false;
    for (const id in character.loadout) {
      const part = this.catalog.parts.get(character.loadout[id] ?? "");
      // Nearly always a part is in the first of its slots, whose number it knows.
      const slot = part?.slots[0] === id ? part.compiled.places[0] : this.catalog.compiled.slotNumbers.get(id);
      if (slot !== undefined && part !== undefined) this.#put(slot, part, 0);
      else this.hasUnknown = true;
    }
    this.issue();
  }

  /** The numbers of the rules that do not hold, each once, in no order; only rules that what is worn can break are looked at. */
  brokenRules(): readonly number[] {
    const { rules, triggers, always, slotMarks } = this.catalog.compiled;
    const broken: number[] = [];
    this.#startRound();
    this.#look(rules, always, broken);
    for (let slot = 0; slot < this.worn.length; slot += 1) {
      const part = this.worn[slot];
      if (part === undefined) continue;
      this.#look(rules, part.compiled.rules, broken);
      if (part.compiled.places.length === 1 && part.compiled.places[0] === slot) continue;
      this.#look(rules, triggers[slotMarks[slot] ?? -1] ?? none, broken);
    }
    return broken;
  }

  #startRound(): void {
    this.#round = (this.#round + 1) >>> 0;
    if (this.#round !== 0) return;
    this.#seen.fill(0);
    this.#round = 1;
  }

  #look(rules: readonly CompiledRule[], numbers: readonly number[], broken: number[]): void {
    const seen = this.#seen;
    const round = this.#round;
    for (let at = 0; at < numbers.length; at += 1) {
      const number = numbers[at] as number;
      if (seen[number] === round) continue;
      seen[number] = round;
      const rule = rules[number];
      if (rule !== undefined && this.breaks(rule)) broken.push(number);
    }
  }

  /** Takes everything off and takes on a body, the character's answers and the game's signals. */
  reset(character: Pick<Character, "body" | "facts">, context: Context): void {
    const { catalog } = this;
    const { compiled } = catalog;
    this.worn.fill(undefined);
    this.#allCounts.fill(0);
    this.body = catalog.bodies.get(character.body);
    for (const { condition, mark } of compiled.given) {
      if (judgedKind(condition).given?.holds(condition, character, context) === true) this.counts[mark] = 1;
    }
    this.stats.reset(this.body, context.stats);
  }

  /** Puts a chosen part on; what was in the slot is taken off. Defaults are not looked after: `issue` does that. */
  put(slot: number, part: Part): void {
    this.take(slot);
    this.#put(slot, part, 0);
  }

  /** Puts on the defaults of required slots that nothing chosen takes, and takes off those that are in the way of a choice. */
  issue(): void {
    for (const { slot, part } of this.#withDefault) {
      const number = slot.number;
      const wanted = this.#chosenCover[number] === 0;
      if (wanted && this.worn[number] === undefined) this.#put(number, part, 1);
      else if (!wanted && this.issued[number] === 1) this.take(number);
    }
  }

  /** The value of a weighed stat; what is in one slot can be left out, and what it completes. */
  stat(number: number, without = -1): number {
    return this.stats.valueOf(number, without, this);
  }

  /** Whether so many marks are there; what is in one slot can be left out. */
  isReached({ marks, atLeast }: Threshold, without = -1): boolean {
    let there = 0;
    for (const mark of marks) {
      const count = (this.counts[mark] as number) - (without >= 0 && this.has(without, mark) ? 1 : 0);
      if (count > 0) there += 1;
    }
    return there >= atLeast;
  }

  /** Whether what is in a slot has a mark. */
  has(slot: number, mark: number): boolean {
    const part = this.worn[slot];
    if (part === undefined) return false;
    return this.catalog.compiled.slotMarks[slot] === mark || part.compiled.marks.includes(mark);
  }

  holds(condition: CompiledCondition): boolean {
    switch (condition.kind) {
      case "mark":
        return (this.counts[condition.mark] as number) > 0;
      case "any":
        for (let at = 0; at < condition.of.length; at += 1) if (this.#holdsAt(condition.of, at)) return true;
        return false;
      case "all":
        for (let at = 0; at < condition.of.length; at += 1) if (!this.#holdsAt(condition.of, at)) return false;
        return true;
      case "not":
        return !this.#holdsAt(condition.of, 0);
    }
  }

  #holdsAt(conditions: readonly CompiledCondition[], at: number): boolean {
    const condition = conditions[at];
    if (condition?.kind === "mark") return (this.counts[condition.mark] as number) > 0;
    return condition !== undefined && this.holds(condition);
  }

  /** Whether a rule does not hold. */
  breaks(rule: CompiledRule): boolean {
    switch (rule.kind) {
      case "implied":
        return this.holds(rule.when) && !this.holds(rule.needs);
      case "counted":
        return this.#isOutside(this.counts[rule.marks[0] as number] as number, rule);
      case "bounded":
        return this.#isOutside(this.stat(rule.stat), rule);
      case "exclusive":
        return this.#meet(rule.marks);
      case "giving":
        return false;
    }
  }

  #isOutside(value: number, { atLeast, atMost }: CompiledRule): boolean {
    return (
      value > (this.#bound(atMost) ?? Number.POSITIVE_INFINITY) ||
      value < (this.#bound(atLeast) ?? Number.NEGATIVE_INFINITY)
    );
  }

  #bound(bound: CompiledBound | undefined): number | undefined {
    return typeof bound === "object" ? this.stat(bound.stat) : bound;
  }

  /** Whether two worn parts have two of these marks. */
  #meet(marks: readonly number[]): boolean {
    const { counts } = this;
    // Most rules exclude two, and mostly only one of them is there.
    if (marks.length === 2 && (counts[marks[0] as number] === 0 || counts[marks[1] as number] === 0)) return false;
    let there = 0;
    let twice = false;
    let first = -1;
    for (let at = 0; at < marks.length; at += 1) {
      const mark = marks[at] as number;
      const count = counts[mark] as number;
      if (count === 0) continue;
      there += 1;
      if (count > 1) twice = true;
      if (first < 0) first = mark;
    }
    if (there < 2 || twice) return there >= 2;
    // Each mark is there once: they meet unless one part has them all.
    const slot = this.worn.findIndex((_, number) => this.has(number, first));
    return marks.some((mark) => (this.counts[mark] as number) > 0 && !this.has(slot, mark));
  }

  #put(slot: number, part: Part, issued: 0 | 1): void {
    this.worn[slot] = part;
    this.issued[slot] = issued;
    this.#count(slot, part, 1);
    this.stats.set(slot, part, true);
  }

  /** Takes off whatever is in a slot. */
  take(slot: number): void {
    const part = this.worn[slot];
    if (part === undefined) return;
    this.#count(slot, part, -1);
    this.stats.set(slot, part, false);
    this.worn[slot] = undefined;
    this.issued[slot] = 0;
  }

  #count(slot: number, part: Part, by: 1 | -1): void {
    const { marks, covers } = part.compiled;
    const { counts, covered } = this;
    const chosen = this.issued[slot] === 0 ? by : 0;
    const own = this.#slotMarks[slot] as number;
    for (let at = 0; at < marks.length; at += 1) {
      const mark = marks[at] as number;
      counts[mark] = (counts[mark] as number) + by;
    }
    const chosenCover = this.#chosenCover;
    const alone = covers.length === 0;
    if (alone || !covers.includes(slot)) {
      if (own >= 0) counts[own] = (counts[own] as number) + by;
      covered[slot] = (covered[slot] as number) + by;
      chosenCover[slot] = (chosenCover[slot] as number) + chosen;
    }
    if (alone) return;
    for (const each of covers) {
      covered[each] = (covered[each] as number) + by;
      chosenCover[each] = (chosenCover[each] as number) + chosen;
    }
  }
}

const none: readonly number[] = [];
