import type { PlainCondition } from "../catalog/model/catalog.ts";
import { body } from "./conditions/body.ts";
import { fact } from "./conditions/fact.ts";
import type { JudgedKind } from "./conditions/kind.ts";
import { outfit } from "./conditions/outfit.ts";
import { part } from "./conditions/part.ts";
import { signal } from "./conditions/signal.ts";
import { slot } from "./conditions/slot.ts";
import { tag } from "./conditions/tag.ts";

/** How each kind of condition is judged, and its messages. */
const judgedKinds: { readonly [K in PlainCondition["kind"]]: JudgedKind<K> } = {
  part,
  tag,
  slot,
  body,
  outfit,
  fact,
  signal,
};

/** How the kind of a condition is judged, and its messages. */
export function judgedKind(condition: PlainCondition): JudgedKind<PlainCondition["kind"]> {
  return judgedKinds[condition.kind] as JudgedKind<PlainCondition["kind"]>;
}
