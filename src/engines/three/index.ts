/**
 * Zealous Mantle in scenes of three: figures in three dimensions that change what they wear while they move, looks on figures that are
 * somebody else's, and drawn figures on planes.
 *
 * @module zealous-mantle/three
 */

export { applyLook, type ModelFigure, openModelFigure } from "./model-figure.ts";
export { openSeatFigure, type SeatFigure, type SeatFigureOptions } from "./seat-figure.ts";
export { openModelRenderer, type ModelRendererOptions, type ModelRenderer } from "./model-renderer.ts";
export type { Dressed } from "./dress.ts";
export { type LoadFile, ModelCache, type ModelCacheOptions } from "./model-cache.ts";
export { DrawnFigure, type PlaneFigureOptions } from "./drawn-figure.ts";
export { type Figures, type FiguresOptions, openFigures } from "./open-figures.ts";
export type { DrawnFigureOptions, PictureLoader } from "../shared/drawn.ts";
