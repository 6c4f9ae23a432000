import type { Bound, Condition, Pattern, Rule, StatModifier } from "../model/catalog.ts";
import type { RuleKey, RuleKeys } from "../rules/kind.ts";
import { kindOf } from "../rules/rule-kinds.ts";
import type { RuleSource } from "../schema/schema.ts";
import type { Advised, GivenTo } from "./findings.ts";
import { readCondition, readPattern } from "./read-condition.ts";
import type { Reader } from "./reader.ts";
import type { Entry } from "./source.ts";
import { readGifts } from "./stat-modifier.ts";

/** Reads a rule; `undefined` for one of no kind. Reports keys that do not go together or are missing, and ids that name nothing. */
export function readRule(entry: Entry<RuleSource>, number: number, reader: Reader): Rule | undefined {
  const { value, file, pointer } = entry;
  const { findings } = reader;
  const kind = kindOf(value);
  if (kind === undefined) {
    findings.report(entry, [], "rule-of-no-kind");
    return undefined;
  }
  for (const key of Object.keys(value) as (keyof RuleSource)[]) {
    if (key === "message" || key === kind.key || isOneOf(kind.others, key)) continue;
    findings.report(entry, [key], "rule-of-two-kinds", { key, kind: kind.key });
  }
  const every = { number, place: { file, pointer }, message: value.message };
  return kind.read(new RuleReader(entry, kind.key, reader), every);
}

function isOneOf(keys: readonly RuleKey[], key: string): boolean {
  return keys.some((each) => each === key);
}

class RuleReader implements RuleKeys {
  readonly source: RuleSource;
  readonly #entry: Entry<RuleSource>;
  readonly #kind: keyof RuleSource;
  readonly #reader: Reader;

  constructor(entry: Entry<RuleSource>, kind: keyof RuleSource, reader: Reader) {
    this.source = entry.value;
    this.#entry = entry;
    this.#kind = kind;
    this.#reader = reader;
  }

  report<Code extends Advised>(key: keyof RuleSource, code: Code, ...params: GivenTo<Code>): void {
    this.#reader.findings.report(this.#entry, [key], code, ...params);
  }

  condition(key: "if" | "needs"): Condition {
    const source = this.source[key];
    if (source !== undefined) return readCondition(this.#entry, [key], source, this.#reader);
    this.#reportMissing(key);
    return { kind: "any", of: [] };
  }

  pattern(key: "count"): Pattern {
    return readPattern(this.#entry, [key], this.source[key] ?? "", this.#reader);
  }

  patterns(key: "never" | "set"): readonly Pattern[] {
    return (this.source[key] ?? []).map((each, at) => readPattern(this.#entry, [key, at], each, this.#reader));
  }

  stat(key: "total"): string {
    const stat = this.source[key] ?? "";
    this.#checkStat([key], stat);
    return stat;
  }

  gifts(key: "gives"): Readonly<Record<string, StatModifier>> {
    if (this.source[key] === undefined) this.#reportMissing(key);
    return readGifts(this.source[key]);
  }

  /** The bounds of something, of which there has to be one. */
  bounds(): { readonly atLeast: Bound | undefined; readonly atMost: Bound | undefined } {
    const { atLeast, atMost } = this.source;
    if (atLeast === undefined && atMost === undefined)
      this.#reader.findings.report(this.#entry, [], "rule-without-bounds");
    if (typeof atLeast === "object") this.#checkStat(["atLeast", "stat"], atLeast.stat);
    if (typeof atMost === "object") this.#checkStat(["atMost", "stat"], atMost.stat);
    return { atLeast, atMost };
  }

  /** The same, where only numbers will do. */
  numbers(): { readonly atLeast: number | undefined; readonly atMost: number | undefined } {
    const { atLeast, atMost } = this.bounds();
    return { atLeast: this.#number("atLeast", atLeast), atMost: this.#number("atMost", atMost) };
  }

  #number(key: "atLeast" | "atMost", bound: Bound | undefined): number | undefined {
    if (typeof bound !== "object") return bound;
    this.report(key, "bound-of-count");
    return undefined;
  }

  #checkStat(keys: readonly string[], stat: string): void {
    const { known, findings } = this.#reader;
    findings.known(this.#entry, keys, "stat", stat, known.stat);
  }

  #reportMissing(missing: keyof RuleSource): void {
    this.report(this.#kind, "incomplete-rule", { key: this.#kind, missing });
  }
}
