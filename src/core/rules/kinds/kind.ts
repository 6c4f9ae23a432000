import type { Message } from "../../base/message.ts";
import type { Pattern, Rule, RuleOf } from "../../catalog/model/catalog.ts";
import type { Dressed } from "../condition.ts";
import type { Explanation } from "../explanation.ts";
import type { LoadoutState } from "../loadout-state.ts";
import type { Worn } from "../worn.ts";

/** The messages of a kind of rule. What it means is in `core/catalog/rules`. */
export interface SpokenKind<K extends Rule["kind"]> {
  /** A rule as sentences, whoever it concerns. */
  messages(rule: RuleOf<K>): readonly Message[];
  /**
   * Why a rule does not hold of what is worn; what its author says, and that it is this rule, are added to it. A kind that
   * nothing can break has none.
   *
   * @param pair - the two parts it is about, where it is broken by two.
   */
  explain?(rule: RuleOf<K>, dressed: Dressed, state: LoadoutState, pair: readonly Worn[]): Reason;
  /** Whether it has to do with what is worn, though it is kept. */
  concerns(rule: RuleOf<K>, dressed: Dressed): boolean;
  /** What it makes of parts, two by two; a kind that says nothing of two parts has none. */
  relate?(rule: RuleOf<K>): readonly Relating[];
}

/** What a rule makes of every two parts of which one fits the first pattern, and the other the second. */
export interface Relating {
  /** `excludes`: they are never worn together. `displaces`: putting on one takes off the other. `needs`: the first asks for the other, or for one of several. */
  readonly kind: "excludes" | "displaces" | "needs";
  readonly one: Pattern;
  readonly other: Pattern;
}

/** Why a rule does not hold. */
export type Reason = Pick<Explanation, "code" | "params" | "chain" | "culprits"> &
  Partial<Pick<Explanation, "subject" | "slot">> & {
    /** What would move a bound. */
    readonly hints?: readonly Message[];
  };
