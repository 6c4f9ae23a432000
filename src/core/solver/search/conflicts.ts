import { NumberList } from "./number-list.ts";
import type { Order } from "./order.ts";
import { type Literal, source, type Trail } from "./trail.ts";

/** Finds out what led to a conflict. */
export class Conflicts {
  readonly #trail: Trail;
  readonly #order: Order;
  /** Adds the failing literals that made a literal hold to some. */
  readonly #explain: (literal: Literal, into: NumberList) => void;
  /** By variable, the turn in which it was seen last on the way back: a number that grows, so that nothing has to be cleared. */
  #seen = new Float64Array(64);
  #turn = 0;
  readonly #reason = new NumberList();
  readonly #learned = new NumberList();

  constructor(trail: Trail, order: Order, explain: (literal: Literal, into: NumberList) => void) {
    this.#trail = trail;
    this.#order = order;
    this.#explain = explain;
  }

  /** The clause of the first point through which all that led to the conflict went, since the last decision: that point first. */
  firstPoint(level: number): Literal[] {
    const trail = this.#trail;
    if (this.#seen.length < trail.variables) this.#seen = new Float64Array(2 * trail.variables);
    const seen = this.#seen;
    const learned = this.#learned;
    learned.size = 0;
    this.#turn += 1;
    const turn = this.#turn;
    let { items, size } = trail.conflict;
    let here = 0;
    let at = trail.size - 1;
    for (;;) {
      for (let each = 0; each < size; each += 1) {
        const literal = items[each] as number;
        const variable = literal >> 1;
        if (seen[variable] === turn || trail.levels[variable] === 0) continue;
        seen[variable] = turn;
        this.#order.bump(variable);
        if (trail.levels[variable] === level) here += 1;
        else learned.push(literal);
      }
      while (seen[(trail.literals[at] as number) >> 1] !== turn) at -= 1;
      const literal = trail.literals[at] as number;
      at -= 1;
      here -= 1;
      if (here === 0) {
        const kept = [literal ^ 1];
        for (let each = 0; each < learned.size; each += 1) {
          const other = learned.items[each] as number;
          if (!this.#follows(other)) kept.push(other);
        }
        return kept;
      }
      ({ items, size } = this.#reasonOf(literal));
    }
  }

  /** Whether a literal of a learned clause follows from the others. */
  #follows(literal: Literal): boolean {
    const trail = this.#trail;
    const by = trail.sources[literal >> 1];
    if (by === source.decision || by === source.sum || by === source.product) return false;
    const { items, size } = this.#reasonOf(literal ^ 1);
    for (let at = 0; at < size; at += 1) {
      const variable = (items[at] as number) >> 1;
      if (this.#seen[variable] !== this.#turn && trail.levels[variable] !== 0) return false;
    }
    return true;
  }

  /** The failing literals that made a literal hold; the caller's until the next call. */
  #reasonOf(literal: Literal): NumberList {
    this.#reason.size = 0;
    this.#explain(literal, this.#reason);
    return this.#reason;
  }

  /** The assumptions from which the conflict, which is at their level, followed. */
  assumptionsBehind(): readonly Literal[] {
    const trail = this.#trail;
    const seen = new Set<number>();
    const found: Literal[] = [];
    const see = ({ items, size }: NumberList) => {
      for (let at = 0; at < size; at += 1) {
        const variable = (items[at] as number) >> 1;
        if (trail.levels[variable] !== 0) seen.add(variable);
      }
    };
    see(trail.conflict);
    for (let at = trail.size - 1; at >= (trail.starts[0] ?? 0); at -= 1) {
      const literal = trail.literals[at] as number;
      if (!seen.has(literal >> 1)) continue;
      if (trail.sources[literal >> 1] === source.decision) found.push(literal);
      else see(this.#reasonOf(literal));
    }
    return found;
  }
}
