import { uniformInt } from "pure-rand/distribution/uniformInt";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
import { type Catalog, type Character, createCharacter, describeProblem, readCatalog } from "zealous-mantle";
import { messages } from "zealous-mantle/locales/en";

/** A rule as it is written in a catalog. */
export interface RuleSource {
  readonly never?: readonly string[];
  readonly then?: "displace" | "refuse";
  readonly if?: string | ConditionSource;
  readonly needs?: string | ConditionSource;
  readonly count?: string;
  readonly total?: string;
  readonly atLeast?: number;
  readonly atMost?: number;
}

/** A condition as it is written. */
export interface ConditionSource {
  readonly any?: readonly string[];
  readonly all?: readonly string[];
  readonly not?: string;
}

interface PartSource {
  readonly requires?: Readonly<Record<string, number>>;
  readonly slot: string;
  readonly tags: readonly string[];
  readonly gives: Readonly<Record<string, number>>;
  readonly layers: readonly object[];
  readonly price: number;
}

/** A catalog as it is written. */
export interface Source {
  readonly slots: Readonly<Record<string, object>>;
  readonly parts: Readonly<Record<string, PartSource>>;
  readonly rules: readonly RuleSource[];
}

export interface Sizes {
  readonly slots: number;
  readonly parts: number;
  readonly tags: number;
  readonly rules: number;
  readonly seed?: number;
}

export type Below = (count: number) => number;

/** Random whole numbers, the same in every run. */
export function randomBelow(seed: number): Below {
  const generator = xoroshiro128plus(seed);
  return (count) => uniformInt(generator, 0, count - 1);
}

/** A made-up catalog: parts with two tags and a weight, and rules of every kind over tags, parts and slots. */
export function makeSource({ slots, parts, tags, rules, seed = 1 }: Sizes): Source {
  const below = randomBelow(seed);
  const tag = () => `tag-${below(tags)}`;
  const partId = (number: number) => `part-${number}`;
  const madeParts = Array.from({ length: parts }, (_, number): [string, PartSource] => {
    const image = `art/{body}/${partId(number)}`;
    const layers = [
      { image: `${image}-back.png`, depth: 20, channel: "cloth" },
      { image: `${image}.png`, depth: 70, channel: "cloth" },
    ];
    const gives = { weight: below(4), warmth: below(3) };
    const own = [...new Set([tag(), tag()])];
    return [
      partId(number),
      { slot: `slot-${Math.floor((number * slots) / parts)}`, tags: own, gives, layers, price: below(90) },
    ];
  });
  const ownTags = new Map(madeParts.map(([id, { tags: own }]) => [`part:${id}`, own]));
  // Of two patterns that one part may match, a rule engine without the notion of two parts would make something else.
  const otherTag = (part: string): string => {
    const found = tag();
    return ownTags.get(part)?.includes(found) ? otherTag(part) : found;
  };
  const makeRule = (number: number): RuleSource => {
    const part = `part:${partId(below(parts))}`;
    switch (number % 5) {
      case 0:
        return { never: [part, `part:${partId(below(parts))}`], then: below(2) === 0 ? "displace" : "refuse" };
      case 1:
        return { never: [part, `tag:${otherTag(part)}`], then: "displace" };
      case 2:
        return { if: part, needs: { any: [`tag:${tag()}`, `tag:${tag()}`, `slot:slot-${below(slots)}`] } };
      case 3:
        return { if: `tag:${tag()}`, needs: { any: Array.from({ length: 6 }, () => `slot:slot-${below(slots)}`) } };
      default:
        return { count: `tag:${tag()}`, atMost: 3 };
    }
  };
  return {
    slots: Object.fromEntries(Array.from({ length: slots }, (_, number) => [`slot-${number}`, { kind: "gear" }])),
    parts: Object.fromEntries(madeParts),
    rules: [...Array.from({ length: rules - 1 }, (_, number) => makeRule(number)), { total: "weight", atMost: 60 }],
  };
}

/** The source, with a tenth of the parts requiring warmth. */
export function needy(source: Source, below: Below): Source {
  const parts = Object.entries(source.parts).map(([id, part]): [string, PartSource] => [
    id,
    below(10) === 0 ? { ...part, requires: { warmth: 1 + below(12) } } : part,
  ]);
  return { ...source, parts: Object.fromEntries(parts) };
}

/** What the rules of `makeSource` with an `if` speak of: a pattern, and patterns of which one is needed. */
export function needOf({
  if: when,
  needs,
}: RuleSource): { readonly when: string; readonly any: readonly string[] } | undefined {
  if (typeof when !== "string") return undefined;
  return { when, any: typeof needs === "object" ? (needs.any ?? []) : [needs ?? ""] };
}

/** The content of `catalog.json` for a source. */
export function catalogJson(source: Source): object {
  return {
    mantle: "catalog/1",
    id: "bench",
    version: "1",
    rigs: {
      rig: {
        frame: { width: 64, height: 80 },
        origin: [32, 76],
        facings: ["south", "west", "north", { id: "east", mirror: "west" }],
        animations: { idle: { frames: 4, fps: 4 }, walk: { frames: 8, fps: 10 } },
      },
    },
    bodies: { plain: { rig: "rig", art: [{ image: "art/{body}/body.png", depth: 50 }] } },
    ramps: { plain: ["#101010", "#808080", "#f0f0f0"] },
    channels: { cloth: { ramps: ["plain"], default: "plain", key: ["#202020", "#707070", "#d0d0d0"] } },
    ...source,
  };
}

/** Reads a source that must be valid. */
export function readSource(source: Source): Catalog {
  const { catalog, problems } = readCatalog(catalogJson(source));
  if (catalog === undefined)
    throw new Error(
      problems
        .slice(0, 3)
        .map((problem) => describeProblem(problem, messages))
        .join("\n"),
    );
  return catalog;
}

/** Someone who wears this. */
export function wearing(catalog: Catalog, loadout: Character["loadout"]): Character {
  return { ...createCharacter(catalog, { body: "plain" }), loadout };
}
