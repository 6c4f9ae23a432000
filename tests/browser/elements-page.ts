import "zealous-mantle/elements";
import { createCharacter, createImage, type Image, openFitting, openSteps, readCatalog } from "zealous-mantle";
import type { ImageLoader } from "zealous-mantle/browser";

const root = "../../demo/saltmarsh/";
const files = import.meta.glob<unknown>(["../../demo/saltmarsh/**/*.json", "!../../demo/saltmarsh/**/*.marks.json"], {
  eager: true,
  import: "default",
});
const included = Object.fromEntries(Object.entries(files).map(([path, content]) => [path.slice(root.length), content]));
const { "catalog.json": main, ...parts } = included;
const { catalog } = readCatalog(main, parts);
if (catalog === undefined) throw new Error("The demo catalog cannot be read");
const blank = createCharacter(catalog, { body: "reed" });

/** Blank pictures: nobody looks at a pixel here. */
const images = new Map<string, Image>();
const loader: ImageLoader = {
  images,
  async load(...looks) {
    for (const image of looks.flatMap(({ layers }) => layers.flatMap((layer) => layer.images)))
      images.set(image, createImage(1, 1));
  },
  fetch: async () => {},
};

/** The screens, each alone on the page and as if just opened. */
const openScreen = {
  fitting: () =>
    show("mantle-fitting", {
      heading: "A plain page",
      loader,
      fitting: openFitting(catalog, blank),
    }),
  steps: () => show("mantle-steps", { loader, steps: openSteps(catalog, blank) }),
};

function show<K extends keyof HTMLElementTagNameMap>(name: K, properties: Partial<HTMLElementTagNameMap[K]>): void {
  const screen = Object.assign(document.createElement(name), properties);
  document.body.style.cssText = "margin: 0; height: 100vh";
  document.documentElement.dir = "ltr";
  document.body.replaceChildren(screen);
}

Object.assign(globalThis, { openScreen });
