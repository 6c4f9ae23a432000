import type { Art } from "./art.ts";
import { backArt, handArt } from "./carried.ts";
import { bootArt, chainArt, coatArt, gloveArt, shirtArt, trouserArt, vestArt } from "./clothes.ts";
import { browStamps, eyeStamps, markStamps } from "./faces.ts";
import { beardArt, hairArt } from "./hair.ts";
import { hatArt, neckArt } from "./hats.ts";

/** All that couriers wear and carry. */
export const wardrobe: readonly Art[] = [
  ...hairArt,
  ...browStamps,
  ...eyeStamps,
  ...markStamps,
  ...beardArt,
  ...hatArt,
  ...neckArt,
  ...shirtArt,
  ...vestArt,
  ...chainArt,
  ...coatArt,
  ...trouserArt,
  ...bootArt,
  ...gloveArt,
  ...backArt,
  ...handArt,
];
