import type { Stamped } from "./art.ts";

const mirrorless = { north: { rows: [], x: 0, y: 0 } };

/** Eyes: 0 lash, 1 dark iris, 2 iris, 3 white. */
export const eyeTones = [0x1a1420, 0x3c3c3c, 0x8c8c8c, 0xfaf6ee];

const eyes = (id: string, south: readonly string[], west: readonly string[], y = -1): Stamped => ({
  kind: "stamped",
  id,
  channel: "eyes",
  tones: eyeTones,
  stamps: { south: { rows: south, x: -5, y }, west: { rows: west, x: -6, y }, ...mirrorless },
});

export const eyeStamps: readonly Stamped[] = [
  eyes("eyes-round", ["000....000", "013....310", ".12....21.", ".22....22."], ["000..", "310..", "21...", "22..."]),
  eyes("eyes-narrow", ["00......00", ".000..000.", ".312..213."], ["00...", "000..", "213.."]),
  eyes("eyes-bright", ["0000..0000", "013....310", ".12....21."], ["0000.", "310..", "21..."]),
  eyes("eyes-sleepy", ["..........", "0000..0000", ".312..213.", "..22..22.."], [".....", "0000.", "213..", "22..."]),
];

const dark = [0x141414, 0x3c3c3c];

const brows = (id: string, south: readonly string[], west: readonly string[], y: number): Stamped => ({
  kind: "stamped",
  id,
  channel: "hair",
  tones: dark,
  stamps: { south: { rows: south, x: -5, y }, west: { rows: west, x: -6, y }, ...mirrorless },
});

export const browStamps: readonly Stamped[] = [
  brows("brows-soft", [".11....11."], [".11."], -4),
  brows("brows-heavy", ["0000..0000", "1........1"], ["0000", "...1"], -4),
  brows("brows-straight", ["111....111"], ["111."], -4),
  brows("brows-arched", [".11....11.", "1..1..1..1"], [".11.", "1..1"], -4),
];

/** Marks are drawn in a shadow of the skin or in paint. */
export const markStamps: readonly Stamped[] = [
  {
    kind: "stamped",
    id: "freckles",
    channel: "skin",
    tones: [0x141414, 0x3c3c3c, 0x6e6e6e],
    stamps: {
      south: { rows: ["2.2....2.2", ".2......2."], x: -5, y: 3 },
      west: { rows: ["2.2", ".2."], x: -6, y: 3 },
      ...mirrorless,
    },
  },
  {
    kind: "stamped",
    id: "old-scar",
    channel: "skin",
    tones: [0x141414, 0x3c3c3c, 0x6e6e6e],
    stamps: {
      south: { rows: [".......1..", ".......2..", "......1...", "......2..."], x: -5, y: 0 },
      west: { rows: ["..1", "..2", ".1.", ".2."], x: -5, y: 0 },
      ...mirrorless,
    },
  },
  {
    kind: "stamped",
    id: "tide-marks",
    tones: [0x2f6f8a, 0x58a6b8],
    stamps: {
      south: { rows: ["11......11", ".11....11."], x: -5, y: 3 },
      west: { rows: ["111", "11."], x: -5, y: 3 },
      ...mirrorless,
    },
  },
];

/** The mouth and nose that every body has: tones of the skin. */
export const mouth: Stamped = {
  kind: "stamped",
  id: "mouth",
  channel: "skin",
  tones: [0x141414, 0x3c3c3c, 0x6e6e6e],
  stamps: {
    south: { rows: ["....22....", "..........", "....11...."], x: -5, y: 3 },
    west: { rows: ["2...", "....", ".11."], x: -7, y: 3 },
    ...mirrorless,
  },
};
