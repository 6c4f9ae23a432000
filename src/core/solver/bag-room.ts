import { getOwn } from "../base/record.ts";
import type { Catalog } from "../catalog/model/catalog.ts";
import { accessTo } from "../character/bag/access.ts";
import { addToBag, type Bag, countInBag, stackSize, stacksIn, takeFromBag } from "../character/bag/bag.ts";
import type { Character } from "../character/character.ts";
import type { Context } from "../character/context.ts";
import type { LoadoutSearch } from "./loadout-search.ts";
import { columnOf } from "./search/sums.ts";
import type { Literal } from "./search/trail.ts";

/** The room in a bag, for what a loadout would take off. */
export class BagRoom {
  readonly #catalog: Catalog;
  readonly #character: Character;
  readonly #context: Context;
  /** How many stacks there may be. */
  readonly #places: number;

  constructor(catalog: Catalog, character: Character, context: Context, bagPlaces: number) {
    this.#catalog = catalog;
    this.#character = character;
    this.#context = context;
    // A bag may stay as full as it was.
    this.#places = Math.max(bagPlaces, stacksIn(character.bag));
  }

  /** Whether all that a loadout takes off finds room. */
  holds(target: Character["loadout"]): boolean {
    return stacksIn(this.#bagAfter(target)) <= this.#places;
  }

  #bagAfter(target: Character["loadout"]): Bag {
    let { bag } = this.#character;
    const changes = [...this.#catalog.slots.values()].flatMap(({ id, kind }) => {
      const [old, wanted] = [this.#chosenIn(id), getOwn(target, id)];
      return kind !== "gear" || old === wanted ? [] : [{ old, wanted }];
    });
    // What comes off can be put on elsewhere.
    for (const { old } of changes) if (old !== undefined && this.#isKept(old)) bag = addToBag(this.#catalog, bag, old);
    for (const { wanted } of changes) if (wanted !== undefined) bag = takeFromBag(bag, wanted);
    return bag;
  }

  #chosenIn(slot: string): string | undefined {
    return getOwn(this.#character.loadout, slot);
  }

  /** Whether a part that comes off is kept: what is not owned is left behind. */
  #isKept(id: string): boolean {
    const part = this.#catalog.parts.get(id);
    return part === undefined || accessTo(part, this.#context.holdings) === "owned";
  }

  /** Requires that there be room, as far as a sum over slots can tell; `holds` has the last word. */
  require(search: LoadoutSearch, staying: readonly ReadonlySet<number>[]): void {
    const { model, engine } = search;
    const columns = model.variables.flatMap(({ slot, values }, variable) => {
      if (slot?.kind !== "gear") return [];
      const old = this.#chosenIn(slot.id);
      const leaves = old !== undefined && this.#isKept(old) && !this.#findsStack(old) ? 1 : 0;
      const weights = values.map(({ kind, parts }, value) => {
        if (staying[variable]?.has(value) === true) return 0;
        const comesFromBag = kind === "worn" && parts.some(({ id }) => this.#mayBeInBag(id));
        return leaves - (comesFromBag ? 1 : 0);
      });
      return [
        columnOf(
          values.map((_, value) => search.literal(variable, value)),
          weights,
        ),
      ];
    });
    engine.requireSum({ columns, bound: this.#places - stacksIn(this.#character.bag) });
  }

  /** Whether a part is in the bag, or may be once it was taken off. */
  #mayBeInBag(id: string): boolean {
    const { bag, loadout } = this.#character;
    return countInBag(bag, id) > 0 || Object.values(loadout).includes(id);
  }

  /** Whether a part may find room on a stack that is there. */
  #findsStack(id: string): boolean {
    return stackSize(this.#catalog, id) > 1;
  }

  /** The literals of what is in each gear slot: together they need more room than there is. */
  literalsOf(search: LoadoutSearch, values: readonly number[]): readonly Literal[] {
    return search.model.variables.flatMap(({ slot }, variable) =>
      slot?.kind === "gear" ? [search.literal(variable, values[variable] ?? 0)] : [],
    );
  }
}
