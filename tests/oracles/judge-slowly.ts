/** A rule as it is written in a catalog. */
export type RuleSource = Readonly<Record<string, unknown>>;

/** What the slow judge knows: parts as they are written, and what is worn in each slot. */
export interface Judged {
  readonly parts: Readonly<
    Record<
      string,
      {
        slot: string;
        tags?: readonly string[];
        gives?: Readonly<Record<string, number>>;
        needs?: Readonly<Record<string, number>>;
      }
    >
  >;
  readonly worn: Readonly<Record<string, string>>;
  readonly body: string;
  readonly stats: Readonly<Record<string, number>>;
}

/** Which rules do not hold, by number: each read from its source anew, every worn part asked, nothing compiled or indexed. */
export function brokenSlowly(rules: readonly RuleSource[], judged: Judged): readonly number[] {
  return rules.flatMap((rule, number) => (isBroken(rule, judged) ? [number] : []));
}

function isBroken(rule: RuleSource, judged: Judged): boolean {
  const worn = Object.entries(judged.worn);
  if (Array.isArray(rule["never"])) {
    const patterns: readonly string[] = rule["never"];
    return worn.some((one) =>
      worn.some(
        (other) =>
          one[0] !== other[0] &&
          patterns.some((a, i) => patterns.some((b, k) => i !== k && fits(a, one, judged) && fits(b, other, judged))),
      ),
    );
  }
  if (rule["if"] !== undefined) return isTrue(rule["if"], judged) && !isTrue(rule["needs"], judged);
  const value =
    typeof rule["total"] === "string"
      ? sum(rule["total"], judged)
      : worn.filter((each) => fits(String(rule["count"]), each, judged)).length;
  const limit = (bound: unknown) => (typeof bound === "number" ? bound : sum((bound as { stat: string }).stat, judged));
  return (
    (rule["atMost"] !== undefined && value > limit(rule["atMost"])) ||
    (rule["atLeast"] !== undefined && value < limit(rule["atLeast"]))
  );
}

function isTrue(condition: unknown, judged: Judged): boolean {
  if (typeof condition === "string") {
    if (condition.startsWith("body:")) return judged.body === condition.slice(5);
    return Object.entries(judged.worn).some((each) => fits(condition, each, judged));
  }
  const { any, all, not } = condition as { any?: unknown[]; all?: unknown[]; not?: unknown };
  if (any !== undefined) return any.some((each) => isTrue(each, judged));
  if (all !== undefined) return all.every((each) => isTrue(each, judged));
  return !isTrue(not, judged);
}

function fits(pattern: string, [slot, part]: readonly [string, string], { parts }: Judged): boolean {
  const [kind, id = ""] = pattern.split(":");
  return kind === "part" ? part === id : kind === "slot" ? slot === id : (parts[part]?.tags ?? []).includes(id);
}

function sum(stat: string, { parts, worn, stats }: Judged): number {
  return Object.values(worn).reduce((total, part) => total + (parts[part]?.gives?.[stat] ?? 0), stats[stat] ?? 0);
}
