import fc from "fast-check";
import type { Catalog } from "zealous-mantle";
import {
  brokenSlowly,
  everyLoadout,
  goesIn,
  type PartSource,
  placesHoldSlowly,
  type RuleSource,
  type Someone,
  type World,
} from "../oracles/judge-slowly.ts";
import { isLong, seed } from "../runs.ts";
import { gear, smallCatalog } from "../small-catalog.ts";

const slotIds = ["a", "b", "c", "d"] as const;
const partIds = slotIds.flatMap((slot) => [`${slot}-one`, `${slot}-two`, `${slot}-three`]);

const pattern = fc.constantFrom(
  "tag:red",
  "tag:wet",
  ...partIds.map((id) => `part:${id}`),
  ...slotIds.map((slot) => `slot:${slot}`),
);

const { condition } = fc.letrec<{ condition: unknown }>((tie) => ({
  condition: fc.oneof(
    { maxDepth: 2 },
    pattern,
    fc.constantFrom("body:plain", "body:tall", "fact:trade=pilot", "fact:trade=smith"),
    fc.record({ any: fc.array(tie("condition"), { minLength: 1, maxLength: 2 }) }),
    fc.record({ all: fc.array(tie("condition"), { minLength: 1, maxLength: 2 }) }),
    fc.record({ not: tie("condition") }),
  ),
}));

const rule: fc.Arbitrary<RuleSource> = fc.oneof(
  fc.record({
    never: fc.array(pattern, { minLength: 2, maxLength: 3 }),
    then: fc.constantFrom("displace", "refuse"),
  }),
  fc.record({ if: condition, needs: condition }),
  fc.record({
    total: fc.constantFrom("weight", "carry"),
    atMost: fc.oneof(fc.integer({ min: -2, max: 6 }), fc.constant({ stat: "carry" })),
  }),
  fc.record({ total: fc.constant("weight"), atLeast: fc.integer({ min: -1, max: 3 }) }),
  fc.record({ count: pattern, atMost: fc.integer({ min: 0, max: 2 }) }),
  fc.record({ count: pattern, atLeast: fc.integer({ min: 0, max: 2 }) }),
  fc
    .record({
      set: fc.uniqueArray(pattern, { minLength: 1, maxLength: 4 }),
      atLeast: fc.integer({ min: 1, max: 3 }),
      gives: fc.record(
        {
          weight: fc.constantFrom(-2, 2, 5, { times: 2 }),
          carry: fc.constantFrom(-3, 2, { add: 1, times: 2 }, { times: 0.5 }),
        },
        { requiredKeys: [] },
      ),
    })
    .map((set) => ({ ...set, atLeast: Math.min(set.atLeast, set.set.length) })),
);

function partOf(slot: string): fc.Arbitrary<PartSource> {
  const others = slotIds.filter((other) => other !== slot);
  return fc.record(
    {
      slot: fc.oneof(
        { weight: 4, arbitrary: fc.constant(slot) },
        { weight: 1, arbitrary: fc.constantFrom(...others.map((other) => [slot, other])) },
      ),
      tags: fc.subarray(["red", "wet"]),
      occupies: fc.oneof({ weight: 3, arbitrary: fc.constant([]) }, { weight: 1, arbitrary: fc.subarray(others) }),
      fits: fc.constantFrom(["plain", "tall"], ["plain", "tall"], ["plain", "tall"], ["tall"]),
      gives: fc.oneof(
        fc.record({ weight: fc.integer({ min: -1, max: 3 }) }),
        fc.record({ weight: fc.constantFrom({ times: 2 }, { times: 0 }), carry: fc.constant(1) }),
        fc.record({ carry: fc.constantFrom({ add: 1, times: 3 }, { add: -2, times: 0.5 }, { add: -6 }, { times: 4 }) }),
        fc.constant({}),
      ),
      requires: fc.oneof(
        { weight: 4, arbitrary: fc.constant({}) },
        { weight: 1, arbitrary: fc.record({ carry: fc.integer({ min: 2, max: 6 }) }) },
      ),
    },
    { requiredKeys: ["slot", "tags", "gives"] },
  );
}

/** Little worlds with every kind of rule, from which some parts are left out. */
const generated: fc.Arbitrary<World> = fc
  .record({
    rules: fc.array(rule, { maxLength: 5 }),
    parts: fc.tuple(...partIds.map((id) => fc.option(partOf(id.slice(0, 1)), { freq: 3 }))),
    required: fc.subarray(["a", "b"]),
    issued: fc.boolean(),
  })
  .map(({ rules, parts, required, issued }) => {
    const made = Object.fromEntries(partIds.flatMap((id, at) => (parts[at] ? [[id, parts[at]]] : [])));
    const first = (slot: string) => partIds.find((id) => made[id]?.slot === slot && made[id].fits?.length !== 1);
    const slots = Object.fromEntries(
      slotIds.map((slot) => {
        const initial = issued ? first(slot) : undefined;
        if (!required.includes(slot)) return [slot, {}];
        return [slot, { required: true, ...(initial === undefined ? {} : { default: initial }) }];
      }),
    );
    const known = new Set(Object.keys(made));
    const tags = new Set(Object.values(made).flatMap((part) => part?.tags ?? []));
    const isKnown = (text: string) =>
      [...text.matchAll(/"(part|tag):([a-z-]+)"/g)].every(([, kind, id = ""]) =>
        (kind === "part" ? known : tags).has(id),
      );
    return {
      parts: made,
      slots,
      rules: rules.filter((each) => isKnown(JSON.stringify(each))),
      bodies: { plain: { carry: 3 }, tall: { carry: 5 } },
    };
  });

/** A world with its catalog, and what the slow judge says of everybody in it, worked out once. */
export interface KnownWorld {
  /** A property that fails shows the world, and not all that is known of it. */
  readonly [fc.toStringMethod]: () => string;
  readonly world: World;
  readonly catalog: Catalog;
  /** Everybody of a body with answers, by loadout, and what does not hold. */
  judged(body: string, answers?: Someone["facts"]): readonly Judged[];
  /** The defaults of required slots. */
  readonly defaults: Readonly<Record<string, string>>;
  /** The valid loadouts; the default of a required slot is among the choices only where it was chosen. */
  valid(body: string, answers?: Someone["facts"], chosen?: Someone["loadout"]): readonly Someone["loadout"][];
}

export interface Judged {
  readonly loadout: Someone["loadout"];
  readonly placesHold: boolean;
  readonly broken: readonly number[];
  /** Slots whose default is put on as if it were a choice. */
  readonly defaults: readonly string[];
}

export function knownWorld(world: World): KnownWorld {
  const kept = new Map<string, readonly Judged[]>();
  const asksFacts = JSON.stringify(world.rules).includes('"fact:');
  const defaults: Readonly<Record<string, string>> = Object.fromEntries(
    Object.entries(world.slots).flatMap(([slot, { required, default: initial }]) =>
      required === true && initial !== undefined ? [[slot, initial]] : [],
    ),
  );
  const judged: KnownWorld["judged"] = (body, answers = {}) => {
    const facts = asksFacts ? answers : {};
    const key = JSON.stringify([body, facts]);
    const known = kept.get(key);
    if (known !== undefined) return known;
    const made = everyLoadout(world, defaults).map((loadout) => ({
      loadout,
      placesHold: placesHoldSlowly(world, { body, loadout }),
      broken: brokenSlowly(world, { body, loadout, facts }),
      defaults: Object.keys(defaults).filter((slot) => loadout[slot] === defaults[slot]),
    }));
    kept.set(key, made);
    return made;
  };
  return {
    world,
    catalog: catalogOf(world),
    defaults,
    judged,
    [fc.toStringMethod]: () => JSON.stringify(world),
    valid: (body, answers, chosen = {}) =>
      judged(body, answers)
        .filter((each) => each.placesHold && each.broken.length === 0)
        .filter((each) => each.defaults.every((slot) => chosen[slot] === defaults[slot]))
        .map(({ loadout }) => loadout),
  };
}

/** Worlds that are the same in every run, so that nothing about one is worked out twice; in a long run, new ones each time. */
export const pool: readonly KnownWorld[] = fc
  .sample(generated, isLong ? { numRuns: 2_000, seed } : { numRuns: 140, seed: 20 })
  .map(knownWorld);

export const worlds: fc.Arbitrary<KnownWorld> = fc.constantFrom(...pool);

/** The catalog of a world. */
export function catalogOf({ parts, slots, rules, bodies }: World): Catalog {
  const layers = [{ image: "part.png", depth: 1 }];
  return smallCatalog({
    bodies: Object.fromEntries(Object.entries(bodies).map(([id, stats]) => [id, { rig: "rig", stats }])),
    slots: Object.fromEntries(Object.entries(slots).map(([id, slot]) => [id, { ...gear, ...slot }])),
    parts: Object.fromEntries(Object.entries(parts).map(([id, part]) => [id, { ...part, layers }])),
    stats: { weight: {}, carry: {} },
    rules,
  });
}

/** Any loadout of a world, by picking a part or nothing for each slot. */
export function loadoutIn({ parts, slots }: World, picks: readonly number[]): Record<string, string> {
  return Object.fromEntries(
    Object.keys(slots).flatMap((slot, at) => {
      const choices = Object.keys(parts).filter((id) => goesIn(parts[id], slot));
      const choice = choices[(picks[at] ?? 0) % (choices.length + 1)];
      return choice === undefined ? [] : [[slot, choice]];
    }),
  );
}
