import type { Catalog, Part, Slot } from "../catalog/model/catalog.ts";
import { countInBag } from "../character/bag/bag.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { applyEdit } from "../edits/apply-edit.ts";
import { findBroken } from "../rules/find-broken.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { Tally } from "../rules/tally.ts";
import { anchorsOf } from "./anchors.ts";
import { BareSlot } from "./bare-slot.ts";

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
  readonly #bareTally: Tally;
  readonly #anchors: Int32Array;
  #bareAt: Slot | undefined;
  #bare: BareSlot | undefined;
  /** By mark, the worn parts that a rule keeps from what has the mark. */
  readonly #apart: readonly (readonly Foe[] | undefined)[];

  constructor(catalog: Catalog, character: Character, context: Context) {
    this.catalog = catalog;
    this.character = character;
    this.context = context;
    this.#tally = new Tally(catalog);
    this.#bareTally = new Tally(catalog);
    this.#tally.load(character, context);
    this.#apart = this.#findFoes();
    this.#anchors = anchorsOf(this.#tally);
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
    if (part.fits !== undefined && !fitsBody(part, this.character.body)) return "blocked";
    const isDefault = slot.required && slot.default === part.id;
    if (this.#bound && !isDefault && slot.kind === "gear" && countInBag(this.character.bag, part.id) === 0)
      return "blocked";
    if (isDefault) return this.#judge(part, slot, true);
    return this.#tryBare(part, slot) ?? this.#judge(part, slot, false);
  }

  /** The verdict on a part that sends nothing away; `undefined` when it may. */
  #tryBare(part: Part, slot: Slot): Verdict | undefined {
    if (part.compiled.covers.length > 0) return undefined;
    if (this.#bareAt !== slot) {
      this.#bareAt = slot;
      this.#bare = BareSlot.lay(this.#bareTally, slot, this.character, this.context, this.#anchors);
    }
    if (this.#bare === undefined) return undefined;
    const foes = this.#foes(part, slot);
    if (foes.length > 0) {
      const beside = foes.find(({ slot: at }) => at !== slot.number);
      if (beside !== undefined) return beside.displaces ? undefined : "blocked";
    }
    return this.#bare.accepts(part) ? "ready" : "blocked";
  }

  /** Does the edit in full, as it is where something is broken already. */
  #tryWhole(part: Part, slot: Slot): Verdict {
    const result = applyEdit(this.catalog, this.character, { wear: part.id, in: slot.id }, this.context);
    if (!result.ok) return "blocked";
    return result.displaced.some((each) => each.slot !== slot.id) ? "displaces" : "ready";
  }

  #judge(part: Part, slot: Slot, isDefault: boolean): Verdict {
    const tally = this.#tally;
    const foes = this.#foes(part, slot);
    let displaces = false;
    const send = (number: number) => {
      tally.take(number);
      if (number !== slot.number) displaces = true;
    };
    this.#clear(slot.number, send);
    for (const covered of part.compiled.covers) this.#clear(covered, send);
    for (const { slot: foe, displaces: yields } of foes) {
      if (yields && tally.worn[foe] !== undefined) send(foe);
    }
    if (!isDefault) tally.put(slot.number, part);
    tally.issue();
    const refused = foes.some(({ slot: foe, part: kept, displaces: yields }) => !yields && tally.worn[foe] === kept);
    // Nothing was broken before, so whatever is broken now is the part's doing.
    const breaks = refused || findBroken(tally).length > 0;
    tally.load(this.character, this.context);
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

  /** The parts that rules keep from a part: those that refuse, and of the others those that nothing refuses. */
  #foes(part: Part, slot: Slot): readonly Foe[] {
    const { marks } = part.compiled;
    const apart = this.#apart;
    let found = apart[this.catalog.compiled.slotMarks[slot.number] ?? -1] ?? nobody;
    for (let at = 0; at < marks.length; at += 1) {
      const more = apart[marks[at] ?? -1];
      if (more !== undefined) found = found.length === 0 ? more : [...found, ...more];
    }
    if (found.length < 2 || found.every(({ displaces }) => displaces)) return found;
    const refusing = found.filter(({ displaces }) => !displaces);
    return [...refusing, ...found.filter(({ slot: at }) => refusing.every((foe) => foe.slot !== at))];
  }

  /** By mark, the worn parts that a rule keeps from what has the mark. */
  #findFoes(): readonly (readonly Foe[] | undefined)[] {
    const { rules, compiled } = this.catalog;
    const found = new Array<Foe[] | undefined>(compiled.marks.size).fill(undefined);
    for (const [slot, part] of this.#tally.worn.entries()) {
      if (part === undefined) continue;
      for (const mark of new Set([...part.compiled.marks, compiled.slotMarks[slot] ?? -1])) {
        for (const number of compiled.apart[mark] ?? []) {
          const source = rules[number];
          // What is issued does not yield to a rule.
          const displaces = source?.kind === "never" && source.then === "displace" && this.#tally.issued[slot] === 0;
          const { marks = [] } = compiled.rules[number] ?? {};
          for (const [at, other] of marks.entries()) {
            if (!marks.some((one, place) => place !== at && one === mark)) continue;
            const list = found[other];
            if (list === undefined) found[other] = [{ slot, part, displaces }];
            else list.push({ slot, part, displaces });
          }
        }
      }
    }
    return found;
  }
}

const nobody: readonly Foe[] = [];

/** A worn part that a rule keeps from another. */
interface Foe {
  readonly slot: number;
  readonly part: Part;
  /** Whether the rule sends it away, rather than refuse. */
  readonly displaces: boolean;
}
