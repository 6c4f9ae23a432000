import { readFile } from "node:fs/promises";
import { describe, expect, test } from "@jest/globals";
import type { Image } from "zealous-mantle";
import { decodePng } from "zealous-mantle/raster";
import { bodyPieces } from "../../demo/art/body.ts";
import { builds, motions, poseFigure } from "../../demo/art/figure.ts";
import { hairArt } from "../../demo/art/hair.ts";
import { render, yaws } from "../../demo/art/render.ts";
import { drawSheets } from "../../demo/art/sheets.ts";
import { demoFolder } from "../demo-catalog.ts";
import { isLong } from "../runs.ts";
import { expectSamePicture } from "../same-picture.ts";

const readPicture = async (path: string): Promise<Image> => decodePng(await readFile(`${demoFolder}/art/${path}`));

describe("the demo's art", () => {
  test("is drawn by its program: the same pixels every time", async () => {
    const build = builds[0];
    const crop = hairArt.find(({ id }) => id === "crop");
    if (build === undefined || crop === undefined) throw new Error("The program has lost its parts");
    const figure = poseFigure(build, "idle", 0);
    const facings = [...Object.entries(yaws).entries()].filter(([, [facing]]) => isLong || facing === "west");
    const cells = facings.map(([row, [facing, yaw]]) => {
      const bare = render(bodyPieces(figure), yaw).depth;
      return { figure, facing, yaw, pose: facing, x: 0, y: row * 80, depths: { bare, sleeved: bare } };
    });
    for (const [name, drawn] of drawSheets(crop, cells)) {
      const committed = await readPicture(`reed/${name}.png`);
      for (const { y } of cells) expectSamePicture(cell(drawn, 0, y), cell(committed, 0, y));
    }
  });

  test("walks: the feet take turns on the ground, and neither ever sinks into it", () => {
    for (const build of builds) {
      const ankles = Array.from({ length: 8 }, (_, frame) => poseFigure(build, "walk", frame).ankle);
      for (const [left, right] of ankles) expect(Math.min(left.y, right.y)).toBeCloseTo(2.6);
      expect(Math.max(...ankles.map(([left]) => left.y))).toBeGreaterThan(5);
      for (const [at, [left]] of ankles.entries()) expect(left.z).toBeCloseTo(ankles[(at + 4) % 8]?.[1].z ?? 0);
    }
  });

  test("stands still by whole pixels, so that faces stay crisp", () => {
    for (const { id, frames } of motions) {
      for (const build of builds) {
        for (let frame = 0; frame < frames; frame += 1) {
          const drop = poseFigure(build, id, frame).head.y - build.headHeight;
          expect(Number.isInteger(drop)).toBe(true);
        }
      }
    }
  });

  test("has closed outlines: no pixel of the bare body is lit at its edge", async () => {
    const body = await readPicture("oak/body.png");
    const lit = new Set([0xa2a2a2, 0xd6d6d6]);
    let open = 0;
    for (let y = 1; y < body.height - 1; y += 1) {
      for (let x = 1; x < body.width - 1; x += 1) {
        const around = [
          colorAt(body, x - 1, y),
          colorAt(body, x + 1, y),
          colorAt(body, x, y - 1),
          colorAt(body, x, y + 1),
        ];
        if (lit.has(colorAt(body, x, y)) && around.includes(-1)) open += 1;
      }
    }
    expect(open).toBe(0);
  });
});

function colorAt({ data, width }: Image, x: number, y: number): number {
  const [red = 0, green = 0, blue = 0, alpha = 0] = data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4);
  return alpha === 0 ? -1 : red * 65536 + green * 256 + blue;
}

function cell(picture: Image, x: number, y: number): Image {
  const rows = Array.from({ length: 80 }, (_, row) => [
    ...picture.data.subarray(((y + row) * picture.width + x) * 4, ((y + row) * picture.width + x + 64) * 4),
  ]);
  return { width: 64, height: 80, data: Uint8ClampedArray.from(rows.flat()) };
}
