import type { NumberList } from "./number-list.ts";
import { fails, holds, type Literal, open, source, type Trail } from "./trail.ts";

/** Before the literals of a clause: how many there are, its rank, and the next that watches each of two literals. */
const head = 4;

/**
 * Clauses, of each of which a literal must hold: two literals of each are watched.
 *
 * M. W. Moskewicz, C. F. Madigan, Y. Zhao, L. Zhang, S. Malik, "Chaff: engineering an efficient SAT solver" (2001). The watchers
 * of a literal are a list that runs through the clauses themselves, so that nothing is allocated while the search runs.
 */
export class Clauses {
  #arena: Int32Array;
  #size = 0;
  /** By literal, the first that watches it: twice the place of the clause, and 1 more for the second of its watches; or -1. */
  #watchers: Int32Array;
  /** The places of clauses that were learned. */
  #learned: number[] = [];

  constructor(variables: number) {
    this.#arena = new Int32Array(1024);
    this.#watchers = new Int32Array(2 * variables + 128).fill(-1);
  }

  /** A copy of those that were given, to learn more from. */
  copy(): Clauses {
    const copy = new Clauses(0);
    copy.#arena = this.#arena.slice();
    copy.#size = this.#size;
    copy.#watchers = this.#watchers.slice();
    return copy;
  }

  get learned(): number {
    return this.#learned.length;
  }

  /**
   * Adds a clause of two literals or more; the first two are watched.
   *
   * @param rank - the lower, the longer it is kept; 0 for what is never dropped.
   * @returns its place.
   */
  add(literals: readonly Literal[], rank = 0): number {
    const place = this.#size;
    const size = place + head + literals.length;
    if (size > this.#arena.length) {
      const arena = new Int32Array(2 * size);
      arena.set(this.#arena);
      this.#arena = arena;
    }
    this.#size = size;
    const arena = this.#arena;
    arena[place] = literals.length;
    arena[place + 1] = rank;
    for (let at = 0; at < literals.length; at += 1) arena[place + head + at] = literals[at] as number;
    this.#watch(literals[0] as number, place, 0);
    this.#watch(literals[1] as number, place, 1);
    if (rank > 0) this.#learned.push(place);
    return place;
  }

  #watch(literal: Literal, place: number, which: number): void {
    if (literal >= this.#watchers.length) {
      const watchers = new Int32Array(2 * literal + 2).fill(-1);
      watchers.set(this.#watchers);
      this.#watchers = watchers;
    }
    this.#arena[place + 2 + which] = this.#watchers[literal] ?? -1;
    this.#watchers[literal] = 2 * place + which;
  }

  /** Follows up a literal that fails now; whether every clause can still hold. */
  follow(failing: Literal, trail: Trail): boolean {
    const arena = this.#arena;
    const watchers = this.#watchers;
    if (failing >= watchers.length) return true;
    const { values } = trail;
    let watcher = watchers[failing] as number;
    let kept = -1;
    while (watcher >= 0) {
      const place = watcher >> 1;
      const which = watcher & 1;
      const link = place + 2 + which;
      const next = arena[link] as number;
      const start = place + head;
      const other = arena[start + 1 - which] as number;
      const there = values[other];
      if (there !== holds) {
        const end = start + (arena[place] as number);
        let at = start + 2;
        while (at < end && values[arena[at] as number] === fails) at += 1;
        if (at < end) {
          const found = arena[at] as number;
          arena[at] = failing;
          arena[start + which] = found;
          arena[link] = watchers[found] as number;
          watchers[found] = watcher;
          watcher = next;
          continue;
        }
        if (there === open) trail.assign(other, source.clause, place);
        else {
          // The watchers that were looked at go before the others.
          let list = watcher;
          while (kept >= 0) {
            const at = (kept >> 1) + 2 + (kept & 1);
            const before = arena[at] as number;
            arena[at] = list;
            list = kept;
            kept = before;
          }
          watchers[failing] = list;
          trail.conflict.size = 0;
          for (let each = start; each < end; each += 1) trail.conflict.push(arena[each] as number);
          return false;
        }
      }
      arena[link] = kept;
      kept = watcher;
      watcher = next;
    }
    watchers[failing] = kept;
    return true;
  }

  /** The other literals of the clause that made a literal hold. */
  explain(literal: Literal, place: number, into: NumberList): void {
    const arena = this.#arena;
    const end = place + head + (arena[place] as number);
    for (let at = place + head; at < end; at += 1) {
      const other = arena[at] as number;
      if (other !== literal) into.push(other);
    }
  }

  /** Drops half of what was learned, those of high rank first; only while nothing but level 0 is known. */
  reduce(trail: Trail): void {
    const arena = this.#arena;
    const rankOf = (place: number) => arena[place + 1] as number;
    const sorted = [...this.#learned].sort((one, other) => rankOf(one) - rankOf(other) || one - other);
    const dropped = new Set(sorted.slice(sorted.length >> 1).filter((place) => rankOf(place) > 2));
    const old = arena.slice(0, this.#size);
    this.#size = 0;
    this.#learned = [];
    this.#watchers.fill(-1);
    for (let place = 0; place < old.length; place += head + (old[place] as number)) {
      if (dropped.has(place)) continue;
      const literals = Array.from(old.subarray(place + head, place + head + (old[place] as number)));
      if (literals.some((literal) => trail.values[literal] === holds)) continue;
      // What is watched must not fail.
      const left = literals.filter((literal) => trail.values[literal] !== fails);
      if (left.length >= 2) this.add(left, old[place + 1] as number);
    }
  }
}
