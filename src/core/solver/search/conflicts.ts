import type { Order } from "./order.ts";
import { type Literal, source, type Trail } from "./trail.ts";

/** Finds out what led to a conflict. */
export class Conflicts {
  readonly #trail: Trail;
  readonly #order: Order;
  /** Adds the failing literals that made a literal hold to some. */
  readonly #explain: (literal: Literal, into: Literal[]) => void;
  /** 1 for each variable that was seen on the way back. */
  #seen = new Uint8Array(64);
  readonly #reason: Literal[] = [];

  constructor(trail: Trail, order: Order, explain: (literal: Literal, into: Literal[]) => void) {
    this.#trail = trail;
    this.#order = order;
    this.#explain = explain;
  }

  /** The clause of the first point through which all that led to the conflict went, since the last decision: that point first. */
  firstPoint(level: number): Literal[] {
    const trail = this.#trail;
    if (this.#seen.length < trail.variables) this.#seen = new Uint8Array(2 * trail.variables);
    const seen = this.#seen;
    const learned: Literal[] = [0];
    const marked: number[] = [];
    let reason: readonly Literal[] = trail.conflict;
    let here = 0;
    let at = trail.size - 1;
    for (;;) {
      for (let each = 0; each < reason.length; each += 1) {
        const literal = reason[each] as number;
        const variable = literal >> 1;
        if (seen[variable] === 1 || trail.levels[variable] === 0) continue;
        seen[variable] = 1;
        marked.push(variable);
        this.#order.bump(variable);
        if (trail.levels[variable] === level) here += 1;
        else learned.push(literal);
      }
      while (seen[(trail.literals[at] as number) >> 1] !== 1) at -= 1;
      const literal = trail.literals[at] as number;
      at -= 1;
      here -= 1;
      if (here === 0) {
        learned[0] = literal ^ 1;
        break;
      }
      reason = this.#reasonOf(literal);
    }
    const kept = learned.filter((literal, number) => number === 0 || !this.#follows(literal));
    for (const variable of marked) seen[variable] = 0;
    return kept;
  }

  /** Whether a literal of a learned clause follows from the others. */
  #follows(literal: Literal): boolean {
    const trail = this.#trail;
    const by = trail.sources[literal >> 1];
    if (by === source.decision || by === source.sum || by === source.product) return false;
    return this.#reasonOf(literal ^ 1).every((each) => this.#seen[each >> 1] === 1 || trail.levels[each >> 1] === 0);
  }

  /** The failing literals that made a literal hold; the caller's until the next call. */
  #reasonOf(literal: Literal): readonly Literal[] {
    this.#reason.length = 0;
    this.#explain(literal, this.#reason);
    return this.#reason;
  }

  /** The assumptions from which a conflict at their level followed. */
  assumptionsBehind(conflict: readonly Literal[]): readonly Literal[] {
    const trail = this.#trail;
    const seen = new Set<number>();
    const found: Literal[] = [];
    const see = (literals: readonly Literal[]) => {
      for (const literal of literals) if (trail.levels[literal >> 1] !== 0) seen.add(literal >> 1);
    };
    see(conflict);
    for (let at = trail.size - 1; at >= (trail.starts[0] ?? 0); at -= 1) {
      const literal = trail.literals[at] as number;
      if (!seen.has(literal >> 1)) continue;
      if (trail.sources[literal >> 1] === source.decision) found.push(literal);
      else see(this.#reasonOf(literal));
    }
    return found;
  }
}
