import { EventQueue } from "../../core/base/event-queue.ts";
import { wishesOf } from "./gamepads.ts";
import type { Direction } from "./intent.ts";
import { capturingScreen } from "./open-input.ts";

/** What a player does with a device in play. */
export type Action = Direction | "act" | "back";

/** The keys of one player at a shared keyboard: by action, as `KeyboardEvent.code` names them, so that they lie together on every layout. */
export interface KeyBinding {
  /** What the keys are called on a screen, and what the one that acts is. */
  readonly title: string;
  readonly actTitle: string;
  readonly keys: Readonly<Record<Action, string>>;
}

/** Four sets that do not get into each other's way. */
export const keyBindings = {
  "keys-arrows": {
    title: "Arrows",
    actTitle: "Enter",
    keys: {
      up: "ArrowUp",
      left: "ArrowLeft",
      down: "ArrowDown",
      right: "ArrowRight",
      act: "Enter",
      back: "Backspace",
    },
  },
  "keys-wasd": {
    title: "W A S D",
    actTitle: "E",
    keys: { up: "KeyW", left: "KeyA", down: "KeyS", right: "KeyD", act: "KeyE", back: "KeyQ" },
  },
  "keys-ijkl": {
    title: "I J K L",
    actTitle: "O",
    keys: { up: "KeyI", left: "KeyJ", down: "KeyK", right: "KeyL", act: "KeyO", back: "KeyU" },
  },
  "keys-numpad": {
    title: "Num 8 4 5 6",
    actTitle: "Num 0",
    keys: {
      up: "Numpad8",
      left: "Numpad4",
      down: "Numpad5",
      right: "Numpad6",
      act: "Numpad0",
      back: "NumpadDecimal",
    },
  },
} as const satisfies Readonly<Record<string, KeyBinding>>;

/** A player pressed something, once for however long it is held. */
export interface Press {
  readonly device: string;
  readonly action: Action;
}

/** A press on its way through the listeners. */
interface Pressed {
  readonly press: Press;
  isTaken: boolean;
}

/** The devices of players who play in one place. */
export interface Controls {
  /** Whether a device holds something down now. */
  isDown(device: string, action: Action): boolean;
  /** Calls a listener at each press. A key for which any listener returns `true` goes no further. Returns what ends that. */
  on(event: "press", listener: (press: Press) => boolean): () => void;
  /** The key sets it listens to, by the name of the device each is. */
  readonly keys: Readonly<Record<string, KeyBinding>>;
  /** What a device is called on a screen. */
  titleOf(device: string): string;
  /** Ignores keys and pads. */
  close(): void;
}

export interface ControlsOptions {
  /** The key sets, by the name of the device each is. @defaultValue `keyBindings` */
  readonly keys?: Readonly<Record<string, KeyBinding>>;
  /** The screen that these devices are for: while it has taken the input, they are read. */
  readonly screen?: Element;
}

/**
 * Listens to several players at once: each key set and each gamepad is a device of its own. Gamepads are `gamepad-0` and so on; a stick
 * is leaned as the cross is pressed. While a screen has taken the input, nothing is pressed here and nothing is down. Where a button or a link has the
 * focus, Enter and the space bar are its own.
 *
 * @example
 * const controls = openControls()
 * controls.on("press", ({ device, action }) => action === "act" && session.seatOf(device) === undefined && session.join(device) !== undefined)
 */
export function openControls({ keys = keyBindings, screen }: ControlsOptions = {}): Controls {
  return new PlayerControls(keys, screen);
}

class PlayerControls implements Controls {
  readonly keys: Readonly<Record<string, KeyBinding>>;
  readonly #queue = new EventQueue<{ press: Pressed }>();
  /** By the code of a key, what a press of it is. */
  readonly #presses: ReadonlyMap<string, Press>;
  readonly #down = new Set<string>();
  /** Of what is down, what a listener took; held on, it goes no further either. */
  readonly #taken = new Set<string>();
  readonly #stops = new AbortController();
  readonly #screen: Element | undefined;
  #frame = 0;

  constructor(keys: Readonly<Record<string, KeyBinding>>, screen: Element | undefined) {
    this.keys = keys;
    this.#screen = screen;
    this.#presses = pressesByCode(keys);
    const { signal } = this.#stops;
    addEventListener("keydown", (event) => this.#keyDown(event), { capture: true, signal });
    addEventListener("keyup", (event) => this.#keyUp(event), { capture: true, signal });
    addEventListener("blur", () => this.#down.clear(), { signal });
    // What a pad holds when this begins was not pressed here: a button that opened a screen does not press in it.
    this.#readPads();
    this.#watchPads();
  }

  isDown(device: string, action: Action): boolean {
    return !this.#isCaptured && this.#down.has(keyOf({ device, action }));
  }

  on(event: "press", listener: (press: Press) => boolean): () => void {
    return this.#queue.on(event, (pressed) => {
      if (listener(pressed.press)) pressed.isTaken = true;
    });
  }

  titleOf(device: string): string {
    const known = this.keys[device];
    const pad = /^gamepad-(\d+)$/.exec(device)?.[1];
    if (known !== undefined) return `${known.title}, ${known.actTitle}`;
    return pad === undefined ? device : `Gamepad ${Number(pad) + 1}`;
  }

  close(): void {
    this.#stops.abort();
    cancelAnimationFrame(this.#frame);
    this.#queue.clear();
    this.#down.clear();
  }

  /** Whether another screen than that of these devices has taken the input. */
  get #isCaptured(): boolean {
    const screen = capturingScreen();
    return screen !== undefined && screen !== this.#screen;
  }

  /** Emits a press. Returns whether a listener took it. */
  #emit(press: Press): boolean {
    const pressed: Pressed = { press, isTaken: false };
    this.#queue.emit("press", pressed);
    return pressed.isTaken;
  }

  #keyDown(event: KeyboardEvent): void {
    const press = this.#presses.get(event.code);
    if (press === undefined || this.#isCaptured || isForPage(event)) return;
    const key = keyOf(press);
    if (!this.#down.has(key) && !event.repeat) {
      if (this.#emit(press)) this.#taken.add(key);
      else this.#taken.delete(key);
    }
    this.#down.add(key);
    if (!this.#taken.has(key)) return;
    event.preventDefault();
    event.stopImmediatePropagation();
  }

  #keyUp({ code }: KeyboardEvent): void {
    const press = this.#presses.get(code);
    if (press !== undefined) this.#down.delete(keyOf(press));
  }

  #watchPads(): void {
    this.#frame = requestAnimationFrame(() => {
      this.#watchPads();
      // A screen that the first press opened takes the rest.
      for (const press of this.#readPads()) if (!this.#isCaptured) this.#emit(press);
    });
  }

  /** Notes what pads hold down now. Returns what they did not hold before. */
  #readPads(): readonly Press[] {
    const isCaptured = this.#isCaptured;
    if (isCaptured) this.#down.clear();
    const before = new Set([...this.#down].filter((key) => key.startsWith("gamepad-")));
    for (const key of before) this.#down.delete(key);
    const held = pressesOfPads();
    for (const press of held) this.#down.add(keyOf(press));
    return isCaptured ? [] : held.filter((press) => !before.has(keyOf(press)));
  }
}

function pressesByCode(keys: Readonly<Record<string, KeyBinding>>): ReadonlyMap<string, Press> {
  const presses = new Map<string, Press>();
  for (const [device, { keys: codes }] of Object.entries(keys))
    for (const action of Object.keys(codes).filter(isAction)) presses.set(codes[action], { device, action });
  return presses;
}

function pressesOfPads(): readonly Press[] {
  return navigator.getGamepads().flatMap((gamepad) => {
    if (!gamepad?.connected) return [];
    return actionsOf(gamepad).map((action) => ({ device: `gamepad-${gamepad.index}`, action }));
  });
}

function keyOf({ device, action }: Press): string {
  return `${device} ${action}`;
}

const all: readonly string[] = ["up", "down", "left", "right", "act", "back"];

function isAction(name: string): name is Action {
  return all.includes(name);
}

/** Whether a key is the page's: it writes text there, presses what has the focus, or is a shortcut of the browser's. */
function isForPage(event: KeyboardEvent): boolean {
  const [target] = event.composedPath();
  const isOn = (selector: string) => target instanceof Element && target.matches(selector);
  const isWriting = isOn("input, textarea, select, [contenteditable]");
  const isPressing = (event.key === "Enter" || event.key === " ") && isOn("button, a[href], summary, [role=button]");
  return isWriting || isPressing || event.ctrlKey || event.metaKey || event.altKey || event.isComposing;
}

function actionsOf(gamepad: Gamepad): readonly Action[] {
  return wishesOf(gamepad).flatMap((wish): readonly Action[] => {
    if (wish.kind === "go") return [wish.way];
    if (wish.kind === "choose") return ["act"];
    return wish.kind === "leave" ? ["back"] : [];
  });
}
