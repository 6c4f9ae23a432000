import type { CompiledCondition, CompiledRule } from "../catalog/model/catalog.ts";
import type { LoadoutState } from "../rules/loadout-state.ts";

/** Nothing is known of a rule. */
const loose = -2;
/** One more part cannot break the rule: what it needs is there and no single slot holds it, or there is room for one more. */
const firm = -1;

/**
 * What holds up the `needs` of each rule in a state: -1 where it would still be there with any one slot bare, the number of the
 * slot where it hangs on that slot alone, and -2 where nothing is known. A count that has room for one more is held up as well.
 *
 * Only `needs` that are a mark, or any of some marks, are looked at: putting more on can never take those away.
 */
export function anchorsOf(state: LoadoutState): Int32Array {
  const { rules, slotMarks } = state.catalog.compiled;
  const holders = new Int32Array(state.counts.length).fill(loose);
  const hold = (mark: number, slot: number) => {
    if (mark >= 0) holders[mark] = holders[mark] === loose || holders[mark] === slot ? slot : firm;
  };
  for (const [slot, part] of state.worn.entries()) {
    if (part === undefined) continue;
    hold(slotMarks[slot] ?? -1, slot);
    for (const mark of part.compiled.marks) hold(mark, slot);
  }
  return Int32Array.from(rules, (rule) => {
    if (rule.kind === "implied") return anchorOf(rule.needs, holders);
    return rule.kind === "counted" && hasRoom(rule, state) ? firm : loose;
  });
}

/** Whether one more would not be too many. */
function hasRoom({ marks, atLeast, atMost }: CompiledRule, { counts }: LoadoutState): boolean {
  return atLeast === undefined && typeof atMost === "number" && (counts[marks[0] ?? -1] ?? 0) + 1 <= atMost;
}

function anchorOf(needs: CompiledCondition, holders: Int32Array): number {
  if (needs.kind === "mark") return holders[needs.mark] ?? loose;
  if (needs.kind !== "any" || needs.of.some(({ kind }) => kind !== "mark")) return loose;
  let anchor = loose;
  for (const { mark } of needs.of) {
    const holder = holders[mark] ?? loose;
    if (holder === firm || (holder >= 0 && anchor >= 0 && holder !== anchor)) return firm;
    if (holder >= 0) anchor = holder;
  }
  return anchor;
}
