import { boundEntries } from "./bounds.ts";
import { countEntries } from "./count.ts";
import { needsEntries } from "./needs.ts";
import { neverEntries } from "./never.ts";
import { setEntries } from "./set.ts";
import { totalEntries } from "./total.ts";

/** What rules of all kinds may hold. Which keys go together is checked after, where it becomes a finding of its own. */
export const ruleEntries = {
  ...neverEntries,
  ...needsEntries,
  ...totalEntries,
  ...countEntries,
  ...setEntries,
  ...boundEntries,
};
