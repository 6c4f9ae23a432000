import {
  applyEdit,
  type Catalog,
  type Character,
  type Edit,
  type Fitting,
  type Option,
  resolveLook,
  type StatChange,
  textIn,
  wornParts,
} from "zealous-mantle";
import type { CanvasPainter, ImageLoader } from "zealous-mantle/browser";
import { byId, contextOf, make } from "../shared/dom.ts";

/** What every panel of the creator works with. */
export interface Screen {
  readonly catalog: Catalog;
  readonly loader: ImageLoader;
  readonly painter: CanvasPainter;
  /** The slot whose options are shown. */
  slot: string;
  fitting(): Fitting;
  edit(change: Edit): void;
  choose(slot: string): void;
}

export function drawBodies(screen: Screen): void {
  const { catalog, edit } = screen;
  const current = screen.fitting().character.body;
  const buttons = [...catalog.bodies.values()].map((body) =>
    pressable(textIn(body.title), body.id === current, `body-${body.id}`, () => edit({ body: body.id })),
  );
  replaceKeepingFocus(byId("bodies", HTMLDivElement), [make("span", { textContent: "Build" }), ...buttons]);
}

export function drawOutfits(screen: Screen): void {
  const { catalog, edit } = screen;
  const worn = new Set(wornParts(catalog, screen.fitting().character).map(({ part }) => part.id));
  const buttons = [...catalog.outfits.values()].map((outfit) =>
    pressable(
      textIn(outfit.title),
      outfit.parts.every((part) => worn.has(part)),
      `outfit-${outfit.id}`,
      () => edit({ dress: outfit.id }),
    ),
  );
  replaceKeepingFocus(byId("outfits", HTMLDivElement), [make("span", { textContent: "Outfits" }), ...buttons]);
}

export function drawSlots(screen: Screen): void {
  const { catalog, slot: current, choose } = screen;
  const filled = new Set(wornParts(catalog, screen.fitting().character).map(({ slot }) => slot));
  const buttons = [...catalog.slots.values()].map(({ id, title }) => {
    const button = make("button", { id: `slot-${id}`, textContent: textIn(title), onclick: () => choose(id) });
    button.setAttribute("aria-current", String(id === current));
    button.classList.toggle("filled", filled.has(id));
    return button;
  });
  replaceKeepingFocus(byId("slots", HTMLDivElement), buttons);
}

/** Each option is drawn as this very character would look wearing it. */
export async function drawOptions(screen: Screen): Promise<void> {
  const { catalog, slot: id, edit } = screen;
  const fitting = screen.fitting();
  const slot = catalog.slots.get(id);
  if (slot === undefined) return;
  const shown = wornParts(catalog, fitting.character).find((worn) => worn.slot === id);
  const cards: HTMLButtonElement[] = [];
  if (!slot.required) {
    const bare = applyEdit(catalog, fitting.character, { remove: id });
    const state = shown === undefined ? "worn" : bare.ok ? "ready" : "blocked";
    const note = state === "blocked" ? "not now" : "";
    cards.push(
      await card(screen, "Nothing", state, bare.character, note, "option-nothing", () => edit({ remove: id })),
    );
  }
  for (const option of fitting.options(id)) {
    const tried = applyEdit(catalog, fitting.character, { wear: option.part.id, in: id });
    // A part that cannot be worn now is shown on its own choice of clothes, faded.
    const figure = tried.ok
      ? tried.character
      : { ...fitting.character, loadout: { ...fitting.character.loadout, [id]: option.part.id } };
    cards.push(
      await card(
        screen,
        textIn(option.part.title),
        option.state,
        figure,
        noteOn(catalog, option),
        `option-${option.part.id}`,
        () => edit({ wear: option.part.id, in: id }),
      ),
    );
  }
  if (screen.slot !== id || screen.fitting().character !== fitting.character) return;
  byId("slot-title", HTMLHeadingElement).textContent = textIn(slot.title);
  replaceKeepingFocus(byId("options", HTMLDivElement), cards);
}

function noteOn(catalog: Catalog, option: Option): string {
  switch (option.state) {
    case "displaces":
      return `takes off ${option.displaced.map(({ part }) => textIn(catalog.parts.get(part)?.title ?? part).toLowerCase()).join(", ")}`;
    case "blocked":
    case "locked":
    case "secret":
      return "not now";
    case "worn":
      return "worn";
    case "ready":
      return option.stats.map((change) => sayChange(catalog, change)).join(", ");
  }
}

/** `+2 warmth`, `−1 carrying`. */
function sayChange(catalog: Catalog, { stat, before, after }: StatChange): string {
  const title = textIn(catalog.stats.get(stat)?.title ?? stat).toLowerCase();
  return `${after > before ? "+" : "−"}${Math.abs(after - before)}\u00a0${title}`;
}

async function card(
  screen: Screen,
  title: string,
  state: Option["state"],
  figure: Character,
  note: string,
  id: string,
  act: () => void,
): Promise<HTMLButtonElement> {
  const canvas = make("canvas", { width: 44, height: 66 });
  const look = resolveLook(screen.catalog, figure);
  await screen.loader.load(look);
  screen.painter.paint(contextOf(canvas), look, { animation: "idle", facing: "south", time: 0 }, { x: 22, y: 64 });
  const button = make(
    "button",
    { id, className: state, onclick: act },
    canvas,
    make("span", { textContent: title }),
    make("span", { className: "state", textContent: note }),
  );
  button.setAttribute("aria-pressed", String(state === "worn"));
  return button;
}

/** One row for each channel that shows on the figure now. */
export function drawColors(screen: Screen): void {
  const { catalog, edit } = screen;
  const shown = resolveLook(catalog, screen.fitting().character).layers.flatMap(({ recolor }) => recolor ?? []);
  const rows = [...catalog.channels.values()].flatMap((channel) => {
    const current = shown.find((recolor) => recolor.channel === channel.id);
    if (current === undefined) return [];
    const swatches = channel.ramps.map((id) => {
      const ramp = catalog.ramps.get(id);
      const swatch = make("i");
      const colors = (ramp?.colors ?? []).map((color) => `#${color.toString(16).padStart(6, "0")}`);
      swatch.style.background = colors.at(Math.floor(colors.length / 2)) ?? "";
      const button = make(
        "button",
        {
          id: `paint-${channel.id}-${id}`,
          title: textIn(ramp?.title ?? id),
          onclick: () => edit({ paint: channel.id, ramp: id }),
        },
        swatch,
      );
      button.setAttribute("aria-label", `${textIn(channel.title)}: ${textIn(ramp?.title ?? id)}`);
      button.setAttribute("aria-pressed", String(current.ramp === id));
      return button;
    });
    return [make("div", { className: "channel" }, make("span", { textContent: textIn(channel.title) }), ...swatches)];
  });
  replaceKeepingFocus(byId("colors", HTMLDivElement), rows);
}

function pressable(text: string, pressed: boolean, id: string, act: () => void): HTMLButtonElement {
  const button = make("button", { id, textContent: text, onclick: act });
  button.setAttribute("aria-pressed", String(pressed));
  return button;
}

/** Puts new children in the place of the old; the keyboard stays where it was. */
function replaceKeepingFocus(parent: HTMLElement, children: readonly HTMLElement[]): void {
  const focused = parent.contains(document.activeElement) ? document.activeElement?.id : undefined;
  parent.replaceChildren(...children);
  if (focused) document.getElementById(focused)?.focus();
}
