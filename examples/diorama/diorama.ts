import { Color, PerspectiveCamera, Raycaster, Scene, Vector2, Vector3, WebGLRenderer } from "three";
import { createFromPreset, resolveLook, type Signals, textIn } from "zealous-mantle";
import { rollCharacter } from "zealous-mantle/solver";
import { type DrawnFigure, openFigures } from "zealous-mantle/three";
import { shadow } from "../atelier/scenery.ts";
import { byId } from "../shared/dom.ts";
import { catalog, loader } from "../shared/saltmarsh.ts";
import { makeTray, waterLevel } from "./tray.ts";

const canvas = byId("scene", HTMLCanvasElement);
const standsStill = matchMedia("(prefers-reduced-motion: reduce)");
const renderer = new WebGLRenderer({ canvas, antialias: true });
const scene = new Scene();
scene.background = new Color("#e6d3ad");
scene.add(makeTray());
const figures = openFigures({ loader, unitSize: 1 / 34 });
scene.add(figures.object);
const camera = new PerspectiveCamera(24, 1, 1, 80);

/** Somebody in the tray. They look into a direction of the scene: which facing that is, depends on where one stands. */
interface Somebody {
  readonly figure: DrawnFigure;
  readonly name: string;
  /** Radians about the upright axis; 0 is toward the front of the tray. */
  heading: number;
  /** How far along the jetty they walk to and fro, and how fast. */
  readonly walk?: { readonly from: number; readonly to: number; readonly speed: number };
}

const right = Math.PI / 2;
const everybody = [
  add("first-watch", [0.1, 0, 0.35], 0.3, "hail"),
  add("lamp-child", [2.5, 0, -0.1], -0.6, "idle"),
  add("old-hand", [-1.5, 0, 0.1], right, "walk", { walk: { from: -3.6, to: 3.9, speed: 0.7 } }),
  add(11, [3.4, 0, 0.55], -right, "walk", { walk: { from: -4.2, to: 3.8, speed: 0.55 } }),
  add(23, [-3.35, 0, 0.35], 0.9, "idle"),
  add(30, [-0.7, 0, -0.35], 2.2, "idle"),
  add(8, [-2.4, waterLevel - 0.12, 2.2], 0.5, "walk", { signals: { "in-water": true } }),
  add(5, [1.35, waterLevel + 0.12, 2.1], -right, "row"),
  add(41, [1.1, 0, 0.5], -1.2, "idle"),
];

interface How {
  readonly walk?: Somebody["walk"];
  readonly signals?: Signals;
}

function add(
  who: string | number,
  [x, y, z]: readonly [number, number, number],
  heading: number,
  animation: string,
  { walk, signals = {} }: How = {},
): Somebody {
  const character =
    typeof who === "string" ? createFromPreset(catalog, who) : rollCharacter(catalog, { seed: who, emptyChance: 0.2 });
  const figure = figures.add({ look: resolveLook(catalog, character, { signals }), animation, turned: "to-camera" });
  figure.position.set(x, y, z);
  if (y === 0) figure.add(shadow());
  const preset = typeof who === "string" ? catalog.presets.get(who)?.title : undefined;
  return { figure, name: textIn(preset ?? "A courier", "en"), heading, ...(walk === undefined ? {} : { walk }) };
}

let turn = 0.45;
let tilt = 0.36;

/** The facing that is seen of somebody: their heading against that of the camera, in quarters. */
function facingOf(heading: number): string {
  const quarters = Math.round((heading - turn) / right);
  return ["south", "east", "north", "west"][((quarters % 4) + 4) % 4] ?? "south";
}

function move(somebody: Somebody, seconds: number): void {
  const { figure, walk } = somebody;
  if (walk !== undefined) {
    const ahead = somebody.heading > 0;
    figure.position.x += (ahead ? 1 : -1) * walk.speed * seconds;
    if (figure.position.x > walk.to) somebody.heading = -right;
    if (figure.position.x < walk.from) somebody.heading = right;
  }
  figure.facing = figure.turned === "to-camera" ? facingOf(somebody.heading) : "south";
  if (figure.turned === "as-placed") figure.rotation.set(0, 0, 0);
}

function look(): void {
  const { clientWidth: width, clientHeight: height } = canvas;
  const size = renderer.getSize(new Vector2());
  if (size.x !== width || size.y !== height) {
    renderer.setPixelRatio(Math.min(2, devicePixelRatio));
    renderer.setSize(width, height, false);
  }
  camera.aspect = width / Math.max(1, height);
  const away = 18.8 * Math.max(1, 1.45 / camera.aspect);
  camera.position.set(
    Math.sin(turn) * Math.cos(tilt) * away,
    Math.sin(tilt) * away + 0.4,
    Math.cos(turn) * Math.cos(tilt) * away,
  );
  camera.lookAt(0, -0.1, 0);
  camera.updateProjectionMatrix();
}

let last = 0;
renderer.setAnimationLoop((now) => {
  const seconds = standsStill.matches ? 0 : Math.min(0.1, (now - last) / 1000);
  last = now;
  look();
  for (const somebody of everybody) move(somebody, seconds);
  figures.update(seconds, camera);
  renderer.render(scene, camera);
  const here = everybody.filter(({ figure }) => figure.look !== undefined).length;
  Object.assign(document.body.dataset, {
    here: String(here),
    turn: turn.toFixed(2),
    calls: String(renderer.info.render.calls),
  });
});

let from: { x: number; y: number } | undefined;
canvas.onpointerdown = ({ clientX, clientY, pointerId }) => {
  from = { x: clientX, y: clientY };
  canvas.setPointerCapture(pointerId);
};
canvas.onpointermove = ({ buttons, movementX, movementY }) => {
  if (buttons === 0) return;
  turn -= movementX * 0.008;
  tilt = Math.max(0.12, Math.min(1.1, tilt + movementY * 0.006));
};
canvas.onpointerup = ({ clientX, clientY }) => {
  if (from !== undefined && Math.hypot(clientX - from.x, clientY - from.y) < 5) press(clientX, clientY);
  from = undefined;
};
canvas.onkeydown = ({ key }) => {
  if (key === "ArrowLeft") turn -= 0.12;
  if (key === "ArrowRight") turn += 0.12;
};

/** What somebody wears where one pressed. */
function press(x: number, y: number): void {
  const box = canvas.getBoundingClientRect();
  const ray = new Raycaster();
  ray.setFromCamera(new Vector2(((x - box.left) / box.width) * 2 - 1, 1 - ((y - box.top) / box.height) * 2), camera);
  const [hit] = ray.intersectObjects(
    everybody.map(({ figure }) => figure),
    false,
  );
  const somebody = everybody.find(({ figure }) => figure === hit?.object);
  if (somebody === undefined) return;
  const { pixel } = hit as unknown as { pixel: { x: number; y: number } };
  const part = catalog.parts.get(somebody.figure.hitTest(pixel)?.part ?? "");
  const worn = part === undefined ? "No clothes there" : textIn(part.title ?? part.id, "en");
  byId("said", HTMLParagraphElement).textContent = `${worn}. ${somebody.name}.`;
}

const button = byId("turn", HTMLButtonElement);
button.onclick = () => {
  const turned = button.ariaPressed === "true" ? "as-placed" : "to-camera";
  button.ariaPressed = String(turned === "to-camera");
  for (const { figure } of everybody) figure.turned = turned;
};
const [first] = everybody;
/** Where on the page the first of them is. */
function placeOf() {
  const at = first?.figure
    .getWorldPosition(new Vector3())
    .add(new Vector3(0, 0.7, 0))
    .project(camera);
  const box = canvas.getBoundingClientRect();
  return { x: box.left + (((at?.x ?? 0) + 1) / 2) * box.width, y: box.top + ((1 - (at?.y ?? 0)) / 2) * box.height };
}
Object.assign(window, { diorama: { first: first?.figure, placeOf } });
document.body.dataset["ready"] = "true";
