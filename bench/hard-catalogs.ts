import type { RuleSource, Source } from "./catalogs.ts";
import { type Below, makeSource, randomBelow } from "./catalogs.ts";

/** A broken character of a catalog that is hard to mend. */
export interface HardCase {
  readonly name: string;
  readonly source: Source;
  readonly loadout: Readonly<Record<string, string>>;
}

type Parts = Source["parts"];

const range = (count: number) => Array.from({ length: count }, (_, at) => at);

/** A part of a slot with nothing else to it. */
function plainPart(
  slot: string,
  more: { readonly tags?: readonly string[]; readonly gives?: Parts[string]["gives"] } = {},
): Parts[string] {
  return { slot, tags: more.tags ?? [], gives: more.gives ?? {}, layers: [{ image: "part.png", depth: 1 }], price: 0 };
}

function slotsOf(ids: readonly string[], required = false): Source["slots"] {
  return Object.fromEntries(ids.map((id) => [id, { kind: "gear", ...(required ? { required } : {}) }]));
}

/** As large as a game's own: 2,400 parts in 40 slots, 249 rules, and everything in its slot at random. */
function large(): HardCase {
  const source = makeSource({ slots: 40, parts: 2_400, tags: 80, rules: 249, seed: 11 });
  const below = randomBelow(12);
  const ids = Object.keys(source.parts);
  const loadout = Object.fromEntries(range(40).map((slot) => [`slot-${slot}`, ids[slot * 60 + below(60)] ?? ""]));
  return { name: "large", source, loadout };
}

/** Twelve slots that must be filled, with parts of eleven kinds of which one each may be worn: there is no way. */
function pigeonhole(): HardCase {
  const slots = range(12).map((slot) => `s${slot}`);
  const kinds = range(11);
  const parts = Object.fromEntries(
    slots.flatMap((slot) =>
      kinds.map((kind) => [`${slot}-k${kind}`, plainPart(slot, { tags: [`k${kind}`] })] as const),
    ),
  );
  return {
    name: "pigeonhole",
    source: { slots: slotsOf(slots, true), parts, rules: kinds.map((kind) => ({ count: `tag:k${kind}`, atMost: 1 })) },
    loadout: Object.fromEntries(slots.map((slot, at) => [slot, `${slot}-k${at % 11}`])),
  };
}

/** Weights that are all even, which must come to an odd number: there is no way. */
function parity(below: Below): HardCase {
  const slots = range(30).map((slot) => `s${slot}`);
  const parts = Object.fromEntries(
    slots.flatMap((slot) =>
      range(4).map((at) => [`${slot}-${at}`, plainPart(slot, { gives: { weight: 2 * (1 + below(20)) } })] as const),
    ),
  );
  return {
    name: "even-odd",
    source: { slots: slotsOf(slots), parts, rules: [{ total: "weight", atLeast: 301, atMost: 301 }] },
    loadout: Object.fromEntries(slots.map((slot) => [slot, `${slot}-0`])),
  };
}

/** Forty slots of twenty parts, one total that must not be high and one that must not be low. */
function twoTotals(below: Below): HardCase {
  const slots = range(40).map((slot) => `s${slot}`);
  const parts = Object.fromEntries(
    slots.flatMap((slot) =>
      range(20).map((at) => {
        const weight = 10 + below(90);
        return [
          `${slot}-${at}`,
          plainPart(slot, { gives: { weight, warmth: Math.max(1, weight + below(41) - 20) } }),
        ] as const;
      }),
    ),
  );
  return {
    name: "two-totals",
    source: {
      slots: slotsOf(slots, true),
      parts,
      rules: [
        { total: "weight", atMost: 1_500 },
        { total: "warmth", atLeast: 1_750 },
      ],
    },
    loadout: Object.fromEntries(slots.map((slot) => [slot, `${slot}-${below(20)}`])),
  };
}

/** Sixty parts that are all worn, and pairs of them that are never worn together: a vertex cover. */
function cover(below: Below): HardCase {
  const slots = range(60).map((slot) => `s${slot}`);
  const parts = Object.fromEntries(slots.map((slot) => [`p-${slot}`, plainPart(slot)] as const));
  const pairs = new Set<string>();
  while (pairs.size < 150) {
    const [one, other] = [below(60), below(60)];
    if (one < other) pairs.add(`${one} ${other}`);
  }
  const rules = [...pairs].map((pair) => ({ never: pair.split(" ").map((slot) => `part:p-s${slot}`) }));
  return {
    name: "cover",
    source: { slots: slotsOf(slots), parts, rules },
    loadout: Object.fromEntries(slots.map((slot) => [slot, `p-${slot}`])),
  };
}

/** A graph of 33 points of degree 4, where at each an even number of edges must be worn, and at one an odd: there is no way. */
function tseitin(below: Below): HardCase {
  const points = range(33);
  const edges: [number, number][] = [];
  for (const point of points) edges.push([point, (point + 1) % 33], [point, (point + 5) % 33]);
  const slots = edges.map((_, at) => `e${at}`);
  const parts = Object.fromEntries(slots.map((slot) => [`on-${slot}`, plainPart(slot)] as const));
  const rules: RuleSource[] = points.flatMap((point) => {
    const around = edges.flatMap((edge, at) => (edge.includes(point) ? [at] : []));
    const odd = point === 0 ? 1 : 0;
    return range(2 ** around.length)
      .filter((bits) => around.reduce((sum, _, at) => sum + ((bits >> at) & 1), 0) % 2 !== odd)
      .map((bits) => clause(around.map((edge, at) => ({ part: `on-e${edge}`, worn: ((bits >> at) & 1) === 0 }))));
  });
  return {
    name: "tseitin",
    source: { slots: slotsOf(slots), parts, rules },
    loadout: Object.fromEntries(slots.filter(() => below(2) === 0).map((slot) => [slot, `on-${slot}`])),
  };
}

/** One of some must come out so: a part worn, or not. */
function clause(ways: readonly { readonly part: string; readonly worn: boolean }[]): RuleSource {
  const all = ways.filter(({ worn }) => !worn).map(({ part }) => `part:${part}`);
  const any = ways.filter(({ worn }) => worn).map(({ part }) => `part:${part}`);
  if (all.length === 0) return { if: { not: any[0] ?? "" }, needs: { any: any.slice(1) } };
  if (any.length > 0) return { if: { all }, needs: { any } };
  return { if: { all: all.slice(1) }, needs: { not: all[0] ?? "" } };
}

/** Fourteen slots of fourteen kinds, each kind once, and most pairs of neighbors excluded. */
function permutation(below: Below): HardCase {
  const slots = range(14).map((slot) => `s${slot}`);
  const parts = Object.fromEntries(
    slots.flatMap((slot) =>
      range(14).map(
        (kind) => [`${slot}-k${kind}`, plainPart(slot, { tags: [`k${kind}`], gives: { weight: below(30) } })] as const,
      ),
    ),
  );
  const rules: RuleSource[] = [
    ...range(14).map((kind) => ({ count: `tag:k${kind}`, atMost: 1 })),
    { total: "weight", atMost: 120 },
  ];
  return {
    name: "permutation",
    source: { slots: slotsOf(slots, true), parts, rules },
    loadout: Object.fromEntries(slots.map((slot) => [slot, `${slot}-k${below(14)}`])),
  };
}

/** Broken characters of catalogs that are hard, each in a way of its own. */
export function hardCases(): readonly HardCase[] {
  const below = randomBelow(41);
  return [large(), pigeonhole(), parity(below), twoTotals(below), cover(below), tseitin(below), permutation(below)];
}
