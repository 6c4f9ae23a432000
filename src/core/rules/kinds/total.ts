import { type Message, message } from "../../base/message.ts";
import { getOwn } from "../../base/record.ts";
import type { Body, Bound, SetRule, StatModifier } from "../../catalog/model/catalog.ts";
import { type Dressed, matches, wornEvidence } from "../condition.ts";
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
    const isCause = (gift: StatModifier | undefined) => gift !== undefined && gift.add > 0 === high;
    const sets = setsGiving(rule.stat, state, isCause);
    const givers = dressed.worn.filter(
      (worn) =>
        isCause(getOwn(worn.part.gives, rule.stat)) || sets.some(({ of }) => of.some((each) => matches(each, worn))),
    );
    return {
      ...message(high ? "total-too-high" : "total-too-low", { stat: rule.stat, value, bound }),
      hints:
        typeof bounding === "object" ? [boundMessage(rule.stat, bounding.stat, { high, value, bound }, dressed)] : [],
      chain: [
        ...givers.map(wornEvidence),
        ...sets.map(({ number, message: text }) => ({ kind: "set", number, message: text }) as const),
        { kind: "stat", id: rule.stat, value },
        ...(typeof bounding === "object" ? [{ kind: "stat", id: bounding.stat, value: bound } as const] : []),
      ],
      culprits: chosen(givers),
    };
  },
};

/** What bounds a stat, and on which body that would do, as far as bodies tell: the one that is nearest to it. */
function boundMessage(
  stat: string,
  bounding: string,
  { high, value, bound }: { readonly high: boolean; readonly value: number; readonly bound: number },
  { catalog, character }: Dressed,
): Message {
  const own = catalog.bodies.get(character.body);
  const has = (body: Body | undefined, id: string) => getOwn(body?.stats ?? {}, id) ?? 0;
  const others = [...catalog.bodies.values()].flatMap((body) => {
    const limit = bound + has(body, bounding) - has(own, bounding);
    const total = value + has(body, stat) - has(own, stat);
    const allows = high ? limit >= total : limit <= total;
    return body !== own && body.rig === own?.rig && allows ? [{ body, limit }] : [];
  });
  const [nearest] = others.sort((one, other) => Math.abs(one.limit - bound) - Math.abs(other.limit - bound));
  if (nearest === undefined) return message("bounded-by", { stat: bounding });
  return message("bounded-on-body", { stat: bounding, body: nearest.body.id, value: nearest.limit });
}

/** The sets that give to a stat now. */
function setsGiving(
  stat: string,
  state: LoadoutState,
  isCause: (gift: StatModifier | undefined) => boolean,
): readonly SetRule[] {
  const { compiled, rules } = state.catalog;
  return compiled.sets.flatMap((set) => {
    const rule = rules[set.rule];
    return rule?.kind === "set" && isCause(getOwn(set.gives, stat)) && state.isReached(set) ? [rule] : [];
  });
}

function statIn(state: LoadoutState, stat: string): number {
  return state.stat(state.catalog.compiled.statNumbers.get(stat) ?? -1);
}

function boundParam(bound: Bound): number | Message {
  return typeof bound === "number" ? bound : message("a-stat", { stat: bound.stat });
}
