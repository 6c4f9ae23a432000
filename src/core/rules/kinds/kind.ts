import type { Message } from "../../base/message.ts";
import type { Rule, RuleOf } from "../../catalog/model/catalog.ts";
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
}

/** Why a rule does not hold. */
export type Reason = Pick<Explanation, "code" | "params" | "chain" | "culprits"> &
  Partial<Pick<Explanation, "subject" | "slot">> & {
    /** What would move a bound. */
    readonly hints?: readonly Message[];
  };
