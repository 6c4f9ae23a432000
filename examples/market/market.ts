import { Application, Container, Graphics, Rectangle, Sprite, Text, Texture, type Ticker } from "pixi.js";
import { makeName, openSession, resolveLook, textIn } from "zealous-mantle";
import { autosave, isInputCaptured, keyBindings, openControls } from "zealous-mantle/browser";
import { type DrawnFigure, openFigures } from "zealous-mantle/pixi";
import { rollCharacter } from "zealous-mantle/solver";
import { openWardrobe } from "../harbor/menus.ts";
import { signOn } from "../shared/crew.ts";
import { byId } from "../shared/dom.ts";
import { catalog, loader, store } from "../shared/saltmarsh.ts";
import { ground, paintSquare, square, thingsOnSquare } from "./square.ts";

const count = 200;
/** Pixels of the art a second. */
const speed = { courier: 22, player: 62 };
const view = byId("view", HTMLDivElement);
const said = byId("said", HTMLParagraphElement);
const standsStill = matchMedia("(prefers-reduced-motion: reduce)");

const session = await openSession({ catalog, store, conflicts: "overwrite" });
autosave(session);
signOn(session, 4);
const [first] = session.characters;
if (session.seat(1).character === undefined && first !== undefined) session.seat(1).take(first.id);

const app = new Application();
await app.init({ resizeTo: view, background: "#22150c", antialias: false, roundPixels: true, preference: "webgl" });
view.append(app.canvas);
const figures = openFigures({ loader, ticker: app.ticker });

// The square, and on it everything that can be walked around: whoever stands lower is in front.
const world = new Container();
const people = new Container({ sortableChildren: true });
world.addChild(spriteOf(paintSquare()), people);
app.stage.addChild(world);
for (const { canvas, x, y } of thingsOnSquare()) {
  const thing = spriteOf(canvas);
  thing.position.set(x - canvas.width / 2, y - canvas.height);
  thing.zIndex = y;
  people.addChild(thing);
}

/** Somebody on the square, and where they are going. */
interface Walker {
  readonly figure: DrawnFigure;
  readonly name: string;
  readonly speed: number;
  toX: number;
  toY: number;
  /** Seconds until they walk on. */
  rest: number;
}

const couriers = Array.from({ length: count }, (_, number): Walker => {
  const character = rollCharacter(catalog, { seed: number + 1, emptyChance: 0.25 });
  const name = makeName(catalog, { seed: number + 1 }) ?? "";
  const walker = addWalker(name, speed.courier, figures.add({ look: resolveLook(catalog, character) }));
  place(walker, number * 2.7);
  return walker;
});
const player = addWalker("", speed.player, figures.add({ session, seat: 1 }));
player.figure.position.set(square.width / 2, 222);
stop(player);
// Which of them one is: a point over the head, and a ring on the ground.
const ring = new Graphics().ellipse(0, -1, 14, 6).stroke({ color: "#f4ecdc", width: 2 });
const point = new Graphics().poly([-5, -12, 5, -12, 0, -6]).fill("#f4ecdc").stroke({ color: "#22150c", width: 1 });
player.figure.addChildAt(ring, 0);
world.addChild(point);

function addWalker(name: string, pace: number, figure: DrawnFigure): Walker {
  const walker = { figure, name, speed: pace, toX: 0, toY: 0, rest: 0 };
  figure.eventMode = "static";
  figure.cursor = "pointer";
  figure.on("pointertap", (event) => {
    event.stopPropagation();
    const touched = figure.hitTest(event.getLocalPosition(figure));
    const part = touched?.of === "part" ? catalog.parts.get(touched.part) : undefined;
    const worn = part === undefined ? "No clothes there" : textIn(part.title ?? part.id, "en");
    said.textContent = `${worn}. ${walker === player ? "That is you" : `Worn by ${name}`}.`;
    bubble.show(worn, figure);
  });
  people.addChild(figure);
  return walker;
}

/** Puts somebody at a spot that comes of a number, and lets them look around. */
function place(walker: Walker, seed: number): void {
  const at = spotOf(seed);
  walker.figure.position.set(at.x, at.y);
  walker.figure.facing = ["south", "west", "north", "east"][Math.floor(seed) % 4] ?? "south";
  stop(walker);
  walker.rest = (seed * 7.3) % 5;
}

function spotOf(seed: number): { readonly x: number; readonly y: number } {
  const random = (by: number) => Math.abs(Math.sin(seed * by) * 43758.5453) % 1;
  return { x: 14 + random(12.9) * (square.width - 28), y: ground + 10 + random(78.2) * (square.height - ground - 18) };
}

function stop(walker: Walker): void {
  const { figure } = walker;
  [walker.toX, walker.toY] = [figure.x, figure.y];
  figure.animation = "idle";
}

/** Moves somebody on to where they go; whether they are there. */
function step(walker: Walker, seconds: number): boolean {
  const { figure, toX, toY } = walker;
  const [across, down] = [toX - figure.x, toY - figure.y];
  const away = Math.hypot(across, down);
  const far = walker.speed * seconds;
  if (away <= far) return true;
  figure.position.set(figure.x + (across / away) * far, figure.y + (down / away) * far);
  figure.animation = "walk";
  figure.facing = Math.abs(across) > Math.abs(down) ? (across < 0 ? "west" : "east") : down < 0 ? "north" : "south";
  return false;
}

/** What somebody wears, over their head for a while. */
const bubble = openBubble();
const controls = openControls({ keys: { one: keyBindings["keys-arrows"] } });
let strolls = count;

app.ticker.add(({ deltaMS }: Ticker) => {
  const seconds = Math.min(0.1, deltaMS / 1000);
  if (!standsStill.matches)
    for (const walker of couriers) {
      walker.rest -= seconds;
      if (walker.rest > 0 || !step(walker, seconds)) continue;
      stop(walker);
      strolls += 1;
      walker.rest = 1 + (strolls % 4);
      const next = spotOf(strolls * 1.37);
      [walker.toX, walker.toY] = [next.x, next.y];
    }
  walkPlayer(seconds);
  for (const { figure } of [...couriers, player]) figure.zIndex = figure.y;
  point.position.set(player.figure.x, player.figure.y - 50);
  bubble.follow(seconds);
  look();
});

function walkPlayer(seconds: number): void {
  if (isInputCaptured()) {
    stop(player);
    return;
  }
  const held = (action: "left" | "right" | "up" | "down") => Number(controls.isDown("one", action));
  const [across, down] = [held("right") - held("left"), held("down") - held("up")];
  const { figure } = player;
  if (across !== 0 || down !== 0) {
    const far = player.speed * seconds * 2;
    player.toX = Math.max(10, Math.min(square.width - 10, figure.x + across * far));
    player.toY = Math.max(ground + 6, Math.min(square.height - 4, figure.y + down * far));
  }
  if (step(player, seconds)) stop(player);
}

/** The square as large as whole pixels allow, with the player in the middle where it does not fit. */
function look(): void {
  const { width, height } = app.screen;
  const scale = Math.max(2, Math.ceil(Math.max(width / square.width, height / square.height)));
  world.scale.set(scale);
  const within = (at: number, seen: number, whole: number) =>
    Math.round(Math.min(0, Math.max(seen - whole * scale, seen / 2 - at * scale)));
  world.position.set(within(player.figure.x, width, square.width), within(player.figure.y - 24, height, square.height));
}

function openBubble() {
  const text = new Text({ text: "", style: { fontFamily: "Atkinson Hyperlegible", fontSize: 16, fill: "#22150c" } });
  const back = new Sprite(Texture.WHITE);
  back.tint = 0xf4ecdc;
  const box = new Container({ visible: false });
  box.addChild(back, text);
  app.stage.addChild(box);
  let over: DrawnFigure | undefined;
  let left = 0;
  return {
    show(words: string, figure: DrawnFigure) {
      text.text = words;
      text.position.set(8, 4);
      back.setSize(text.width + 16, text.height + 8);
      [over, left] = [figure, 3];
    },
    follow(seconds: number) {
      left -= seconds;
      box.visible = left > 0 && over !== undefined;
      if (over === undefined) return;
      const at = over.toGlobal({ x: 0, y: -54 });
      box.position.set(Math.round(at.x - back.width / 2), Math.round(at.y - back.height));
    },
  };
}

function spriteOf(canvas: HTMLCanvasElement): Sprite {
  const texture = Texture.from(canvas);
  texture.source.scaleMode = "nearest";
  return new Sprite(texture);
}

/** Where one presses is where one goes. */
app.stage.eventMode = "static";
app.stage.hitArea = new Rectangle(0, 0, 10_000, 10_000);
app.stage.on("pointertap", (event) => {
  const at = event.getLocalPosition(world);
  [player.toX, player.toY] = [at.x, Math.max(ground + 6, at.y)];
});

function openOwnWardrobe(): void {
  void openWardrobe(session).then(showWho);
}

function showWho(): void {
  byId("who", HTMLHeadingElement).textContent = session.seat(1).character?.name ?? "";
}

function tell(): void {
  const { pages, bytes } = figures.atlas;
  const here = couriers.filter(({ figure }) => figure.look !== undefined).length;
  document.body.dataset["here"] = String(here);
  byId("counted", HTMLParagraphElement).textContent =
    `${here} couriers, ${here} looks\n${pages.length} ${pages.length === 1 ? "page" : "pages"} of pixels, ${bytes / 2 ** 20} MiB`;
}

byId("wardrobe", HTMLButtonElement).onclick = openOwnWardrobe;
addEventListener("keydown", ({ key, repeat }) => {
  if (key === "e" && !repeat && !isInputCaptured()) openOwnWardrobe();
});
setInterval(tell, 500);
showWho();
tell();
Object.assign(window, { market: { player: player.figure, world } });
document.body.dataset["ready"] = "true";
