/**
 * Zealous Mantle in scenes of three: figures that change what they wear while they move, and looks on figures that are somebody else's.
 *
 * @module zealous-mantle/three
 */

export { dressObject, type ModelFigure, openModelFigure } from "./model-figure.ts";
export { openSeatFigure, type SeatFigure, type SeatFigureOptions } from "./seat-figure.ts";
export { openSnapshots, type SnapshotOptions, type Snapshots } from "./snapshots.ts";
export type { Dressed } from "./dress.ts";
export { type LoadFile, Shelf, type ShelfOptions } from "./shelf.ts";
