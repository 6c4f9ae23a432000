import { html, type PropertyDeclarations, type PropertyValues } from "lit";
import type { ImageLoader } from "../browser/image-loader.ts";
import type { IntentEvent } from "../browser/input/intent.ts";
import { MantleError } from "../core/base/problem.ts";
import { textIn } from "../core/base/text.ts";
import type { Rectangle } from "../core/catalog/model/catalog.ts";
import { celsAt } from "../core/look/cels-at.ts";
import type { Look, Moment } from "../core/look/look.ts";
import { durationOf, firstMoment, hasEnded, keepPose } from "../core/look/moments.ts";
import { composeFrame } from "../core/raster/compose-frame.ts";
import { hitTest } from "../core/raster/hit-test.ts";
import { visibleBounds } from "../core/raster/visible-bounds.ts";
import { contextOf, painterOf } from "./painter-of.ts";
import { stageStyle } from "./stage-style.ts";
import { fillText, localeOf, type ScreenTexts, stageTexts } from "./texts.ts";
import { theme } from "./theme.ts";
import { TypedElement } from "./typed-element.ts";

/** Paints what is behind the figure: on a canvas of so many pixels, at a time in seconds. */
export type Backdrop = (context: CanvasRenderingContext2D, width: number, height: number, time: number) => void;

/** A part of the figure was clicked; the body itself when `part` is `undefined`. */
export class PickEvent extends Event {
  readonly part: string | undefined;

  constructor(part: string | undefined) {
    super("mantle-pick", { bubbles: true, composed: true });
    this.part = part;
  }
}

const zooms = [1, 1.5, 2.25, 3] as const;
/** How much of the stage's height the figure takes, 0 to 1: about, and at most. */
const figureShare = 0.72;
const figureMost = 0.88;
/** Seconds between two runs of an animation that does not loop. */
const pause = 0.6;

/**
 * `<mantle-stage>`: the living figure, drawn large. It can be turned, by the buttons or by dragging, brought closer, and set moving;
 * a click on it emits which part was clicked. The pose goes on when the look changes.
 *
 * @fires mantle-pick - a `PickEvent`, when the figure is clicked.
 */
export class MantleStage extends TypedElement<{ readonly "mantle-pick": PickEvent }> {
  static override properties: PropertyDeclarations = {
    look: { attribute: false },
    loader: { attribute: false },
    backdrop: { attribute: false },
    texts: { attribute: false },
    language: { type: String },
    name: { type: String },
    animation: { type: String, reflect: true },
    facing: { type: String, reflect: true },
    zoom: { type: Number, reflect: true },
    still: { type: Boolean },
    failure: { state: true },
  };

  static override styles = [theme, stageStyle];

  /** What is shown. */
  declare look: Look | undefined;
  /** Fetches the pictures of looks. */
  declare loader: ImageLoader | undefined;
  /** Paints behind the figure. */
  declare backdrop: Backdrop | undefined;
  /** Texts of the screen in another language. */
  declare texts: ScreenTexts;
  /** BCP 47 tag of the language in which movements and facings are named. @defaultValue that of the page, or else English */
  declare language: string | undefined;
  /** What the figure is called, for screen readers. */
  declare name: string;
  /** The animation it shows; the rig's first when left out. */
  declare animation: string;
  /** The facing in which the figure is shown. */
  declare facing: string;
  /** How close one stands: 0 for the whole figure, to 3. */
  declare zoom: number;
  /** Stands still. Players who want less motion get that anyway. */
  declare still: boolean;
  declare protected failure: string;

  #shown: Look | undefined;
  #time = 0;
  #last: number | undefined;
  #frame = 0;
  #wanted: Look | undefined;
  #bounds: Rectangle | undefined;
  #dragged = false;
  /** What the canvas shows, so that it is painted only when something changed. */
  #painted: readonly unknown[] = [];
  readonly #lessMotion = matchMedia("(prefers-reduced-motion: reduce)");

  constructor() {
    super();
    this.texts = {};
    this.language = undefined;
    this.name = "";
    this.animation = "";
    this.facing = "";
    this.zoom = 0;
    this.still = false;
    this.failure = "";
    this.addEventListener("mantle-intent", (event) => this.#onIntent(event));
  }

  override connectedCallback(): void {
    super.connectedCallback();
    this.#frame = requestAnimationFrame((now) => this.#run(now));
  }

  override disconnectedCallback(): void {
    cancelAnimationFrame(this.#frame);
    this.#last = undefined;
    super.disconnectedCallback();
  }

  protected override willUpdate(changed: PropertyValues): void {
    if (changed.has("look") || changed.has("loader")) void this.#load();
  }

  protected override render() {
    const rig = this.look?.rig;
    const language = localeOf(this.language);
    const facing = rig?.facings.get(this.#moment()?.facing ?? "");
    const words = { name: this.name || this.#say("nameless"), facing: textIn(facing?.title ?? "", language) };
    return html`
      <div class="view" data-turns @pointerdown=${this.#press} @pointermove=${this.#drag} @click=${this.#pick}>
        <canvas role="img" aria-label=${this.#say("figure", words)}></canvas>
        ${this.failure === "" ? "" : html`<p class="failure wrong" role="alert">${this.failure}</p>`}
      </div>
      <div class="controls" part="controls" data-group>
        <button type="button" aria-label=${this.#say("turn-left")} @click=${() => this.turn(-1)}>◀</button>
        <button type="button" aria-label=${this.#say("farther")} ?disabled=${this.zoom <= 0} @click=${() => this.#bring(-1)}>−</button>
        <select dir="auto" aria-label=${this.#say("animation")} @change=${this.#choose}>
          ${[...(rig?.animations.values() ?? [])].map(
            ({ id, title }) =>
              html`<option value=${id} ?selected=${id === this.#moment()?.animation}>${textIn(title, language)}</option>`,
          )}
        </select>
        <button type="button" aria-label=${this.#say("closer")} ?disabled=${this.zoom >= zooms.length - 1} @click=${() => this.#bring(1)}>+</button>
        <button type="button" aria-label=${this.#say("turn-right")} @click=${() => this.turn(1)}>▶</button>
      </div>
    `;
  }

  /** Turns the figure to its next facing; 1 is to the viewer's right. */
  turn(by: 1 | -1): void {
    const facings = [...(this.look?.rig.facings.keys() ?? [])];
    const at = Math.max(0, facings.indexOf(this.facing));
    this.facing = facings[(at - by + facings.length) % facings.length] ?? this.facing;
  }

  #say(name: keyof typeof stageTexts, words?: Readonly<Record<string, string>>): string {
    return fillText(this.texts[name] ?? stageTexts[name], words, this.language);
  }

  #onIntent(event: IntentEvent): void {
    if (event.intent.kind !== "turn") return;
    this.turn(event.intent.by);
    event.preventDefault();
  }

  #bring(by: 1 | -1): void {
    this.zoom = Math.min(zooms.length - 1, Math.max(0, this.zoom + by));
  }

  #choose({ target }: Event): void {
    if (!(target instanceof HTMLSelectElement)) return;
    this.animation = target.value;
    this.#time = 0;
  }

  async #load(): Promise<void> {
    const { look, loader } = this;
    this.#wanted = look;
    if (look === undefined) return;
    if (loader === undefined) {
      // For whoever makes the game: players never see it.
      this.failure = this.#say("no-picture", { because: "Set `loader`, as fetchCatalog and imageLoader give it." });
      return;
    }
    try {
      await loader.load(look);
    } catch (error) {
      if (!(error instanceof MantleError)) throw error;
      this.failure = this.#say("no-picture", { because: error.message });
      return;
    }
    if (this.#wanted !== look) return;
    const moment = this.#moment();
    if (this.#shown !== undefined && moment !== undefined && this.#shown.rig.animations.has(moment.animation)) {
      this.#time = keepPose(this.#shown, look, moment).time;
    }
    this.failure = "";
    this.#shown = look;
    this.#bounds ??= visibleBounds(composeFrame(look, loader.images, firstMoment(look)));
    this.dataset["shown"] = look.key;
  }

  /** The moment that is shown now. */
  #moment(): Moment | undefined {
    const look = this.#shown ?? this.look;
    if (look === undefined) return undefined;
    const first = firstMoment(look);
    const animation = look.rig.animations.has(this.animation) ? this.animation : first.animation;
    const facing = look.rig.facings.has(this.facing) ? this.facing : first.facing;
    return { animation, facing, time: this.#time };
  }

  #run(now: number): void {
    this.#frame = requestAnimationFrame((next) => this.#run(next));
    const passed = this.#last === undefined ? 0 : (now - this.#last) / 1000;
    this.#last = now;
    if (!this.still && !this.#lessMotion.matches) this.#time += Math.min(passed, 0.25);
    const moment = this.#moment();
    const look = this.#shown;
    if (look !== undefined && moment !== undefined && hasEnded(look, moment)) {
      if (this.#time > durationOf(look, moment.animation) + pause) this.#time = 0;
    }
    this.#paint(now / 1000);
  }

  /** Where the figure stands on the canvas, and how large its pixels are. */
  #place(): { scale: number; width: number; height: number; x: number; y: number } | undefined {
    const view = this.renderRoot.querySelector(".view");
    const look = this.#shown;
    if (view === null || look === undefined || view.clientWidth === 0) return undefined;
    const { origin } = look.rig;
    const box = this.#bounds ?? { x: 0, y: 0, ...look.rig.frame };
    const zoom = zooms[this.zoom] ?? 1;
    const room = view.clientHeight / box.height;
    const whole = Math.min(Math.round(room * figureShare), Math.floor(room * figureMost));
    const scale = Math.max(1, Math.round(Math.max(1, whole) * zoom));
    const width = Math.ceil(view.clientWidth / scale);
    const height = Math.ceil(view.clientHeight / scale);
    const feet = Math.round(height - Math.max(4, height * 0.1));
    // Closer, one looks the figure in the face: a quarter of the way down from its top.
    const face = Math.round(height * 0.45 + (origin.y - box.y - box.height * 0.25));
    return { scale, width, height, x: Math.round(width / 2), y: this.zoom === 0 ? feet : Math.max(feet, face) };
  }

  #paint(time: number): void {
    const canvas = this.renderRoot.querySelector("canvas");
    const place = this.#place();
    const moment = this.#moment();
    if (canvas === null || place === undefined || moment === undefined) return;
    const { scale, width, height, x, y } = place;
    const isStill = this.backdrop === undefined || this.#lessMotion.matches;
    const cels = this.#shown && celsAt(this.#shown, moment);
    const painted = [canvas, cels, this.loader?.version, this.backdrop, scale, width, height, x, y];
    if (isStill && painted.every((each, at) => each === this.#painted[at])) return;
    this.#painted = painted;
    if (canvas.width !== width || canvas.height !== height || canvas.style.width !== `${width * scale}px`) {
      canvas.width = width;
      canvas.height = height;
      canvas.style.width = `${width * scale}px`;
      canvas.style.height = `${height * scale}px`;
    }
    const context = contextOf(canvas);
    context.clearRect(0, 0, width, height);
    this.backdrop?.(context, width, height, this.#lessMotion.matches ? 0 : time);
    if (this.#shown !== undefined && this.loader !== undefined)
      painterOf(this.loader).paint(context, this.#shown, moment, { x, y });
  }

  #press(): void {
    this.#dragged = false;
  }

  #drag(event: PointerEvent): void {
    if (event.buttons !== 0 && Math.abs(event.movementX) > 2) this.#dragged = true;
  }

  #pick(event: MouseEvent): void {
    const canvas = this.renderRoot.querySelector("canvas");
    const [place, moment, look] = [this.#place(), this.#moment(), this.#shown];
    if (canvas === null || place === undefined || moment === undefined || look === undefined || this.#dragged) return;
    const box = canvas.getBoundingClientRect();
    const { origin } = look.rig;
    const x = Math.floor((event.clientX - box.left) / place.scale) - place.x + origin.x;
    const y = Math.floor((event.clientY - box.top) / place.scale) - place.y + origin.y;
    const touched = this.loader && hitTest(look, this.loader.images, moment, x, y);
    if (touched !== undefined) this.dispatchEvent(new PickEvent(touched.part));
  }
}

customElements.define("mantle-stage", MantleStage);

declare global {
  interface HTMLElementTagNameMap {
    "mantle-stage": MantleStage;
  }
}
