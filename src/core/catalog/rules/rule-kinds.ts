import type { Rule } from "../model/rule.ts";
import type { RuleSource } from "../schema/schema.ts";
import { count } from "./count.ts";
import type { RuleKind } from "./kind.ts";
import { needs } from "./needs.ts";
import { never } from "./never.ts";
import { set } from "./set.ts";
import { total } from "./total.ts";

/** Every kind of rule, as authors write it. How a broken one is explained is in `core/rules/kinds`. */
export const ruleKinds: { readonly [K in Rule["kind"]]: RuleKind<K> } = { never, needs, total, count, set };

/** The kind of an authored rule; `undefined` where it has no key that makes one. */
export function kindOf(source: RuleSource): RuleKind<Rule["kind"]> | undefined {
  return Object.values<RuleKind<Rule["kind"]>>(ruleKinds as never).find(({ key }) => source[key] !== undefined);
}

/** The kind of a rule. */
export function kindOfRule(rule: Rule): RuleKind<Rule["kind"]> {
  return ruleKinds[rule.kind] as RuleKind<Rule["kind"]>;
}
