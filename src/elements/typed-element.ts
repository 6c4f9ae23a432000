import { LitElement } from "lit";

declare global {
  var litIssuedWarnings: Set<string> | undefined;
}

// Whoever makes a game with Lit in it knows no Lit: the notice that it is in development mode would be on every console.
globalThis.litIssuedWarnings ??= new Set();
globalThis.litIssuedWarnings.add("dev-mode");

/** For the compiler alone: the events of an element. */
export declare const eventsOf: unique symbol;

/**
 * An element whose own events are known to the compiler: on it, and on no other element of the page.
 *
 * @typeParam Events - what is dispatched, by the name of the event.
 */
export abstract class TypedElement<Events extends object> extends LitElement {
  declare readonly [eventsOf]?: Events;

  override addEventListener<Name extends keyof Events & string>(
    type: Name,
    listener: (event: Events[Name] & Event) => unknown,
    options?: boolean | AddEventListenerOptions,
  ): void;
  override addEventListener<Name extends keyof HTMLElementEventMap>(
    type: Name,
    listener: (event: HTMLElementEventMap[Name]) => unknown,
    options?: boolean | AddEventListenerOptions,
  ): void;
  override addEventListener(
    type: string,
    listener: EventListenerOrEventListenerObject,
    options?: boolean | AddEventListenerOptions,
  ): void;
  override addEventListener(type: string, listener: unknown, options?: boolean | AddEventListenerOptions): void {
    super.addEventListener(type, listener as EventListenerOrEventListenerObject, options);
  }
}
