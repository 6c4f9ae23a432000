import type { Sculpted } from "../art/art.ts";
import type { Figure } from "../art/figure.ts";
import type { Piece } from "../art/render.ts";
import { sculptedHats } from "./brims.ts";
import { sculptedCoats } from "./coats.ts";
import { sculptedGloves } from "./hands.ts";
import { sculptedHair } from "./locks.ts";

/** How a part is sculpted where one can walk around it: of the pieces that the pictures have. */
export type Resculpt = (figure: Figure, pieces: readonly Piece[]) => readonly Piece[];

const resculpted: Readonly<Record<string, Resculpt>> = {
  ...sculptedHair,
  ...sculptedHats,
  ...sculptedCoats,
  ...sculptedGloves,
};

/** The pieces of a part as they are meshed: those of the pictures, but where one can see what pictures do not show. */
export function sculpted3d(art: Sculpted, figure: Figure): readonly Piece[] {
  const pieces = art.pieces(figure);
  return resculpted[art.id]?.(figure, pieces) ?? pieces;
}
