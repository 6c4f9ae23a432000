import "zealous-mantle/elements";
import { createFromPreset, openFitting } from "zealous-mantle";
import { fetchCatalog } from "zealous-mantle/browser";

/** Runs in a page: opens the fitting screen from a catalog that is served, until everything on it is drawn. */
async function openFittingScreen(url: string, files: readonly string[] | undefined) {
  const start = performance.now();
  const { catalog, loader } = await fetchCatalog(url, files === undefined ? {} : { files });
  const [preset = ""] = catalog.presets.keys();
  const fitting = openFitting(catalog, createFromPreset(catalog, preset, { id: preset, name: "Wren" }));
  const screen = Object.assign(document.createElement("mantle-fitting"), { loader, fitting });
  document.body.style.cssText = "margin: 0; height: 100vh";
  document.body.append(screen);
  while (!isDrawn(screen)) await new Promise(requestAnimationFrame);
  const milliseconds = performance.now() - start;
  const canvases = [...deepCanvases(screen)].map((canvas) => canvas.toDataURL());
  return { milliseconds, drawn: `${canvases.length} ${canvases.slice(1).join()}` };
}

/** Whether the figure stands on the stage, and every card that is on the screen has its picture. */
function isDrawn(screen: HTMLElement): boolean {
  const canvases = [...deepCanvases(screen)];
  return canvases.length > 4 && canvases.every(({ width }) => width > 1);
}

function* deepCanvases(root: Element): Iterable<HTMLCanvasElement> {
  for (const each of root.shadowRoot?.querySelectorAll("*") ?? []) {
    if (each instanceof HTMLCanvasElement) yield each;
    yield* deepCanvases(each);
  }
}

Object.assign(window, { openFitting: openFittingScreen });
