import { MantleError } from "../base/problem.ts";

/** A place of a scene at which a figure can enter, or an object of the scene's that has a figure already. */
export interface Spawn {
  readonly x: number;
  readonly y: number;
  /** Which way the figure looks then. */
  readonly facing?: string;
  /** Only for those who come from here: another scene, a door. */
  readonly from?: string;
  /** Only for this seat. */
  readonly seat?: number;
}

export interface PlaceSeatsOptions {
  /** Where they come from, as the spawn points call it. */
  readonly from?: string;
}

/**
 * Finds where the figures of seats enter a scene.
 *
 * Spawn points for the seat and for where it comes from go first, then those for where it comes from, then those for the seat, then
 * those for anybody. Among equals it is the one with the fewest figures, and of those the first: nobody stands in another while
 * there is room.
 *
 * @param seats - in the order in which they choose.
 * @returns by seat, the very object out of `spawns`.
 * @throws MantleError `no-spawn` when there is none for a seat.
 * @example
 * const spawns = [{ x: 160, y: 90 }, { x: 8, y: 90, from: "marsh" }]
 * placeSeats([1], spawns, { from: "marsh" }) // → Map { 1 => { x: 8, y: 90, from: "marsh" } }
 */
export function placeSeats<S extends Spawn>(
  seats: Iterable<number>,
  spawns: readonly S[],
  { from }: PlaceSeatsOptions = {},
): ReadonlyMap<number, S> {
  const placed = new Map<number, S>();
  const figures = new Map<S, number>();
  for (const seat of seats) {
    const fitting = spawns.filter(
      (spawn) => (spawn.seat ?? seat) === seat && (spawn.from === undefined || spawn.from === from),
    );
    const rank = (spawn: S) => (spawn.from === undefined ? 0 : 2) + (spawn.seat === undefined ? 0 : 1);
    const count = (spawn: S) => figures.get(spawn) ?? 0;
    const [best] = fitting.sort((one, other) => rank(other) - rank(one) || count(one) - count(other));
    if (best === undefined)
      throw new MantleError(
        "no-spawn",
        `The scene has no spawn point for seat ${seat}${from === undefined ? "" : ` from "${from}"`}. Add one for anybody.`,
      );
    figures.set(best, count(best) + 1);
    placed.set(seat, best);
  }
  return placed;
}
