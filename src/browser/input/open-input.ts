import { focusedElement, isWithin, moveFocus, moveToGroup, tabbableIn } from "./focus.ts";
import { type GamepadWatch, watchGamepads } from "./gamepads.ts";
import { type Device, type Intent, IntentEvent, type Wish } from "./intent.ts";
import { wishOfKey } from "./keys.ts";

export interface InputOptions {
  /**
   * Takes the input from the game: keys and pads are this screen's alone, the focus stays inside, and the pointer is shown. All
   * of it is given back when the input is closed.
   *
   * @defaultValue `false`: keys count while the focus is inside, and go on to the page.
   */
  readonly exclusive?: boolean;
  /** Whether gamepads are read; not where each belongs to a player of its own. @defaultValue `true` */
  readonly pads?: boolean;
  /** Called with every intent, before anything else is. */
  readonly onIntent?: (intent: Intent) => void;
  /** The player wants out: Escape, or the pad's second button, where nothing inside took it. */
  readonly onLeave?: () => void;
}

/** The input of an open screen. */
export interface Input {
  readonly isOpen: boolean;
  /** Gives everything back: keys, focus, pointer. Does nothing when it is closed already. */
  close(): void;
}

/** Screens that took the input, the last on top. */
const takers: Element[] = [];

/** Whether a screen has taken the input, so that a game that polls keys or pads ignores them. */
export function isInputCaptured(): boolean {
  return takers.length > 0;
}

/** The screen that has the input now. */
export function capturingScreen(): Element | undefined {
  return takers.at(-1);
}

/** Pixels that a finger or a mouse goes across something that turns, for each turn. */
const turnTravel = 28;

/**
 * Listens for what players want of a screen, and emits it as one stream of intents: keyboard, mouse, touch and gamepads alike.
 *
 * An intent goes as an event to what has the focus. Where nobody takes care of it, `go` moves the focus that way, `leaf` to the
 * next group of controls (`data-group`), `choose` presses what has the focus, and `leave` calls `onLeave`. A drag across an element with
 * `data-turns` is `turn`.
 *
 * @param root - the screen. When it is removed from the page, the input closes by itself.
 * @example
 * const input = openInput(screen, { exclusive: true, onLeave: () => screen.remove() })
 */
export function openInput(root: HTMLElement, options: InputOptions = {}): Input {
  const stops = new AbortController();
  const { signal } = stops;
  const screen: Screen = { root, options, device: "keyboard" };
  const giveBack = options.exclusive === true ? takeOver(root, signal) : () => {};
  const gamepads = watchGamepads();
  let frame = 0;
  const close = () => {
    if (signal.aborted) return;
    stops.abort();
    cancelAnimationFrame(frame);
    giveBack();
  };
  const watch = (now: number) => {
    if (!root.isConnected) {
      close();
      return;
    }
    frame = requestAnimationFrame(watch);
    if (options.pads !== false) readPads(screen, gamepads, now);
  };
  addEventListener("keydown", (event) => keyDown(screen, event), { capture: true, signal });
  root.addEventListener("click", (event) => clicked(screen, event), { capture: true, signal });
  turnByDragging(root, signal, (by, from) => emit(screen, { kind: "turn", by }, from));
  frame = requestAnimationFrame(watch);
  return {
    get isOpen() {
      return !signal.aborted;
    },
    close,
  };
}

/** An open screen. */
interface Screen {
  readonly root: HTMLElement;
  readonly options: InputOptions;
  /** What the player used last. */
  device: Device;
}

function isOnTop({ root }: Screen): boolean {
  return takers.length === 0 || takers.at(-1) === root;
}

/** What has the focus within a screen. */
function focusedIn({ root }: Screen): HTMLElement | undefined {
  const focused = focusedElement();
  return focused !== undefined && isWithin(root, focused) ? focused : undefined;
}

/** Emits an intent to what has the focus. Returns whether somebody took care of it. */
function emit(screen: Screen, wish: Wish, device: Device): boolean {
  const { root, options } = screen;
  screen.device = device;
  const intent = { ...wish, device } as Intent;
  options.onIntent?.(intent);
  if (!(focusedIn(screen) ?? root).dispatchEvent(new IntentEvent(intent))) return true;
  if (wish.kind === "go") return moveFocus(root, wish.way);
  if (wish.kind === "leaf") return moveToGroup(root, wish.by);
  if (wish.kind === "leave") options.onLeave?.();
  return wish.kind === "leave" && options.onLeave !== undefined;
}

function keyDown(screen: Screen, event: KeyboardEvent): void {
  const { root, options } = screen;
  const exclusive = options.exclusive === true;
  const inside = event.composedPath().includes(root);
  if (!isOnTop(screen) || !(inside || exclusive)) return;
  screen.device = "keyboard";
  if (exclusive && event.key === "Tab") keepInside(root, event);
  const wish = wishOfKey(event, inside ? focusedElement() : undefined);
  if (wish !== undefined && emit(screen, wish, "keyboard")) event.preventDefault();
  // Inside, the key goes on to its control, and no further; see takeOver.
  if (exclusive && !inside) event.stopImmediatePropagation();
}

function clicked({ options, device }: Screen, event: Event): void {
  const { pointerType } = event as PointerEvent;
  const isPointed = pointerType === "mouse" || pointerType === "touch" || pointerType === "pen";
  options.onIntent?.({ kind: "choose", device: isPointed ? pointerType : device });
}

function readPads(screen: Screen, gamepads: GamepadWatch, now: number): void {
  // Read under another screen, too: the button that closed that one, still held, does not press in this one.
  const pressed = gamepads.poll(now);
  if (!isOnTop(screen) || !document.hasFocus()) return;
  for (const { wish, device } of pressed) {
    if (wish.kind !== "choose") {
      emit(screen, wish, device);
      continue;
    }
    screen.device = device;
    const focused = focusedIn(screen);
    if (focused === undefined) tabbableIn(screen.root)[0]?.focus();
    else focused.click();
  }
}

/** Takes the input for a screen. Returns what gives it back. */
function takeOver(root: HTMLElement, signal: AbortSignal): () => void {
  const focused = focusedElement();
  const locked = document.pointerLockElement;
  const page = document.documentElement;
  const cursor = page.style.cursor;
  takers.push(root);
  if (locked !== null) document.exitPointerLock();
  page.style.cursor = "auto";
  for (const type of ["keydown", "keyup", "keypress"] as const) {
    root.addEventListener(type, (event) => event.stopPropagation(), { signal });
  }
  addEventListener(
    "keyup",
    (event) => {
      if (takers.at(-1) === root && !event.composedPath().includes(root)) event.stopImmediatePropagation();
    },
    { capture: true, signal },
  );
  return () => {
    takers.splice(takers.lastIndexOf(root), 1);
    page.style.cursor = cursor;
    if (focused?.isConnected) focused.focus();
    // A browser may refuse the lock without a press of the player's; the game then takes it at the next.
    if (locked?.isConnected) void Promise.resolve(locked.requestPointerLock()).catch(() => undefined);
  };
}

/** Keeps Tab within a screen: from its last control to its first, and back. */
function keepInside(root: HTMLElement, event: KeyboardEvent): void {
  const all = tabbableIn(root);
  const focused = focusedElement();
  const edge = event.shiftKey ? all[0] : all.at(-1);
  if (focused !== edge && focused !== undefined && isWithin(root, focused)) return;
  (event.shiftKey ? all.at(-1) : all[0])?.focus();
  event.preventDefault();
}

function turnByDragging(root: HTMLElement, signal: AbortSignal, turn: (by: 1 | -1, from: Device) => void): void {
  const isTurned = (event: Event) =>
    event.composedPath().some((each) => each instanceof HTMLElement && each.dataset["turns"] !== undefined);
  let from: { id: number; x: number } | undefined;
  root.addEventListener(
    "pointerdown",
    (event) => {
      if (event.isPrimary && isTurned(event)) from = { id: event.pointerId, x: event.clientX };
    },
    { signal },
  );
  addEventListener(
    "pointermove",
    (event) => {
      if (from === undefined || event.pointerId !== from.id) return;
      const travel = event.clientX - from.x;
      if (Math.abs(travel) < turnTravel) return;
      from = { id: from.id, x: event.clientX };
      const type = event.pointerType;
      turn(travel > 0 ? 1 : -1, type === "touch" || type === "pen" ? type : "mouse");
    },
    { signal },
  );
  for (const type of ["pointerup", "pointercancel"] as const) {
    const stop = () => {
      from = undefined;
    };
    addEventListener(type, stop, { signal });
  }
}
