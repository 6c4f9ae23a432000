import { drawCrop, openSession, resolveLook } from "zealous-mantle";
import { canvasOf, canvasPainter } from "zealous-mantle/browser";
import { byId, contextOf } from "../shared/dom.ts";
import { catalog, loader, store } from "../shared/saltmarsh.ts";
import { places } from "./places.ts";
import { type Entry, playScene } from "./scene.ts";

const canvas = byId("scene", HTMLCanvasElement);
const painter = canvasPainter(loader.images);
const keys = new Set<string>();

addEventListener("keydown", (event) => {
  if (!event.key.startsWith("Arrow")) return;
  keys.add(event.key);
  event.preventDefault();
});
addEventListener("keyup", ({ key }) => keys.delete(key));
addEventListener("blur", () => keys.clear());

const session = await openSession({ catalog, store });
const player = session.seat(1).character;
if (player === undefined) {
  byId("nobody", HTMLParagraphElement).hidden = false;
  places["jetty"]?.paint(contextOf(canvas), canvas.width, canvas.height, 0);
  document.querySelector("aside")?.remove();
} else {
  const look = resolveLook(catalog, player);
  await loader.load(look);
  byId("who", HTMLHeadingElement).textContent = player.name;
  contextOf(byId("portrait", HTMLCanvasElement)).drawImage(canvasOf(drawCrop(look, loader.images, "portrait")), 0, 0);
  // The address remembers the place, so that a reload comes back to it.
  let entry: Entry = {
    place: location.hash.slice(1) in places ? location.hash.slice(1) : "jetty",
    x: 160,
    facing: "south",
  };
  for (;;) {
    history.replaceState(null, "", `#${entry.place}`);
    byId("where", HTMLParagraphElement).textContent = places[entry.place]?.title ?? "";
    entry = await playScene(canvas, painter, keys, entry);
  }
}
