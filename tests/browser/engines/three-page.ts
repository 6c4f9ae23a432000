import { Object3D, OrthographicCamera, Raycaster, Scene as ThreeScene, Vector2, Vector3, WebGLRenderer } from "three";
import type { FrameEvent } from "zealous-mantle";
import type { ImageLoader } from "zealous-mantle/browser";
import { type DrawnFigure, openFigures } from "zealous-mantle/three";
import { canvas } from "./places.ts";
import { type Actor, readUpright, type Scene, trialOf } from "./trial.ts";

const { width, height } = canvas;

async function open(loader: ImageLoader): Promise<Scene> {
  const renderer = new WebGLRenderer({ antialias: false, alpha: true, preserveDrawingBuffer: true });
  renderer.setSize(width, height, false);
  renderer.setClearColor(0, 0);
  const scene = new ThreeScene();
  // A unit is a pixel here, and y goes up.
  const camera = new OrthographicCamera(0, width, 0, -height, 1, 200);
  camera.position.z = 100;
  const figures = openFigures({ loader, unitSize: 1 });
  scene.add(figures.object);
  const figureOf = (actor: Actor) => Reflect.get(actor, "figure") as DrawnFigure;
  return {
    add(options, x, y) {
      const figure = figures.add({ ...options, turned: x % 160 === 40 ? "to-camera" : "as-placed" });
      figure.position.set(x, -y, 0);
      return actorOf(figure, camera);
    },
    attach(actor, point) {
      const thing = figureOf(actor).attachTo(point, new Object3D());
      return () => {
        const at = thing.getWorldPosition(new Vector3());
        return thing.visible ? { x: at.x, y: -at.y } : undefined;
      };
    },
    isHit: (actor, x, y) => rayAt(figureOf(actor), camera, x, y) !== undefined,
    warm: (look) => figures.atlas.warm(look, { animations: ["idle"], facings: ["south"] }),
    onEvent: (actor, listener) =>
      figureOf(actor).addEventListener("frame-event", (event) => listener(event as FrameEvent)),
    tick(seconds) {
      figures.update(seconds, camera);
      renderer.render(scene, camera);
    },
    pixels: () => readUpright(renderer.getContext()),
    close() {
      figures.close();
      renderer.dispose();
    },
  };
}

/** Where a ray through a pixel of a figure hits it. */
function rayAt(figure: DrawnFigure, camera: OrthographicCamera, x: number, y: number) {
  const at = figure.getWorldPosition(new Vector3());
  const ray = new Raycaster();
  // The middle of the pixel.
  ray.setFromCamera(new Vector2(((at.x + x + 0.5) / width) * 2 - 1, 1 - ((-at.y + y + 0.5) / height) * 2), camera);
  const [hit] = ray.intersectObject(figure) as readonly { pixel?: { x: number; y: number } }[];
  return hit?.pixel;
}

/** A figure as the trial has it: what is touched is found by a ray. */
function actorOf(figure: DrawnFigure, camera: OrthographicCamera): Actor {
  const own: Pick<Actor, "hitTest" | "destroy"> = {
    hitTest({ x, y }) {
      const pixel = rayAt(figure, camera, x, y);
      return pixel && figure.hitTest(pixel);
    },
    destroy: () => figure.close(),
  };
  return new Proxy(figure, {
    get: (target, key) => (key === "figure" ? target : (Reflect.get(own, key) ?? Reflect.get(target, key, target))),
    set: (target, key, value) => Reflect.set(target, key, value, target),
  }) as unknown as Actor;
}

Object.assign(window, { tryOut: trialOf(open) });
