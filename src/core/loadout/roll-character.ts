import { uniformInt } from "pure-rand/distribution/uniformInt";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import type { Catalog, Slot } from "../catalog/catalog.ts";
import { applyEdit } from "../character/apply-edit.ts";
import type { Character } from "../character/character.ts";
import { createCharacter } from "../character/create-character.ts";
import { optionsFor } from "./options-for.ts";

export interface RollOptions {
  /** A whole number; the same seed always gives the same character. */
  readonly seed: number;
  /** The body to use; any of the catalog's when left out. */
  readonly body?: string;
  readonly name?: string;
  readonly id?: string;
  /**
   * How likely a slot that may be empty is left empty, 0 to 1.
   *
   * @defaultValue `0.25`
   */
  readonly bareness?: number;
}

/**
 * Makes a valid character at random.
 *
 * Slots are filled in random order, each only with parts that need nothing else taken off, so the result breaks no rule.
 *
 * @example
 * rollCharacter(catalog, { seed: 7 })
 */
export function rollCharacter(catalog: Catalog, options: RollOptions): Character {
  const random = xoroshiro128plus(options.seed | 0);
  const below = (count: number) => uniformInt(random, 0, count - 1);
  const pick = <T>(items: readonly T[]): T | undefined => (items.length === 0 ? undefined : items[below(items.length)]);

  const body = options.body ?? pick([...catalog.bodies.keys()]) ?? "";
  let character = createCharacter(catalog, {
    body,
    id: options.id ?? `rolled-${options.seed >>> 0}`,
    ...(options.name === undefined ? {} : { name: options.name }),
  });
  for (const slot of shuffle([...catalog.slots.values()], below)) {
    character = fillSlot(catalog, character, slot, pick, below(1_000) / 1_000 < (options.bareness ?? 0.25));
  }
  for (const channel of catalog.channels.values()) {
    const ramp = pick(channel.ramps);
    if (ramp === undefined) continue;
    const painted = applyEdit(catalog, character, { paint: channel.id, ramp });
    if (painted.ok) character = painted.character;
  }
  return { ...character, bag: {} };
}

function fillSlot(
  catalog: Catalog,
  character: Character,
  slot: Slot,
  pick: <T>(items: readonly T[]) => T | undefined,
  bare: boolean,
): Character {
  if (bare && !slot.required) {
    const emptied = applyEdit(catalog, character, { remove: slot.id });
    return emptied.ok ? emptied.character : character;
  }
  const fitting = optionsFor(catalog, character, slot.id).filter(({ state }) => state === "worn" || state === "ready");
  const part = pick(fitting)?.part;
  if (part === undefined) return character;
  const worn = applyEdit(catalog, character, { wear: part.id, in: slot.id });
  return worn.ok ? worn.character : character;
}

/** R. Durstenfeld, "Algorithm 235: Random permutation" (1964). */
function shuffle<T>(items: readonly T[], below: (count: number) => number): readonly T[] {
  const order = [...items];
  for (let last = order.length - 1; last > 0; last -= 1) {
    const other = below(last + 1);
    [order[last], order[other]] = [order[other] as T, order[last] as T];
  }
  return order;
}
