/**
 * The elements in Svelte (5): their properties and events are known in components once this is imported anywhere.
 *
 * @example
 * import "zealous-mantle/jsx/svelte"
 * <mantle-fitting {fitting} {loader} onmantle-finish={({ character }) => keep(character)}></mantle-fitting>
 *
 * @module zealous-mantle/jsx/svelte
 */
import type {} from "svelte/elements";
import type { MantleElements } from "../elements/jsx.ts";

declare module "svelte/elements" {
  interface SvelteHTMLElements extends MantleElements {}
}
