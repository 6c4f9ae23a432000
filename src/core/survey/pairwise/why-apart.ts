import { type Message, message } from "../../base/message.ts";
import type { Catalog, Part } from "../../catalog/model/catalog.ts";
import type { Evidence } from "../../character/edit.ts";
import { fitsBody } from "../../rules/fits-body.ts";
import type { Budget } from "../../solver/budget-of.ts";
import { Prover } from "../../solver/prover.ts";
import { linkMessages } from "../link-messages.ts";
import type { Item, PartItem } from "./items.ts";

/** Items that no valid character shows together: two, or three of which each two are. */
export interface IncompatibleSet {
  readonly items: readonly Item[];
  /** What keeps them apart: on all bodies together, each sentence once. Empty where the budget ran out before it was proven. */
  readonly because: readonly Message[];
}

/** Says what keeps items apart. */
export function whyApart(
  catalog: Catalog,
  apart: readonly (readonly Item[])[],
  budget: Budget,
): readonly IncompatibleSet[] {
  const provers = [...catalog.bodies.values()].map(
    (body) => [body.id, new Prover(catalog, body, { signals: false, retired: false })] as const,
  );
  const because = (items: readonly Item[]): readonly Message[] => {
    const worn = items.filter((item) => item.kind === "part");
    const bodies = items.flatMap((item) => (item.kind === "body" ? [item.body] : []));
    const found = new Map<string, Message>();
    for (const [body, prover] of provers) {
      if (budget.steps <= 0) return [];
      if (bodies.some((each) => each !== body)) continue;
      for (const each of reasonsOn(catalog, body, prover, worn, budget)) found.set(JSON.stringify(each), each);
    }
    return [...found.values()];
  };
  return apart.map((items) => ({ items, because: because(items) }));
}

function reasonsOn(
  catalog: Catalog,
  body: string,
  prover: Prover,
  worn: readonly PartItem[],
  budget: Budget,
): readonly Message[] {
  const parts = worn.flatMap(({ part }) => catalog.parts.get(part) ?? []);
  const misfits = parts.filter((part) => !fitsBody(part, body));
  if (misfits.length > 0) return misfits.map(({ id }) => message("does-not-fit", { part: id, body }));
  const taken = takenBy(worn, parts);
  if (taken !== undefined) return [message("slot-is-taken", taken)];
  const proven = prover.proveApart(worn, budget).flatMap((fact: Evidence) => linkMessages(catalog, fact));
  return proven.length > 0 ? proven : withoutRoom(catalog, body, worn, parts);
}

/** The required slots that nothing can fill beside some parts, and which slot of theirs each would take that could. */
function withoutRoom(
  catalog: Catalog,
  body: string,
  worn: readonly PartItem[],
  parts: readonly Part[],
): readonly Message[] {
  const taken = new Set([...worn.map(({ slot }) => slot), ...parts.flatMap(({ occupies }) => occupies)]);
  const required = [...catalog.slots.values()].filter((slot) => slot.required && !taken.has(slot.id));
  return required.flatMap(({ id: slot, default: issued }) => {
    const inTheWay: Message[] = [];
    for (const part of catalog.parts.values()) {
      const places = part.occupies.includes(slot) ? part.slots : part.slots.filter((each) => each === slot);
      // What is issued has to fit nobody.
      if (places.length === 0 || (part.id !== issued && (part.retired || !fitsBody(part, body)))) continue;
      const occupied = part.occupies.find((each) => taken.has(each));
      const open = places.find((each) => !taken.has(each));
      if (occupied === undefined && open !== undefined) return [];
      inTheWay.push(message("slot-is-taken", { part: part.id, slot: occupied ?? places[0] ?? slot }));
    }
    return [message("required-slot", { slot }), ...inTheWay];
  });
}

/** Whether one takes the slot of another, or both take the same one besides. */
function takenBy(
  worn: readonly PartItem[],
  parts: readonly Part[],
): { readonly part: string; readonly slot: string } | undefined {
  for (const [at, part] of parts.entries()) {
    const others = worn.filter((_, number) => number !== at);
    const shared = parts.slice(at + 1).flatMap(({ occupies }) => occupies);
    const slot = part.occupies.find((each) => others.some((other) => other.slot === each) || shared.includes(each));
    if (slot !== undefined) return { part: part.id, slot };
  }
  return undefined;
}
