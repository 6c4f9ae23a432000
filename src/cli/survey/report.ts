import { relative } from "node:path";
import { textIn } from "../../core/base/text.ts";
import type { Catalog } from "../../core/catalog/model/catalog.ts";
import { wornParts } from "../../core/rules/worn.ts";
import type { Count } from "../../core/solver/count-loadouts.ts";
import type { Coverage, PartCoverage } from "../../core/survey/coverage.ts";
import type { Item } from "../../core/survey/pairwise/items.ts";
import type { PairwiseCover } from "../../core/survey/pairwise/pairwise-cover.ts";
import type { CatalogPlace } from "../../node/catalog-place.ts";
import { wordsFor } from "../catalog-argument.ts";
import { counted, sayByTitles } from "../output.ts";
import type { DrawnFigure } from "./draw-figures.ts";
import { escapeHtml as text } from "./escape-html.ts";
import { type Figure, partsInOrder } from "./figures.ts";
import { pairMap } from "./pair-map.ts";
import { reportScript } from "./report-script.ts";
import { reportStyle } from "./report-style.ts";

/** What the report tells of. */
export interface Surveyed {
  readonly catalog: Catalog;
  /** Where the catalog is, and where the report goes. */
  readonly place: CatalogPlace;
  readonly out: string;
  readonly counts: readonly (Count & { readonly body: string })[];
  readonly coverage: readonly PartCoverage[];
  readonly pairs: PairwiseCover;
  readonly drawn: readonly DrawnFigure[];
}

/** Writes a survey as one page that needs nothing else: pictures, style and script are in it. */
export function writeReport(surveyed: Surveyed): string {
  const { catalog, pairs } = surveyed;
  const title = textIn(catalog.title);
  const map = pairMap(catalog, pairs);
  const chapters = otherChapters.filter(({ id }) => surveyed.drawn.some(({ figure }) => figure.chapter === id));
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${text(title)}: a survey</title>
<style>${reportStyle}</style>
</head>
<body>
<header>
<h1>${text(title)} ${text(catalog.version)}</h1>
<nav><a href="#pairs">Pairs</a>${map === undefined ? "" : '<a href="#all">Map</a>'}<a href="#apart">Never together</a><a href="#coverage">Coverage</a>${chapters.map(({ id, name }) => `<a href="#${id}">${name}</a>`).join("")}</nav>
<form><label>Find <input type="search" name="search" placeholder="parts, a body"></label><label>Zoom <input type="range" name="zoom" min="1" max="6" step="0.5" value="2"></label></form>
</header>
<main>
${factsOf(surveyed)}
<section id="pairs"><h2>Every two parts together <span class="quiet count"></span></h2>
<p>${pairsLine(pairs)} Click a picture for the command that draws it.</p>
${figuresOf(surveyed, "pairs")}
</section>
${map === undefined ? "" : `<section id="all"><h2>All pairs at a glance</h2>${map.html}</section>`}
<section id="apart"><h2>Never together</h2>
${apartOf(surveyed)}
</section>
<section id="coverage"><h2>What is drawn</h2>
${coverageOf(surveyed)}
</section>
${chapters.map((each) => chapterOf(surveyed, each)).join("\n")}
</main>
<footer hidden><code></code><button type="button">Copy</button></footer>
<script type="application/json" id="data">${JSON.stringify(map?.data ?? {}).replaceAll("<", "\\u003c")}</script>
<script>${reportScript}</script>
</body>
</html>
`;
}

function factsOf({ catalog, counts, coverage, pairs }: Surveyed): string {
  const total = counts.reduce((sum, { count }) => sum + count, 0n);
  const states = coverage.flatMap(({ moments }) => moments);
  const drawn = states.filter(({ state }) => state === "drawn").length;
  const facts: readonly (readonly [string, string])[] = [
    [catalog.bodies.size.toLocaleString("en"), "bodies"],
    [catalog.slots.size.toLocaleString("en"), "slots"],
    [catalog.parts.size.toLocaleString("en"), "parts"],
    [catalog.rules.length.toLocaleString("en"), "rules"],
    [
      `${counts.every(({ isProven }) => isProven) ? "" : "≥ "}${total.toLocaleString("en")}`,
      "valid ways to dress somebody",
    ],
    [`${drawn.toLocaleString("en")} of ${states.length.toLocaleString("en")}`, "animations and facings are drawn"],
    [
      `${pairs.characters.length} (≥ ${pairs.lowerBound})`,
      pairs.isProven ? "characters show all pairs" : "characters show many pairs",
    ],
  ];
  return `<ul class="facts">${facts.map(([number, what]) => `<li><b>${text(number)}</b><span>${text(what)}</span></li>`).join("")}</ul>`;
}

interface Chapter {
  readonly id: Figure["chapter"];
  readonly name: string;
  readonly title: string;
  readonly about: string;
}

/** What is shown besides the pairs. */
const otherChapters: readonly Chapter[] = [
  { id: "parts", name: "Parts", title: "Each part alone", about: "As its option icon, on a quiet figure." },
  {
    id: "outfits",
    name: "Outfits",
    title: "Each outfit on each body",
    about: "With what everybody wears who wears nothing else.",
  },
  { id: "presets", name: "Presets", title: "Each preset", about: "As the player finds it." },
];

/** What the characters of the pairs show, and whether that is all there is. */
function pairsLine(pairs: PairwiseCover): string {
  const { isProven, characters, lowerBound } = pairs;
  const seen = isProven
    ? `every two parts are seen together that can be: ${seenIn(pairs)}.`
    : `${seenIn(pairs)} are seen. The rules are too many to look at every pair: some are left unseen.`;
  return `On ${counted(characters.length, "character")}, each of them valid, ${seen} No fewer than ${lowerBound} can show that.`;
}

function chapterOf(surveyed: Surveyed, { id, title, about }: Chapter): string {
  return `<section id="${id}"><h2>${title} <span class="quiet count"></span></h2><p class="quiet">${about}</p>${figuresOf(surveyed, id)}</section>`;
}

function figuresOf(surveyed: Surveyed, chapterId: Figure["chapter"]): string {
  const figures = surveyed.drawn.filter(({ figure }) => figure.chapter === chapterId);
  const items = figures.map((drawn, number) => figureHtml(surveyed, drawn, number));
  return `<ul class="figures">${items.join("\n")}</ul><p class="none">Nobody here has all of that.</p>`;
}

function figureHtml({ place, out }: Surveyed, { figure, pictures }: DrawnFigure, number: number): string {
  const { character, title, wears, words, icon } = figure;
  const across = pictures.reduce((sum, { width }) => sum + width, 0);
  const buttons = pictures.map(({ width, height, source, options, facing }) => {
    const file = `${out}/characters/${character.id}.json`;
    const picture = `${character.id}${facing === undefined ? `-${icon}` : `-${facing}`}.png`;
    const command = `mantle draw ${wordsFor(place, quoted)} ${quoted(file)} ${options} --scale 4 --out ${quoted(`${out}/${picture}`)}`;
    const named = facing === undefined ? title : `${title}, ${facing}`;
    return `<button type="button" aria-pressed="false" data-command="${text(command)}"><img alt="${text(named)}" src="${source}" style="--width:${width};--height:${height}"></button>`;
  });
  const kind = icon === undefined ? "strip" : "icon";
  return `<li class="figure ${kind}" data-number="${number}" data-words="${text(words.join(" "))}" style="--across:${across}"><div class="row">${buttons.join("")}</div><h3>${text(title)}</h3><p>${text(wears.join(", "))}</p></li>`;
}

/** `3,067 pairs`, or `3,067 pairs and 12,345 threes`. */
export function seenIn({ pairs, threes }: PairwiseCover): string {
  return threes === 0 ? counted(pairs, "pair") : `${counted(pairs, "pair")} and ${counted(threes, "three")}`;
}

/** A word of a command, as a shell takes it. */
function quoted(word: string): string {
  const plain = relative(".", word) || ".";
  return /^[\w./-]+$/.test(plain) ? plain : `'${plain.replaceAll("'", "'\\''")}'`;
}

function apartOf({ catalog, pairs: { apart } }: Surveyed): string {
  if (apart.length === 0) return "<p>Every two parts can be worn together.</p>";
  const told = sayByTitles(catalog);
  const named = (item: Item) => {
    if (item.kind === "part") return textIn(catalog.parts.get(item.part)?.title ?? item.part);
    if (item.kind === "body") return textIn(catalog.bodies.get(item.body)?.title ?? item.body);
    return `${item.channel} ${item.ramp}`;
  };
  const most = Math.max(...apart.map(({ items }) => items.length));
  const rows = apart.map(({ items, because }) => {
    const names = Array.from(
      { length: most },
      (_, at) => `<th>${text(items[at] === undefined ? "" : named(items[at]))}</th>`,
    );
    return `<tr>${names.join("")}<td>${text(because.map(told).join(" "))}</td></tr>`;
  });
  return `<p>What can be worn, and never together, and what keeps it apart:</p><div class="scroll"><table><tbody>${rows.join("")}</tbody></table></div>`;
}

const marks = { drawn: "●", "falls-back": "◐", missing: "○" } as const;

function coverageOf({ catalog, coverage, pairs }: Surveyed): string {
  const bodies = [...catalog.bodies.values()];
  const seen = new Map<string, number>();
  for (const character of pairs.characters)
    for (const { part } of wornParts(catalog, character)) seen.set(part.id, (seen.get(part.id) ?? 0) + 1);
  const most = Math.max(1, ...seen.values());
  const byPart = new Map<string | undefined, readonly PartCoverage[]>();
  for (const part of [undefined, ...partsInOrder(catalog)])
    byPart.set(
      part?.id,
      coverage.filter((each) => each.part === part?.id),
    );
  const heads = bodies.map(
    ({ title, rig }) => `<th class="first" colspan="${rig.animations.size}">${text(textIn(title))}</th>`,
  );
  const animations = bodies.flatMap(({ rig }) =>
    [...rig.animations.keys()].map((id, at) => `<th class="turned${at === 0 ? " first" : ""}">${text(id)}</th>`),
  );
  const rows = [...byPart]
    .filter(([, own]) => own.length > 0)
    .map(([part, own]) => {
      const cells = bodies.flatMap(({ id, rig }) => {
        const moments = own.find(({ body }) => body === id)?.moments ?? [];
        return [...rig.animations.keys()].map((animation, at) =>
          cellOf(
            moments.filter((moment) => moment.animation === animation),
            at === 0,
          ),
        );
      });
      const title = part === undefined ? "the bare body" : textIn(catalog.parts.get(part)?.title ?? part);
      const count =
        part === undefined
          ? ""
          : `<span class="bar" style="width:${Math.round((64 * (seen.get(part) ?? 0)) / most)}px"></span>${seen.get(part) ?? 0}`;
      return `<tr><th>${text(title)}</th><td style="text-align:left">${count}</td>${cells.join("")}</tr>`;
    });
  return `<p>● is drawn, ◐ shows another animation in some facing, ○ shows nothing there; empty where a part was not made for a body. Point at a mark for more. The bars say on how many of the ${pairs.characters.length} characters above a part is worn.</p>
<div class="scroll"><table class="coverage"><thead><tr><th></th><th></th>${heads.join("")}</tr><tr><th></th><th>worn</th>${animations.join("")}</tr></thead><tbody>${rows.join("\n")}</tbody></table></div>`;
}

function cellOf(moments: readonly Coverage[], isFirst: boolean): string {
  const edge = isFirst ? " first" : "";
  if (moments.length === 0) return `<td class="${edge}"></td>`;
  const worst =
    (["missing", "falls-back"] as const).find((state) => moments.some((each) => each.state === state)) ?? "drawn";
  const odd = moments.filter(({ state }) => state !== "drawn");
  const told = odd.map(
    ({ facing, state, shown }) => `${facing}: ${state === "missing" ? "nothing" : shown.join(", ")}`,
  );
  const title = odd.length === 0 ? "" : ` title="${text(told.join("; "))}"`;
  return `<td class="${worst}${edge}"${title}>${marks[worst]}</td>`;
}
