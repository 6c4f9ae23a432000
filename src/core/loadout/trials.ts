import type { Catalog, Part, Slot } from "../catalog/model/catalog.ts";
import { countInBag } from "../character/bag/bag.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import { applyEdit } from "../edits/apply-edit.ts";
import { countBroken, findBroken } from "../rules/find-broken.ts";
import { fitsBody } from "../rules/fits-body.ts";
import { LoadoutState } from "../rules/loadout-state.ts";
import { anchorsOf } from "./anchors.ts";
import { BareSlot } from "./bare-slot.ts";

type Verdict = "ready" | "displaces" | "blocked";

/** Tries parts on a character, one after another, and takes each off again. */
export class Trials {
  readonly catalog: Catalog;
  readonly character: Character;
  readonly context: Context;
  readonly #state: LoadoutState;
  /** How often there is each thing that is broken now, and whether there is none, so that whatever a trial finds broken is its own doing. */
  readonly #earlier: ReadonlyMap<string, number>;
  readonly #isSound: boolean;
  /** Whether whatever comes off finds room. */
  readonly #hasRoom: boolean;
  readonly #bound: boolean;
  readonly #bareState: LoadoutState;
  readonly #anchors: Int32Array;
  #bareAt: Slot | undefined;
  #bare: BareSlot | undefined;
  /** By mark, the worn parts that a rule keeps from what has the mark. */
  readonly #exclusive: readonly (readonly Conflict[] | undefined)[];

  constructor(catalog: Catalog, character: Character, context: Context) {
    this.catalog = catalog;
    this.character = character;
    this.context = context;
    this.#state = new LoadoutState(catalog);
    this.#bareState = new LoadoutState(catalog);
    this.#state.load(character, context);
    this.#exclusive = this.#findConflicts();
    this.#anchors = anchorsOf(this.#state);
    this.#earlier = countBroken(this.#state);
    this.#isSound = this.#earlier.size === 0;
    this.#hasRoom = context.bagPlaces === undefined;
    this.#bound = context.wardrobe === "bag";
  }

  /** What is worn in a slot. */
  wornIn(slot: Slot): Part | undefined {
    return this.#state.worn[slot.number];
  }

  /** What putting a part on would come to; who owns it is not looked at. */
  tryOn(part: Part, slot: Slot): Verdict {
    if (!this.#hasRoom) return this.#tryWhole(part, slot);
    if (part.fits !== undefined && !fitsBody(part, this.character.body)) return "blocked";
    const isDefault = slot.required && slot.default === part.id;
    if (this.#bound && !isDefault && slot.kind === "gear" && countInBag(this.character.bag, part.id) === 0)
      return "blocked";
    if (isDefault) return this.#judge(part, slot, true);
    return (this.#isSound ? this.#tryBare(part, slot) : undefined) ?? this.#judge(part, slot, false);
  }

  /** The verdict on a part that sends nothing away; `undefined` when it may. */
  #tryBare(part: Part, slot: Slot): Verdict | undefined {
    if (part.compiled.covers.length > 0) return undefined;
    if (this.#bareAt !== slot) {
      this.#bareAt = slot;
      this.#bare = BareSlot.lay(this.#bareState, slot, this.character, this.context, this.#anchors);
    }
    if (this.#bare === undefined) return undefined;
    const conflicts = this.#conflicts(part, slot);
    if (conflicts.length > 0) {
      const beside = conflicts.find(({ slot: at }) => at !== slot.number);
      if (beside !== undefined) return beside.displaces ? undefined : "blocked";
    }
    return this.#bare.accepts(part) ? "ready" : "blocked";
  }

  /** Does the edit in full, as it is where there may be no room in the bag. */
  #tryWhole(part: Part, slot: Slot): Verdict {
    const result = applyEdit(this.catalog, this.character, { wear: part.id, in: slot.id }, this.context);
    if (!result.ok) return "blocked";
    return result.displaced.some((each) => each.slot !== slot.id) ? "displaces" : "ready";
  }

  #judge(part: Part, slot: Slot, isDefault: boolean): Verdict {
    const state = this.#state;
    const conflicts = this.#conflicts(part, slot);
    let displaces = false;
    const send = (number: number) => {
      state.take(number);
      if (number !== slot.number) displaces = true;
    };
    this.#clear(slot.number, send);
    for (const covered of part.compiled.covers) this.#clear(covered, send);
    for (const { slot: conflict, displaces: yields } of conflicts) {
      if (yields && state.worn[conflict] !== undefined) send(conflict);
    }
    if (!isDefault) state.put(slot.number, part);
    state.issue();
    const refused = conflicts.some(
      ({ slot: conflict, part: kept, displaces: yields }) => !yields && state.worn[conflict] === kept,
    );
    const breaks = (refused && this.#isSound) || this.#breaksMore();
    state.load(this.character, this.context);
    if (breaks) return "blocked";
    return displaces ? "displaces" : "ready";
  }

  /** Whether anything is broken that was not, or more often than it was. */
  #breaksMore(): boolean {
    if (this.#isSound) return findBroken(this.#state).length > 0;
    for (const [key, count] of countBroken(this.#state)) if (count > (this.#earlier.get(key) ?? 0)) return true;
    return false;
  }

  /** Sends away the chosen parts that take a slot. */
  #clear(slot: number, send: (slot: number) => void): void {
    const state = this.#state;
    if ((state.covered[slot] ?? 0) === 0) return;
    for (let number = 0; number < state.worn.length; number += 1) {
      const worn = state.worn[number];
      if (worn === undefined || state.issued[number] === 1) continue;
      if (number === slot || worn.compiled.covers.includes(slot)) send(number);
    }
  }

  /** The parts that rules keep from a part: those that refuse, and of the others those that nothing refuses. */
  #conflicts(part: Part, slot: Slot): readonly Conflict[] {
    const { marks } = part.compiled;
    const exclusive = this.#exclusive;
    let found = exclusive[this.catalog.compiled.slotMarks[slot.number] ?? -1] ?? nobody;
    for (let at = 0; at < marks.length; at += 1) {
      const more = exclusive[marks[at] ?? -1];
      if (more !== undefined) found = found.length === 0 ? more : [...found, ...more];
    }
    if (found.length < 2 || found.every(({ displaces }) => displaces)) return found;
    const refusing = found.filter(({ displaces }) => !displaces);
    return [...refusing, ...found.filter(({ slot: at }) => refusing.every((conflict) => conflict.slot !== at))];
  }

  /** By mark, the worn parts that a rule keeps from what has the mark. */
  #findConflicts(): readonly (readonly Conflict[] | undefined)[] {
    const { rules, compiled } = this.catalog;
    const found = new Array<Conflict[] | undefined>(compiled.marks.size).fill(undefined);
    for (const [slot, part] of this.#state.worn.entries()) {
      if (part === undefined) continue;
      for (const mark of new Set([...part.compiled.marks, compiled.slotMarks[slot] ?? -1])) {
        for (const number of compiled.exclusive[mark] ?? []) {
          const source = rules[number];
          // What is issued does not yield to a rule.
          const displaces = source?.kind === "never" && source.then === "displace" && this.#state.issued[slot] === 0;
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

const nobody: readonly Conflict[] = [];

/** A worn part that a rule keeps from another. */
interface Conflict {
  readonly slot: number;
  readonly part: Part;
  /** Whether the rule sends it away, rather than refuse. */
  readonly displaces: boolean;
}
