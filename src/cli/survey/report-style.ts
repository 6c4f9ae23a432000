/** How the report looks: a ledger, on a screen and on paper. */
export const reportStyle = `
:root { --paper: #f4ecdc; --low: #eae0cb; --ink: #16323a; --soft: #4b6066; --line: #c9bb9c; --brass: #b98a2f; --madder: #9c3b2e; --zoom: 2; }
* { box-sizing: border-box; }
body { margin: 0; background: var(--paper); color: var(--ink); font: 15px/24px "Atkinson Hyperlegible", "Segoe UI", "DejaVu Sans", sans-serif; }
h1, h2 { font-family: "Alegreya", "Palatino Linotype", "DejaVu Serif", Georgia, serif; font-weight: 700; margin: 0; }
h1 { font-size: 28px; line-height: 32px; }
h2 { font-size: 24px; line-height: 32px; padding-top: 8px; }
header { position: sticky; top: 0; z-index: 2; background: var(--paper); border-bottom: 1px solid var(--ink); padding: 12px 24px; display: flex; flex-wrap: wrap; gap: 8px 20px; align-items: center; }
nav { display: flex; flex-wrap: wrap; gap: 0 14px; }
nav a, a { color: var(--ink); text-decoration-color: var(--brass); text-decoration-thickness: 2px; text-underline-offset: 4px; }
form { display: flex; flex-wrap: wrap; gap: 8px 14px; margin-left: auto; align-items: center; }
label { display: flex; gap: 8px; align-items: center; color: var(--soft); }
input { font: inherit; color: var(--ink); accent-color: var(--brass); }
input[type="search"] { width: 176px; height: 40px; padding: 0 12px; border: 1px solid var(--line); border-radius: 2px; background: #fffaf0; }
input[type="range"] { width: 88px; height: 40px; }
:focus-visible { outline: 2px solid var(--brass); outline-offset: 2px; }
main { padding: 8px 24px 96px; }
section { padding: 16px 0; scroll-margin-top: 72px; }
.facts { display: flex; flex-wrap: wrap; gap: 8px 40px; margin: 8px 0; padding: 0; list-style: none; }
.facts b { font-size: 20px; display: block; font-variant-numeric: tabular-nums; }
.facts span, .quiet { color: var(--soft); }
p { margin: 0 0 8px; max-width: 76ch; }
.figures { display: flex; flex-wrap: wrap; gap: 8px; padding: 0; margin: 8px 0 0; list-style: none; }
.figure { border: 1px solid var(--line); border-radius: 2px; background: #fbf6ea; padding: 8px; break-inside: avoid; }
.figure[hidden] { display: none; }
.figure .row { display: flex; justify-content: center; align-items: flex-end; min-height: 24px; }
.figure button { display: block; padding: 0; border: 0; border-radius: 2px; background: none; cursor: pointer; }
.figure button:hover, .figure button[aria-pressed="true"] { background: var(--low); }
.figure img { display: block; image-rendering: pixelated; width: calc(var(--width) * var(--zoom) * 1px); height: calc(var(--height) * var(--zoom) * 1px); }
.figure h3 { font-size: 15px; line-height: 24px; margin: 4px 0 0; }
.figure p { font-size: 13px; line-height: 18px; color: var(--soft); margin: 0; }
.strip { max-width: 100%; width: calc(var(--across) * var(--zoom) * 1px + 18px); min-width: 160px; }
.icon { width: calc(var(--zoom) * 48px + 18px); min-width: 112px; text-align: center; }
.icon .row { min-height: calc(var(--zoom) * 36px); align-items: center; }
.none { display: none; color: var(--soft); padding: 8px 0; }
.is-empty .none { display: block; }
.map { display: flex; flex-wrap: wrap; gap: 16px 32px; align-items: flex-start; }
svg { display: block; max-width: 100%; height: auto; }
svg text { font: 8px "Atkinson Hyperlegible", "DejaVu Sans", sans-serif; fill: var(--ink); }
svg .once { fill: #a9c0bd; } svg .more { fill: #3f6d72; } svg .apart { fill: none; stroke: var(--madder); stroke-width: 1.5; } svg .slot { stroke: var(--line); stroke-width: .5; }
svg .at { fill: none; stroke: var(--brass); stroke-width: 2; }
.key { display: grid; gap: 4px; min-width: 240px; flex: 1; position: sticky; top: 88px; }
.key h3 { margin: 0; font-size: 15px; }
.key div { display: flex; gap: 8px; align-items: center; }
.key svg { width: 16px; height: 16px; flex: none; }
output { display: block; min-height: 96px; padding: 8px 12px; border: 1px solid var(--line); border-radius: 2px; background: #fbf6ea; margin-top: 8px; }
.scroll { overflow-x: auto; }
table { border-collapse: collapse; font-size: 13px; line-height: 18px; }
th { text-align: left; vertical-align: top; font-weight: 700; padding: 2px 8px 2px 0; white-space: nowrap; }
td { padding: 2px 8px 2px 0; vertical-align: top; }
tbody tr { border-top: 1px solid var(--low); }
.coverage td { text-align: center; padding: 0 3px; font-size: 15px; }
.coverage thead th { vertical-align: bottom; padding: 0 3px; font-weight: 400; }
.coverage thead th.turned { writing-mode: vertical-rl; transform: rotate(180deg); padding: 3px 0; }
.coverage .first { border-left: 1px solid var(--line); }
.drawn { color: #3f6d72; } .falls-back { color: var(--brass); } .missing { color: var(--madder); font-weight: 700; }
.bar { display: inline-block; height: 8px; background: var(--brass); vertical-align: middle; margin-right: 8px; }
details summary { cursor: pointer; min-height: 32px; }
footer { position: fixed; inset: auto 0 0; background: var(--ink); color: var(--paper); padding: 12px 24px; display: flex; gap: 16px; align-items: center; font-size: 14px; }
footer[hidden] { display: none; }
footer code { flex: 1; overflow-wrap: anywhere; font: 13px/20px "DejaVu Sans Mono", Consolas, monospace; user-select: all; }
footer button { font: inherit; min-height: 40px; padding: 0 16px; border: 1px solid var(--paper); border-radius: 2px; background: none; color: inherit; cursor: pointer; }
@media (max-width: 700px) { header { position: static; padding: 12px 16px; } main { padding: 8px 16px 96px; } form { margin-left: 0; } input[type="search"] { width: 100%; } :root { --zoom: 1.5; } }
@media print { header { position: static; background: #fff; } .figure button { background: none !important; } form, footer, nav, output { display: none !important; } body { background: #fff; font-size: 11px; } .figure { background: #fff; } :root { --zoom: 1.25; } }
`;
