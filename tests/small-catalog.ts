import { type Catalog, readCatalog } from "zealous-mantle";
import { described } from "./in-words.ts";

type Json = Record<string, unknown>;

/** The content of a small, valid `catalog.json`; each section given takes the place of the one here. */
export function smallSource(sections: Json = {}): Json {
  return {
    mantle: "catalog/1",
    id: "small",
    version: "1",
    rigs: {
      rig: {
        frame: { width: 4, height: 4 },
        origin: [2, 4],
        facings: ["south", "west", { id: "east", mirror: "west" }],
        animations: { idle: { frames: 2, fps: 2 }, walk: { frames: 4, fps: 8 } },
      },
    },
    bodies: { plain: { rig: "rig", art: [{ image: "{body}.png", depth: 0 }] } },
    ...sections,
  };
}

/** Reads a small catalog that must be valid. */
export function smallCatalog(sections: Json = {}): Catalog {
  const { catalog, problems } = readCatalog(smallSource(sections));
  if (catalog === undefined) throw new Error(problems.map(described).join("\n"));
  return catalog;
}

/** A part with one layer. */
export function part(slot: string | readonly string[], more: Json = {}): Json {
  return { slot, layers: [{ image: "part.png", depth: 10 }], ...more };
}

export const gear = { kind: "gear" };
export const appearance = { kind: "appearance" };
