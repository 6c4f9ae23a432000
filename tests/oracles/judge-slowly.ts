/** A rule as it is written in a catalog. */
export type RuleSource = Readonly<Record<string, unknown>>;

/** A part as it is written in a catalog. */
export interface PartSource {
  readonly slot: string | readonly string[];
  readonly occupies?: readonly string[];
  readonly tags?: readonly string[];
  readonly fits?: readonly string[];
  readonly gives?: Readonly<Record<string, number | { readonly add?: number; readonly times?: number }>>;
  readonly requires?: Readonly<Record<string, number>>;
}

/** A little world as it is written, from which everything is worked out anew for each question. */
export interface World {
  readonly parts: Readonly<Record<string, PartSource>>;
  readonly slots: Readonly<Record<string, { readonly required?: boolean; readonly default?: string }>>;
  readonly rules: readonly RuleSource[];
  /** What each body has of each stat. */
  readonly bodies: Readonly<Record<string, Readonly<Record<string, number>>>>;
}

/** Someone in it: a body, what is chosen in each slot, and answers. */
export interface Someone {
  readonly body: string;
  readonly loadout: Readonly<Record<string, string>>;
  readonly facts?: Readonly<Record<string, string>>;
}

/** What someone wears, by slot: choices, and the defaults of required slots that no choice takes. */
export function wornSlowly({ parts, slots }: World, { loadout }: Someone): readonly (readonly [string, string])[] {
  const taken = Object.entries(loadout).flatMap(([slot, part]) => [slot, ...(parts[part]?.occupies ?? [])]);
  const issued = Object.entries(slots).flatMap(([slot, { required, default: initial }]) =>
    required === true && initial !== undefined && !taken.includes(slot) ? [[slot, initial] as const] : [],
  );
  return [...Object.entries(loadout), ...issued];
}

/** Whether a part may be worn in a slot. */
export function goesIn(part: PartSource | undefined, slot: string): boolean {
  return part !== undefined && [part.slot].flat().includes(slot);
}

/** Which rules do not hold, by number: each read from its source anew, every worn part asked, nothing compiled or indexed. */
export function brokenSlowly(world: World, someone: Someone): readonly number[] {
  return world.rules.flatMap((rule, number) => (isBroken(rule, world, someone) ? [number] : []));
}

/** Whether everything holds: fit, places, required slots, needs and rules. */
export function isValidSlowly(world: World, someone: Someone): boolean {
  return placesHoldSlowly(world, someone) && brokenSlowly(world, someone).length === 0;
}

/** Whether everything but rules holds. */
export function placesHoldSlowly(world: World, someone: Someone): boolean {
  const { parts, slots } = world;
  const worn = wornSlowly(world, someone);
  const takes = ([slot, part]: readonly [string, string]) => new Set([slot, ...(parts[part]?.occupies ?? [])]);
  for (const slot of Object.keys(slots)) {
    const takers = worn.filter((each) => takes(each).has(slot)).length;
    if (takers > 1 || (takers === 0 && slots[slot]?.required === true)) return false;
  }
  return worn.every(([slot, id]) => {
    const part = parts[id];
    if (part === undefined) return false;
    const rest = worn.filter(([other]) => other !== slot);
    const isIssued = someone.loadout[slot] === undefined;
    return (
      goesIn(part, slot) &&
      (isIssued || (part.fits ?? [someone.body]).includes(someone.body)) &&
      Object.entries(part.requires ?? {}).every(([stat, min]) => sum(stat, rest, world, someone) >= min)
    );
  });
}

function isBroken(rule: RuleSource, world: World, someone: Someone): boolean {
  const worn = wornSlowly(world, someone);
  if (Array.isArray(rule["never"])) {
    const patterns: readonly string[] = rule["never"];
    return worn.some((one) =>
      worn.some(
        (other) =>
          one[0] !== other[0] &&
          patterns.some((a, i) => patterns.some((b, k) => i !== k && fits(a, one, world) && fits(b, other, world))),
      ),
    );
  }
  if (rule["set"] !== undefined) return false;
  if (rule["if"] !== undefined) return isTrue(rule["if"], world, someone) && !isTrue(rule["needs"], world, someone);
  const value =
    typeof rule["total"] === "string"
      ? sum(rule["total"], worn, world, someone)
      : worn.filter((each) => fits(String(rule["count"]), each, world)).length;
  const limit = (bound: unknown) =>
    typeof bound === "number" ? bound : sum((bound as { stat: string }).stat, worn, world, someone);
  return (
    (rule["atMost"] !== undefined && value > limit(rule["atMost"])) ||
    (rule["atLeast"] !== undefined && value < limit(rule["atLeast"]))
  );
}

function isTrue(condition: unknown, world: World, someone: Someone): boolean {
  if (typeof condition === "string") {
    if (condition.startsWith("body:")) return someone.body === condition.slice(5);
    if (condition.startsWith("fact:")) {
      const [id = "", value] = condition.slice(5).split("=");
      return someone.facts?.[id] === value;
    }
    return wornSlowly(world, someone).some((each) => fits(condition, each, world));
  }
  const { any, all, not } = condition as { any?: unknown[]; all?: unknown[]; not?: unknown };
  if (any !== undefined) return any.some((each) => isTrue(each, world, someone));
  if (all !== undefined) return all.every((each) => isTrue(each, world, someone));
  return !isTrue(not, world, someone);
}

function fits(pattern: string, [slot, id]: readonly [string, string], { parts }: World): boolean {
  const [kind, named = ""] = pattern.split(":");
  const part = parts[id];
  if (kind === "part") return id === named;
  if (kind === "tag") return (part?.tags ?? []).includes(named);
  return slot === named || (part?.occupies ?? []).includes(named);
}

/** Whether a rule is a set of which enough is worn. */
export function isWornSet(rule: RuleSource, worn: readonly (readonly [string, string])[], world: World): boolean {
  const patterns: readonly string[] = Array.isArray(rule["set"]) ? rule["set"] : [];
  const there = patterns.filter((pattern) => worn.some((each) => fits(pattern, each, world)));
  return patterns.length > 0 && there.length >= Number(rule["atLeast"]);
}

function sum(stat: string, worn: readonly (readonly [string, string])[], world: World, { body }: Someone): number {
  let total = world.bodies[body]?.[stat] ?? 0;
  let product = 1;
  const sets = world.rules.filter((rule) => isWornSet(rule, worn, world));
  for (const gives of [
    ...worn.map(([, part]) => world.parts[part]?.gives),
    ...sets.map((rule) => rule["gives"] as PartSource["gives"]),
  ]) {
    const gift = gives?.[stat] ?? 0;
    total += typeof gift === "number" ? gift : (gift.add ?? 0);
    product *= typeof gift === "number" ? 1 : (gift.times ?? 1);
  }
  return total * product;
}

/**
 * Every loadout there is, valid or not: each slot empty, or with each part that goes there. The default of a required slot is no
 * choice, unless it is one already.
 */
export function everyLoadout({ parts, slots }: World, chosen: Someone["loadout"] = {}): readonly Someone["loadout"][] {
  return Object.keys(slots).reduce<readonly Record<string, string>[]>(
    (loadouts, slot) => {
      const { required, default: initial } = slots[slot] ?? {};
      const choices = Object.keys(parts).filter(
        (id) => goesIn(parts[id], slot) && (required !== true || initial !== id || chosen[slot] === id),
      );
      return loadouts.flatMap((loadout) => [loadout, ...choices.map((part) => ({ ...loadout, [slot]: part }))]);
    },
    [{}],
  );
}
