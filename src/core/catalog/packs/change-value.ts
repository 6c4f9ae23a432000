import { canonicalText } from "../../base/canonical-text.ts";
import { isRecord } from "../../base/schema/bounds.ts";

/** A place in an entry that a pack sets. */
export interface Touch {
  /** The keys that lead to it. */
  readonly keys: readonly string[];
  readonly value: unknown;
}

/**
 * A value with what is different: objects are changed key by key, `null` takes a key away (RFC 7396), and a list is given whole, or as what is added
 * to it and removed from it.
 *
 * @param touched - every place that is set to something; what is only added to a list or removed from it is none.
 */
export function changeValue(
  before: unknown,
  change: unknown,
  touched: (touch: Touch) => void,
  keys: readonly string[] = [],
): unknown {
  if (isListChange(before, change)) return changeList(before ?? [], change);
  if (!isRecord(change)) {
    touched({ keys, value: change });
    return change;
  }
  const after = new Map(isRecord(before) ? Object.entries(before) : []);
  for (const [key, value] of Object.entries(change)) {
    const path = [...keys, key];
    if (value === null) {
      touched({ keys: path, value });
      after.delete(key);
    } else if (!(after.get(key) === undefined && allWhenLeftOut.has(key) && isListChange(undefined, value)))
      after.set(key, changeValue(after.get(key), value, touched, path));
  }
  // Made of entries, so that a key "__proto__" is one like any other.
  return Object.fromEntries(after);
}

/** Lists that hold everything where they are left out: nothing is to be added to them. */
const allWhenLeftOut: ReadonlySet<string> = new Set(["fits", "bodies", "forms", "animations", "facings"]);

interface ListChange {
  readonly add?: readonly unknown[];
  readonly remove?: readonly unknown[];
}

/** Whether a change is one of a list: where there is one, or where nothing is and there would be one. */
function isListChange(before: unknown, change: unknown): change is ListChange {
  if (!isRecord(change) || (before !== undefined && !Array.isArray(before))) return false;
  const keys = Object.keys(change);
  return keys.length > 0 && keys.every((key) => (key === "add" || key === "remove") && Array.isArray(change[key]));
}

/** Items are the same where their texts are; what is there is not added again. */
function changeList(before: unknown, { add = [], remove = [] }: ListChange): readonly unknown[] {
  const gone = new Set(remove.map((item) => canonicalText(item)));
  const left = (Array.isArray(before) ? before : []).filter((item) => !gone.has(canonicalText(item)));
  const there = new Set(left.map((item) => canonicalText(item)));
  return [...left, ...add.filter((item) => !there.has(canonicalText(item)))];
}
