import type { Catalog, Part } from "../core/catalog/model/catalog.ts";
import type { Character } from "../core/character/character.ts";
import type { Edit, EditResult, LoadoutProblem } from "../core/character/edit.ts";
import type { Fitting } from "../core/create/fitting.ts";
import { applyEdit, tryEdit } from "../core/edits/apply-edit.ts";
import { concealedGear } from "../core/edits/concealed-gear.ts";
import { editMessage } from "../core/edits/edit-message.ts";
import { resolveLook } from "../core/look/resolve-look.ts";
import { wornParts } from "../core/rules/worn.ts";
import type { Card } from "./card.ts";
import { bared } from "./covers.ts";
import { type Offer, shownWith } from "./fitting-pages.ts";
import { type Notice, noNotice } from "./notice.ts";
import type { ScreenElement } from "./screen-element.ts";
import type { FittingText, WearingText } from "./texts.ts";

/**
 * The card of something a page offers: this very character with it, how it stands, and what it would do.
 *
 * @param without - slots of which nothing is shown, because it would lie over what is offered.
 */
export function cardOf(
  screen: ScreenElement<object, FittingText>,
  { catalog, character, context }: Fitting,
  offer: Offer,
  without: readonly string[] = [],
): Card {
  const { edit, option } = offer;
  const result =
    option === undefined
      ? applyEdit(catalog, character, edit, context)
      : tryEdit(catalog, character, edit, { ...context, wardrobe: "open" });
  const state = stateOf(offer, result);
  const slot = catalog.slots.get(edit.wear === undefined ? (edit.remove ?? "") : (edit.in ?? ""));
  const price = state === "locked" ? priceOf(catalog, offer, result) : undefined;
  // Of three figures alike nobody can choose: what is not seen says what it does.
  const does = slot?.data === true ? { does: sayGifts(screen, catalog, option?.part) } : {};
  return {
    id: offer.id,
    title: offer.title === undefined ? screen.say("nothing") : screen.titled(offer.title),
    note: noteOn(screen, { catalog, character }, offer, { state, price }, result),
    ...does,
    isForSale: price !== undefined,
    state,
    look: resolveLook(catalog, bared(shownWith(character, edit, result), without)),
  };
}

function stateOf({ isChosen, option }: Offer, result: EditResult): Card["state"] {
  if (isChosen) return "chosen";
  if (option === undefined) return result.ok ? "ready" : isForSale(result.problems) ? "locked" : "blocked";
  return option.state === "worn" || option.state === "secret" ? "ready" : option.state;
}

function noteOn(
  screen: ScreenElement<object, FittingText>,
  { catalog, character }: Pick<Fitting, "catalog" | "character">,
  { option, edit }: Offer,
  { state, price }: { readonly state: Card["state"]; readonly price: number | undefined },
  result: EditResult,
): string {
  switch (state) {
    case "chosen": {
      const outfit = edit.wear !== undefined ? concealedGear(catalog, character).get(edit.in ?? "") : undefined;
      if (outfit !== undefined)
        return screen.say("is-worn-unseen", { outfit: screen.titleOf(catalog, "outfits", outfit) });
      return screen.say(edit.wear !== undefined || edit.dress !== undefined ? "is-worn" : "is-chosen");
    }
    case "displaces": {
      const parts = option?.displaced.map(({ part }) => screen.titleOf(catalog, "parts", part)) ?? [];
      return screen.say("takes-off", { parts: screen.joined(parts) });
    }
    case "locked":
      return price === undefined ? screen.say("is-locked") : screen.say("is-locked-for", { price });
    case "blocked": {
      const [first] = option?.problems ?? (result.ok ? [] : result.problems);
      return screen.say("not-now", { because: first === undefined ? "" : screen.sentencesOf(catalog)(first) });
    }
    case "ready":
      return screen.joined(
        (option?.stats ?? []).map(({ stat, before, after }) => changeOf(screen, catalog, stat, after - before)),
        "unit",
      );
  }
}

/** What it costs to have all that an offer lacks; `undefined` where something of it cannot be bought. */
function priceOf(catalog: Catalog, { option }: Offer, result: EditResult): number | undefined {
  const wanted = option === undefined ? wantedOf(result) : [option.part.id];
  return wanted.reduce<number | undefined>((sum, part) => {
    const price = catalog.parts.get(part)?.price;
    return sum === undefined || price === undefined ? undefined : sum + price;
  }, 0);
}

/** Whether nothing stands in the way but that something is not owned. */
function isForSale(problems: readonly LoadoutProblem[]): boolean {
  return problems.every(({ code }) => code === "not-owned");
}

/** The parts that are not owned, for which an edit was refused: each once. */
export function wantedOf(result: EditResult): readonly string[] {
  const problems = result.ok ? [] : result.problems;
  const wanted = problems.flatMap(({ code, subject }) =>
    code === "not-owned" && subject.kind === "part" ? [subject.id] : [],
  );
  return [...new Set(wanted)];
}

/** What a part gives to stats, each in a line. */
function sayGifts(screen: ScreenElement, catalog: Catalog, part: Part | undefined): readonly string[] {
  const lines = Object.entries(part?.gives ?? {}).flatMap(([stat, { add, times }]) => {
    return [
      ...(add === 0 ? [] : [changeOf(screen, catalog, stat, add)]),
      ...(times === 1 ? [] : [amountOf(screen, catalog, stat, `×${screen.number(times)}`)]),
    ];
  });
  return lines.length === 0 ? ["–"] : lines;
}

/** How much a stat grows or falls, and its title. */
function changeOf(screen: ScreenElement, catalog: Catalog, stat: string, change: number): string {
  return amountOf(screen, catalog, stat, screen.number(change, { signed: true }));
}

/** An amount of a stat. Its direction does not depend on what stands around it (Unicode TR 9, first strong isolate). */
function amountOf(screen: ScreenElement, catalog: Catalog, stat: string, amount: string): string {
  return `\u2068${amount} ${screen.titleOf(catalog, "stats", stat)}\u2069`;
}

/**
 * What an edit did besides what it was asked to: what came off, what became another, what was settled.
 *
 * @param before - the character as it was, so that what was taken off can be named.
 */
export function noticeOfDone(
  screen: ScreenElement<object, WearingText>,
  catalog: Catalog,
  before: Character,
  { displaced, settled }: Extract<EditResult, { ok: true }>,
): Notice {
  const sentence = screen.sentencesOf(catalog);
  // What was taken off so that it holds is said with the reason.
  const off = displaced
    .filter(({ because }) => settled === undefined || because.code !== "was-taken-off")
    .map(({ part, becomes, because }) =>
      becomes === undefined
        ? screen.say("came-off", { part: screen.titleOf(catalog, "parts", part), because: sentence(because) })
        : screen.say("becomes", {
            part: screen.titleOf(catalog, "parts", part),
            other: screen.titleOf(catalog, "parts", becomes),
          }),
    );
  const mended =
    settled === undefined
      ? []
      : [
          ...settled.because.map(sentence),
          screen.say("settled-with", { edits: sayEdits(screen, { catalog, character: before }, settled.edits) }),
        ];
  // What came off for the reason that was mended needs it only once.
  const says = [...new Set([...off, ...mended])];
  return says.length === 0 ? noNotice : { says, isWrong: false, fixes: [] };
}

/** Edits in a few words: `Take off Oilskin and put on Cork vest`. */
export function sayEdits(
  screen: ScreenElement,
  { catalog, character }: { readonly catalog: Catalog; readonly character: Character },
  edits: readonly Edit[],
): string {
  const worn = Object.fromEntries(wornParts(catalog, character).map(({ slot, part }) => [slot, part.id]));
  const said = screen.sentencesOf(catalog)(editMessage({ together: edits.map(withoutSlot) }, worn));
  return said.charAt(0).toLocaleUpperCase(screen.locale) + said.slice(1);
}

/** A player does not choose slots, but what goes in them. */
function withoutSlot(edit: Edit): Edit {
  if (edit.together !== undefined) return { together: edit.together.map(withoutSlot) };
  return edit.wear === undefined ? edit : { wear: edit.wear };
}
