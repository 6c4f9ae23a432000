/**
 * The elements in React (19 or newer): their properties and events are known in JSX once this is imported anywhere.
 *
 * @example
 * import "zealous-mantle/jsx/react"
 * <mantle-fitting fitting={fitting} loader={loader} onmantle-finish={({ character }) => keep(character)} />
 *
 * @module zealous-mantle/jsx/react
 */
import type {} from "react";
import type { MantleElements } from "../elements/jsx.ts";

declare module "react" {
  namespace JSX {
    interface IntrinsicElements extends MantleElements {}
  }
}
