import { type Message, message } from "../../base/message.ts";
import type { Catalog, Part } from "../../catalog/model/catalog.ts";
import type { Evidence } from "../../character/edit.ts";
import { openModel } from "../../loadout/solve/model.ts";
import type { Budget } from "../../loadout/solve/search/budget.ts";
import { fitsBody } from "../../rules/fits-body.ts";
import { BodySurvey } from "../body-survey.ts";
import { linkMessages } from "../link-messages.ts";
import type { Item } from "./items.ts";

type PartItem = Extract<Item, { readonly kind: "part" }>;

/** Two items that no valid character shows together. */
export interface Apart {
  readonly one: Item;
  readonly other: Item;
  /** What keeps them apart: on all bodies together, each sentence once. Empty where the budget ran out before it was proven. */
  readonly because: readonly Message[];
}

/** Says what keeps items apart. */
export function whyApart(
  catalog: Catalog,
  pairs: readonly (readonly [Item, Item])[],
  budget: Budget,
): readonly Apart[] {
  const surveys = [...catalog.bodies.values()].map(
    (body) => [body.id, new BodySurvey(openModel(catalog, body, { signals: false }), new Set())] as const,
  );
  const because = (one: Item, other: Item): readonly Message[] => {
    const [first, second] = one.kind === "part" ? [one, other] : [other, one];
    if (first.kind !== "part" || second.kind === "color" || budget.steps <= 0) return [];
    const worn = second.kind === "part" ? [first, second] : [first];
    const found = new Map<string, Message>();
    for (const [body, survey] of surveys) {
      if (second.kind === "body" && second.body !== body) continue;
      for (const each of reasonsOn(catalog, body, survey, worn, budget)) found.set(JSON.stringify(each), each);
    }
    return [...found.values()];
  };
  return pairs.map(([one, other]) => ({ one, other, because: because(one, other) }));
}

function reasonsOn(
  catalog: Catalog,
  body: string,
  survey: BodySurvey,
  worn: readonly PartItem[],
  budget: Budget,
): readonly Message[] {
  const parts = worn.flatMap(({ part }) => catalog.parts.get(part) ?? []);
  const misfits = parts.filter((part) => !fitsBody(part, body));
  if (misfits.length > 0) return misfits.map(({ id }) => message("does-not-fit", { part: id, body }));
  const taken = takenBy(worn, parts);
  if (taken !== undefined) return [message("slot-is-taken", taken)];
  return survey.proveApart(worn, budget).flatMap((fact: Evidence) => linkMessages(catalog, fact));
}

/** Whether one takes the slot of the other, or both take the same one besides. */
function takenBy(
  worn: readonly PartItem[],
  parts: readonly Part[],
): { readonly part: string; readonly slot: string } | undefined {
  const [one, other] = worn;
  const [first, second] = parts;
  if (one === undefined || other === undefined || first === undefined || second === undefined) return undefined;
  if (first.occupies.includes(other.slot)) return { part: first.id, slot: other.slot };
  if (second.occupies.includes(one.slot)) return { part: second.id, slot: one.slot };
  const both = first.occupies.find((slot) => second.occupies.includes(slot));
  return both === undefined ? undefined : { part: first.id, slot: both };
}
