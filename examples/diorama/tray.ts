import { Group, Mesh, MeshBasicMaterial, PlaneGeometry } from "three";
import { box, lampPost, post, postOffice } from "../atelier/scenery.ts";

const wood = ["#a9834f", "#9d7846", "#916d3f", "#856339"] as const;
const reed = ["#55633a", "#6d7a45", "#7d8a52"] as const;

/** Where the water stands; the planks are at 0. */
export const waterLevel = -0.42;

/** A tray with a piece of the delta in it: mud and water, the jetty, the post office, a boat. */
export function makeTray(): Group {
  const tray = new Group();
  tray.add(box(9.9, 0.4, 6.9, "#3a2616", [0, -1.2, 0]), box(9.2, 0.42, 6.2, "#5c4c38", [0, -0.9, 0]));
  for (const [width, depth, x, z] of [
    [9.6, 0.2, 0, 3.2],
    [9.6, 0.2, 0, -3.2],
    [0.2, 6.6, 4.7, 0],
    [0.2, 6.6, -4.7, 0],
  ] as const)
    tray.add(box(width, 0.86, depth, "#6b4a2b", [x, -0.72, z]), box(width, 0.05, depth, "#94693d", [x, -0.28, z]));
  const water = new Mesh(
    new PlaneGeometry(9.2, 6.2),
    new MeshBasicMaterial({ color: "#4f7f88", transparent: true, opacity: 0.86 }),
  );
  water.rotation.x = -Math.PI / 2;
  water.position.y = waterLevel;
  // What wades is seen through it, and what stands on the planks over it.
  water.renderOrder = -1;
  tray.add(water, planks(), boat());
  const hut = postOffice();
  hut.position.set(-2.6, 0, -1.35);
  const lamp = lampPost();
  lamp.position.set(1.6, 0, -0.75);
  tray.add(hut, lamp);
  for (let x = -4.1; x <= 4.2; x += 1.65) tray.add(post(x, -0.86), post(x, 0.98));
  for (let clump = 0; clump < 60; clump += 1) {
    const chance = (by: number) => Math.abs(Math.sin((clump + 1) * by) * 43758.5453) % 1;
    const tall = 0.4 + chance(7.7) * 0.7;
    const x = 1 + chance(12.9) * 3.5;
    const z = -2.95 + chance(78.2) * 1.5;
    tray.add(box(0.035, tall, 0.035, reed[clump % 3] ?? reed[0], [x, waterLevel - 0.1 + tall / 2, z]));
  }
  return tray;
}

function planks(): Group {
  const made = new Group();
  for (let row = 0; row < 9; row += 1)
    made.add(box(9.1, 0.09, 0.19, wood[row % 4] ?? wood[0], [0, -0.045, -0.74 + row * 0.2]));
  return made;
}

function boat(): Group {
  const made = new Group();
  made.add(box(2.1, 0.1, 0.72, "#4c331d", [0, 0, 0]));
  for (const side of [-0.38, 0.38])
    made.add(box(2.2, 0.26, 0.07, "#9c3b2e", [0, 0.1, side]), box(2.2, 0.04, 0.09, "#f0e4c8", [0, 0.24, side]));
  for (const end of [-1.12, 1.12]) made.add(box(0.1, 0.3, 0.72, "#7c3226", [end, 0.12, 0]));
  made.add(box(0.18, 0.06, 0.66, "#94693d", [0.35, 0.14, 0]));
  made.position.set(1.1, waterLevel + 0.04, 2.1);
  return made;
}
