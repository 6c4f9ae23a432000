import type { Text } from "../core/base/text.ts";
import type { Catalog, Outfit, Slot } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import type { Edit, EditResult } from "../core/character/edit.ts";
import type { Fitting } from "../core/create/fitting.ts";
import type { Option } from "../core/loadout/options-for.ts";
import { wornParts } from "../core/rules/worn.ts";

/** A page of the fitting: the builds, the ready-made characters, the outfits, or the parts of a slot. */
export type Page = "build" | "presets" | "outfits" | `slot:${string}`;

/** Something that can be chosen on a page. */
export interface Offer {
  readonly id: string;
  /** `undefined` for nothing in a slot. */
  readonly title: Text | undefined;
  readonly edit: Edit;
  readonly isChosen: boolean;
  /** What is known of a part; of other things, `undefined`. */
  readonly option: Option | undefined;
}

/** The pages there are for a catalog, in groups. */
export function pagesOf(catalog: Catalog): Readonly<Record<"whole" | "looks" | "gear", readonly Page[]>> {
  const slots = [...catalog.slots.values()];
  const pageOf = ({ id }: Slot): Page => `slot:${id}`;
  const whole: Page[] = [];
  if (catalog.bodies.size > 1) whole.push("build");
  if (catalog.presets.size > 0) whole.push("presets");
  if (catalog.outfits.size > 0) whole.push("outfits");
  return {
    whole,
    looks: slots.filter(({ kind }) => kind === "appearance").map(pageOf),
    gear: slots.filter(({ kind }) => kind === "gear").map(pageOf),
  };
}

/** The slot a page is about. */
export function slotOf(catalog: Catalog, page: Page): Slot | undefined {
  return page.startsWith("slot:") ? catalog.slots.get(page.slice("slot:".length)) : undefined;
}

/** What a page offers. Secret parts are not shown. */
export function offersOn({ catalog, character, options }: Fitting, page: Page): readonly Offer[] {
  const whole = (id: string, title: Text, edit: Edit, isChosen: boolean): Offer => ({
    id,
    title,
    edit,
    isChosen,
    option: undefined,
  });
  if (page === "build") {
    return [...catalog.bodies.values()].map(({ id, title }) => whole(id, title, { body: id }, id === character.body));
  }
  if (page === "presets") {
    return [...catalog.presets.values()].map(({ id, title }) => whole(id, title, { preset: id }, false));
  }
  if (page === "outfits") {
    const worn = new Set(wornParts(catalog, character).map(({ part }) => part.id));
    return [...catalog.outfits.values()].map((outfit) =>
      whole(outfit.id, outfit.title, { dress: outfit.id }, isWornWhole(outfit, worn)),
    );
  }
  const slot = slotOf(catalog, page);
  if (slot === undefined) return [];
  const offers = options(slot.id)
    .filter(({ state }) => state !== "secret")
    .map((option): Offer => {
      const { part, state } = option;
      return {
        id: part.id,
        title: part.title,
        edit: { wear: part.id, in: slot.id },
        isChosen: state === "worn",
        option,
      };
    });
  if (slot.required) return offers;
  const isBare = !offers.some(({ isChosen }) => isChosen);
  return [
    { id: "nothing", title: undefined, edit: { remove: slot.id }, isChosen: isBare, option: undefined },
    ...offers,
  ];
}

/** Whether all parts of an outfit are among those that are worn. An outfit of nothing is never worn. */
export function isWornWhole({ parts }: Outfit, worn: ReadonlySet<string>): boolean {
  return parts.length > 0 && parts.every((part) => worn.has(part));
}

/** The character as it would look with an edit: as it would be, or, where that cannot be, wearing the part all the same. */
export function shownWith(character: Character, edit: Edit, result: EditResult): Character {
  if (result.ok || edit.wear === undefined || edit.in === undefined) return result.character;
  return { ...character, loadout: { ...character.loadout, [edit.in]: edit.wear } };
}
