import {
  BoxGeometry,
  BufferGeometry,
  CanvasTexture,
  CircleGeometry,
  Color,
  Float32BufferAttribute,
  Group,
  Mesh,
  MeshBasicMaterial,
  PlaneGeometry,
  Scene,
  SRGBColorSpace,
} from "three";

const sky = ["#bd9c97", "#d6ae94", "#e6c096", "#efcf9a", "#f2d9a8"];
const water = ["#7fa3a6", "#5f8b93", "#467680", "#35636f"];
const wood = ["#a9834f", "#9d7846", "#916d3f", "#856339"] as const;
const ink = "#22150c";

/** A scene with the sky of the delta, its water, and a jetty so many meters long. */
export function harborScene(length: number): Scene {
  const scene = new Scene();
  scene.background = bandsOf(sky, 0.52);
  scene.add(waterTo(40), jetty(length));
  for (let x = -length / 2 + 0.4; x <= length / 2; x += 2.4) scene.add(post(x, -1.05));
  return scene;
}

/** A round piece of the jetty, to stand on alone. */
export function pedestalScene(): Scene {
  const scene = new Scene();
  scene.background = bandsOf(sky, 1);
  scene.add(waterTo(40));
  const planks = new Group();
  for (let row = -4; row <= 4; row += 1) {
    const half = Math.sqrt(Math.max(0, 0.95 ** 2 - (row * 0.2) ** 2));
    if (half > 0.2) planks.add(box(half * 2, 0.1, 0.19, wood[(row + 8) % 4] ?? wood[0], [0, -0.05, row * 0.2]));
  }
  for (const [x, z] of [
    [-0.55, -0.55],
    [0.55, -0.55],
    [-0.55, 0.55],
    [0.55, 0.55],
  ] as const)
    planks.add(box(0.12, 0.9, 0.12, "#6b4a2b", [x, -0.55, z]));
  scene.add(planks);
  return scene;
}

/** A hut with a red door, and a lamp beside it. */
export function postOffice(): Group {
  const hut = new Group();
  for (let row = 0; row < 9; row += 1)
    hut.add(box(2.6, 0.19, 1.4, row % 2 === 0 ? "#5f7f80" : "#557475", [0, 0.1 + row * 0.2, 0]));
  hut.add(box(0.62, 1.15, 0.04, "#9c3b2e", [-0.7, 0.58, 0.71]), box(0.05, 0.1, 0.06, "#b98a2f", [-0.48, 0.55, 0.74]));
  hut.add(box(0.9, 0.62, 0.04, ink, [0.55, 0.95, 0.71]));
  for (const [x, y] of [
    [0.33, 0.81],
    [0.77, 0.81],
    [0.33, 1.1],
    [0.77, 1.1],
  ] as const)
    hut.add(box(0.38, 0.25, 0.05, "#f2c46a", [x, y, 0.72]));
  hut.add(
    roof(3.1, 1.9, 0.95, 1.78),
    box(3, 0.12, 1.7, wood[2], [0, -0.06, 0]),
    box(3, 0.9, 0.1, "#3a2616", [0, -0.55, 0.6]),
  );
  return hut;
}

export function lampPost(): Group {
  const lamp = new Group();
  lamp.add(box(0.07, 2.1, 0.07, "#1d262b", [0, 1.05, 0]), box(0.36, 0.07, 0.07, "#1d262b", [0.16, 2.1, 0]));
  lamp.add(box(0.2, 0.05, 0.2, "#1d262b", [0.3, 1.98, 0]), box(0.14, 0.24, 0.14, "#fbd873", [0.3, 1.83, 0]));
  lamp.add(box(0.2, 0.05, 0.2, "#1d262b", [0.3, 1.68, 0]));
  return lamp;
}

/** The shadow under a figure. */
export function shadow(): Mesh {
  const made = new Mesh(
    new CircleGeometry(0.36, 24),
    new MeshBasicMaterial({ color: ink, transparent: true, opacity: 0.28, depthWrite: false }),
  );
  made.rotation.x = -Math.PI / 2;
  made.scale.y = 0.7;
  made.position.y = 0.004;
  return made;
}

/** Bands of color from the top down, to a part of the picture's height. */
function bandsOf(colors: readonly string[], until: number): CanvasTexture {
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [1, 200];
  const context = canvas.getContext("2d");
  for (const [band, color] of colors.entries()) {
    if (context === null) break;
    context.fillStyle = color;
    context.fillRect(0, Math.round((band / colors.length) * 200 * until), 1, 200);
  }
  const texture = new CanvasTexture(canvas);
  texture.colorSpace = SRGBColorSpace;
  return texture;
}

/** Water that is darker the nearer it is. */
function waterTo(far: number): Group {
  const made = new Group();
  const edges = [-far, -14, -7, -3, 12];
  for (const [band, color] of water.entries()) {
    const [from = 0, to = 0] = [edges[band], edges[band + 1]];
    const plane = new Mesh(new PlaneGeometry(120, to - from), new MeshBasicMaterial({ color }));
    plane.rotation.x = -Math.PI / 2;
    plane.position.set(0, -0.7, (from + to) / 2);
    made.add(plane);
  }
  return made;
}

function jetty(length: number): Group {
  const made = new Group();
  for (let row = 0; row < 8; row += 1) {
    const z = -1.1 + row * 0.32;
    const color = wood[row % 4] ?? wood[0];
    for (let x = -length / 2 - (row % 3) * 0.5; x < length / 2; x += 1.7)
      made.add(box(1.68, 0.12, 0.305, color, [x + 0.85, -0.06, z]));
  }
  made.add(box(length, 0.5, 0.1, "#3a2616", [0, -0.35, 1.3]));
  return made;
}

export function post(x: number, z: number): Group {
  const made = new Group();
  made.add(box(0.2, 1.3, 0.2, "#6b4a2b", [x, -0.1, z]), box(0.21, 0.06, 0.21, "#e6d9bf", [x, 0.34, z]));
  made.add(box(0.21, 0.04, 0.21, "#c19a63", [x, 0.55, z]));
  return made;
}

/** A box with a lit top and left, a front, and a right side in shade. */
export function box(
  width: number,
  height: number,
  depth: number,
  color: string,
  [x, y, z]: readonly [number, number, number],
): Mesh {
  const shade = (by: number) => new MeshBasicMaterial({ color: new Color(color).multiplyScalar(by) });
  const [lit, plain, dark] = [shade(1.22), shade(1), shade(0.62)];
  const made = new Mesh(new BoxGeometry(width, height, depth), [dark, lit, lit, dark, plain, dark]);
  made.position.set(x, y, z);
  return made;
}

function roof(width: number, depth: number, height: number, from: number): Group {
  const made = new Group();
  const [w, d] = [width / 2, depth / 2];
  const corners = {
    a: [-w, 0, d],
    b: [w, 0, d],
    c: [w, 0, -d],
    e: [-w, 0, -d],
    f: [-w * 0.7, height, 0],
    g: [w * 0.7, height, 0],
  };
  const face = (color: string, ...names: readonly (keyof typeof corners)[]) => {
    const geometry = new BufferGeometry();
    const [first, ...others] = names.map((name) => corners[name]);
    const points = others.slice(1).flatMap((point, at) => [first, others[at], point].flatMap((each) => each ?? []));
    geometry.setAttribute("position", new Float32BufferAttribute(points, 3));
    made.add(new Mesh(geometry, new MeshBasicMaterial({ color, side: 2 })));
  };
  face("#8a4a35", "a", "b", "g", "f");
  face("#6d3728", "b", "c", "g");
  face("#a1583f", "e", "a", "f");
  face("#6d3728", "c", "e", "f", "g");
  made.position.y = from;
  return made;
}
