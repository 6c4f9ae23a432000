import { textIn } from "zealous-mantle";
import { openLiveCatalog } from "zealous-mantle/browser";
import { byId, make } from "../shared/dom.ts";
import { loaderWith } from "../shared/loader-with.ts";
import { Bench } from "./bench.ts";
import { chips } from "./chips.ts";
import { coverageMap } from "./coverage-map.ts";
import { type DroppedPart, readDropped } from "./dropped.ts";
import { replaceKeepingFocus } from "./keep-focus.ts";
import { lightTable } from "./light-table.ts";
import { PairSheet } from "./pair-sheet.ts";
import { ProblemList } from "./problem-list.ts";
import { ruleGraph } from "./rule-graph.ts";
import { Versions } from "./versions.ts";
import { catalogWith, picturesOf } from "./with-dropped.ts";

const query = new URLSearchParams(location.search);
const folder = (path: string) => new URL(path.endsWith("/") ? path : `${path}/`, location.href).href;
/** Where the catalog is served, and an older version of it, where one is named. */
const url = folder(query.get("catalog") ?? "../catalogs/saltmarsh/");
const against = query.get("against");

const live = await openLiveCatalog(url);
const bench = new Bench(live.catalog, live.loader, url);
let dropped: DroppedPart | undefined;

const open = (name: ViewName) => {
  shown = name;
  show();
};
const toFigure = () => open("figure");
const table = lightTable(bench);
const pairs = new PairSheet(bench, url, toFigure);
const problems = new ProblemList(bench, url);
const versions = new Versions(bench, url, against === null ? undefined : folder(against));
problems.read(live.problems);

/** A view that is kept, and brought up to date whenever it is shown. */
interface View {
  readonly element: HTMLElement;
  update(): Promise<void>;
}

const kept = (view: View) => () => {
  run(view.update());
  return view.element;
};

/** What one can look at, and what makes its element. */
const views = {
  figure: { title: "Figure", show: kept(table) },
  coverage: { title: "Coverage", show: () => coverageMap(bench, toFigure) },
  pairs: { title: "Pairs", show: kept(pairs) },
  rules: { title: "Rules", show: () => ruleGraph(bench) },
  problems: { title: "Problems", show: kept(problems) },
  versions: { title: "Versions", show: kept(versions) },
} as const;
type ViewName = keyof typeof views;
let shown: ViewName =
  query.get("view") !== null && String(query.get("view")) in views ? (query.get("view") as ViewName) : "figure";

/** Says on the page what goes wrong. */
function run(work: Promise<void>): void {
  work.catch((error: unknown) => tell(error instanceof Error ? error.message : String(error)));
}

function tell(text: string): void {
  byId("status", HTMLElement).textContent = text;
}

function show(): void {
  const tabs = Object.entries(views).map(([name, { title }]) => {
    const tab = make("button", {
      type: "button",
      textContent: title,
      id: `tab-${name}`,
      onclick: () => open(name as ViewName),
    });
    tab.role = "tab";
    tab.ariaSelected = String(name === shown);
    tab.tabIndex = name === shown ? 0 : -1;
    return tab;
  });
  replaceKeepingFocus(byId("views", HTMLElement), ...tabs);
  const view = byId("view", HTMLElement);
  view.setAttribute("aria-labelledby", `tab-${shown}`);
  const element = views[shown].show();
  if (view.firstChild !== element) view.replaceChildren(element);
  document.body.dataset.view = shown;
  listParts();
}

byId("views", HTMLElement).onkeydown = ({ key }) => {
  const by = { ArrowLeft: -1, ArrowRight: 1 }[key];
  if (by === undefined) return;
  const names = Object.keys(views) as ViewName[];
  open(names[(names.indexOf(shown) + by + names.length) % names.length] ?? shown);
  byId(`tab-${shown}`, HTMLElement).focus();
};

/** The bodies, and every part by its slot; those that are searched for. */
function listParts(): void {
  const { catalog, choice } = bench;
  const sought = byId("find", HTMLInputElement).value.trim().toLowerCase();
  const isSought = (id: string, title: string, tags: readonly string[]) =>
    sought === "" || [id, title, ...tags].some((word) => word.toLowerCase().includes(sought));
  const item = (id: string | undefined, title: string) => {
    const button = make("button", { type: "button", textContent: title, onclick: () => bench.choose({ part: id }) });
    button.setAttribute("aria-pressed", String(id === choice.part));
    return button;
  };
  const bodies = [...catalog.bodies.values()].map(({ id, title }) => ({ id, text: textIn(title) }));
  const groups = [...catalog.slots.values()].flatMap((slot) => {
    const found = slot.parts.filter(({ id, title, tags }) => isSought(id, textIn(title), tags));
    if (found.length === 0) return [];
    return [
      make("h2", { textContent: textIn(slot.title) }),
      ...found.map(({ id, title, retired }) => item(id, `${textIn(title)}${retired ? " (retired)" : ""}`)),
    ];
  });
  replaceKeepingFocus(
    byId("bodies", HTMLElement),
    chips("Body", bodies, choice.body, (body) => bench.choose({ body, wearer: undefined })),
  );
  replaceKeepingFocus(byId("parts", HTMLElement), item(undefined, "The bare body"), ...groups);
  document.querySelector('#parts > [aria-pressed="true"]')?.scrollIntoView({ block: "nearest" });
}

function say(): void {
  const { title, version, packs, parts } = bench.catalog;
  const laid = [...packs.values()].map((pack) => `${textIn(pack.title)} ${pack.version}`);
  tell(`${textIn(title)} ${version}${laid.length === 0 ? "" : ` with ${laid.join(", ")}`}: ${parts.size} parts`);
}

/** Takes a picture or a drawing as a part, and puts it on. */
async function drop(name: string, bytes: Uint8Array): Promise<void> {
  const part = readDropped(bench, name, bytes);
  const catalog = await catalogWith(url, part);
  dropped = part;
  bench.update(catalog, loaderWith(live.loader, picturesOf(part)));
  bench.choose({ part: part.id, wearer: undefined });
  toFigure();
  tell(`${name} is worn as "${part.id}". It is not in the catalog: mantle import writes it there.`);
}

document.addEventListener("dragover", (event) => event.preventDefault());
document.addEventListener("drop", (event) => {
  event.preventDefault();
  const [file] = event.dataTransfer?.files ?? [];
  if (file !== undefined) run(file.arrayBuffer().then((buffer) => drop(file.name, new Uint8Array(buffer))));
});
const chooser = byId("file", HTMLInputElement);
chooser.onchange = () => {
  const [file] = chooser.files ?? [];
  if (file !== undefined) run(file.arrayBuffer().then((buffer) => drop(file.name, new Uint8Array(buffer))));
};

byId("find", HTMLInputElement).oninput = listParts;
bench.on(show);
live.on("change", ({ catalog, loader, problems: warnings }) => {
  pairs.forget();
  versions.forget();
  problems.read(warnings);
  const part = dropped;
  if (part === undefined) bench.update(catalog, loader);
  else run(catalogWith(url, part).then((whole) => bench.update(whole, loaderWith(loader, picturesOf(part)))));
  say();
});
bench.choose({
  part: query.get("part") ?? [...bench.catalog.parts.values()].find(({ layers }) => layers.length > 0)?.id,
});
say();
document.body.dataset.open = "true";
