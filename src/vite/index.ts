/** Zealous Mantle with Vite: catalogs are served with every change while a game is made, and copied into what is built. */

export { serveCatalogs } from "./serve-catalogs.ts";
