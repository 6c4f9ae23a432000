import { valueAt } from "../base/record.ts";
import type { Body, Catalog, Form, SignalTest } from "../catalog/model/catalog.ts";
import type { Signal } from "../character/context.ts";
import { isWithin } from "../rules/signals.ts";

export type Signals = Readonly<Record<string, Signal>>;

/**
 * The forms of a body that stand under signals, the active one first: by priority, then in the order of the catalog.
 *
 * A form stands when all its tests pass. One that stood before goes on standing until its `until` says otherwise. A signal that
 * is not given passes no test.
 *
 * @param before - the forms that stood when this was last asked.
 * @example
 * standingForms(catalog, reed, { stamina: 2 })            // → ["weary"]
 * standingForms(catalog, reed, { stamina: 3 }, ["weary"]) // → ["weary"]: it lasts until 4
 * standingForms(catalog, reed, { stamina: 3 })            // → []
 */
export function standingForms(
  { forms }: Pick<Catalog, "forms">,
  body: Pick<Body, "lineage">,
  signals: Signals,
  before: readonly string[] = [],
): readonly string[] {
  const standing = [...forms.values()].filter(
    (form) => takes(body, form) && form.when.every((test) => passes(test, signals, before.includes(form.id))),
  );
  return standing.toSorted((one, other) => other.priority - one.priority).map(({ id }) => id);
}

function takes({ lineage }: Pick<Body, "lineage">, { bodies }: Form): boolean {
  return bodies === undefined || lineage.some((body) => bodies.has(body));
}

function passes(test: SignalTest, signals: Signals, stood: boolean): boolean {
  const value = valueAt(signals, test.signal);
  if (value === undefined) return false;
  if (isWithin(value, test)) return true;
  return stood && test.until !== undefined && !isWithin(value, test.until);
}
