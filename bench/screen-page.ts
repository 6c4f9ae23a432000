import "zealous-mantle/elements";
import { createCharacter, type Image, openFitting, readCatalog } from "zealous-mantle";
import type { ImageLoader } from "zealous-mantle/browser";
import { createImage } from "zealous-mantle/raster";

const count = 5_000;
const pictures = 40;

/** A fitting screen over a catalog with a slot of 5,000 parts, and its pictures at hand. */
export function openLongFitting(): HTMLElementTagNameMap["mantle-fitting"] {
  const layer = (number: number) => [{ image: `${number % pictures}.png`, depth: number % 90, channel: "dye" }];
  const part = (slot: string, number: number) => ({
    slot,
    layers: layer(number),
    tags: number % 7 === 0 ? ["loud"] : [],
    gives: { weight: number % 5 },
  });
  const { catalog } = readCatalog({
    mantle: "catalog/1",
    id: "long",
    version: "1",
    rigs: {
      rig: {
        frame: { width: 64, height: 80 },
        origin: [32, 76],
        facings: ["south"],
        animations: { idle: { frames: 1, fps: 1 } },
      },
    },
    bodies: { plain: { rig: "rig", art: [{ image: "0.png", depth: 0 }] } },
    ramps: { plain: ["#202020", "#808080"], red: ["#400000", "#f08080"] },
    channels: { dye: { ramps: ["plain", "red"], default: "red", key: ["#202020", "#808080"] } },
    stats: { weight: {} },
    slots: Object.fromEntries(
      ["few", "long", ...Array.from({ length: 10 }, (_, at) => `more-${at}`)].map((id) => [id, { kind: "gear" }]),
    ),
    parts: Object.fromEntries([
      ...Array.from({ length: 3 }, (_, at) => [`few-${at}`, part("few", at)]),
      ...Array.from({ length: count }, (_, at) => [`long-${at}`, part("long", at)]),
      ...Array.from({ length: 10 }, (_, at) => [`more-${at}`, part(`more-${at}`, at * 3)]),
    ]),
    rules: [
      { count: "tag:loud", atMost: 3 },
      { total: "weight", atMost: 30 },
      ...Array.from({ length: 40 }, (_, at) => ({
        never: [`part:long-${at}`, `part:more-${at % 10}`],
        then: "displace",
      })),
    ],
  });
  if (catalog === undefined) throw new Error("The long catalog cannot be read");
  const images = new Map(Array.from({ length: pictures }, (_, at) => [`${at}.png`, picture(at)]));
  const loader: ImageLoader = { images, load: async () => {}, fetch: async () => {} };
  const fitting = openFitting(catalog, createCharacter(catalog, { body: "plain" }));
  for (let at = 0; at < 10; at += 1) fitting.wear(`more-${at}`);
  const screen = Object.assign(document.createElement("mantle-fitting"), { loader, fitting, noName: true });
  document.body.style.cssText = "margin: 0; height: 100vh";
  document.body.replaceChildren(screen);
  return screen;
}

/** A blob of two tones, another for each number. */
function picture(number: number): Image {
  const image = createImage(64, 80);
  for (let y = 0; y < 40; y += 1) {
    for (let x = 0; x < 24; x += 1) {
      const at = ((y + 10 + (number % 8) * 4) * 64 + x + 10 + (number % 5) * 5) * 4;
      const tone = (x * 7 + y * 3 + number) % 3 === 0 ? 0x20 : 0x80;
      image.data.set([tone, tone, tone, 255], at);
    }
  }
  return image;
}

/** Everything the screen has to do now, done. */
async function settled(screen: HTMLElementTagNameMap["mantle-fitting"]): Promise<readonly HTMLElement[]> {
  for (let turn = 0; turn < 4; turn += 1) await screen.updateComplete;
  const cards = screen.renderRoot.querySelector("mantle-cards");
  await cards?.updateComplete;
  return [...(cards?.renderRoot.querySelectorAll<HTMLElement>("[role=option]") ?? [])];
}

/** Opens the long slot again and again; beside it, the same cards in plain DOM, with two frames to spare. In milliseconds. */
async function measureScreen(): Promise<{ ours: number; theirs: number; same: boolean }> {
  const screen = openLongFitting();
  await settled(screen);
  const taken: { ours: number[]; theirs: number[] } = { ours: [], theirs: [] };
  let shown: readonly HTMLElement[] = [];
  for (let round = 0; round < 30; round += 1) {
    screen.page = "slot:few";
    await settled(screen);
    // Another character each time, so that nothing of the list is known from before.
    screen.fitting?.paint("dye", round % 2 === 0 ? "red" : "plain");
    await settled(screen);
    await new Promise(requestAnimationFrame);
    const start = performance.now();
    screen.page = "slot:long";
    shown = await settled(screen);
    taken.ours.push(performance.now() - start);
    taken.theirs.push(plainCards(shown));
  }
  const twoFrames = 2000 / 60;
  const isDrawn = shown.every((card) => (card.querySelector("canvas")?.width ?? 0) > 1);
  return { ours: median(taken.ours), theirs: median(taken.theirs) + twoFrames, same: shown.length > 3 && isDrawn };
}

/** Makes the cards that are shown once more, by hand, from pictures that are drawn already. In milliseconds. */
function plainCards(shown: readonly HTMLElement[]): number {
  const pictures = shown.map((card) => card.querySelector("canvas"));
  const start = performance.now();
  const list = document.createElement("div");
  list.style.cssText = "position: fixed; inset: 0; display: flex; flex-wrap: wrap; visibility: hidden";
  for (const [number, card] of shown.entries()) {
    const copy = document.createElement("button");
    const canvas = document.createElement("canvas");
    const drawn = pictures[number];
    canvas.width = drawn?.width ?? 1;
    canvas.height = drawn?.height ?? 1;
    if (drawn) canvas.getContext("2d")?.drawImage(drawn, 0, 0);
    const title = document.createElement("span");
    title.textContent = card.textContent;
    copy.append(canvas, title);
    list.append(copy);
  }
  document.body.append(list);
  const taken = performance.now() - start;
  list.remove();
  return taken;
}

function median(samples: readonly number[]): number {
  return samples.toSorted((one, other) => one - other)[Math.floor(samples.length / 2)] ?? 0;
}

Object.assign(window, { measureScreen, openLongFitting });
