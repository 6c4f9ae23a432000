import type { LitElement } from "lit";
import type {} from "./equipment-screen.ts";
import type {} from "./fitting-screen.ts";
import type {} from "./inspect.ts";
import type {} from "./option-cards.ts";
import type {} from "./roster-screen.ts";
import type {} from "./seats-screen.ts";
import type {} from "./stage.ts";
import type {} from "./steps-screen.ts";
import type { eventsOf } from "./typed-element.ts";

/** The keys of an element that can be set, and that not every element has. */
type OwnKeys<Element> = Extract<
  {
    [Key in Exclude<keyof Element, keyof LitElement>]: Element[Key] extends (...args: never) => unknown ? never : Key;
  }[Exclude<keyof Element, keyof LitElement>],
  string
>;

/** The events of an element, by their names. */
export type EventsOf<Element> = Element extends { readonly [eventsOf]?: infer Events } ? NonNullable<Events> : never;

/** The properties of an element, as they are set. */
export type PropertiesOf<Element> = { readonly [Key in OwnKeys<Element>]?: Element[Key] };

/** Listeners of the events of an element, as they are written in JSX: `onmantle-finish`. */
export type ListenersOf<Element> = {
  readonly [Name in keyof EventsOf<Element> & string as `on${Name}`]?: (event: EventsOf<Element>[Name]) => unknown;
};

/** What is written on an element in JSX: its properties, listeners of its events as `onmantle-finish`, and what is common to all. */
export type ElementProps<Element> = PropertiesOf<Element> &
  ListenersOf<Element> & {
    readonly id?: string;
    readonly class?: string;
    readonly slot?: string;
    readonly style?: unknown;
    readonly ref?: unknown;
    readonly key?: string | number;
    readonly children?: unknown;
  };

/** The elements, by their tags. */
export type MantleTags = Extract<keyof HTMLElementTagNameMap, `mantle-${string}`>;

/**
 * The elements for JSX, by their tags. React, Vue and Svelte know them by an import of `zealous-mantle/jsx/react`, `/vue` or `/svelte`; others by a declaration,
 * once:
 *
 * @example
 * declare module "preact" {
 *   namespace JSX {
 *     interface IntrinsicElements extends MantleElements {}
 *   }
 * }
 */
export type MantleElements = {
  readonly [Tag in MantleTags]: ElementProps<HTMLElementTagNameMap[Tag]>;
};
