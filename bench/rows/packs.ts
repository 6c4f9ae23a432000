import { mergePacks, type PackFiles, readCatalog } from "zealous-mantle";
import { compareSources, mergedSources } from "zealous-mantle/authoring";
import { agree, type Row, sideBySide } from "../measure.ts";

const slots = 20;
const inCatalog = 1_000;
const inPack = 1_000;
const packs = 5;

/** Whoever loads several large packs pays for what they hold, and not for each of them as often as there are others. */
export const packsRow: Row = {
  name: "packs",
  work: "five packs of 1,000 parts laid over a catalog of 1,000, each changing a hundred of its parts",
  against: "readCatalog of the same 6,000 parts in one catalog",
  unit: "ms",
  goal: { atMost: 2 },
  async measure() {
    const all = Array.from({ length: packs }, (_, number) => packOf(number));
    const lay = () => readCatalog(catalog, {}, { packs: mergePacks(all) });
    const flat = mergedSources([catalog], mergePacks(all))[0] as object;
    const read = () => readCatalog(flat);
    const [laid, plain] = [lay(), read()];
    agree(laid.problems.length + plain.problems.length === 0, `a problem: ${laid.problems[0]?.code}`);
    const listed = ({ catalog: made }: typeof laid) =>
      JSON.stringify([...(made?.parts.values() ?? [])].map(({ id, price, tags }) => [id, price, tags]));
    agree(listed(laid) === listed(plain), "other parts");
    agree(laid.catalog?.rules.length === plain.catalog?.rules.length, "another number of rules");
    agree(compareSources([flat], mergedSources([catalog], mergePacks(all))).length === 0, "another catalog");
    return sideBySide({ run: lay, times: 1 }, { run: read, times: 1 }, 21);
  },
};

function part(slot: number, art: string): object {
  return {
    slot: `slot-${slot}`,
    tags: [`tag-${slot}`],
    gives: { weight: 1 },
    layers: [{ image: `art/{body}/${art}.png`, depth: 10 }],
    price: slot,
  };
}

function partsOf(count: number, prefix: string): Readonly<Record<string, object>> {
  return Object.fromEntries(
    Array.from({ length: count }, (_, at) => [`${prefix}part-${at}`, part(at % slots, `part-${at}`)]),
  );
}

const catalog = {
  mantle: "catalog/1",
  id: "large",
  version: "1",
  rigs: {
    rig: {
      frame: { width: 8, height: 8 },
      origin: [4, 8],
      facings: ["south"],
      animations: { idle: { frames: 1, fps: 1 } },
    },
  },
  bodies: { plain: { rig: "rig" } },
  slots: Object.fromEntries(Array.from({ length: slots }, (_, at) => [`slot-${at}`, { kind: "gear" }])),
  parts: partsOf(inCatalog, ""),
  rules: [{ never: ["tag:tag-1", "tag:tag-2"] }],
};

/** A pack with parts of its own, a rule, and changes of a hundred parts that no other pack changes. */
function packOf(number: number): PackFiles {
  const id = `pack-${number}`;
  const changed = Array.from({ length: 100 }, (_, at) => [
    `part-${number * 100 + at}`,
    { price: 99, tags: { add: [`${id}-tag`] } },
  ]);
  return {
    source: {
      mantle: "pack/1",
      id,
      version: "1",
      over: "large",
      parts: partsOf(inPack, `${id}.`),
      rules: [{ never: [`tag:${id}-tag`, `part:${id}.part-${number + 3}`] }],
      changes: { parts: Object.fromEntries(changed) },
    },
  };
}
