import { textIn } from "../../core/base/text.ts";
import type { Catalog } from "../../core/catalog/model/catalog.ts";
import type { Character } from "../../core/character/character.ts";
import { wornParts } from "../../core/rules/worn.ts";
import type { Item } from "../../core/survey/pairwise/items.ts";
import type { PairwiseCover } from "../../core/survey/pairwise/pairwise-cover.ts";
import { sayByTitles } from "../output.ts";
import { escapeHtml } from "./escape-html.ts";

/** Pixels of a cell, and of the names to the left. */
const cell = 9;
const left = 112;
const top = 4;
/** With more parts than this, cells would be too small to point at. */
const most = 160;

/** What the page knows of pairs. */
interface MapData {
  readonly items: readonly { readonly title: string; readonly place: string }[];
  /** By two numbers of items, the lower first: on which figures they are seen, or what keeps them apart. */
  readonly seen: Readonly<Record<string, readonly number[]>>;
  readonly apart: Readonly<Record<string, string>>;
  readonly figures: readonly string[];
  readonly map: { readonly cell: number; readonly left: number; readonly top: number };
}

/** A map of all pairs of parts: one cell each. `undefined` where there are too many. */
export function pairMap(
  catalog: Catalog,
  pairs: PairwiseCover,
): { readonly html: string; readonly data: MapData } | undefined {
  const { items, numbers } = itemsOf(catalog, pairs);
  if (items.length > most) return undefined;
  const data = dataOf(catalog, pairs, items, numbers);
  const size = items.length * cell;
  const square = (key: string, inset: number) => {
    const [one = 0, other = 0] = key.split(",").map(Number);
    const side = cell - 2 * inset;
    return `M${left + one * cell + inset} ${top + other * cell + inset}h${side}v${side}h${-side}z`;
  };
  const cross = (key: string) => {
    const [one = 0, other = 0] = key.split(",").map(Number);
    const [x, y, side] = [left + one * cell + 2, top + other * cell + 2, cell - 4];
    return `M${x} ${y}l${side} ${side}m0 ${-side}l${-side} ${side}`;
  };
  const keys = Object.entries(data.seen);
  const once = keys.filter(([, figures]) => figures.length === 1).map(([key]) => square(key, 0.5));
  const more = keys.filter(([, figures]) => figures.length > 1).map(([key]) => square(key, 0.5));
  const apart = Object.keys(data.apart).map(cross);
  const names = items.map(
    ({ title }, at) =>
      `<text x="${left - 4}" y="${top + at * cell + 7.5}" text-anchor="end">${escapeHtml(shortened(title))}</text>`,
  );
  const borders = items.flatMap(({ place }, at) => {
    if (at === 0 || items[at - 1]?.place === place) return [];
    const [x, y] = [left + at * cell, top + at * cell];
    return [`M${left} ${y}H${x}M${x} ${y}V${top + size}`];
  });
  const html = `<div class="map"><svg id="map" width="${left + size + 4}" height="${top + size + 4}" viewBox="0 0 ${left + size + 4} ${top + size + 4}" role="img" aria-label="All pairs of parts">
<path class="once" d="${once.join("")}"/><path class="more" d="${more.join("")}"/><path class="apart" d="${apart.join("")}"/><path class="slot" d="${borders.join("")}"/>${names.join("")}<rect class="at" width="${cell}" height="${cell}" x="-20"/></svg>
<div class="key">
<div><svg viewBox="0 0 9 9"><path class="once" d="M0 0h9v9h-9z"/></svg>seen together on one character</div>
<div><svg viewBox="0 0 9 9"><path class="more" d="M0 0h9v9h-9z"/></svg>on several</div>
<div><svg viewBox="0 0 9 9"><path class="apart" d="M1.5 1.5l6 6m0-6l-6 6"/></svg>never together</div>
<output>Point at a cell to read what it is. Click it to see only the characters that show both.</output></div></div>`;
  return { html, data };
}

function shortened(title: string): string {
  return title.length > 22 ? `${title.slice(0, 21)}…` : title;
}

/** The parts that are seen in a slot by anybody, in the order of the catalog. */
function itemsOf(catalog: Catalog, pairs: PairwiseCover) {
  const shown = new Set(pairs.characters.flatMap((character) => wornOf(catalog, character)));
  const items: { title: string; place: string }[] = [];
  const numbers = new Map<string, number>();
  for (const slot of catalog.slots.values()) {
    for (const part of slot.parts) {
      if (!shown.has(`${slot.id}/${part.id}`)) continue;
      numbers.set(`${slot.id}/${part.id}`, items.length);
      items.push({ title: textIn(part.title), place: textIn(slot.title) });
    }
  }
  return { items, numbers };
}

function wornOf(catalog: Catalog, character: Character): readonly string[] {
  return wornParts(catalog, character).map(({ slot, part }) => `${slot}/${part.id}`);
}

function dataOf(
  catalog: Catalog,
  { characters, apart }: PairwiseCover,
  items: MapData["items"],
  numbers: ReadonlyMap<string, number>,
): MapData {
  const seen: Record<string, number[]> = {};
  for (const [figure, character] of characters.entries()) {
    const worn = wornOf(catalog, character)
      .flatMap((each) => numbers.get(each) ?? [])
      .sort((one, other) => one - other);
    for (const [at, one] of worn.entries())
      for (const other of worn.slice(at + 1)) {
        const key = `${one},${other}`;
        seen[key] = [...(seen[key] ?? []), figure];
      }
  }
  const numberOf = (item: Item) => (item.kind === "part" ? numbers.get(`${item.slot}/${item.part}`) : undefined);
  const told = sayByTitles(catalog);
  const kept = apart.flatMap(({ items: [one, other, third], because }) => {
    if (one === undefined || other === undefined || third !== undefined) return [];
    const [first, second] = [numberOf(one), numberOf(other)];
    if (first === undefined || second === undefined) return [];
    return [[`${Math.min(first, second)},${Math.max(first, second)}`, because.map(told).join(" ")] as const];
  });
  return {
    items,
    seen,
    apart: Object.fromEntries(kept),
    figures: characters.map(({ name }) => name),
    map: { cell, left, top },
  };
}
