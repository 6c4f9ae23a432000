/** The element with an id; its absence is a mistake in the page. */
export function byId<E extends HTMLElement>(id: string, kind: new () => E): E {
  const element = document.getElementById(id);
  if (element instanceof kind) return element;
  throw new Error(`The page has no ${kind.name} with id "${id}"`);
}

/** Makes an element with properties and children. */
export function make<K extends keyof HTMLElementTagNameMap>(
  tag: K,
  properties: Partial<HTMLElementTagNameMap[K]> = {},
  ...children: readonly (Node | string)[]
): HTMLElementTagNameMap[K] {
  const element = Object.assign(document.createElement(tag), properties);
  element.append(...children);
  return element;
}

/** The drawing context of a canvas. */
export function contextOf(canvas: HTMLCanvasElement): CanvasRenderingContext2D {
  const context = canvas.getContext("2d", { willReadFrequently: true });
  if (context === null) throw new Error("This browser cannot draw on a canvas");
  return context;
}
