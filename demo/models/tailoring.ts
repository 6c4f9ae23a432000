import type { Art } from "../art/art.ts";
import type { Figure } from "../art/figure.ts";
import { hatLine } from "../art/hair.ts";
import type { Piece } from "../art/render.ts";
import type { Follow } from "./weights.ts";

/** How a sculpted part becomes a mesh. */
export interface Tailoring {
  /** The point it hangs on, without bending; such a part is the same for all builds. */
  readonly attach?: string;
  /** The joints that a piece follows. */
  readonly follow: (piece: Piece, figure: Figure) => Follow;
  /** Where a part of it begins that others can hide: the hair under a hat. */
  readonly splitAt?: { readonly group: string; readonly isIn: (figure: Figure, y: number) => boolean };
  /** What of others is hidden while it is worn. */
  readonly hides?: readonly string[];
}

const rigid = (attach: string, more: Partial<Tailoring> = {}): Tailoring => ({
  attach,
  follow: () => ({ joints: ["head"], softness: 1 }),
  ...more,
});

const trunk = ["hips", "spine", "chest", "neck"];
const both = (...names: readonly string[]): readonly string[] => names.flatMap((name) => [`${name}.L`, `${name}.R`]);

const armOf = (end: string): Follow => ({
  joints: ["chest", `arm.${end}`, `forearm.${end}`, `hand.${end}`],
  softness: 0.9,
});
const legOf = (end: string): Follow => ({
  joints: ["hips", `thigh.${end}`, `shin.${end}`, `foot.${end}`],
  softness: 0.9,
});

/** What limbs follow, by the limb that a piece clothes. */
const limbs: Readonly<Record<string, Follow>> = {
  "arm-left": armOf("L"),
  "arm-right": armOf("R"),
  "leg-left": legOf("L"),
  "leg-right": legOf("R"),
};

const nearest: Follow = { joints: [...trunk, ...both("thigh", "shin")], softness: 0.9 };

const clothing = (rest: (figure: Figure) => Follow): Tailoring => ({
  // Belts have no limb: they follow what they are nearest to.
  follow: ({ limb = "" }, figure) => limbs[limb] ?? (limb === "" ? nearest : rest(figure)),
});

const onTrunk = clothing(() => ({ joints: trunk, softness: 1.6 }));

/** What hangs below the hips goes with the legs. @param below - how far down it goes from the middle of the pelvis. */
const skirted = (below: number): Tailoring =>
  clothing(({ pelvis }) => ({ joints: trunk, softness: 1.6, hem: pelvis.y - below }));

const onLegs: Tailoring = { follow: () => ({ joints: ["hips", ...both("thigh", "shin", "foot")], softness: 0.9 }) };
const onArms: Tailoring = { follow: () => ({ joints: both("arm", "forearm", "hand"), softness: 0.9 }) };

const onHead = rigid("crown");
const hair: Tailoring = rigid("crown", {
  splitAt: { group: "top", isIn: (figure, y) => y > hatLine(figure) + 1.6 },
});
const longHair: Tailoring = {
  ...hair,
  follow: () => ({ joints: ["head", "tail"], softness: 5 }),
};
const bendingHair: Tailoring = { follow: longHair.follow, ...(hair.splitAt && { splitAt: hair.splitAt }) };

const boots: Tailoring = { ...onLegs, hides: ["trousers/ankles"] };
const trousers: Tailoring = {
  ...onTrunk,
  splitAt: { group: "ankles", isIn: ({ knee, ankle }, y) => y < knee[0].y + (ankle[0].y - knee[0].y) * 0.4 },
};

const held = (point: string): Tailoring => rigid(point);

const special: Readonly<Record<string, Tailoring>> = {
  braid: bendingHair,
  mane: bendingHair,
  pigtails: bendingHair,
  smock: skirted(6),
  apron: skirted(10),
  oilskin: skirted(11),
  "quilted-jacket": skirted(3),
  "festival-coat": skirted(9),
  cape: { follow: () => ({ joints: ["chest", "neck", "drape"], softness: 3 }) },
  kilt: skirted(9.6),
  "long-trousers": trousers,
  "sea-boots": boots,
  "mud-boots": boots,
  satchel: { follow: () => ({ joints: [...trunk, "bag"], softness: 1.2 }) },
  "oar-left": held("shaft-left"),
  "oar-right": held("shaft-right"),
  "boathook-left": held("shaft-left"),
  "boathook-right": held("shaft-right"),
};

/** How the parts of a slot are tailored, where nothing else is said of one. */
const bySlot: Readonly<Record<string, Tailoring>> = {
  hair,
  beard: onHead,
  hat: onHead,
  neck: onTrunk,
  shirt: onTrunk,
  vest: onTrunk,
  chain: onTrunk,
  coat: onTrunk,
  trousers: onTrunk,
  boots: onLegs,
  gloves: onArms,
  back: onTrunk,
  "hand-left": held("hand-left"),
  "hand-right": held("hand-right"),
  "hood-up": { follow: () => ({ joints: ["head", "neck", "chest"], softness: 1.6 }) },
};

/** How a part is tailored that is worn in a slot. */
export function tailoringOf({ id }: Pick<Art, "id">, slot: string): Tailoring {
  return special[id] ?? bySlot[id] ?? bySlot[slot] ?? onTrunk;
}

/** How much finer than usual a part is kept. */
const details: Readonly<Record<string, number>> = {
  body: 2.2,
  hair: 1.3,
  beard: 1.6,
  hat: 3,
  boots: 1.8,
  chain: 3,
  gloves: 2,
  "hand-left": 2,
  "hand-right": 2,
};

export const detailOf = (slot: string): number => details[slot] ?? 1.2;

/** How wide the cells are that a part is meshed in, in pixels: fine for what is thin. */
export function cellOf(slot: string): number {
  if (slot === "chain" || slot.startsWith("hand-")) return 0.5;
  return slot === "hat" || slot === "neck" || slot === "back" ? 0.65 : 0.8;
}

/** How far around a place its direction is felt: wide for cloth, which is smooth, narrow for what is fine. */
export function reachOf(slot: string): number {
  if (slot === "head") return 2;
  return slot === "hair" || slot === "beard" || slot === "chain" || slot.startsWith("hand-") ? 0.3 : 0.6;
}
