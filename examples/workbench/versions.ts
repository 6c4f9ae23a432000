import { type Catalog, type Image, mergePacks, resolveLook, textIn } from "zealous-mantle";
import { comparePictures, compareSources, type EntryChange, mergedSources } from "zealous-mantle/authoring";
import { canvasOf, fetchCatalog, listServed } from "zealous-mantle/browser";
import { animationOf, timedFrames } from "zealous-mantle/raster";
import { make } from "../shared/dom.ts";
import { type Bench, wearing } from "./bench.ts";
import { Drawer } from "./drawer.ts";
import { contentsOf, packsAt } from "./served-contents.ts";

/** The older version: another catalog, or the same without its packs. */
interface Older {
  readonly title: string;
  readonly catalog: Catalog;
  readonly drawer: Drawer;
  readonly changes: readonly EntryChange[];
}

/** Two versions side by side: what changed in the data, and how the part on the bench looked before. */
export class Versions {
  readonly element = make("div", { className: "versions" });
  readonly #bench: Bench;
  readonly #url: string;
  readonly #against: string | undefined;
  #older: Promise<Older> | undefined;

  /** @param against - where the older version is served; the same catalog without packs when `undefined`. */
  constructor(bench: Bench, url: string, against: string | undefined) {
    this.#bench = bench;
    this.#url = url;
    this.#against = against;
  }

  forget(): void {
    this.#older = undefined;
  }

  async update(): Promise<void> {
    this.#older ??= openOlder(this.#url, this.#against);
    const older = await this.#older;
    const { part } = this.#bench;
    const list = make("ul", { className: "changes" }, ...older.changes.map((change) => this.#line(change)));
    const heading = older.changes.length === 0 ? "Nothing changed" : `${older.changes.length} entries changed`;
    const seen = make(
      "section",
      {},
      make("h2", { textContent: part === undefined ? "The body" : textIn(part.title) }),
      ...(await this.#pictures(older)),
    );
    this.element.replaceChildren(
      seen,
      make("section", { className: "scroll" }, make("h2", { textContent: `${heading} since ${older.title}` }), list),
    );
    document.body.dataset.changes = String(older.changes.length);
  }

  #line({ section, id, fate, keys }: EntryChange): HTMLElement {
    const isRule = id.startsWith("{");
    const name = make("button", { type: "button", textContent: isRule ? "a rule" : id });
    name.disabled = section !== "parts" || !this.#bench.catalog.parts.has(id);
    name.onclick = () => this.#bench.choose({ part: id });
    const told = isRule
      ? [id.slice(0, 160)]
      : keys.map(
          ({ pointer, before, after }) =>
            `${pointer.slice(1).replaceAll("/", ".")} ${written(before)} → ${written(after)}`,
        );
    return make(
      "li",
      { className: fate },
      make("span", { className: "soft", textContent: `${section} ` }),
      name,
      make("b", { textContent: fate }),
      make("span", { textContent: told.join("; ") }),
    );
  }

  /** Before, after, and what differs. */
  async #pictures({ catalog, drawer }: Older): Promise<readonly Node[]> {
    const { choice } = this.#bench;
    const after = await this.#frame(this.#bench.catalog, this.#bench.drawer);
    const isThere = catalog.bodies.has(choice.body) && (choice.part === undefined || catalog.parts.has(choice.part));
    const before = isThere ? await this.#frame(catalog, drawer) : undefined;
    const difference = before === undefined ? undefined : comparePictures(before, after);
    const shown = (title: string, picture: Image | undefined, else_: string) =>
      make(
        "figure",
        {},
        picture === undefined ? make("p", { className: "soft", textContent: else_ }) : canvasOf(picture),
        make("figcaption", { textContent: title }),
      );
    return [
      make(
        "div",
        { className: "pair" },
        shown("before", before, "It was not there."),
        shown("after", after, ""),
        shown("what differs", difference?.image, before === undefined ? "All of it." : "Nothing: it looks as it did."),
      ),
    ];
  }

  async #frame(catalog: Catalog, drawer: Drawer): Promise<Image> {
    const { choice } = this.#bench;
    const look = resolveLook(catalog, wearing(catalog, choice));
    const draw = await drawer.prepare(look);
    const run = timedFrames(animationOf(look, choice.animation));
    return draw({
      animation: choice.animation,
      facing: choice.facing,
      time: run[choice.frame % run.length]?.time ?? 0,
    });
  }
}

async function openOlder(url: string, against: string | undefined): Promise<Older> {
  const { files } = await listServed(against ?? url);
  const { catalog, loader } = await fetchCatalog(against ?? url, { files });
  const [before, after] = [await sourcesAt(against ?? url, against === undefined), await sourcesAt(url, false)];
  const title = against === undefined ? "the catalog without its packs" : `version ${catalog.version}`;
  return { title, catalog, drawer: new Drawer(loader, against ?? url), changes: compareSources(before, after) };
}

/** What the files of a served catalog say, with its packs laid over it unless they are left out. */
async function sourcesAt(url: string, isPlain: boolean): Promise<readonly unknown[]> {
  const { files, packs } = await listServed(url);
  const { main, included } = await contentsOf(url, files, "catalog.json");
  const own = [main, ...Object.values(included)];
  return mergedSources(own, isPlain || packs.length === 0 ? undefined : mergePacks(await packsAt(packs)));
}

function written(value: unknown): string {
  const text = value === undefined ? "nothing" : JSON.stringify(value);
  return text.length > 60 ? `${text.slice(0, 59)}…` : text;
}
