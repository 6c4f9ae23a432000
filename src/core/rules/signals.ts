import type { SignalBounds } from "../catalog/model/catalog.ts";
import type { Signal } from "../character/context.ts";

/** Whether a signal is on: it is given, and neither `false`, `0`, `NaN` nor empty. */
export function isOn(signal: Signal | undefined): boolean {
  return Boolean(signal);
}

/** Whether a signal has a value. Both are compared as they are written, so `3` is `"3"`, and `true` is `"true"`. */
export function hasValue(signal: Signal | undefined, value: Signal): boolean {
  return signal !== undefined && String(signal) === String(value);
}

/**
 * Whether a signal keeps within bounds; without any, whether it is on.
 *
 * What is no number, nor the text of one, is above no minimum and below no maximum.
 */
export function isWithin(signal: Signal | undefined, { is, atLeast, atMost }: SignalBounds): boolean {
  if (is === undefined && atLeast === undefined && atMost === undefined) return isOn(signal);
  if (is !== undefined && !hasValue(signal, is)) return false;
  if (atLeast === undefined && atMost === undefined) return true;
  const number = numberOf(signal);
  return number >= (atLeast ?? Number.NEGATIVE_INFINITY) && number <= (atMost ?? Number.POSITIVE_INFINITY);
}

function numberOf(signal: Signal | undefined): number {
  if (typeof signal === "number") return signal;
  return typeof signal === "string" && signal.trim() !== "" ? Number(signal) : Number.NaN;
}
