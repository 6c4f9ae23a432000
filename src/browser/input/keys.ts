import type { Wish } from "./intent.ts";

const wishes: Readonly<Record<string, Wish>> = {
  ArrowLeft: { kind: "go", way: "left" },
  ArrowRight: { kind: "go", way: "right" },
  ArrowUp: { kind: "go", way: "up" },
  ArrowDown: { kind: "go", way: "down" },
  Escape: { kind: "leave" },
  ",": { kind: "turn", by: -1 },
  ".": { kind: "turn", by: 1 },
  PageUp: { kind: "leaf", by: -1 },
  PageDown: { kind: "leaf", by: 1 },
};

/** What a key asks for; `undefined` when it is the page's, or is writing text. */
export function wishOfKey(event: KeyboardEvent, focused: Element | undefined): Wish | undefined {
  if (event.isComposing || event.altKey) return undefined;
  const isWriting = focused !== undefined && writesText(focused);
  if (event.ctrlKey || event.metaKey) {
    const key = event.key.toLowerCase();
    if (isWriting || (key !== "z" && key !== "y")) return undefined;
    return { kind: key === "y" || event.shiftKey ? "redo" : "undo" };
  }
  const wish = Object.hasOwn(wishes, event.key) ? wishes[event.key] : undefined;
  if (wish === undefined || !isWriting) return wish;
  const leavesText = wish.kind === "leave" || (wish.kind === "go" && (wish.way === "up" || wish.way === "down"));
  return leavesText ? wish : undefined;
}

function writesText(element: Element): boolean {
  return element.matches(
    "input:not([type=button], [type=checkbox], [type=radio]), textarea, select, [contenteditable]",
  );
}
