import { applyEdit, type Catalog, type Character, createCharacter, type Look, resolveLook } from "zealous-mantle";
import type { FreshImageLoader } from "zealous-mantle/browser";
import type { Part } from "zealous-mantle/types";
import { Drawer } from "./drawer.ts";

/** What is on the bench. */
export interface Choice {
  /** The part that is looked at; the bare body when `undefined`. */
  readonly part: string | undefined;
  readonly body: string;
  readonly animation: string;
  readonly facing: string;
  /** The place among the frames that are shown, from 0. */
  readonly frame: number;
  /** Who wears it; nobody, just the body, when `undefined`. */
  readonly wearer: Character | undefined;
}

/** What the views of the workbench share: the catalog as it is now, and what is on the bench. */
export class Bench {
  catalog: Catalog;
  loader: FreshImageLoader;
  drawer: Drawer;
  choice: Choice;
  readonly #url: string;
  readonly #listeners = new Set<() => void>();

  /** @param url - of the folder of the catalog. */
  constructor(catalog: Catalog, loader: FreshImageLoader, url: string) {
    this.catalog = catalog;
    this.loader = loader;
    this.#url = url;
    this.drawer = new Drawer(loader, url);
    const [body] = catalog.bodies.values();
    if (body === undefined) throw new Error("The catalog has no body");
    this.choice = {
      part: undefined,
      body: body.id,
      animation: first(body.rig.animations),
      facing: first(body.rig.facings),
      frame: 0,
      wearer: undefined,
    };
  }

  /** Puts something else on the bench. */
  choose(choice: Partial<Choice>): void {
    const next = { ...this.choice, ...choice };
    const rig = this.catalog.bodies.get(next.body)?.rig;
    if (rig === undefined) return;
    this.choice = {
      ...next,
      part: this.catalog.parts.has(next.part ?? "") ? next.part : undefined,
      animation: rig.animations.has(next.animation) ? next.animation : first(rig.animations),
      facing: rig.facings.has(next.facing) ? next.facing : first(rig.facings),
      frame: choice.animation === undefined ? next.frame : (choice.frame ?? 0),
    };
    for (const listener of this.#listeners) listener();
  }

  /** Takes over a catalog that changed, and keeps what is on the bench where it is still there. */
  update(catalog: Catalog, loader: FreshImageLoader): void {
    this.catalog = catalog;
    this.loader = loader;
    this.drawer = new Drawer(loader, this.#url);
    const { body } = this.choice;
    this.choose({ body: catalog.bodies.has(body) ? body : first(catalog.bodies) });
  }

  on(listener: () => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  /** The part on the bench. */
  get part(): Part | undefined {
    return this.catalog.parts.get(this.choice.part ?? "");
  }

  /** Whoever wears what is on the bench. */
  get character(): Character {
    return wearing(this.catalog, this.choice);
  }

  get look(): Look {
    return resolveLook(this.catalog, this.character);
  }
}

/** A character who wears a part; what is only worn with something else is shown by itself all the same. */
export function wearing(
  catalog: Catalog,
  { part: id, body, wearer }: Pick<Choice, "part" | "body" | "wearer">,
): Character {
  const bare = wearer ?? createCharacter(catalog, { body, id: "bench" });
  const on = bare.body === body ? bare : { ...bare, body };
  const part = catalog.parts.get(id ?? "");
  if (part === undefined || Object.values(on.loadout).includes(part.id)) return on;
  const worn = applyEdit(catalog, on, { wear: part.id });
  const [slot = ""] = part.slots;
  return worn.ok ? worn.character : { ...on, loadout: { ...on.loadout, [slot]: part.id } };
}

/** The first key of a map. */
function first(map: ReadonlyMap<string, unknown>): string {
  return map.keys().next().value ?? "";
}
