import type { Body, Catalog } from "../../catalog/model/catalog.ts";
import type { Character } from "../../character/character.ts";
import { createCharacter } from "../../edits/create-character.ts";
import type { Budget } from "../../solver/budget-of.ts";
import { type Dressing, StepwiseSearch, type Trait } from "../../solver/stepwise-search.ts";
import type { ItemTable } from "./items.ts";
import type { PairTable } from "./pair-table.ts";

/** A valid character of a body, by what is seen on it. */
export interface Dressed {
  readonly dresser: Dresser;
  /** The numbers of the items, one of a group at most. */
  readonly items: readonly number[];
  readonly dressing: Dressing;
}

/** Puts characters of one body together, each of them valid, so that as many pairs as can be are seen on each. */
export class Dresser {
  readonly body: Body;
  readonly #catalog: Catalog;
  readonly #table: ItemTable;
  readonly #search: StepwiseSearch;
  /** By item, how many pairs with what is chosen it would add; and what may come of it with groups that are open. */
  readonly #gains: Int32Array;
  readonly #prospects: Float64Array;
  readonly #isPossible: Uint8Array;
  /** By item, whether it cannot be added any more; by group, what of it is chosen, or -1. */
  readonly #isShut: Uint8Array;
  readonly #chosenIn: Int32Array;

  constructor(catalog: Catalog, body: Body, table: ItemTable) {
    this.body = body;
    this.#catalog = catalog;
    this.#table = table;
    const traits = table.items.map((item): Trait => {
      if (item.kind === "color") return "always";
      if (item.kind === "body") return item.body === body.id ? "always" : "never";
      return item.kind === "part" ? [item] : item.of;
    });
    this.#search = new StepwiseSearch(catalog, body, { signals: false, retired: false }, traits);
    this.#gains = new Int32Array(table.items.length);
    this.#prospects = new Float64Array(table.items.length);
    this.#isPossible = new Uint8Array(table.items.length);
    this.#isShut = new Uint8Array(table.items.length);
    this.#chosenIn = new Int32Array(table.sizes.length);
  }

  /** Whether an item can be shown at all, as far as `probe` could tell. */
  isPossible(item: number): boolean {
    return this.#isPossible[item] === 1;
  }

  /**
   * Finds out what items rule out at once.
   *
   * @param meet - is called with each two items of which nothing is known that keeps them apart, both ways.
   */
  probe(meet: (one: number, other: number) => void): void {
    const search = this.#search;
    const count = this.#table.items.length;
    if (!search.reset()) return;
    for (let one = 0; one < count; one += 1) {
      if (!search.mayHave(one)) continue;
      search.probe(one, () => {
        for (let other = 0; other < count; other += 1) if (other !== one && search.mayHave(other)) meet(one, other);
      });
    }
    if (!search.reset()) return;
    for (let item = 0; item < count; item += 1) this.#isPossible[item] = search.mayHave(item) ? 1 : 0;
  }

  /** Whether some items are shown together by any valid character; `undefined` when the budget ran out first. */
  canShow(items: readonly number[], budget: Budget): boolean | undefined {
    const outcome = this.#search.find(items, budget);
    return outcome === "gave-up" ? undefined : outcome === "found";
  }

  /**
   * Puts a character together that has some items, and then again and again whatever adds most: pairs with what it has, and what may come of
   * pairs with what is still open. R. C. Bryce, C. J. Colbourn, "The density algorithm for pairwise interaction testing" (2007), with
   * conclusions drawn from what is chosen, so that only what is valid is added.
   *
   * @param begun - items that are possible together.
   * @param random - of several that add as much, any.
   * @returns `undefined` when the budget ran out, or there is no valid character.
   */
  dress(begun: readonly number[], pairs: PairTable, random: () => number, budget: Budget): Dressed | undefined {
    if (!this.#search.reset()) return undefined;
    this.#gains.fill(0);
    this.#isShut.fill(0);
    this.#chosenIn.fill(-1);
    pairs.prospects(this.#prospects);
    const chosen: number[] = [];
    for (const item of begun) {
      this.#search.choose(item);
      this.#take(item, chosen, pairs);
    }
    const kept = chosen.length;
    for (let next = this.#best(random); next !== undefined; next = this.#best(random)) {
      if (this.#search.choose(next)) this.#take(next, chosen, pairs);
      else this.#isShut[next] = 1;
      budget.steps -= 1;
    }
    return this.#completed(chosen, kept, budget);
  }

  #take(item: number, chosen: number[], pairs: PairTable): void {
    const group = this.#table.groupOf[item] as number;
    if (this.#chosenIn[group] === item) return;
    chosen.push(item);
    this.#chosenIn[group] = item;
    pairs.addGains(this.#gains, item);
    pairs.settle(this.#prospects, group);
    for (const part of this.#table.madeOf[item] ?? []) this.#take(part, chosen, pairs);
  }

  /** Whether what a couple is made of is chosen, or may be: parts that no rule distinguishes have one literal. */
  #agrees(item: number, isOpen: boolean): boolean {
    const { madeOf, groupOf } = this.#table;
    const parts = madeOf[item];
    if (parts === undefined) return true;
    return parts.every((part) => {
      const chosen = this.#chosenIn[groupOf[part] as number];
      return chosen === part || (isOpen && chosen === -1);
    });
  }

  /** The item that is worth most, of groups of which nothing is chosen; `undefined` where nothing more can be gained. */
  #best(random: () => number): number | undefined {
    const { groupOf } = this.#table;
    let best: number | undefined;
    let most = worthSomething;
    let ties = 0;
    for (let item = 0; item < groupOf.length; item += 1) {
      if (this.#chosenIn[groupOf[item] as number] !== -1 || this.#isShut[item] === 1) continue;
      const worth = (this.#gains[item] as number) + (this.#prospects[item] as number);
      if (worth < most || !this.#search.mayHave(item) || !this.#agrees(item, true)) continue;
      ties = worth > most ? 1 : ties + 1;
      if (ties > 1 && random() * ties >= 1) continue;
      most = worth;
      best = item;
    }
    return best;
  }

  /** A valid character with what was chosen, or as much of it as can be; the rest is as plain as can be. */
  #completed(chosen: readonly number[], begun: number, budget: Budget): Dressed | undefined {
    const kept = [...chosen];
    for (;;) {
      const outcome = this.#search.find(kept, budget);
      if (outcome === "gave-up") return undefined;
      if (outcome === "found") return this.#shown(kept);
      // Of what cannot be together, what was chosen last is given up.
      const last = kept.findLastIndex((item) => this.#search.isInConflict(item));
      if (kept.length === begun) return undefined;
      kept.splice(Math.max(begun, last), 1);
    }
  }

  /** What the answer of the search shows: of parts that no rule distinguishes, those that were chosen. */
  #shown(chosen: readonly number[]): Dressed {
    const { items, groupOf } = this.#table;
    const shown = [...chosen];
    this.#chosenIn.fill(-1);
    for (const item of chosen) this.#chosenIn[groupOf[item] as number] = item;
    for (let item = 0; item < groupOf.length; item += 1) {
      const group = groupOf[item] as number;
      if (this.#chosenIn[group] !== -1 || !this.#search.has(item)) continue;
      if (items[item]?.kind === "color" || !this.#agrees(item, false)) continue;
      this.#chosenIn[group] = item;
      shown.push(item);
    }
    return { dresser: this, items: shown, dressing: this.#search.found() };
  }

  /** The character itself. */
  characterOf({ items, dressing: { worn, facts } }: Dressed, id: string, name: string): Character {
    const parts: Record<string, string> = {};
    const colors: Record<string, string> = {};
    for (const number of items) {
      const item = this.#table.items[number];
      if (item?.kind === "part") parts[item.slot] = item.part;
      else if (item?.kind === "color") colors[item.channel] = item.ramp;
    }
    const loadout = Object.fromEntries([...worn].map(([slot, [first]]) => [slot, parts[slot] ?? first?.id ?? ""]));
    return { ...createCharacter(this.#catalog, { body: this.body.id, id, name, facts }), loadout, colors };
  }
}

/** Less than any pair is worth: prospects are sums and differences, and what should be 0 may be a little more. */
const worthSomething = 1e-9;
