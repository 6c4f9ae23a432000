import { PerspectiveCamera, Raycaster, type Scene, Vector2, WebGLRenderer } from "three";
import { type Look, textIn } from "zealous-mantle";
import { PickEvent } from "zealous-mantle/elements";
import { type ModelCache, type ModelFigure, openModelFigure } from "zealous-mantle/three";
import { make } from "../shared/dom.ts";
import { pedestalScene, shadow } from "./scenery.ts";

/** How far one stands from the figure, and where one looks, from the whole figure to its face. */
const zooms = [
  { away: 4.3, height: 0.78 },
  { away: 3.1, height: 0.95 },
  { away: 2, height: 1.16 },
] as const;

/** Pixels that a pointer may move and still press. */
const slack = 4;

/** A stage in three dimensions: one walks around the figure, comes closer, and presses what it wears. The pose goes on when the look changes. */
export class OrbitStage {
  /** For the slot `stage` of a screen. */
  readonly element: HTMLElement;
  readonly #shelf: ModelCache;
  readonly #canvas = make("canvas", { tabIndex: 0, role: "img", ariaLabel: "The figure. Arrow keys turn it." });
  readonly #renderer: WebGLRenderer;
  readonly #scene: Scene = pedestalScene();
  readonly #camera = new PerspectiveCamera(24, 1, 0.1, 60);
  readonly #animations = make("select", { ariaLabel: "Animation" });
  readonly #lessMotion = matchMedia("(prefers-reduced-motion: reduce)");
  #figure: ModelFigure | undefined;
  #wanted: Look | undefined;
  #turn = 0;
  #zoom = 0;
  #frame = 0;
  #last = 0;
  #drawn = "";

  constructor(shelf: ModelCache) {
    this.#shelf = shelf;
    this.#renderer = new WebGLRenderer({ canvas: this.#canvas, antialias: true });
    this.#scene.add(shadow());
    const button = (label: string, text: string, onclick: () => void) =>
      make("button", { type: "button", ariaLabel: label, textContent: text, onclick });
    this.#animations.onchange = () => this.#figure?.play(this.#animations.value);
    const controls = make(
      "div",
      {},
      button("Turn left", "◀", () => this.turn(-1)),
      button("Farther", "−", () => this.#bring(-1)),
      this.#animations,
      button("Closer", "+", () => this.#bring(1)),
      button("Turn right", "▶", () => this.turn(1)),
    );
    controls.dataset["group"] = "";
    this.element = make("div", { className: "orbit", slot: "stage" }, this.#canvas, controls);
    this.#listen();
    this.#frame = requestAnimationFrame((now) => this.#run(now));
  }

  /** Shows a look; the clip goes on where it is. */
  async show(look: Look | undefined): Promise<void> {
    this.#wanted = look;
    if (look === undefined) return;
    if (this.#figure?.look.skeleton === look.skeleton) await this.#figure?.show(look);
    else await this.#exchange(look);
    this.element.dataset["shown"] = look.key;
  }

  turn(by: 1 | -1): void {
    this.#turn -= (by * Math.PI) / 4;
  }

  close(): void {
    cancelAnimationFrame(this.#frame);
    this.#figure?.close();
    this.#renderer.dispose();
  }

  /** Somebody with other bones takes the place, in the same pose. */
  async #exchange(look: Look): Promise<void> {
    const made = await openModelFigure(this.#shelf, look);
    if (this.#wanted !== look) {
      made.close();
      return;
    }
    const animation = this.#figure?.animation ?? look.rig.animations.keys().next().value ?? "";
    this.#figure?.close();
    this.#figure = made;
    made.play(animation, 0);
    this.#scene.add(made.object);
    const options = [...look.rig.animations.values()].map(({ id, title }) =>
      make("option", { value: id, textContent: textIn(title, document.documentElement.lang) }),
    );
    this.#animations.replaceChildren(...options);
    this.#animations.value = animation;
  }

  #bring(by: 1 | -1): void {
    this.#zoom = Math.min(zooms.length - 1, Math.max(0, this.#zoom + by));
  }

  #listen(): void {
    let from: { x: number; y: number } | undefined;
    this.#canvas.onpointerdown = ({ clientX, clientY, pointerId }) => {
      from = { x: clientX, y: clientY };
      this.#canvas.setPointerCapture(pointerId);
    };
    this.#canvas.onpointermove = ({ buttons, movementX }) => {
      if (buttons !== 0) this.#turn += movementX * 0.012;
    };
    this.#canvas.onpointerup = (event) => {
      if (from !== undefined && Math.hypot(event.clientX - from.x, event.clientY - from.y) <= slack) this.#pick(event);
      from = undefined;
    };
    this.#canvas.onwheel = (event) => {
      event.preventDefault();
      this.#bring(event.deltaY < 0 ? 1 : -1);
    };
    // The arrow keys go to other controls from here, but for turning.
    this.#canvas.addEventListener("mantle-intent", (event) => {
      const { intent } = event;
      if (intent.kind === "turn") this.turn(intent.by);
      else if (intent.kind === "go" && (intent.way === "left" || intent.way === "right"))
        this.turn(intent.way === "left" ? -1 : 1);
      else return;
      event.preventDefault();
    });
  }

  /** What lies under the pointer is what is meant: a screen turns to its page. */
  #pick({ clientX, clientY }: PointerEvent): void {
    const box = this.#canvas.getBoundingClientRect();
    const at = new Vector2(((clientX - box.left) / box.width) * 2 - 1, 1 - ((clientY - box.top) / box.height) * 2);
    const ray = new Raycaster();
    ray.setFromCamera(at, this.#camera);
    const touched = this.#figure?.pick(ray);
    if (touched !== undefined) this.#canvas.dispatchEvent(new PickEvent(touched.part));
  }

  #run(now: number): void {
    this.#frame = requestAnimationFrame((next) => this.#run(next));
    const passed = Math.min(0.1, (now - this.#last) / 1000);
    this.#last = now;
    const { clientWidth: width, clientHeight: height } = this.#canvas;
    if (width === 0 || height === 0) return;
    const isStill = this.#lessMotion.matches;
    // What stands still is drawn again only when it has changed, or is seen otherwise.
    const drawn = [this.element.dataset["shown"], this.#animations.value, this.#turn, this.#zoom, width, height].join();
    if (isStill && drawn === this.#drawn) return;
    this.#drawn = drawn;
    this.#figure?.update(isStill ? 0 : passed);
    if (this.#figure !== undefined) this.#figure.object.rotation.y = this.#turn;
    const density = Math.min(2, devicePixelRatio);
    const size = this.#renderer.getSize(new Vector2());
    if (size.x !== width || size.y !== height) {
      this.#renderer.setPixelRatio(density);
      this.#renderer.setSize(width, height, false);
    }
    const { away, height: level } = zooms[this.#zoom] ?? zooms[0];
    this.#camera.aspect = width / height;
    // A narrow stage is seen from farther away, so that arms and lanterns are in it.
    const far = away * Math.max(1, 0.72 / this.#camera.aspect);
    this.#camera.position.set(0, level + far * 0.16, far);
    this.#camera.lookAt(0, level, 0);
    this.#camera.updateProjectionMatrix();
    this.#renderer.render(this.#scene, this.#camera);
  }
}
