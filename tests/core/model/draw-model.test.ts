import { readFile } from "node:fs/promises";
import { NodeIO } from "@gltf-transform/core";
import { describe, expect, test } from "@jest/globals";
import {
  composeFrame,
  createCharacter,
  type Image,
  type LookOptions,
  type Moment,
  readCatalog,
  resolveLook,
} from "zealous-mantle";
import {
  assembleModel,
  type DrawModelOptions,
  drawModel,
  planModel,
  prepareModel,
  readModel,
} from "zealous-mantle/model";
import { bakeSheet } from "zealous-mantle/raster";
import { described } from "../../in-words.ts";
import { cornersAt } from "../../oracles/skinned-corners.ts";

const source = {
  mantle: "catalog/1",
  id: "drawn",
  version: "1",
  slots: Object.fromEntries(["coat", "boots", "hair", "hand-left"].map((id) => [id, { kind: "gear" }])),
  ramps: { sea: ["#102030", "#204060", "#4080a0", "#80c0e0"] },
  channels: { oilcloth: { ramps: ["sea"], default: "sea", key: ["#101010", "#505050", "#909090", "#d0d0d0"] } },
};

const bytes = new Uint8Array(await readFile("tests/models/three.glb"));
const { model } = await readModel("courier.glb", bytes);
const { catalog: bare } = readCatalog(source);
if (model === undefined || bare === undefined) throw new Error("The figure cannot be read.");
const plan = await planModel(bare, model);

async function figure(
  { model: more = {}, ...rig }: Record<string, unknown> = {},
  loadout: Record<string, string> = {},
  sections: object = {},
  options: LookOptions = {},
) {
  const made = Object(plan.fragment?.rigs?.["courier"]);
  const rigs = { courier: { ...made, ...rig, model: { ...made.model, scale: 149.3, ...Object(more) } } };
  const { catalog, problems } = readCatalog({ ...source, ...plan.fragment, rigs, ...sections });
  if (catalog === undefined) throw new Error(problems.map(described).join("\n"));
  const look = resolveLook(catalog, { ...createCharacter(catalog, { body: "courier" }), loadout }, options);
  return { look, prepared: await prepareModel(look, plan.files) };
}

const whole = { coat: "coat", boots: "boots", hair: "hair", "hand-left": "lantern" };
const plain: DrawModelOptions = { samples: 1, ink: 0 };

const isSeen = ({ data }: Image, at: number) => (data[at * 4 + 3] ?? 0) > 0;

/**
 * Which pixels a figure covers, as an engine has its corners, each on a grid of sixteen lines a pixel: each pixel asked of each triangle. `inner`
 * are those whose middle lies in one, `outer` also those on an edge.
 */
async function coveredBy(
  glb: Uint8Array,
  clip: string,
  time: number,
  turn: number,
  tilt: number,
): Promise<{ readonly inner: readonly boolean[]; readonly outer: readonly boolean[] }> {
  const corners = await cornersAt(glb, clip, time);
  const document = await new NodeIO().readBinary(glb);
  const [inner, outer] = [0, 1].map(() => new Array<boolean>(256 * 320).fill(false)) as [boolean[], boolean[]];
  const onGrid = (value: number) => Math.round(value * 16) / 16;
  const [sin, cos] = [Math.sin((turn * Math.PI) / 180), Math.cos((turn * Math.PI) / 180)];
  const [down, level] = [Math.sin((tilt * Math.PI) / 180), Math.cos((tilt * Math.PI) / 180)];
  for (const node of document.getRoot().listNodes()) {
    // Engines have no spaces and dots in names.
    const all = corners.get(node.getName().replaceAll(" ", "_").replaceAll(".", "")) ?? [];
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      const indices: ArrayLike<number> = primitive.getIndices()?.getArray() ?? [];
      const at = (corner: number) => {
        const [x = 0, y = 0, z = 0] = all.slice(corner * 3, corner * 3 + 3);
        const near = z * cos - x * sin;
        return [onGrid(128 + (x * cos + z * sin) * 149.3), onGrid(300 - (y * level - near * down) * 149.3)] as const;
      };
      for (let first = 0; first < indices.length; first += 3) {
        const [[ax, ay], [bx, by], [cx, cy]] = [
          at(indices[first] ?? 0),
          at(indices[first + 1] ?? 0),
          at(indices[first + 2] ?? 0),
        ];
        for (let y = Math.floor(Math.min(ay, by, cy)); y <= Math.max(ay, by, cy); y += 1)
          for (let x = Math.floor(Math.min(ax, bx, cx)); x <= Math.max(ax, bx, cx); x += 1) {
            if (x < 0 || y < 0 || x >= 256 || y >= 320) continue;
            const sides = [
              [ax, ay, bx, by],
              [bx, by, cx, cy],
              [cx, cy, ax, ay],
            ].map(([px = 0, py = 0, qx = 0, qy = 0]) =>
              Math.sign((qx - px) * (y + 0.5 - py) - (qy - py) * (x + 0.5 - px)),
            );
            const ways = new Set(sides);
            if (ways.size === 1 && !ways.has(0)) inner[y * 256 + x] = true;
            if (!ways.has(-1) || !ways.has(1)) outer[y * 256 + x] = true;
          }
      }
    }
  }
  return { inner, outer };
}

describe("a figure without a graphics card", () => {
  test.each([
    ["idle", "Idle", "south", 0, 0, 0],
    ["walk", "Walk", "west", 0.2, -90, 0],
    ["walk", "Walk", "north", 0.6, 180, 20],
    ["walk", "Walk", "east", 0.85, 90, 20],
  ])(
    "covers what an engine's corners cover: %s (%s), facing %s at %f",
    async (animation, clip, facing, time, turn, tilt) => {
      const { look, prepared } = await figure({ model: { tilt } }, whole);
      const image = drawModel(prepared, { animation, facing, time }, plain);
      const { bytes: assembled } = await assembleModel(look, plan.files);
      const { inner, outer } = await coveredBy(assembled, clip, time, turn, tilt);
      expect(inner.filter(Boolean).length).toBeGreaterThan(10_000);
      expect(inner.filter((seen, at) => seen && !isSeen(image, at)).length).toBe(0);
      expect(outer.filter((seen, at) => !seen && isSeen(image, at)).length).toBe(0);
    },
  );

  test("has only the tones of its ramps, and ink at its edges", async () => {
    const { prepared } = await figure({ crisp: true, model: { tilt: 30 } }, { coat: "coat" });
    const colorsOf = ({ data }: Image) => {
      const colors = new Set<string>();
      for (let at = 0; at < data.length; at += 4)
        if (data[at + 3] !== 0) colors.add(`#${Buffer.from(data.subarray(at, at + 4)).toString("hex")}`);
      return colors;
    };
    const moment = { animation: "idle", facing: "south", time: 0 };
    const flat = drawModel(prepared, moment, plain);
    const seen = [...colorsOf(flat)];
    expect(seen.every((color) => color.endsWith("ff"))).toBe(true);
    const sea = new Set(source.ramps.sea.map((color) => `${color}ff`));
    expect(seen.filter((color) => sea.has(color)).length).toBeGreaterThanOrEqual(2);
    const inked = drawModel(prepared, moment);
    // The darkest of the ramp, mixed toward ink: #102030 and #241410.
    expect([...colorsOf(inked)]).toContain("#171c25ff");
    expect(Array.from({ length: 256 * 320 }, (_, at) => isSeen(flat, at) === isSeen(inked, at)).every(Boolean)).toBe(
      true,
    );
  });

  test("what is nearer is seen: a coat over the body, and the arm before it when it is turned", async () => {
    const at = ({ data }: Image, x: number, y: number) =>
      Buffer.from(data.subarray((y * 256 + x) * 4, (y * 256 + x) * 4 + 3)).toString("hex");
    const moment = { animation: "idle", facing: "south", time: 0 };
    const [bareBody, coated] = [(await figure()).prepared, (await figure({}, { coat: "coat" })).prepared];
    const chest = [128, 300 - Math.round(1.1 * 149.3)] as const;
    expect(at(drawModel(bareBody, moment, plain), ...chest)).not.toBe(at(drawModel(coated, moment, plain), ...chest));
    expect(source.ramps.sea).toContain(`#${at(drawModel(coated, moment, plain), ...chest)}`);
  });

  test("what is in the left hand stays there in every facing", async () => {
    const [without, lit] = [(await figure()).prepared, (await figure({}, { "hand-left": "lantern" })).prepared];
    const sideOf = (facing: string) => {
      const moment = { animation: "idle", facing, time: 0 };
      const [before, after] = [drawModel(without, moment, plain), drawModel(lit, moment, plain)];
      let [sum, count] = [0, 0];
      for (let at = 0; at < 256 * 320; at += 1)
        if (before.data.subarray(at * 4, at * 4 + 4).join() !== after.data.subarray(at * 4, at * 4 + 4).join()) {
          sum += (at % 256) - 128;
          count += 1;
        }
      return count === 0 ? "behind" : sum / count > 30 ? "right" : sum / count < -30 ? "left" : "before";
    };
    expect(["south", "west", "north", "east"].map(sideOf)).toEqual(["right", "before", "left", "behind"]);
  });

  test("is baked into a sheet that a drawn body names as its art, and is the same in every frame", async () => {
    const { look, prepared } = await figure({ crisp: true }, whole);
    const draw = (moment: Moment) => drawModel(prepared, moment, { samples: 1 });
    for (const packed of [true, false]) {
      const { image, table } = bakeSheet(look, new Map(), { packed, draw, animations: ["idle", "walk"] });
      const { model: _model, ...rig } = Object(plan.fragment?.rigs?.["courier"]);
      const layer = { image: "baked.png", frames: "baked.frames.json", depth: 0 };
      const flat: object = {
        ...source,
        rigs: { flat: { ...rig, facings: ["south", "west", "north", "east"] } },
        bodies: { flat: { rig: "flat", art: [layer] } },
      };
      const { catalog, problems } = readCatalog(
        flat,
        {},
        { tables: new Map([["baked.frames.json", JSON.parse(JSON.stringify(table))]]) },
      );
      if (catalog === undefined) throw new Error(problems.map(described).join("\n"));
      const drawn = resolveLook(catalog, createCharacter(catalog, { body: "flat" }));
      for (const [facing, time] of [
        ["south", 0],
        ["west", 0.34],
        ["east", 0.67],
      ] as const) {
        const moment = { animation: "walk", facing, time };
        const first = draw({ ...moment, time: Math.floor(time * 12 + 1e-9) / 12 });
        const again = composeFrame(drawn, new Map([["baked.png", image]]), moment);
        expect(Buffer.compare(Buffer.from(first.data), Buffer.from(again.data))).toBe(0);
      }
    }
  });

  test("a form makes it larger, and its capsule with it: in a picture, and in one file", async () => {
    const tall = { when: { signal: "tall" }, scale: 1.25, capsule: { radius: 0.4, height: 1.6 } };
    const forms = { forms: { tall } };
    const small = await figure({ model: { scale: 100 } }, whole, forms);
    const large = await figure({ model: { scale: 100 } }, whole, forms, { signals: { tall: true } });
    expect([small.look.scale, small.look.capsule, small.look.key === large.look.key]).toEqual([1, undefined, false]);
    expect([large.look.scale, large.look.capsule]).toEqual([1.25, { radius: 0.5, height: 2 }]);
    const heightOf = ({ prepared }: typeof small) => {
      const image = drawModel(prepared, { animation: "idle", facing: "south", time: 0 }, plain);
      const rows = Array.from({ length: 320 }, (_, row) => row);
      const seen = rows.filter((row) => rows.some((x) => x < 256 && isSeen(image, row * 256 + x)));
      return (seen.at(-1) ?? 0) - (seen[0] ?? 0) + 1;
    };
    expect(heightOf(large) / heightOf(small)).toBeCloseTo(1.25, 1);
    const cornersIn = async ({ look }: typeof small) =>
      [...(await cornersAt((await assembleModel(look, plan.files)).bytes, "Walk", 0.3)).values()].flat();
    const [as, bs] = [await cornersIn(small), await cornersIn(large)];
    expect(Math.max(...as.map((value, at) => Math.abs(value * 1.25 - (bs[at] ?? 9))))).toBeLessThan(1e-4);
  });

  test("begins again at the end of a clip, is enlarged by drawing more, and refuses what is not there", async () => {
    const { prepared } = await figure();
    const at = (time: number, options: DrawModelOptions = plain) =>
      drawModel(prepared, { animation: "walk", facing: "west", time }, options);
    expect(Buffer.compare(Buffer.from(at(0.3).data), Buffer.from(at(1.3).data))).toBe(0);
    expect(Buffer.compare(Buffer.from(at(0.3).data), Buffer.from(at(0.5).data))).not.toBe(0);
    const large = at(0.3, { ...plain, scale: 2 });
    expect([large.width, large.height]).toEqual([512, 640]);
    const soft = at(0.3, { samples: 3 });
    expect(soft.data.some((alpha, place) => place % 4 === 3 && alpha > 0 && alpha < 255)).toBe(true);
    expect(() => drawModel(prepared, { animation: "swim", facing: "west", time: 0 })).toThrow(/swim/);
    const { look } = await figure();
    await expect(prepareModel(look, new Map())).rejects.toThrow(/skeleton\.glb was not handed in/);
    const lost = { ...look, meshes: look.meshes.map((mesh) => ({ ...mesh, node: "Tail" })) };
    for (const make of [prepareModel, assembleModel])
      await expect(make(lost, plan.files)).rejects.toThrow(/body\.glb has no mesh "Tail"/);
  });
});
