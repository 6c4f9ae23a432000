import { readCatalog } from "zealous-mantle";
import { agree, type Row, sideBySide } from "../measure.ts";

const small = 1_000;
const times = 4;

/** Whoever writes a catalog may write more of any one thing than anyone needs; that must not cost its square. */
export const loadGrowth: Row = {
  name: "load-growth",
  work: "readCatalog of eight catalogs that have four thousand of one thing",
  against: "four times the same of a thousand",
  unit: "ms",
  goal: { atMost: 1.5 },
  async measure() {
    const [smaller, larger] = [small, small * times].map((count) => cases.map((make) => catalogOf(make(count))));
    for (const source of [...(smaller ?? []), ...(larger ?? [])]) {
      const { catalog, problems } = readCatalog(source);
      agree(catalog !== undefined, `a catalog is refused: ${problems[0]?.code}`);
    }
    const pair = await sideBySide(
      { run: () => larger?.map((source) => readCatalog(source)), times: 1 },
      { run: () => smaller?.map((source) => readCatalog(source)), times: 2 },
      15,
    );
    return { ours: pair.ours, theirs: pair.theirs * times };
  },
};

const rig = {
  frame: { width: 4, height: 4 },
  origin: [2, 4],
  facings: ["south"],
  animations: { idle: { frames: 1, fps: 1 } },
};

function catalogOf(sections: object): object {
  const bodies = { plain: { rig: "rig" } };
  return { mantle: "catalog/1", id: "grown", version: "1", rigs: { rig }, bodies, ...sections };
}

function many(count: number, make: (at: number) => unknown): Readonly<Record<string, unknown>> {
  return Object.fromEntries(Array.from({ length: count }, (_, at) => [`x-${at}`, make(at)]));
}

function ids(count: number): readonly string[] {
  return Array.from({ length: count }, (_, at) => `x-${at}`);
}

const gear = { kind: "gear" };

/** Each makes the sections of a catalog that has so many of something. */
const cases: readonly ((count: number) => object)[] = [
  (count) => ({ bodies: many(count, (at) => (at % 30 === 0 ? { rig: "rig" } : { extends: `x-${at - 1}` })) }),
  (count) => ({ slots: many(count, () => gear), parts: { all: { slot: "x-0", occupies: ids(count).slice(1) } } }),
  (count) => ({
    slots: { hat: gear },
    parts: many(10, () => ({ slot: "hat" })),
    rules: Array.from({ length: count }, (_, at) => ({
      never: ["part:x-1", `part:x-${(at % 8) + 2}`],
      then: "refuse",
    })),
  }),
  (count) => ({
    cues: Array.from({ length: count }, (_, at) => ({
      on: `x-${at}`,
      do: [at === count - 1 ? { fact: "over", value: "yes" } : { raise: `x-${at + 1}` }],
    })),
  }),
  (count) => ({
    creation: {
      start: "x-0",
      steps: many(count, (at) => ({ ask: "name", ...(at === count - 1 ? {} : { next: `x-${at + 1}` }) })),
    },
  }),
  (count) => ({
    rigs: {
      rig: {
        ...rig,
        points: { frames: many(count, () => ({ idle: { south: [1, 1] } })) },
        twins: Array.from({ length: count / 2 }, (_, at) => [`x-${2 * at}`, `x-${2 * at + 1}`]),
      },
    },
  }),
  (count) => ({
    bodies: { plain: { rig: "rig", art: Array.from({ length: count }, () => ({ image: "a.png", depth: 0 })) } },
  }),
  (count) => ({
    slots: many(count, () => gear),
    parts: many(count, (at) => ({ slot: `x-${at}` })),
    outfits: { all: { parts: ids(count) } },
  }),
];
