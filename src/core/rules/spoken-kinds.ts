import type { Message } from "../base/message.ts";
import type { Rule } from "../catalog/model/catalog.ts";
import { count } from "./kinds/count.ts";
import type { SpokenKind } from "./kinds/kind.ts";
import { needs } from "./kinds/needs.ts";
import { never } from "./kinds/never.ts";
import { set } from "./kinds/set.ts";
import { total } from "./kinds/total.ts";

/** The messages of each kind of rule. */
const spokenKinds: { readonly [K in Rule["kind"]]: SpokenKind<K> } = { never, needs, total, count, set };

/** The messages of the kind of a rule. */
export function spokenKind(rule: Rule): SpokenKind<Rule["kind"]> {
  return spokenKinds[rule.kind] as SpokenKind<Rule["kind"]>;
}

/** A rule as messages, whoever it concerns. */
export function ruleMessages(rule: Rule): readonly Message[] {
  return spokenKind(rule).messages(rule);
}
