import { badCatalog } from "../core/base/bad-catalog.ts";
import { EventQueue } from "../core/base/event-queue.ts";
import { MantleError, type Problem } from "../core/base/problem.ts";
import type { FolderState } from "../core/catalog/file-list.ts";
import type { Catalog, CatalogIds } from "../core/catalog/model/catalog.ts";
import { type FetchCatalogOptions, type FetchedCatalog, fetchCatalog } from "./fetch-catalog.ts";
import type { FreshImageLoader } from "./image-loader.ts";
import { fetchList, filesOf } from "./list-served.ts";

/** A catalog as it is now: while somebody works in its folder, it goes on with what they change. */
export interface LiveCatalog<Ids extends CatalogIds = CatalogIds> {
  /** As it was fetched last. Another one after a change. */
  readonly catalog: Catalog<Ids>;
  /** Fetches its pictures. The same one after a change, with the pictures as they are then. */
  readonly loader: FreshImageLoader;
  /** Warnings. */
  readonly problems: readonly Problem[];
  /** Calls a listener after each change of the folder that leaves it whole. Returns what ends that. Never called for a game that was built. */
  on(event: "change", listener: (live: LiveCatalog<Ids>) => void): () => void;
  /** Ends listening to the server. */
  close(): void;
}

/**
 * Opens a catalog that `serveCatalogs` of `zealous-mantle/vite` serves. While the game is made it listens: a change is fetched and told, and a
 * mistake is shown on the page, with file and line, for as long as it is there; the catalog stays as it was then.
 *
 * @param url - of the folder; relative to the page.
 * @returns once there is a catalog that can be used.
 * @throws MantleError `missing-file` where the folder is not served so; as `fetchCatalog` does, of a game that was built.
 * @example
 * const live = await openLiveCatalog("saltmarsh/")
 * const fitting = openFitting(live.catalog, wren)
 * live.on("change", ({ catalog }) => fitting.update({ catalog }))
 */
export async function openLiveCatalog<Ids extends CatalogIds = CatalogIds>(
  url: string,
  options: Omit<FetchCatalogOptions, "files"> = {},
): Promise<LiveCatalog<Ids>> {
  const base = new URL(url.endsWith("/") ? url : `${url}/`, globalThis.location?.href);
  const { changes, ...listed } = await fetchList(base, options.signal);
  const queue = new EventQueue<{ change: LiveCatalog<Ids> }>();
  if (changes === undefined) {
    const fetched = await fetchCatalog<Ids>(base.href, { ...options, ...filesOf(listed, base, options.packs) });
    return { ...fetched, on: (event, listener) => queue.on(event, listener), close: () => undefined };
  }
  const { showMistakes } = await import("./mistakes-panel.ts");
  let now: FetchedCatalog<Ids> | undefined;
  const source = new EventSource(new URL(changes, base));
  const live: LiveCatalog<Ids> = {
    get catalog() {
      return fetchedOf(now, base).catalog;
    },
    get loader() {
      return fetchedOf(now, base).loader;
    },
    get problems() {
      return fetchedOf(now, base).problems;
    },
    on: (event, listener) => queue.on(event, listener),
    close() {
      source.close();
      showMistakes(base.href, []);
    },
  };
  let newest = 0;
  /** Takes over a change, unless another comes meanwhile. */
  const follow = async (state: FolderState, number: number) => {
    const { fetched, mistakes } = await attempt<Ids>(base, state, options);
    if (number !== newest) return;
    showMistakes(base.href, mistakes);
    if (fetched === undefined) return;
    if (now === undefined) {
      now = fetched;
      return;
    }
    await now.loader.refresh();
    if (number !== newest) return;
    now = { ...fetched, loader: now.loader };
    queue.emit("change", live);
  };
  await new Promise<void>((open, fail) => {
    source.onmessage = ({ data }: MessageEvent<string>) => {
      newest += 1;
      follow(JSON.parse(data), newest).then(() => now && open(), fail);
    };
  }).catch((error: unknown) => {
    live.close();
    throw error;
  });
  return live;
}

function fetchedOf<Ids extends CatalogIds>(now: FetchedCatalog<Ids> | undefined, base: URL): FetchedCatalog<Ids> {
  if (now === undefined) throw badCatalog(`at ${base.href}`, [], {});
  return now;
}

interface Attempt<Ids extends CatalogIds> {
  readonly fetched: FetchedCatalog<Ids> | undefined;
  readonly mistakes: readonly string[];
}

/** Fetches the catalog as it is now, or says why that cannot be. */
async function attempt<Ids extends CatalogIds>(
  base: URL,
  { mistakes, ...listed }: FolderState,
  options: Omit<FetchCatalogOptions, "files">,
): Promise<Attempt<Ids>> {
  if (mistakes.length > 0) return { fetched: undefined, mistakes };
  try {
    return {
      fetched: await fetchCatalog<Ids>(base.href, { ...options, ...filesOf(listed, base, options.packs) }),
      mistakes,
    };
  } catch (error) {
    if (error instanceof MantleError) return { fetched: undefined, mistakes: [error.message] };
    throw error;
  }
}
