import type { Figure } from "./figure.ts";
import type { Piece } from "./render.ts";

/** A part as it is sculpted: pieces hung on a posed figure. */
export interface Sculpted {
  readonly kind: "sculpted";
  readonly id: string;
  readonly pieces: (figure: Figure) => readonly Piece[];
  /**
   * What splits it into the half before and the half behind: the bare body, or the body with arms as thick as sleeves, so that
   * a waistcoat never covers the edge of the shirt's arm in front of it.
   */
  readonly against: "bare" | "sleeved";
  /** The builds it is made for; all when left out. */
  readonly builds?: readonly string[];
  /** The height above the ground from which its pixels go into a picture of their own, which a hat can hide. */
  readonly topFrom?: (figure: Figure) => number;
  /** Drawn once for each facing, to be pinned to the crown, since it moves with the head and does not change. */
  readonly isStill?: boolean;
}

/** A part drawn pixel by pixel on the head, once, for each facing: digits are tones, `.` is nothing. */
export interface Stamped {
  readonly kind: "stamped";
  readonly id: string;
  readonly channel?: string;
  readonly tones: readonly number[];
  /** The rows of the stamp, and where its upper left corner lies from the middle of the head, in pixels. */
  readonly stamps: Readonly<
    Record<string, { readonly rows: readonly string[]; readonly x: number; readonly y: number }>
  >;
}

export type Art = Sculpted | Stamped;

/** A sculpted part; split against the bare body unless it says otherwise. */
export function sculpted(id: string, pieces: Sculpted["pieces"], against: Sculpted["against"] = "bare"): Sculpted {
  return { kind: "sculpted", id, against, pieces };
}
