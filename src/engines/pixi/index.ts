/**
 * Zealous Mantle in scenes of Pixi: figures as containers, all of them drawn from one shared atlas.
 *
 * @module zealous-mantle/pixi
 */

export { DrawnFigure } from "./drawn-figure.ts";
export { type Figures, type FiguresOptions, openFigures } from "./open-figures.ts";
export type { DrawnFigureOptions, PictureLoader } from "../shared/drawn.ts";
