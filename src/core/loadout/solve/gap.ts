import type { Assumptions } from "./assumptions.ts";
import type { Domains } from "./domains.ts";
import type { Model } from "./model.ts";
import type { Ranges } from "./ranges.ts";

/** What must be no greater, and what it must be no greater than: a stat or a number. */
export interface Pair {
  readonly lesser: Ranges | number;
  readonly greater: Ranges | number;
}

/**
 * By how much one stat is above another.
 *
 * Where both are sums that their own bounds do not touch, the gap is summed variable by variable, so that a part that gives to
 * both (a satchel that weighs and helps to carry) counts for what it does to the gap.
 */
export class Gap {
  readonly variables: readonly number[];
  readonly #pair: Pair;
  /** By the place of the variable, and then by value: what it adds to the gap. */
  readonly #shares: readonly Float64Array[];
  readonly #best: Float64Array;

  constructor(model: Model, pair: Pair) {
    const ranges = [pair.lesser, pair.greater].filter((side) => typeof side !== "number");
    this.#pair = pair;
    this.variables = [...new Set(ranges.flatMap(({ variables }) => variables))];
    this.#shares = this.variables.map((variable) =>
      Float64Array.from(
        model.variables[variable]?.values ?? [],
        (_, value) => giftOf(pair.lesser, variable, value) - giftOf(pair.greater, variable, value),
      ),
    );
    this.#best = new Float64Array(this.variables.length);
  }

  /** Leaves out values with which the lesser would be above the greater at its best, by more than `slack`. */
  close(domains: Domains, assumptions: Assumptions, slack: number): void {
    const { lesser, greater } = this.#pair;
    if (!this.#isOpen(domains, assumptions)) {
      if (lowOf(lesser, domains, assumptions) - highOf(greater, domains, assumptions) > slack) domains.failed = true;
      return;
    }
    const best = this.#best;
    let least = baseOf(lesser, assumptions) - baseOf(greater, assumptions);
    for (let at = 0; at < best.length; at += 1) {
      best[at] = domains.least(this.variables[at] ?? 0, this.#shares[at] ?? nothing);
      least += best[at] ?? 0;
    }
    if (least > slack) {
      domains.failed = true;
      return;
    }
    for (let at = 0; at < best.length; at += 1) {
      const room = slack - least + (best[at] ?? 0);
      domains.dropAbove(this.variables[at] ?? 0, this.#shares[at] ?? nothing, room);
    }
  }

  /** Whether the lesser is no greater, whatever becomes of the variables. */
  isClosed(domains: Domains, assumptions: Assumptions, slack: number): boolean {
    return highOf(this.#pair.lesser, domains, assumptions) + slack <= lowOf(this.#pair.greater, domains, assumptions);
  }

  /** Sums nearer than this may be equal but for the order of summing. */
  slack(assumptions: Assumptions): number {
    const slackOf = (side: Ranges | number) => (typeof side === "number" ? 0 : side.slack(assumptions));
    return slackOf(this.#pair.lesser) + slackOf(this.#pair.greater);
  }

  #isOpen(domains: Domains, assumptions: Assumptions): boolean {
    const { lesser, greater } = this.#pair;
    return (
      (typeof lesser === "number" || lesser.isOpenBelow(greater, domains, assumptions)) &&
      (typeof greater === "number" || greater.isOpenAbove(lesser, domains, assumptions))
    );
  }
}

const nothing = new Float64Array();

function giftOf(side: Ranges | number, variable: number, value: number): number {
  return typeof side === "number" ? 0 : side.gift(variable, value);
}

function baseOf(side: Ranges | number, assumptions: Assumptions): number {
  return typeof side === "number" ? side : side.base(assumptions);
}

function lowOf(side: Ranges | number, domains: Domains, assumptions: Assumptions): number {
  return typeof side === "number" ? side : side.measure(domains, assumptions).low;
}

function highOf(side: Ranges | number, domains: Domains, assumptions: Assumptions): number {
  return typeof side === "number" ? side : side.measure(domains, assumptions).high;
}
