import { textIn } from "../../core/base/text.ts";
import type { Character } from "../../core/character/character.ts";
import type { LoadoutProblem } from "../../core/character/edit.ts";
import type { Image } from "../../core/raster/image.ts";
import { encodePng } from "../../core/raster/png/encode-png.ts";
import type { EntryChange, KeyChange } from "../../core/survey/compare/compare-sources.ts";
import { versionInWords } from "../catalog-sources.ts";
import { counted, sayByTitles } from "../output.ts";
import type { LookChange, PartChange, Version } from "./compare-looks.ts";
import { escapeHtml as text } from "./escape-html.ts";
import { reportStyle } from "./report-style.ts";

/** What becomes of somebody. */
export interface CharacterChanges {
  readonly character: Character;
  readonly problems: readonly LoadoutProblem[];
  readonly lost: readonly string[];
  /** The fewest edits that mend it, in words; `undefined` where nothing does. */
  readonly mends: readonly string[] | undefined;
  readonly look: LookChange | undefined;
}

/** What the page of changes tells of. */
export interface Changes {
  readonly older: Version;
  readonly newer: Version;
  readonly data: readonly EntryChange[];
  readonly looks: readonly PartChange[];
  /** `undefined` where no saves were named. */
  readonly characters: readonly CharacterChanges[] | undefined;
}

/** Writes what changed from one version of a catalog to the next, as one page that needs nothing else. */
export function writeChanges(changes: Changes): string {
  const { older, newer, data, looks, characters } = changes;
  const title = textIn(newer.catalog.title);
  const facts = [
    [counted(data.length, "entry", "entries"), "changed in the data"],
    [counted(looks.length, "part"), "on bodies look otherwise"],
    ...(characters === undefined ? [] : [[counted(characters.length, "character"), "are touched"]]),
  ];
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<title>${text(title)}: what changed</title>
<style>${reportStyle}${changesStyle}</style>
</head>
<body>
<header><h1>${text(title)}: ${text(versionInWords(older.catalog))} to ${text(versionInWords(newer.catalog))}</h1>
<nav><a href="#data">Data</a><a href="#looks">Looks</a>${characters === undefined ? "" : '<a href="#characters">Characters</a>'}</nav>
<form><label>Zoom <input type="range" name="zoom" min="1" max="6" step="0.5" value="2"></label></form></header>
<main>
<ul class="facts">${facts.map(([number = "", what = ""]) => `<li><b>${text(number)}</b><span>${text(what)}</span></li>`).join("")}</ul>
<section id="data"><h2>In the data</h2>${dataOf(data)}</section>
<section id="looks"><h2>What looks otherwise</h2>${looksOf(changes)}</section>
${characters === undefined ? "" : `<section id="characters"><h2>Whom it touches</h2>${charactersOf(changes, characters)}</section>`}
</main>
<script>document.querySelector("input").addEventListener("input", (event) => document.documentElement.style.setProperty("--zoom", event.target.value));</script>
</body>
</html>
`;
}

const changesStyle = `
.added { color: #3f6d72; } .removed { color: var(--madder); } .changed { color: #7a5a17; }
code { font: 13px/18px "DejaVu Sans Mono", Consolas, monospace; overflow-wrap: anywhere; }
.figure figure { margin: 0; text-align: center; font-size: 13px; color: var(--soft); }
.figure .row { gap: 8px; }
.blink { position: relative; display: block; } .blink img + img { position: absolute; inset: 0 auto auto 0; animation: blink 1.4s steps(1) infinite; background: #fbf6ea; }
@keyframes blink { 50% { visibility: hidden; } }
@media (prefers-reduced-motion: reduce) { .blink img + img { animation: none; } }
.compared { max-width: 100%; } .compared .row { flex-wrap: wrap; }
`;

function dataOf(data: readonly EntryChange[]): string {
  if (data.length === 0) return "<p>Every entry is as it was.</p>";
  const rows = data.map(({ section, id, fate, keys }) => {
    const told = keys.map(keyLine).join("<br>");
    return `<tr><td>${text(section)}</td><th>${text(shortened(id))}</th><td class="${fate}">${fate}</td><td>${told}</td></tr>`;
  });
  return `<div class="scroll"><table><tbody>${rows.join("\n")}</tbody></table></div>`;
}

function keyLine({ pointer, before, after }: KeyChange): string {
  const shown = (value: KeyChange["before"]) =>
    value === undefined ? "nothing" : `<code>${text(shortened(JSON.stringify(value)))}</code>`;
  return `${pointer === "" ? "" : `${text(pointer)}: `}${shown(before)} → ${shown(after)}`;
}

function shortened(value: string): string {
  return value.length > 90 ? `${value.slice(0, 89)}…` : value;
}

function looksOf({ newer: { catalog }, looks }: Changes): string {
  if (looks.length === 0) return "<p>Everything that both have looks as it did.</p>";
  const items = looks.map((look) => {
    const part = look.part === undefined ? "the bare body" : textIn(catalog.parts.get(look.part)?.title ?? look.part);
    const body = textIn(catalog.bodies.get(look.body)?.title ?? look.body);
    return compared(`${part}, ${body}`, look);
  });
  return `<p>In each, the frame that differs most: as it was, as it is, both in turn, and what differs.</p><ul class="figures">${items.join("\n")}</ul>`;
}

function compared(title: string, { moment, frames, of, pixels, before, after, difference }: LookChange): string {
  const told = `${moment.animation}, ${moment.facing}: ${counted(pixels, "pixel")}, in ${frames} of ${counted(of, "frame")}`;
  const shown = [
    ["before", picture(before, `${title}, before`)],
    ["after", picture(after, `${title}, after`)],
    ["in turn", `<span class="blink">${picture(before, "")}${picture(after, "")}</span>`],
    ["difference", picture(difference, `${title}, what differs`)],
  ];
  return `<li class="figure compared"><div class="row">${shown.map(([name = "", html = ""]) => `<figure>${html}<figcaption>${name}</figcaption></figure>`).join("")}</div><h3>${text(title)}</h3><p>${text(told)}</p></li>`;
}

function picture(image: Image, alt: string): string {
  const source = `data:image/png;base64,${Buffer.from(encodePng(image)).toString("base64")}`;
  return `<img alt="${text(alt)}" src="${source}" style="--width:${image.width};--height:${image.height}">`;
}

function charactersOf({ newer: { catalog } }: Changes, characters: readonly CharacterChanges[]): string {
  if (characters.length === 0) return "<p>Nobody: all are valid, look as they did, and lost nothing.</p>";
  const told = sayByTitles(catalog);
  const rows = characters.map(({ character, problems, lost, mends }) => {
    const wrong = problems.map(told).map(text).join("<br>");
    const mended = mends === undefined ? "nothing" : mends.map(text).join("<br>");
    return `<tr><th>${text(character.name || character.id)}</th><td>${wrong}</td><td>${lost.map(text).join(", ")}</td><td>${mended}</td></tr>`;
  });
  const seen = characters.flatMap(({ character, look }) =>
    look === undefined ? [] : [compared(character.name || character.id, look)],
  );
  return `<div class="scroll"><table><thead><tr><th></th><th>what is wrong now</th><th>what it lost</th><th>what mends it</th></tr></thead><tbody>${rows.join("\n")}</tbody></table></div><ul class="figures">${seen.join("\n")}</ul>`;
}
