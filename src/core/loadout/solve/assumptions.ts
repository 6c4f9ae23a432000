import type { Context } from "../../character/context.ts";
import { LoadoutState } from "../../rules/loadout-state.ts";
import type { Holders, Model } from "./model.ts";

/** What stands fast while a loadout is sought: the body, its answers and signals, and what the game adds to stats. */
export interface Assumptions {
  readonly facts: Readonly<Record<string, string>>;
  readonly context: Context;
  /** 1 for each mark that holds whatever is worn. */
  readonly marks: Uint8Array;
  /** By stat, what there is without any part. */
  readonly base: Float64Array;
  readonly holders: readonly Holders[];
}

/** The assumptions under a model, for a character's facts and the game's context. */
export function assumptionsOf(model: Model, facts: Readonly<Record<string, string>>, context: Context): Assumptions {
  const state = new LoadoutState(model.catalog);
  state.reset({ body: model.body.id, facts }, context);
  const { stats } = model.catalog.compiled;
  return {
    facts,
    context,
    marks: Uint8Array.from(state.counts, (count) => (count > 0 ? 1 : 0)),
    base: Float64Array.from(stats, (_, number) => state.baseOf(number)),
    holders: model.holders,
  };
}
