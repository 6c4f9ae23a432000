import { make } from "../shared/dom.ts";

/** A few things of which one is chosen. */
export function chips<Id extends string>(
  label: string,
  all: readonly { readonly id: Id; readonly text: string }[],
  chosen: Id,
  choose: (id: Id) => void,
): HTMLElement {
  const group = make(
    "div",
    { className: "chips" },
    ...all.map(({ id, text }) => {
      const button = make("button", { type: "button", textContent: text, onclick: () => choose(id) });
      button.setAttribute("aria-pressed", String(id === chosen));
      return button;
    }),
  );
  group.setAttribute("role", "group");
  group.setAttribute("aria-label", label);
  return group;
}
