import { PerspectiveCamera, WebGLRenderer } from "three";
import { type Character, resolveLook, type Session } from "zealous-mantle";
import { type Action, type Controls, canvasPainter, keyBindings, openControls } from "zealous-mantle/browser";
import { openSeatFigure, type SeatFigure } from "zealous-mantle/three";
import { contextOf, make } from "../shared/dom.ts";
import { catalog as drawn, loader } from "../shared/saltmarsh.ts";
import { paintJetty } from "../shared/scenery.ts";
import { shelf } from "./saltmarsh-3d.ts";
import { harborScene, lampPost, postOffice, shadow } from "./scenery.ts";

const length = 16;
/** Meters a second. */
const speed = 1.15;

interface Walker {
  readonly seat: number;
  readonly figure: SeatFigure;
  facing: string;
}

/** The jetty in three dimensions: whoever sits in a seat walks on it, and beside it the same characters are seen as they are drawn. */
export function openQuay(session: Session, back: () => void): HTMLElement {
  const canvas = make("canvas", { role: "img", ariaLabel: "The jetty, in three dimensions" });
  const picture = make("canvas", { className: "drawn", role: "img", ariaLabel: "The same characters, drawn" });
  const title = make("h1", { textContent: session.seat(1).character?.name ?? "" });
  const words = make("p", {
    textContent: "The arrow keys walk, W A S D walk the second courier. P shows the pictures.",
  });
  const button = (text: string, onclick: () => void) => make("button", { type: "button", textContent: text, onclick });
  const showPictures = () => {
    picture.hidden = !picture.hidden;
  };
  const close = () => {
    cancelAnimationFrame(frame);
    removeEventListener("keydown", onKey);
    controls.close();
    for (const { figure } of walkers) figure.close();
    renderer.dispose();
    back();
  };
  const onKey = ({ key }: KeyboardEvent) => {
    if (key === "p") showPictures();
  };
  const footer = make(
    "footer",
    {},
    title,
    words,
    button("Drawn, side by side", showPictures),
    button("Back to the atelier", close),
  );
  const page = make("div", { className: "quay" }, make("div", { className: "views" }, canvas, picture), footer);
  picture.hidden = true;
  addEventListener("keydown", onKey);

  const renderer = new WebGLRenderer({ canvas, antialias: true });
  const scene = harborScene(length);
  const hut = postOffice();
  hut.position.set(-2.3, 0, -1.95);
  const lamp = lampPost();
  lamp.position.set(2.1, 0, -0.95);
  scene.add(hut, lamp);
  const camera = new PerspectiveCamera(30, 1, 0.1, 80);
  const controls: Controls = openControls({ keys: { one: keyBindings["keys-arrows"], two: keyBindings["keys-wasd"] } });
  const walkers = [1, 2].map((seat): Walker => {
    const figure = openSeatFigure({ session, seat, shelf, animation: "idle" });
    figure.object.add(shadow());
    figure.object.position.set(seat === 1 ? 0 : 1.1, 0, 0.2);
    scene.add(figure.object);
    return { seat, figure, facing: "south" };
  });
  const painter = canvasPainter(loader.images);
  const lessMotion = matchMedia("(prefers-reduced-motion: reduce)");
  let lookedAt = "";
  let last = 0;
  let frame = requestAnimationFrame(run);
  page.dataset["ready"] = "true";
  return page;

  function run(now: number): void {
    frame = requestAnimationFrame(run);
    const passed = Math.min(0.1, (now - last) / 1000);
    last = now;
    for (const walker of walkers) walk(walker, controls, passed);
    // What stands still is drawn again only when it moved.
    const seen = walkers.map(({ figure }) =>
      [figure.figure?.look.key, figure.figure?.animation, ...figure.object.position].join(),
    );
    const next = [...seen, canvas.clientWidth, canvas.clientHeight].join();
    if (!lessMotion.matches || next !== lookedAt) look();
    lookedAt = next;
    if (!picture.hidden) paintPicture(now / 1000);
  }

  /** Looks at whoever walks in the first seat. */
  function look(): void {
    const { clientWidth: width, clientHeight: height } = canvas;
    if (
      canvas.width !== Math.round(width * devicePixelRatio) ||
      canvas.height !== Math.round(height * devicePixelRatio)
    ) {
      renderer.setPixelRatio(devicePixelRatio);
      renderer.setSize(width, height, false);
    }
    const x = walkers[0]?.figure.object.position.x ?? 0;
    camera.aspect = width / Math.max(1, height);
    camera.position.x += (x + 0.5 - camera.position.x) * (lessMotion.matches ? 1 : 0.08);
    camera.position.y = 1.75;
    camera.position.z = 5.6 * Math.max(1, 1.1 / camera.aspect);
    camera.lookAt(camera.position.x, 0.95, 0);
    camera.updateProjectionMatrix();
    renderer.render(scene, camera);
  }

  /** The same characters as they are drawn: the same documents, under the catalog of the pictures. */
  function paintPicture(time: number): void {
    const scale = 4;
    picture.width = Math.ceil(picture.clientWidth / scale);
    picture.height = Math.ceil(picture.clientHeight / scale);
    const context = contextOf(picture);
    paintJetty(context, picture.width, picture.height, time);
    for (const { seat, figure, facing } of walkers) {
      const { character } = session.seat(seat);
      if (character === undefined) continue;
      const shown = lookDrawn(character);
      if (!shown.layers.every(({ images }) => images.every((image) => loader.images.has(image)))) {
        void loader.load(shown);
        continue;
      }
      const x = picture.width / 2 + (seat === 1 ? -16 : 20);
      const moment = { animation: figure.figure?.animation ?? "idle", facing, time };
      painter.paint(context, shown, moment, { x, y: Math.round(picture.height * 0.9) });
    }
  }
}

const known = new WeakMap<Character, ReturnType<typeof resolveLook>>();

function lookDrawn(character: Character): ReturnType<typeof resolveLook> {
  const look = known.get(character) ?? resolveLook(drawn, character);
  known.set(character, look);
  return look;
}

/** Moves a courier as its keys say, and turns it where it goes. */
function walk(walker: Walker, controls: Controls, passed: number): void {
  const { figure, seat } = walker;
  const device = seat === 1 ? "one" : "two";
  const along = (less: Action, more: Action) =>
    Number(controls.isDown(device, more)) - Number(controls.isDown(device, less));
  const [x, y] = [along("left", "right"), along("up", "down")];
  const isWalking = x !== 0 || y !== 0;
  const { position, rotation } = figure.object;
  if (isWalking) {
    position.x = Math.max(-length / 2 + 0.5, Math.min(length / 2 - 0.5, position.x + x * speed * passed));
    position.z = Math.max(-0.75, Math.min(1, position.z + y * speed * passed));
    const wanted = Math.atan2(x, y);
    const away = Math.atan2(Math.sin(wanted - rotation.y), Math.cos(wanted - rotation.y));
    rotation.y += away * Math.min(1, passed * 12);
    walker.facing = Math.abs(x) >= Math.abs(y) ? (x < 0 ? "west" : "east") : y < 0 ? "north" : "south";
  }
  figure.play(isWalking ? "walk" : "idle");
  figure.update(passed);
}
