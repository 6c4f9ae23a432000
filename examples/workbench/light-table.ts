import "../../src/elements/inspect.ts";
import { composeFrame, type Look, type Moment, textIn } from "zealous-mantle";
import { canvasOf } from "zealous-mantle/browser";
import type { LayerEvent } from "zealous-mantle/elements";
import { animationOf, pointAt, timedFrames } from "zealous-mantle/raster";
import { rollCharacter } from "zealous-mantle/solver";
import { contextOf, make } from "../shared/dom.ts";
import type { Bench } from "./bench.ts";
import { chips } from "./chips.ts";
import type { DrawFrame } from "./drawer.ts";
import { replaceKeepingFocus } from "./keep-focus.ts";

/** How many frames before and after are seen through. */
const seenThrough = 2;
const colors = { before: "#9c3b2e", after: "#2a6f86", point: "#b98a2f", text: "#16323a" };

/** The part on a body, in any animation, frame by frame. */
export function lightTable(bench: Bench): { readonly element: HTMLElement; update(): Promise<void> } {
  const canvas = make("canvas", { className: "table", tabIndex: 0 });
  canvas.setAttribute("role", "img");
  const strip = make("div", { className: "strip" });
  strip.setAttribute("role", "group");
  strip.setAttribute("aria-label", "Frames");
  const options = { onion: true, points: false, playing: false };
  const pointed: { layer: string | undefined; part: string | undefined } = { layer: undefined, part: undefined };
  const inspect = make("mantle-inspect", { docked: true });
  const controls = make("div", { className: "controls" });
  const element = make(
    "div",
    { className: "figure-view" },
    make("section", { className: "bench" }, controls, make("div", { className: "glass" }, canvas), strip),
    make("aside", {}, inspect),
  );
  let started = performance.now();
  let draw: DrawFrame | undefined;
  let shown: Look | undefined;

  const momentAt = (look: Look, frame: number): Moment => {
    const { animation, facing } = bench.choice;
    const run = timedFrames(animationOf(look, animation));
    return { animation, facing, time: run[((frame % run.length) + run.length) % run.length]?.time ?? 0 };
  };

  function controlsFor(): readonly Node[] {
    const { catalog, choice } = bench;
    const rig = catalog.bodies.get(choice.body)?.rig;
    const animations = make("select", { onchange: () => bench.choose({ animation: animations.value }) });
    for (const { id, title } of rig?.animations.values() ?? [])
      animations.append(make("option", { value: id, textContent: textIn(title), selected: id === choice.animation }));
    const toggle = (name: keyof typeof options, text: string) => {
      const button = make("button", { type: "button", textContent: text });
      button.setAttribute("aria-pressed", String(options[name]));
      button.onclick = () => {
        options[name] = !options[name];
        started = performance.now();
        void update();
      };
      return button;
    };
    const facings = [...(rig?.facings.values() ?? [])].map(({ id, title }) => ({ id, text: textIn(title) }));
    const someone = make("button", {
      type: "button",
      textContent: choice.wearer === undefined ? "On somebody" : "Alone",
    });
    someone.onclick = () =>
      bench.choose({
        wearer:
          choice.wearer === undefined
            ? rollCharacter(catalog, { seed: 7, body: choice.body, emptyChance: 0.3 })
            : undefined,
      });
    return [
      make("label", { className: "row" }, "Movement ", animations),
      chips("Facing", facings, choice.facing, (facing) => bench.choose({ facing })),
      make(
        "div",
        { className: "row" },
        toggle("playing", options.playing ? "Stop" : "Play"),
        toggle("onion", "See through"),
        toggle("points", "Points"),
        someone,
      ),
    ];
  }

  /** One frame of the figure, or of the layer that is pointed at, as a picture. */
  function picture(look: Look, frame: number, scale = 1, alone = false): HTMLCanvasElement {
    const only = alone
      ? look.layers.filter((layer) => layer.images[0] === pointed.layer && layer.part === pointed.part)
      : look.layers;
    const at = momentAt(look, frame);
    return canvasOf(
      alone || draw === undefined ? composeFrame({ ...look, layers: only }, bench.loader.images, at) : draw(at, scale),
    );
  }

  function paint(look: Look): void {
    const glass = canvas.parentElement;
    if (glass === null || glass.clientWidth === 0) return;
    const { width, height } = look.rig.frame;
    const ratio = window.devicePixelRatio;
    const scale = Math.max(1, Math.floor(Math.min(glass.clientWidth / width, glass.clientHeight / height)));
    Object.assign(canvas, { width: width * scale * ratio, height: height * scale * ratio });
    canvas.style.width = `${width * scale}px`;
    const context = contextOf(canvas);
    context.imageSmoothingEnabled = false;
    context.scale(scale * ratio, scale * ratio);
    const { frame } = bench.choice;
    if (options.onion && !options.playing)
      for (let by = seenThrough; by > 0; by -= 1) {
        lay(context, tinted(picture(look, frame - by, scale), colors.before), 0.42 / by);
        lay(context, tinted(picture(look, frame + by, scale), colors.after), 0.42 / by);
      }
    lay(context, picture(look, frame, scale), pointed.layer === undefined ? 1 : 0.25);
    if (pointed.layer !== undefined) lay(context, picture(look, frame, scale, true), 1);
    if (options.points) markPoints(context, look, momentAt(look, frame), scale);
    const { animation, facing } = bench.choice;
    canvas.setAttribute(
      "aria-label",
      `${bench.part === undefined ? "The body" : textIn(bench.part.title)}: ${animation}, ${facing}, frame ${frame + 1}`,
    );
  }

  function drawStrip(look: Look): void {
    const run = timedFrames(animationOf(look, bench.choice.animation));
    replaceKeepingFocus(
      strip,
      ...run.map(({ frame }, at) => {
        const button = make(
          "button",
          { type: "button", onclick: () => bench.choose({ frame: at }) },
          picture(look, at),
          String(at + 1),
        );
        button.title = `Frame ${frame + 1} of the picture`;
        button.setAttribute("aria-pressed", String(at === bench.choice.frame % run.length));
        return button;
      }),
    );
  }

  async function update(): Promise<void> {
    const { look } = bench;
    replaceKeepingFocus(controls, ...controlsFor());
    const prepared = await bench.drawer.prepare(look);
    if (bench.look.key !== look.key) return;
    draw = prepared;
    shown = look;
    drawStrip(look);
    paint(look);
    inspect.figure = { catalog: bench.catalog, character: bench.character, moment: momentAt(look, bench.choice.frame) };
    document.body.dataset.ready = `${bench.choice.part ?? "body"} ${bench.choice.animation} ${bench.choice.facing} ${bench.choice.frame}`;
  }

  function run(now: number): void {
    requestAnimationFrame(run);
    if (!options.playing) return;
    const { look } = bench;
    const steps = timedFrames(animationOf(look, bench.choice.animation));
    const whole = steps.reduce((sum, { duration }) => sum + duration, 0);
    const time = ((now - started) / 1000) % whole;
    const at = steps.findLastIndex((step) => step.time <= time);
    if (at !== bench.choice.frame) bench.choose({ frame: at });
  }

  canvas.onkeydown = ({ key }) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[key];
    const count = timedFrames(animationOf(bench.look, bench.choice.animation)).length;
    if (by !== undefined) bench.choose({ frame: (bench.choice.frame + by + count) % count });
  };
  inspect.addEventListener("mantle-layer", ({ layer }: LayerEvent) => {
    pointed.layer = layer?.because === undefined ? layer?.image : undefined;
    pointed.part = layer?.part;
    if (shown !== undefined) paint(shown);
  });
  window.addEventListener("resize", () => shown !== undefined && paint(shown));
  requestAnimationFrame(run);
  return { element, update };
}

/** Lays a picture on the whole table, however many pixels it has. */
function lay(context: CanvasRenderingContext2D, picture: CanvasImageSource, opacity: number): void {
  const { a } = context.getTransform();
  const [width, height] = [context.canvas.width / a, context.canvas.height / a];
  context.globalAlpha = opacity;
  context.drawImage(picture, 0, 0, width, height);
  context.globalAlpha = 1;
}

/** A picture in one color. */
function tinted(picture: HTMLCanvasElement, color: string): HTMLCanvasElement {
  const context = contextOf(picture);
  context.globalCompositeOperation = "source-in";
  context.fillStyle = color;
  context.fillRect(0, 0, picture.width, picture.height);
  return picture;
}

function markPoints(context: CanvasRenderingContext2D, look: Look, moment: Moment, scale: number): void {
  const { origin } = look.rig;
  for (const name of look.points.keys()) {
    const at = pointAt(look, name, moment);
    if (at === undefined) continue;
    const [x, y] = [at.x + origin.x + 0.5, at.y + origin.y + 0.5];
    context.lineWidth = 2 / scale;
    context.strokeStyle = colors.point;
    context.strokeRect(x - 1.5, y - 1.5, 3, 3);
    context.font = `${12 / scale}px "Atkinson Hyperlegible"`;
    context.fillStyle = colors.text;
    context.fillText(name, x + 3, y + 1);
  }
}
