/**
 * Zealous Mantle in scenes of Phaser 3.80 and 4: figures as sprites with animations of their own, all of them drawn from one shared
 * atlas.
 *
 * @module zealous-mantle/phaser
 */

export { DrawnFigure } from "./drawn-figure.ts";
export { type Figures, type FiguresOptions, figuresPlugin } from "./figures-plugin.ts";
export type { DrawnFigureOptions, PictureLoader } from "../shared/drawn.ts";
