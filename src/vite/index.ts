/**
 * Zealous Mantle with Vite: catalogs are served with every change while a game is made, and copied into what is built.
 *
 * @module zealous-mantle/vite
 */

export { serveCatalogs } from "./serve-catalogs.ts";
