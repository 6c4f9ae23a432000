import { readFile } from "node:fs/promises";
import { expect, test } from "@jest/globals";
import { createCharacter, readCatalog, resolveLook } from "zealous-mantle";
import { assembleModel, drawModel, planModel, prepareModel, readModel } from "zealous-mantle/model";
import type { Shot } from "./models-page.ts";
import { useSite } from "./site.ts";

const site = useSite();

const slots = Object.fromEntries(["coat", "boots", "hair", "hand-left"].map((id) => [id, { kind: "gear" }]));
const whole = { coat: "coat", boots: "boots", hair: "hair", "hand-left": "lantern" };

async function takeApart(bytes: Uint8Array) {
  const source = { mantle: "catalog/1", id: "shot", version: "1", slots };
  const { model } = await readModel("courier.glb", bytes);
  const { catalog: bare } = readCatalog(source);
  if (model === undefined || bare === undefined) throw new Error("The figure cannot be read.");
  const plan = await planModel(bare, model);
  // No edge that stands upright lies near the middle of a pixel, where a card of so few digits says either.
  const made = Object(plan.fragment?.rigs?.["courier"]);
  const rigs = { courier: { ...made, model: { ...made.model, scale: 140.03, tilt: 20 } } };
  const { catalog } = readCatalog({ ...source, ...plan.fragment, rigs } as object);
  if (catalog === undefined) throw new Error("The figure cannot be worn.");
  const look = resolveLook(catalog, { ...createCharacter(catalog, { body: "courier" }), loadout: whole });
  return { look, files: plan.files };
}

test.each(["three", "babylon"])(
  "what %s wrote, taken apart and put together, gives the same picture in an engine, and ours has its outline",
  async (name) => {
    const bytes = new Uint8Array(await readFile(`tests/models/${name}.glb`));
    const { look, files } = await takeApart(bytes);
    const { bytes: assembled } = await assembleModel(look, files);
    const prepared = await prepareModel(look, files);
    const { page, errors } = await site.run("models");
    const shoot = async (glb: Uint8Array, shot: Shot): Promise<Buffer> => {
      const given = [Buffer.from(glb).toString("base64"), shot] as const;
      const text: string = await page.evaluate(([glb64, asked]) => Reflect.get(window, "shoot")(glb64, asked), given);
      const pixels = Buffer.from(text, "base64");
      // Its rows come from below.
      const rows = Array.from({ length: 320 }, (_, row) => pixels.subarray(row * 1024, row * 1024 + 1024));
      return Buffer.concat(rows.toReversed());
    };
    const shots = [
      ["idle", "south", { clip: "Idle", time: 0.1, turn: 0, tilt: 20 }],
      ["walk", "west", { clip: "Walk", time: 0.3, turn: -90, tilt: 20 }],
      ["walk", "north", { clip: "Walk", time: 0.7, turn: 180, tilt: 20 }],
    ] as const;
    for (const [animation, facing, shot] of shots) {
      const [before, after] = [await shoot(bytes, shot), await shoot(assembled, shot)];
      const isSeen = (pixels: ArrayLike<number>, at: number) => (pixels[at * 4 + 3] ?? 0) > 0;
      const count = before.length / 4;
      const all = Array.from({ length: count }, (_, at) => at);
      const seen = all.filter((at) => isSeen(before, at));
      expect(seen.length).toBeGreaterThan(10_000);
      const others = all.filter((at) =>
        [0, 1, 2, 3].some((channel) => before[at * 4 + channel] !== after[at * 4 + channel]),
      );
      expect(others.length).toBeLessThan(count * 0.005);
      const ours = drawModel(prepared, { animation, facing, time: shot.time }, { samples: 1, ink: 0 }).data;
      const edge = seen.filter((at) => [1, -1, 256, -256].some((by) => !isSeen(before, at + by))).length;
      expect(all.filter((at) => isSeen(before, at) !== isSeen(ours, at)).length).toBeLessThanOrEqual(edge * 0.01);
    }
    expect(errors).toEqual([]);
  },
);
