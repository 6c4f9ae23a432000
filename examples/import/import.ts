import "zealous-mantle/elements";
import { zipSync } from "fflate";
import {
  applyEdit,
  createCharacter,
  describeProblem,
  type Image,
  type Problem,
  resolveLook,
  textIn,
} from "zealous-mantle";
import {
  type ArtOptions,
  contactSheet,
  type Found,
  type ImportPlan,
  planImport,
  readArt,
} from "zealous-mantle/authoring";
import { canvasOf } from "zealous-mantle/browser";
import type { MantleStage } from "zealous-mantle/elements";
import { messages } from "zealous-mantle/locales/en";
import { englishArt } from "zealous-mantle/locales/en/art";
import { decodePng, encodePng } from "zealous-mantle/raster";
import { byId, contextOf, make } from "../shared/dom.ts";
import { loaderWith } from "../shared/loader-with.ts";
import { catalog, loader, openCatalogWith, pictureBytes } from "../shared/saltmarsh.ts";

const [rig] = catalog.rigs.values();
if (rig === undefined) throw new Error("The catalog has no rig");
const body = createCharacter(catalog, { body: "reed" });
const bare = resolveLook(catalog, body);
const stage = byId("stage", HTMLElement) as MantleStage;
const select = (id: string) => byId(id, HTMLSelectElement);
const number = (id: string) => byId(id, HTMLInputElement);

/** What was dropped. */
interface Dropped {
  readonly name: string;
  readonly bytes: Uint8Array;
  /** `undefined` for a drawing in layers. */
  readonly image: Image | undefined;
}

let dropped: Dropped | undefined;
/** What parts are called, where somebody has said so, by what they were found as. */
const called = new Map<string, string>();
let plan: ImportPlan | undefined;

number("width").value = String(rig.frame.width);
number("height").value = String(rig.frame.height);
for (const slot of catalog.slots.values())
  if (!slot.data) select("slot").append(make("option", { value: slot.id, textContent: textIn(slot.title) }));
for (const channel of catalog.channels.values())
  select("channel").append(make("option", { value: channel.id, textContent: textIn(channel.title) }));

/** What was chosen of how a picture is read; a drawing says itself what it is. */
function chosenOptions(): ArtOptions {
  const kind = select("kind").value;
  if (kind === "gaps") return { gaps: true };
  const across = select("across").value.split(" ") as ("animation" | "facing" | "frame")[];
  const still = select("animations").value === "still";
  return { cell: cellSize(), across, still, ...(kind === "row" ? { each: "row" as const } : {}) };
}

/** Reads what was dropped, in the way that was chosen. */
function understand({ name, bytes, image }: Dropped): Found {
  if (rig === undefined) throw new Error("There is no rig");
  const setting = { rig, slots: new Set(catalog.slots.keys()) };
  return readArt(new Map([[name, bytes]]), setting, image === undefined ? {} : chosenOptions());
}

function cellSize(): { readonly width: number; readonly height: number } {
  const side = (id: string) => Math.max(1, Math.min(4_096, Math.round(Number(number(id).value) || 1)));
  return { width: side("width"), height: side("height") };
}

/** Plans again, and shows what would come of it. */
async function show(): Promise<void> {
  if (dropped === undefined || rig === undefined) return;
  drawPicture(dropped);
  const found = read(dropped);
  const parts = found.parts.map((part) => ({ ...part, name: called.get(part.name) ?? part.name }));
  const channel = select("channel").value;
  plan = planImport(
    catalog,
    { ...found, parts },
    { rig, slot: select("slot").value, depth: 64, ...(channel === "" ? {} : { channel }) },
  );
  const lines = plan.problems.map((problem) =>
    make("li", { textContent: describeProblem(problem, { ...messages, ...englishArt }) }),
  );
  byId("problems", HTMLElement).replaceChildren(...lines);
  const names = found.parts.slice(0, 40).map((part) => {
    const input = make("input", { value: called.get(part.name) ?? part.name.replace(/\.(png|ora)$/i, "") });
    input.onchange = () => {
      called.set(part.name, input.value);
      void show();
    };
    return make("label", {}, "is called", input);
  });
  byId("names", HTMLElement).replaceChildren(...names);
  byId("save", HTMLButtonElement).disabled = plan.parts.length === 0;
  await Promise.all([wear(plan), drawSheet(plan)]);
  document.body.dataset.ready = String(plan.parts.length);
}

/** Why a file cannot be read is shown like any other finding. */
function read(art: Dropped): Found {
  try {
    return understand(art);
  } catch (error) {
    const reason = error instanceof Error ? error.message : String(error);
    const problem: Problem = {
      code: "bad-picture",
      params: { reason },
      severity: "error",
      place: { pointer: "" },
      fixes: [],
    };
    return { parts: [], problems: [problem] };
  }
}

/** The pictures of the plan. */
function picturesOf({ parts }: ImportPlan): ReadonlyMap<string, Image> {
  return new Map(parts.flatMap(({ layers }) => layers.map(({ path, image }) => [path, image] as const)));
}

/** Shows the first part on the body, in motion. */
async function wear(own: ImportPlan): Promise<void> {
  const [part] = own.parts;
  stage.name = part?.title ?? "";
  if (part === undefined || own.fragment === undefined) {
    stage.loader = loader;
    stage.look = bare;
    return;
  }
  const tables = new Map(
    own.parts.flatMap(({ layers }) => layers.map(({ tablePath, table }) => [tablePath, table] as const)),
  );
  const whole = await openCatalogWith(own.fragment, tables);
  const worn = applyEdit(whole, createCharacter(whole, { body: body.body }), { wear: part.id });
  if (own !== plan) return;
  stage.loader = loaderWith(loader, picturesOf(own));
  stage.look = resolveLook(whole, worn.ok ? worn.character : body);
  stage.animation = [...(rig?.animations.keys() ?? [])][1] ?? "";
}

async function drawSheet({ parts }: ImportPlan): Promise<void> {
  if (rig === undefined) return;
  const quiet = { ...bare, layers: bare.layers.filter(({ part }) => part === undefined) };
  await loader.load(quiet);
  const sheets = [...rig.facings.values()].flatMap(({ id, mirrored }) => {
    if (mirrored || rig === undefined) return [];
    const shown = parts.slice(0, 12).map(({ id: name, found }) => ({ ...found, name }));
    const sheet = contactSheet(shown, id, { rig, on: { look: quiet, images: loader.images }, width: 1_230 });
    return sheet === undefined ? [] : [canvasOf(sheet)];
  });
  byId("sheet", HTMLElement).replaceChildren(...sheets);
}

/** Draws the picture, enlarged by whole numbers, with the lines of its cells over it. */
function drawPicture({ image }: Dropped): void {
  const canvas = byId("picture", HTMLCanvasElement);
  const handle = byId("handle", HTMLButtonElement);
  const isGrid = image !== undefined && select("kind").value !== "gaps";
  handle.hidden = !isGrid;
  if (image === undefined) {
    canvas.width = 0;
    return;
  }
  const scale = scaleOf(image);
  canvas.width = image.width * scale;
  canvas.height = image.height * scale;
  const context = contextOf(canvas);
  context.imageSmoothingEnabled = false;
  context.drawImage(canvasOf(image), 0, 0, canvas.width, canvas.height);
  if (!isGrid) return;
  const { width, height } = cellSize();
  context.strokeStyle = getComputedStyle(document.body).getPropertyValue("--accent");
  context.beginPath();
  for (let x = width; x <= image.width; x += width) line(context, x * scale - 0.5, 0, x * scale - 0.5, canvas.height);
  for (let y = height; y <= image.height; y += height) line(context, 0, y * scale - 0.5, canvas.width, y * scale - 0.5);
  context.stroke();
  handle.style.left = `${width * scale}px`;
  handle.style.top = `${height * scale}px`;
}

function line(context: CanvasRenderingContext2D, x: number, y: number, toX: number, toY: number): void {
  context.moveTo(x, y);
  context.lineTo(toX, toY);
}

function scaleOf({ width }: Image): number {
  return Math.max(1, Math.floor(560 / width));
}

async function drop(name: string, bytes: Uint8Array): Promise<void> {
  called.clear();
  const isDrawing = /\.ora$/i.test(name);
  try {
    dropped = { name, bytes, image: isDrawing ? undefined : decodePng(bytes) };
  } catch (error) {
    dropped = undefined;
    const reason = error instanceof Error ? error.message : String(error);
    byId("problems", HTMLElement).replaceChildren(make("li", { textContent: `${name}: ${reason}` }));
    return;
  }
  await show();
}

/** One zip of what `mantle import --write` would write: pictures, tables and the entries of the parts. */
function save(): void {
  if (plan?.fragment === undefined) return;
  const text = (value: object) => new TextEncoder().encode(`${JSON.stringify(value, null, 2)}\n`);
  const pictures = plan.parts.flatMap(({ layers }) =>
    layers.flatMap(({ path, image, tablePath, table }) => [
      [path, encodePng(image)] as const,
      [tablePath, text(table)] as const,
    ]),
  );
  const zip = zipSync(Object.fromEntries([...pictures, ["parts/imported.json", text(plan.fragment)] as const]));
  const link = make("a", { href: URL.createObjectURL(new Blob([new Uint8Array(zip)])), download: "imported.zip" });
  link.click();
  URL.revokeObjectURL(link.href);
}

const place = byId("drop", HTMLElement);
place.addEventListener("dragover", (event) => {
  event.preventDefault();
  place.dataset.over = "";
});
place.addEventListener("dragleave", () => delete place.dataset.over);
place.addEventListener("drop", (event) => {
  event.preventDefault();
  delete place.dataset.over;
  const [file] = event.dataTransfer?.files ?? [];
  if (file !== undefined) void file.arrayBuffer().then((buffer) => drop(file.name, new Uint8Array(buffer)));
});
number("file").onchange = () => {
  const [file] = number("file").files ?? [];
  if (file !== undefined) void file.arrayBuffer().then((buffer) => drop(file.name, new Uint8Array(buffer)));
};
byId("sample", HTMLButtonElement).onclick = () => {
  select("slot").value = "trousers";
  select("channel").value = "cloth";
  void pictureBytes("art/reed/breeches.png").then((bytes) => drop("Marsh Breeches.png", bytes));
};
byId("save", HTMLButtonElement).onclick = save;
byId("options", HTMLFieldSetElement).onchange = () => void show();

const handle = byId("handle", HTMLButtonElement);
handle.onpointerdown = (event) => handle.setPointerCapture(event.pointerId);
handle.onpointermove = (event) => {
  if (!handle.hasPointerCapture(event.pointerId) || dropped?.image === undefined) return;
  const box = byId("picture", HTMLCanvasElement).getBoundingClientRect();
  const scale = scaleOf(dropped.image);
  number("width").value = String(Math.max(1, Math.round((event.clientX - box.left) / scale)));
  number("height").value = String(Math.max(1, Math.round((event.clientY - box.top) / scale)));
  drawPicture(dropped);
};
handle.onpointerup = () => void show();
handle.onkeydown = (event) => {
  const [id, by] =
    { ArrowLeft: ["width", -1], ArrowRight: ["width", 1], ArrowUp: ["height", -1], ArrowDown: ["height", 1] }[
      event.key
    ] ?? [];
  if (typeof id !== "string") return;
  event.preventDefault();
  number(id).value = String(Math.max(1, Number(number(id).value) + Number(by)));
  void show();
};

stage.loader = loader;
stage.look = bare;
document.body.dataset.ready = "0";
