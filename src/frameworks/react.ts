/**
 * The elements in React (19 or newer): their properties and events, and what every element takes, are known in JSX once this is imported anywhere.
 * TypeScript takes any attribute with a hyphen, so a misspelt `onmantle-…` compiles: `listeners` refuses it.
 *
 * @example
 * import { listeners } from "zealous-mantle/jsx/react"
 * <mantle-fitting className="wardrobe" fitting={fitting} loader={loader} {...listeners("mantle-fitting", { "mantle-finish": ({ character }) => keep(character) })} />
 *
 * @module zealous-mantle/jsx/react
 */
import type { HTMLAttributes, RefAttributes } from "react";
import type { EventsOf, ListenersOf, MantleTags, PropertiesOf } from "../elements/jsx.ts";

type Attributes<Element> = Omit<HTMLAttributes<Element> & RefAttributes<Element>, keyof PropertiesOf<Element>>;

/** The elements, by their tags. */
export type ReactElements = {
  readonly [Tag in MantleTags]: PropertiesOf<HTMLElementTagNameMap[Tag]> &
    ListenersOf<HTMLElementTagNameMap[Tag]> &
    Attributes<HTMLElementTagNameMap[Tag]> & { readonly class?: string };
};

declare module "react" {
  namespace JSX {
    interface IntrinsicElements extends ReactElements {}
  }
}

/**
 * Listeners of the events of an element, as its attributes in JSX.
 *
 * @param _tag - the element whose events they are, for the compiler.
 * @param given - a function for each event, by its name.
 */
export function listeners<Tag extends MantleTags>(
  _tag: Tag,
  given: {
    readonly [Name in keyof EventsOf<HTMLElementTagNameMap[Tag]>]?: (
      event: EventsOf<HTMLElementTagNameMap[Tag]>[Name],
    ) => unknown;
  },
): ListenersOf<HTMLElementTagNameMap[Tag]> {
  return Object.fromEntries(Object.entries(given).map(([name, listener]) => [`on${name}`, listener])) as ListenersOf<
    HTMLElementTagNameMap[Tag]
  >;
}
