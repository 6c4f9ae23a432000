import type { LitElement } from "lit";

/** The keys of an element that can be set, and that not every element has. */
type OwnKeys<Element> = {
  [Key in Exclude<keyof Element, keyof LitElement>]: Element[Key] extends (...args: never) => unknown ? never : Key;
}[Exclude<keyof Element, keyof LitElement>];

/** What is written on an element in JSX: its properties, listeners of its events as `onmantle-finish`, and what is common to all. */
export type ElementProps<Element> = { readonly [Key in OwnKeys<Element>]?: Element[Key] } & {
  readonly [Listener in `onmantle-${string}`]?: (event: never) => unknown;
} & {
  readonly id?: string;
  readonly class?: string;
  readonly slot?: string;
  readonly style?: unknown;
  readonly ref?: unknown;
  readonly key?: string | number;
  readonly children?: unknown;
};

/**
 * The elements for JSX, by their tags. They are made known to a framework once:
 *
 * @example
 * declare module "react" {
 *   namespace JSX {
 *     interface IntrinsicElements extends MantleElements {}
 *   }
 * }
 */
export type MantleElements = {
  readonly [Tag in Extract<keyof HTMLElementTagNameMap, `mantle-${string}`>]: ElementProps<HTMLElementTagNameMap[Tag]>;
};
