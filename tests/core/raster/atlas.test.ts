import { beforeAll, describe, expect, test } from "@jest/globals";
import { composeFrame, type Image, type Images, type Look, type Moment } from "zealous-mantle";
import {
  type Atlas,
  type AtlasFrame,
  type AtlasOptions,
  type AtlasPage,
  createImage,
  openAtlas,
} from "zealous-mantle/raster";
import { demo, picturesOf } from "../../demo-catalog.ts";
import { rolledMoments } from "../../rolled-moments.ts";
import { expectSamePicture } from "../../same-picture.ts";

const shown = rolledMoments(demo, 100, 4);
let images: Images;
beforeAll(async () => {
  images = await picturesOf(...shown.map(({ look }) => look));
});

const standing: Moment = { animation: "idle", facing: "south", time: 0 };
const [{ look: wren }, { look: heron }] = shown as [(typeof shown)[0], (typeof shown)[0]];

/** A frame as an engine would draw it: laid into a blank picture of the rig's frame. */
function laidOut({ rig }: Look, { page, x, y, width, height, left, top }: AtlasFrame): Image {
  const whole = createImage(rig.frame.width, rig.frame.height);
  for (let row = 0; row < height; row += 1) {
    const from = ((y + row) * (page?.size ?? 0) + x) * 4;
    const to = ((top + rig.origin.y + row) * whole.width + left + rig.origin.x) * 4;
    whole.data.set(page?.data.subarray(from, from + width * 4) ?? [], to);
  }
  return whole;
}

function expectComposed(look: Look, moment: Moment, frame: AtlasFrame): void {
  expectSamePicture(laidOut(look, frame), composeFrame(look, images, moment));
}

describe("an atlas", () => {
  test.each<[string, AtlasOptions]>([
    ["with room for all", {}],
    ["with gaps and borders", { gap: 3, extrude: 2, size: 512 }],
    ["of small pages", { size: 96, gap: 0 }],
  ])("%s holds every frame as it is composed", (_, options) => {
    const atlas = openAtlas(images, options);
    const frames = shown.map(({ look, moment }) => atlas.frame(look, moment));
    for (const [number, { look, moment }] of shown.entries())
      expectComposed(look, moment, frames[number] as AtlasFrame);
  });

  test("under pressure holds what was asked for in the tick, and little more than it may", () => {
    const page = 128 * 128 * 4;
    const atlas = openAtlas(images, { size: 128, bytes: 4 * page });
    let dropped = 0;
    atlas.on("drop", () => {
      dropped += 1;
    });
    for (let tick = 0; tick < 60; tick += 1) {
      const now = Array.from(
        { length: 4 },
        (_, each) => shown[(tick * 7 + each * 13) % shown.length] as (typeof shown)[0],
      );
      const frames = now.map(({ look, moment }) => atlas.frame(look, moment));
      for (const [number, { look, moment }] of now.entries())
        expectComposed(look, moment, frames[number] as AtlasFrame);
      atlas.flush(() => undefined);
    }
    expect(dropped).toBeGreaterThan(50);
    expect(atlas.bytes).toBeLessThanOrEqual(5 * page);
  });

  test("takes more than it may rather than draw over what is on the screen, and gives it back", () => {
    const page = 128 * 128 * 4;
    const atlas = openAtlas(images, { size: 128, bytes: page });
    const pages: AtlasPage[] = [];
    atlas.on("drop-page", (gone) => pages.push(gone));
    const some = shown.slice(0, 30);
    const frames = some.map(({ look, moment }) => atlas.frame(look, moment));
    for (const [number, { look, moment }] of some.entries()) expectComposed(look, moment, frames[number] as AtlasFrame);
    const full = atlas.pages.length;
    expect(full).toBeGreaterThan(3);
    for (let tick = 0; tick < 3; tick += 1) {
      atlas.flush(() => undefined);
      atlas.frame(wren, standing);
    }
    expect(atlas.pages).toHaveLength(1);
    // All but the one that holds who is still shown.
    expect(pages.length).toBeGreaterThanOrEqual(full - 1);
    expectComposed(wren, standing, atlas.frame(wren, standing));
  });

  test("gives the same frame for the same picture: at another time, and to another who looks the same", () => {
    const atlas = openAtlas(images);
    const frame = atlas.frame(wren, standing);
    expect(atlas.frame(wren, { ...standing, time: 0.01 })).toBe(frame);
    expect(atlas.frame({ ...wren }, standing)).toBe(frame);
    expect(atlas.frame(heron, standing)).not.toBe(frame);
  });

  test("says where points are from the origin, and what is not seen has no page", () => {
    const atlas = openAtlas(images);
    expect(atlas.frame(wren, standing).points.get("crown")?.y).toBeLessThan(-40);
    const nothing: Look = { ...wren, key: "nobody", layers: [] };
    expect(atlas.frame(nothing, standing)).toMatchObject({ page: undefined, width: 0, height: 0 });
  });

  test("hands over what changed, and each once", () => {
    const atlas = openAtlas(images, { size: 128, bytes: 128 * 128 * 4 * 3 });
    const uploaded = new Map<AtlasPage, Uint8ClampedArray>();
    const upload = (
      page: AtlasPage,
      { x, y, width, height }: { x: number; y: number; width: number; height: number },
    ) => {
      const copy = uploaded.get(page) ?? new Uint8ClampedArray(page.data.length);
      uploaded.set(page, copy);
      for (let row = y; row < y + height; row += 1) {
        const [from, to] = [(row * page.size + x) * 4, (row * page.size + x + width) * 4];
        copy.set(page.data.subarray(from, to), from);
      }
    };
    for (const { look, moment } of shown) {
      atlas.frame(look, moment);
      const versions = atlas.pages.map(({ version }) => version);
      atlas.flush(upload);
      expect(atlas.pages.map(({ version }) => version)).toEqual(versions);
    }
    for (const page of atlas.pages) {
      const [width, height] = [page.size, page.size];
      const found = { width, height, data: uploaded.get(page) ?? new Uint8ClampedArray(0) };
      expectSamePicture(found, { width, height, data: page.data });
    }
    const again: AtlasPage[] = [];
    atlas.flush((page) => again.push(page));
    expect(again).toEqual([]);
  });

  test("keeps what is warm, until it is released as often", () => {
    const atlas = openAtlas(images, { size: 128, bytes: 128 * 128 * 4 * 2 });
    const crowd = () => {
      for (const { look, moment } of shown.slice(1)) {
        atlas.frame(look, moment);
        atlas.flush(() => undefined);
      }
    };
    atlas.warm(wren, { animations: ["idle"], facings: ["south"] });
    atlas.warm(wren, { animations: ["idle"], facings: ["south"] });
    const frame = atlas.frame(wren, standing);
    crowd();
    atlas.release(wren);
    crowd();
    expect(atlas.frame(wren, standing)).toBe(frame);
    expectComposed(wren, standing, frame);
    atlas.release(wren);
    atlas.release(wren);
    atlas.flush(() => undefined);
    crowd();
    expect(atlas.frame(wren, standing)).not.toBe(frame);
  });

  test("multiplies colors by alpha where an engine wants that", () => {
    const plain = (atlas: Atlas) => laidOut(faint, atlas.frame(faint, standing));
    const faint: Look = { ...wren, key: "faint", opacity: 0.5 };
    const [straight, multiplied] = [plain(openAtlas(images)), plain(openAtlas(images, { alpha: "multiplied" }))];
    const expected = straight.data.map((value, at) =>
      at % 4 === 3 ? value : Math.round((value * (straight.data[at - (at % 4) + 3] ?? 0)) / 255),
    );
    expectSamePicture(multiplied, { ...straight, data: expected });
  });

  test("draws anew what was disposed, from the pictures of then", () => {
    const own = new Map(images);
    const atlas = openAtlas(own);
    const before = laidOut(wren, atlas.frame(wren, standing));
    for (const [path, { width, height }] of images) own.set(path, createImage(width, height));
    expectSamePicture(laidOut(wren, atlas.frame(wren, standing)), before);
    atlas.close();
    expect(atlas.bytes).toBe(0);
    expect(atlas.frame(wren, standing).page).toBeUndefined();
  });

  test("that is too small for a frame says so", () => {
    const atlas = openAtlas(images, { size: 32 });
    expect(() => atlas.frame(wren, standing)).toThrow(
      /does not fit a page of 32×32. Open the atlas with a larger "size"/,
    );
  });

  test("says which animation there is not", () => {
    expect(() => openAtlas(images).frame(wren, { ...standing, animation: "fly" })).toThrow(/"fly"/);
  });
});
