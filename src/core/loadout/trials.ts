import type { Catalog, Part, Slot } from "../catalog/catalog.ts";
import { applyEdit } from "../character/apply-edit.ts";
import { countInBag } from "../character/bag.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { findBroken } from "../character/find-broken.ts";
import { fitsBody } from "../character/fits-body.ts";
import { Tally } from "../character/tally.ts";
import { recall } from "../recall.ts";

type Verdict = "ready" | "displaces" | "blocked";

/** Tries parts on a character, one after another, and takes each off again. */
export class Trials {
  readonly catalog: Catalog;
  readonly character: Character;
  readonly context: Context;
  readonly #tally: Tally;
  /** Whether nothing is broken now, so that whatever a trial finds broken is its own doing. */
  readonly #isSound: boolean;
  readonly #bound: boolean;
  /** By mark, the slots whose chosen parts a rule keeps from what has the mark, and whether the rule only displaces. */
  readonly #apart = new Map<number, readonly Foe[]>();
  /** Verdicts by slot, for parts that rules cannot tell apart. */
  readonly #verdicts = new Map<string, Verdict>();

  constructor(catalog: Catalog, character: Character, context: Context) {
    this.catalog = catalog;
    this.character = character;
    this.context = context;
    this.#tally = new Tally(catalog);
    this.#tally.load(character, context);
    this.#isSound = findBroken(this.#tally).length === 0 && context.bagPlaces === undefined;
    this.#bound = context.wardrobe === "bag";
  }

  /** What is worn in a slot. */
  wornIn(slot: Slot): Part | undefined {
    return this.#tally.worn[slot.number];
  }

  /** What putting a part on would come to; who owns it is not looked at. */
  tryOn(part: Part, slot: Slot): Verdict {
    if (!this.#isSound) return this.#tryWhole(part, slot);
    if (!fitsBody(part, this.character.body)) return "blocked";
    const isDefault = slot.required && slot.default === part.id;
    if (this.#bound && !isDefault && slot.kind === "gear" && countInBag(this.character.bag, part.id) === 0)
      return "blocked";
    const { compiled } = part;
    if (isDefault) return this.#judge(part, slot, true);
    if (compiled.marks.length === 0 && compiled.covers.length === 0 && compiled.needs.length === 0) {
      const key = compiled.gives.reduce(
        (sum, { stat, add, times }) => `${sum} ${stat} ${add} ${times}`,
        `${slot.number}`,
      );
      return recall(this.#verdicts, key, () => this.#judge(part, slot, false));
    }
    return this.#judge(part, slot, false);
  }

  /** Does the edit in full, as it is where something is broken already. */
  #tryWhole(part: Part, slot: Slot): Verdict {
    const result = applyEdit(this.catalog, this.character, { wear: part.id, in: slot.id }, this.context);
    if (!result.ok) return "blocked";
    return result.displaced.some((each) => each.slot !== slot.id) ? "displaces" : "ready";
  }

  #judge(part: Part, slot: Slot, isDefault: boolean): Verdict {
    const tally = this.#tally;
    // Who is kept apart is asked while all is as it was.
    const foes = this.#foes(part, slot);
    let displaces = false;
    tally.startTrial();
    const send = (number: number) => {
      tally.take(number);
      if (number !== slot.number) displaces = true;
    };
    this.#clear(slot.number, send);
    for (const covered of part.compiled.covers) this.#clear(covered, send);
    for (const foe of foes) {
      const isThere = tally.worn[foe] !== undefined && tally.issued[foe] === 0;
      if (isThere) send(foe);
    }
    if (!isDefault) tally.put(slot.number, part);
    tally.issue();
    const breaks = tally.trialBreaks();
    tally.endTrial();
    if (breaks) return "blocked";
    return displaces ? "displaces" : "ready";
  }

  /** Sends away the chosen parts that take a slot. */
  #clear(slot: number, send: (slot: number) => void): void {
    const tally = this.#tally;
    if ((tally.covered[slot] ?? 0) === 0) return;
    for (let number = 0; number < tally.worn.length; number += 1) {
      const worn = tally.worn[number];
      if (worn === undefined || tally.issued[number] === 1) continue;
      if (number === slot || worn.compiled.covers.includes(slot)) send(number);
    }
  }

  /** The slots whose parts only displacing rules keep from a part. */
  #foes(part: Part, slot: Slot): readonly number[] {
    const own = this.catalog.compiled.slotMarks[slot.number] ?? -1;
    const marks = own < 0 ? part.compiled.marks : [...part.compiled.marks, own];
    const found: Foe[] = [];
    for (const mark of marks) found.push(...recall(this.#apart, mark, () => this.#foesOf(mark)));
    if (found.length === 0) return [];
    const refusing = new Set(found.filter(({ displaces }) => !displaces).map((foe) => foe.slot));
    return found.filter(({ displaces, slot: number }) => displaces && !refusing.has(number)).map((foe) => foe.slot);
  }

  #foesOf(mark: number): readonly Foe[] {
    const { rules, compiled } = this.catalog;
    const tally = this.#tally;
    return (compiled.mentions[mark] ?? []).flatMap((number) => {
      const rule = compiled.rules[number];
      const source = rules[number];
      if (rule?.kind !== "never" || source?.kind !== "never") return [];
      const others = rule.marks.filter((_, at) => rule.marks.some((one, place) => place !== at && one === mark));
      const there = [...tally.worn.keys()].filter(
        (slot) => tally.issued[slot] === 0 && others.some((other) => tally.has(slot, other)),
      );
      return there.map((slot) => ({ slot, displaces: source.then === "displace" }));
    });
  }
}

/** A slot with a part that a rule keeps from another. */
interface Foe {
  readonly slot: number;
  /** Whether the rule sends it away, rather than refuse. */
  readonly displaces: boolean;
}
