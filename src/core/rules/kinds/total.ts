import { type Message, message } from "../../base/message.ts";
import { getOwn } from "../../base/record.ts";
import type { Bound } from "../../catalog/model/catalog.ts";
import { wornEvidence } from "../condition.ts";
import { chosen } from "../explanation.ts";
import type { LoadoutState } from "../loadout-state.ts";
import type { SpokenKind } from "./kind.ts";

export const total: SpokenKind<"total"> = {
  messages: ({ stat, atMost, atLeast }) => [
    ...(atMost === undefined ? [] : [message("rule-total-most", { stat, bound: boundParam(atMost) })]),
    ...(atLeast === undefined ? [] : [message("rule-total-least", { stat, bound: boundParam(atLeast) })]),
  ],
  explain(rule, dressed, state) {
    const value = statIn(state, rule.stat);
    const limit = (bound: Bound | undefined) => (typeof bound === "object" ? statIn(state, bound.stat) : bound);
    const most = limit(rule.atMost);
    const high = most !== undefined && value > most;
    const bound = (high ? most : limit(rule.atLeast)) ?? 0;
    const bounding = high ? rule.atMost : rule.atLeast;
    const givers = dressed.worn.filter(({ part }) => {
      const gift = getOwn(part.gives, rule.stat);
      return gift !== undefined && gift.add > 0 === high;
    });
    return {
      ...message(high ? "total-too-high" : "total-too-low", { stat: rule.stat, value, bound }),
      chain: [
        ...givers.map(wornEvidence),
        { kind: "stat", id: rule.stat, value },
        ...(typeof bounding === "object" ? [{ kind: "stat", id: bounding.stat, value: bound } as const] : []),
      ],
      culprits: chosen(givers),
      advice: undefined,
    };
  },
};

function statIn(state: LoadoutState, stat: string): number {
  return state.stat(state.catalog.compiled.statNumbers.get(stat) ?? -1);
}

function boundParam(bound: Bound): number | Message {
  return typeof bound === "number" ? bound : message("a-stat", { stat: bound.stat });
}
