import type { Device, Direction, Wish } from "./intent.ts";

/** The buttons of the standard layout (W3C Gamepad, "Remapping"), by number. */
const buttons: Readonly<Record<number, Wish>> = {
  0: { kind: "choose" },
  1: { kind: "leave" },
  2: { kind: "undo" },
  3: { kind: "redo" },
  4: { kind: "leaf", by: -1 },
  5: { kind: "leaf", by: 1 },
  6: { kind: "turn", by: -1 },
  7: { kind: "turn", by: 1 },
  12: { kind: "go", way: "up" },
  13: { kind: "go", way: "down" },
  14: { kind: "go", way: "left" },
  15: { kind: "go", way: "right" },
};

/** Milliseconds until what is held is repeated, first and then. */
const firstRepeat = 400;
const laterRepeat = 120;
/** How far a stick leans before it counts, 0 to 1. */
const leaning = 0.6;

/** Watches gamepads from frame to frame. */
export interface GamepadWatch {
  /** What players began to ask for, or go on asking for, since the last call. @param now - in milliseconds. */
  poll(now: number): readonly { readonly wish: Wish; readonly device: Device }[];
}

/** What is held down as this watch begins is ignored: a button that opened a screen does not press in it. */
export function watchGamepads(): GamepadWatch {
  /** By gamepad and what is held: when it is repeated. */
  const held = new Map<string, number>();
  const watch: GamepadWatch = {
    poll(now) {
      const made: { wish: Wish; device: Device }[] = [];
      const still = new Set<string>();
      for (const gamepad of navigator.getGamepads()) {
        if (!gamepad?.connected) continue;
        for (const wish of wishesOf(gamepad)) {
          const key = `${gamepad.index} ${JSON.stringify(wish)}`;
          still.add(key);
          const due = held.get(key);
          if (due === undefined || now >= due) {
            made.push({ wish, device: `gamepad-${gamepad.index}` });
            const repeats = wish.kind === "go" || wish.kind === "turn";
            held.set(key, repeats ? now + (due === undefined ? firstRepeat : laterRepeat) : Number.POSITIVE_INFINITY);
          }
        }
      }
      for (const key of held.keys()) if (!still.has(key)) held.delete(key);
      return made;
    },
  };
  watch.poll(0);
  for (const key of held.keys()) held.set(key, Number.POSITIVE_INFINITY);
  return watch;
}

/** What a gamepad asks for at this moment: its buttons, and its stick where it leans. */
export function wishesOf({ buttons: pressed, axes }: Gamepad): readonly Wish[] {
  const wishes = new Map<string, Wish>();
  const add = (wish: Wish | undefined) => wish && wishes.set(JSON.stringify(wish), wish);
  for (const [number, button] of pressed.entries()) if (button.pressed) add(buttons[number]);
  const lean = (value: number | undefined, before: Direction, after: Direction) => {
    if (value === undefined || Math.abs(value) < leaning) return;
    add({ kind: "go", way: value < 0 ? before : after });
  };
  lean(axes[0], "left", "right");
  lean(axes[1], "up", "down");
  return [...wishes.values()];
}
