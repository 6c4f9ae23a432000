import { applyEdit, type Character, createCharacter, resolveLook, textIn } from "zealous-mantle";
import { canvasPainter } from "zealous-mantle/browser";
import { byId, contextOf, make } from "../shared/dom.ts";
import { catalog, loader } from "../shared/saltmarsh.ts";

const painter = canvasPainter(loader.images);
const facings = ["south", "west", "north", "east"];

/** Draws every part that has a picture on a body, by slot, from all sides. */
async function drawSheet(body: string): Promise<void> {
  const bare = createCharacter(catalog, { body });
  const buttons = [...catalog.bodies.values()].map(({ id, title }) => {
    const button = make("button", { textContent: textIn(title), onclick: () => void drawSheet(id) });
    button.setAttribute("aria-pressed", String(id === body));
    return button;
  });
  byId("bodies", HTMLElement).replaceChildren(...buttons);
  const rows: HTMLElement[] = [];
  for (const slot of catalog.slots.values()) {
    const figures: HTMLElement[] = [];
    for (const part of slot.parts) {
      if (part.layers.length === 0) continue;
      const worn = applyEdit(catalog, bare, { wear: part.id, in: slot.id });
      // What is only worn with something else is shown by itself all the same.
      const loadout = { ...bare.loadout, [slot.id]: part.id };
      figures.push(await drawPart(textIn(part.title), worn.ok ? worn.character : { ...bare, loadout }));
    }
    if (figures.length > 0)
      rows.push(make("h2", { textContent: textIn(slot.title) }), make("div", { className: "parts" }, ...figures));
  }
  byId("sheet", HTMLDivElement).replaceChildren(...rows);
  document.body.dataset.ready = body;
}

async function drawPart(title: string, character: Character): Promise<HTMLElement> {
  const look = resolveLook(catalog, character);
  await loader.load(look);
  const canvas = make("canvas", { width: facings.length * 36, height: 74 });
  for (const [number, facing] of facings.entries()) {
    painter.paint(contextOf(canvas), look, { animation: "idle", facing, time: 0 }, { x: number * 36 + 18, y: 72 });
  }
  return make("figure", {}, canvas, make("figcaption", { textContent: title }));
}

await drawSheet("reed");
