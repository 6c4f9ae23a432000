import { getOwn } from "../base/record.ts";
import type { Body, Catalog, Form, SignalTest } from "../catalog/model/catalog.ts";
import type { Signal } from "../character/context.ts";
import { isWithin } from "../rules/signals.ts";

export type Signals = Readonly<Record<string, Signal>>;

/**
 * The forms of a body that signals activate, the one that is shown first: by priority, then in the order of the catalog.
 *
 * A form is active when all its tests pass. One that was active before stays so until its `until` says otherwise. A signal that
 * is not given passes no test.
 *
 * @param before - the forms that were active when this was last asked.
 * @example
 * activeForms(catalog, reed, { stamina: 2 }) // → ["weary"]
 * activeForms(catalog, reed, { stamina: 3 }) // → []
 * // Once active, it lasts until a stamina of 4.
 * activeForms(catalog, reed, { stamina: 3 }, ["weary"]) // → ["weary"]
 */
export function activeForms(
  { forms }: Pick<Catalog, "forms">,
  body: Pick<Body, "lineage">,
  signals: Signals,
  before: readonly string[] = [],
): readonly string[] {
  const active = [...forms.values()].filter(
    (form) => takes(body, form) && form.when.every((test) => passes(test, signals, before.includes(form.id))),
  );
  return active.toSorted((one, other) => other.priority - one.priority).map(({ id }) => id);
}

function takes({ lineage }: Pick<Body, "lineage">, { bodies }: Form): boolean {
  return bodies === undefined || lineage.some((body) => bodies.has(body));
}

function passes(test: SignalTest, signals: Signals, wasActive: boolean): boolean {
  const value = getOwn(signals, test.signal);
  if (value === undefined) return false;
  if (isWithin(value, test)) return true;
  return wasActive && test.until !== undefined && !isWithin(value, test.until);
}
