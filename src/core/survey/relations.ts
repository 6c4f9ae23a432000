import { getOrInsert } from "../base/get-or-insert.ts";
import type { Message } from "../base/message.ts";
import type { Text } from "../base/text.ts";
import type { Catalog, Part, Pattern, Rule } from "../catalog/model/catalog.ts";
import { matches } from "../rules/condition.ts";
import { ruleMessages } from "../rules/spoken-kinds.ts";
import { type Relating, relatedKind } from "./related-kinds.ts";

/** What a rule makes of two parts. */
export interface Relation {
  /** `excludes`: they are never worn together. `displaces`: putting on one takes off the other. `needs`: `from` asks for `to`, or for one of several. */
  readonly kind: Relating["kind"];
  readonly from: string;
  readonly to: string;
  /** The number of the rule. */
  readonly rule: number;
  /** The rule as sentences, and what its author says of it. */
  readonly because: readonly Message[];
  readonly message: Text | undefined;
}

/**
 * Lists what rules make of parts, two by two: who excludes, displaces and needs whom. Parts that go in one and the same slot alone are left out, since they are never
 * together anyway.
 *
 * @param about - a part: only what concerns it is listed.
 * @example
 * relationsOf(catalog, "hood-up").map(({ kind, to }) => `${kind} ${to}`) // → ["displaces storm-hat", …]
 */
export function relationsOf(catalog: Catalog, about?: string): readonly Relation[] {
  const members = membersIn(catalog);
  const found = new Map<string, Relation>();
  for (const rule of catalog.rules) {
    for (const { kind, one, other } of pairsOf(rule, members)) {
      const [from, to] = about === other.id && kind !== "needs" ? [other.id, one.id] : [one.id, other.id];
      if (from === to || (about !== undefined && from !== about && to !== about)) continue;
      if (kind !== "needs" && shareOnlySlot(one, other)) continue;
      const key = kind === "needs" ? `${rule.number} ${from} ${to}` : `${rule.number} ${[from, to].sort().join(" ")}`;
      getOrInsert(found, key, () => ({
        kind,
        from,
        to,
        rule: rule.number,
        because: ruleMessages(rule),
        message: rule.message,
      }));
    }
  }
  return [...found.values()];
}

/** The parts of a pattern, each found once. */
type Members = (pattern: Pattern) => readonly Part[];

function membersIn({ parts }: Catalog): Members {
  const known = new Map<string, readonly Part[]>();
  return (pattern) =>
    getOrInsert(known, `${pattern.kind}:${pattern.id}`, () =>
      [...parts.values()].filter((part) => part.slots.some((slot) => matches(pattern, { slot, part, issued: false }))),
    );
}

interface Pair {
  readonly kind: Relation["kind"];
  readonly one: Part;
  readonly other: Part;
}

function* pairsOf(rule: Rule, members: Members): Iterable<Pair> {
  for (const { kind, one, other } of relatedKind(rule).relate(rule))
    for (const first of members(one)) for (const second of members(other)) yield { kind, one: first, other: second };
}

function shareOnlySlot(one: Part, other: Part): boolean {
  const [slot] = one.slots;
  return one.slots.length === 1 && other.slots.length === 1 && slot === other.slots[0];
}
