import { getOrInsert } from "../../base/get-or-insert.ts";
import type { NumberList } from "./number-list.ts";
import { always, fails, holds, type Literal, open, source, type Trail } from "./trail.ts";

/** A literal that says that a choice has a mark. */
export interface Holder {
  readonly choice: number;
  readonly literal: Literal;
}

/** Marks of which no two may be had by two choices; by mark, who can have it. */
export interface Exclusion {
  readonly holders: readonly (readonly Holder[])[];
  /** What must hold for it to count. */
  readonly guard: Literal;
}

/** Where a literal stands in an exclusion. */
interface Place extends Holder {
  readonly exclusion: number;
  readonly mark: number;
}

/** What never changes of exclusions, and is shared by all who search. */
export interface ExclusionTable {
  readonly all: readonly Exclusion[];
  /** By literal. */
  readonly places: readonly (readonly Place[] | undefined)[];
  /** By guard, its exclusions. */
  readonly guarded: ReadonlyMap<Literal, readonly number[]>;
}

const none: readonly never[] = [];

/** The table of some exclusions. */
export function exclusionTable(variables: number, all: readonly Exclusion[]): ExclusionTable {
  const places = new Array<Place[] | undefined>(2 * variables).fill(undefined);
  for (let exclusion = 0; exclusion < all.length; exclusion += 1) {
    const { holders } = all[exclusion] as Exclusion;
    for (let mark = 0; mark < holders.length; mark += 1) {
      for (const { choice, literal } of holders[mark] ?? none) {
        const place = { choice, literal, exclusion, mark };
        const known = places[literal];
        if (known === undefined) places[literal] = [place];
        else known.push(place);
      }
    }
  }
  const guarded = new Map<Literal, number[]>();
  for (const [exclusion, { guard }] of all.entries()) {
    if (guard !== always) getOrInsert(guarded, guard, () => []).push(exclusion);
  }
  return { all, places, guarded };
}

/** Exclusions, followed up from either side. */
export class Exclusions {
  readonly #all: ExclusionTable["all"];
  readonly #places: ExclusionTable["places"];
  readonly #guarded: ExclusionTable["guarded"];
  /** By variable, what else made an exclusion draw its conclusion, where it has a guard. */
  readonly #partners = new Map<number, Literal>();

  constructor({ all, places, guarded }: ExclusionTable) {
    this.#all = all;
    this.#places = places;
    this.#guarded = guarded;
  }

  /** Follows up a literal that holds now; whether no exclusion is broken. */
  follow(literal: Literal, trail: Trail): boolean {
    const places = this.#places[literal];
    if (places !== undefined && !this.#followPlaces(literal, places, trail)) return false;
    return this.#guarded.size === 0 || this.#followGuard(literal, trail);
  }

  /** An exclusion counts from now on, so what held before is followed up for it. */
  #followGuard(literal: Literal, trail: Trail): boolean {
    for (const exclusion of this.#guarded.get(literal) ?? none) {
      for (const { literal: holder } of this.#all[exclusion]?.holders.flat() ?? none) {
        if (trail.values[holder] !== holds) continue;
        const places = this.#places[holder]?.filter((place) => place.exclusion === exclusion);
        if (!this.#followPlaces(holder, places, trail)) return false;
      }
    }
    return true;
  }

  #followPlaces(literal: Literal, places: readonly Place[] | undefined, trail: Trail): boolean {
    if (places === undefined) return true;
    for (let at = 0; at < places.length; at += 1) {
      const { exclusion, mark, choice } = places[at] as Place;
      const { holders, guard } = this.#all[exclusion] as Exclusion;
      if (trail.values[guard] !== holds) continue;
      for (let number = 0; number < holders.length; number += 1) {
        if (number === mark) continue;
        const others = holders[number] as readonly Holder[];
        for (let each = 0; each < others.length; each += 1) {
          const other = others[each] as Holder;
          if (other.choice === choice || trail.values[other.literal] === fails) continue;
          if (trail.values[other.literal] === open) {
            trail.assign(other.literal ^ 1, source.exclusion, guard === 0 ? literal : -1 - exclusion);
            if (guard !== 0) this.#partners.set(other.literal >> 1, literal);
          } else {
            trail.conflict.set([literal ^ 1, other.literal ^ 1, guard ^ 1]);
            return false;
          }
        }
      }
    }
    return true;
  }

  /** The failing literals that made a literal hold. */
  explain(literal: Literal, reason: number, into: NumberList): void {
    if (reason >= 0) into.push(reason ^ 1);
    else {
      into.push((this.#partners.get(literal >> 1) ?? 0) ^ 1);
      into.push((this.#all[-1 - reason]?.guard ?? 0) ^ 1);
    }
  }
}
