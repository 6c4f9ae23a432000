import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { encode } from "fast-png";
import {
  applyEdit,
  bakeSheet,
  composeFrame,
  createCharacter,
  createImage,
  cropImage,
  decodePng,
  drawCrop,
  encodePng,
  enlargeImage,
  type Image,
  type Images,
  type Look,
  MantleError,
  resolveLook,
} from "zealous-mantle";
import { demo, dressed } from "../demo-catalog.ts";
import { composeSlowly } from "../oracles/compose-slowly.ts";
import { expectSamePicture } from "../same-picture.ts";
import { appearance, smallCatalog } from "../small-catalog.ts";

/** A few colors that matter: key colors, others, opaque, translucent and clear. */
const pixels = fc.constantFrom(
  [0, 0, 0, 0],
  [0, 0, 0, 0],
  [16, 16, 16, 255],
  [128, 128, 128, 255],
  [128, 128, 128, 254],
  [200, 30, 90, 255],
  [10, 220, 40, 128],
  [255, 255, 255, 1],
  [90, 90, 250, 77],
);

interface Drawn {
  readonly look: Look;
  readonly images: Images;
}

const place = fc.tuple(fc.integer({ min: 0, max: 5 }), fc.integer({ min: 0, max: 4 }));
const places = (frames: number) => fc.array(fc.option(place, { freq: 6 }), { minLength: frames, maxLength: frames });
const byFacing = (frames: number) => fc.record({ north: places(frames), west: places(frames) });
const point = fc.record({ idle: byFacing(1), walk: byFacing(3) });
const points = fc.record({ "hand-left": point, "hand-right": point, tip: point });

/** A look of generated layers: depths, grids, opacities, channels, facings, pins, turns, scales and pixels all vary. */
const looks: fc.Arbitrary<Drawn> = fc
  .array(
    fc.record({
      depth: fc.integer({ min: -2, max: 2 }),
      north: fc.integer({ min: -2, max: 2 }),
      dyed: fc.boolean(),
      opacity: fc.constantFrom(1, 1, 0.5, 0.3),
      cell: fc.record({ width: fc.integer({ min: 1, max: 6 }), height: fc.integer({ min: 1, max: 6 }) }),
      at: fc.tuple(fc.integer({ min: -3, max: 3 }), fc.integer({ min: -3, max: 3 })),
      seed: fc.array(pixels, { minLength: 7, maxLength: 40 }),
      more: fc.constantFrom<object>(
        {},
        {},
        { offset: [1, -1] },
        { scale: 2 },
        { scale: 0.5, offset: { plain: [-1, 0] } },
        { facings: ["north", "west", "east"] },
        { still: true },
        { still: true, facings: "any", pin: { point: "hand-left", at: [0, 0] } },
        { pin: { point: "hand-right" }, scale: 1.5 },
        { still: true, facings: "any", pin: { point: "tip", at: [0, 0], toward: "hand-left", along: [2, 1] } },
      ),
    }),
    { minLength: 1, maxLength: 5 },
  )
  .chain((layers) => fc.tuple(fc.constant(layers), points, fc.constantFrom(1, 1, 0.6)))
  .map(([layers, framed, opacity]) => {
    const catalog = smallCatalog({
      rigs: {
        rig: {
          frame: { width: 5, height: 4 },
          origin: [2, 4],
          facings: ["north", "west", { id: "east", mirror: "west" }],
          animations: { idle: { frames: 1, fps: 1 }, walk: { frames: 3, fps: 6 } },
          points: { frames: framed },
          twins: [["hand-left", "hand-right"]],
        },
      },
      forms: { pale: { when: { signal: "pale" }, opacity } },
      ramps: { red: ["#400000", "#ff0000"] },
      channels: { dye: { ramps: ["red"], default: "red", key: ["#101010", "#808080"] } },
      bodies: {
        plain: {
          rig: "rig",
          art: layers.map(({ depth, north, dyed, opacity, cell, at, more }, number) => ({
            image: `${number}.png`,
            depth: { default: depth, north },
            opacity,
            grid: { cell, at },
            ...more,
            ...(dyed ? { channel: "dye" } : {}),
          })),
        },
      },
    });
    const images = new Map(
      layers.map(({ cell, seed }, number): [string, Image] => {
        const image = createImage(cell.width * 3, cell.height * 6);
        for (let pixel = 0; pixel < image.width * image.height; pixel += 1)
          image.data.set(seed[(pixel * 7) % seed.length] ?? [], pixel * 4);
        return [`${number}.png`, image];
      }),
    );
    return { look: resolveLook(catalog, createCharacter(catalog, { body: "plain" }), { form: "pale" }), images };
  });

const moments = fc.record({
  animation: fc.constantFrom("idle", "walk"),
  facing: fc.constantFrom("north", "west", "east"),
  time: fc.integer({ min: 0, max: 11 }).map((sixth) => sixth / 6),
});

describe("composing a frame", () => {
  test("agrees pixel for pixel with the slow reference on generated layers", () => {
    fc.assert(
      fc.property(looks, moments, ({ look, images }, moment) => {
        expectSamePicture(composeFrame(look, images, moment), composeSlowly(look, images, moment));
      }),
      { numRuns: 2_000 },
    );
  });

  test("agrees with the slow reference on the demo, in every facing", async () => {
    let character = createCharacter(demo, { body: "oak" });
    for (const edit of [{ dress: "storm-watch" }, { wear: "braid" }, { paint: "hair", ramp: "silver" }])
      character = applyEdit(demo, character, edit).character;
    const { look, images } = await dressed(character);
    for (const facing of look.rig.facings.keys()) {
      for (const animation of look.rig.animations.keys()) {
        const moment = { animation, facing, time: 0.35 };
        expectSamePicture(composeFrame(look, images, moment), composeSlowly(look, images, moment));
      }
    }
  });

  test("a mirrored figure is the drawn one, turned around the origin", async () => {
    const { look, images } = await dressed(createCharacter(demo, { body: "reed" }));
    const at = (facing: string) => composeFrame(look, images, { animation: "idle", facing, time: 0 });
    const west = at("west");
    const east = at("east");
    for (let y = 0; y < west.height; y += 1) {
      for (let x = 0; x < west.width; x += 1) expect(pixelOf(east, 63 - x, y)).toEqual(pixelOf(west, x, y));
    }
  });

  test("a picture that was not loaded is a broken call that names it and its part", async () => {
    const character = applyEdit(demo, createCharacter(demo, { body: "reed" }), { wear: "storm-hat" }).character;
    const look = resolveLook(demo, character);
    const { images } = await dressed(createCharacter(demo, { body: "reed" }));
    const draw = () => composeFrame(look, images, { animation: "idle", facing: "south", time: 0 });
    expect(draw).toThrow(expect.objectContaining({ code: "missing-picture" }));
    expect(draw).toThrow(/art\/reed\/storm-hat[a-z-]*\.png", which "storm-hat" needs/);
  });

  test("a picture of more than 256 colors is drawn as it is", () => {
    const catalog = smallCatalog({
      rigs: {
        rig: {
          frame: { width: 40, height: 20 },
          origin: [0, 0],
          facings: ["south"],
          animations: { idle: { frames: 1, fps: 1 } },
        },
      },
    });
    const image = createImage(40, 20);
    for (let pixel = 0; pixel < 800; pixel += 1) image.data.set([pixel % 256, pixel >> 2, 7, 255], pixel * 4);
    const look = resolveLook(catalog, createCharacter(catalog, { body: "plain" }));
    const frame = composeFrame(look, new Map([["plain.png", image]]), { animation: "idle", facing: "south", time: 0 });
    expect([...frame.data]).toEqual([...image.data]);
  });
});

describe("recoloring", () => {
  test("only opaque pixels of a key color take the color of the ramp", () => {
    const catalog = smallCatalog({
      rigs: {
        rig: {
          frame: { width: 4, height: 1 },
          origin: [0, 0],
          facings: ["south"],
          animations: { idle: { frames: 1, fps: 1 } },
        },
      },
      ramps: { red: ["#aa1122"] },
      channels: { dye: { ramps: ["red"], default: "red", key: ["#808080"] } },
      slots: { hair: appearance },
      parts: { braid: { slot: "hair", layers: [{ image: "braid.png", depth: 1, channel: "dye" }] } },
    });
    const braid = createImage(4, 1);
    braid.data.set([128, 128, 128, 255, 128, 128, 129, 255, 128, 128, 128, 100, 0, 0, 0, 0]);
    const character = applyEdit(catalog, createCharacter(catalog, { body: "plain" }), { wear: "braid" }).character;
    const images = new Map([
      ["braid.png", braid],
      ["plain.png", createImage(4, 1)],
    ]);
    const frame = composeFrame(resolveLook(catalog, character), images, {
      animation: "idle",
      facing: "south",
      time: 0,
    });
    expect([...frame.data]).toEqual([0xaa, 0x11, 0x22, 255, 128, 128, 129, 255, 128, 128, 128, 100, 0, 0, 0, 0]);
  });
});

describe("baking and cropping", () => {
  test("every cell of a baked sheet is the frame its table says", async () => {
    const { look, images } = await dressed(createCharacter(demo, { body: "reed" }));
    const { image, table } = bakeSheet(look, images, { animations: ["walk"], facings: ["west", "east"] });
    expect(table).toMatchObject({ mantle: "frames/1", origin: [32, 76] });
    expect(table.frames).toHaveLength(16);
    for (const { animation, facing, frame, rect, duration } of table.frames) {
      const [x, y, width, height] = rect;
      const cell = cropImage(image, { x, y, width, height });
      const drawn = composeFrame(look, images, { animation, facing, time: frame * duration });
      expectSamePicture(cell, drawn);
    }
  });

  test("all animations and facings are baked unless some are named; unknown ones are refused", async () => {
    const { look, images } = await dressed(createCharacter(demo, { body: "reed" }));
    const { image, table } = bakeSheet(look, images);
    expect([image.width, image.height, table.frames.length]).toEqual([512, 1920, 160]);
    expect(() => bakeSheet(look, images, { animations: ["swim"] })).toThrow(/no animation "swim"/);
  });

  test("the portrait is cut from the same frame", async () => {
    const { look, images } = await dressed(createCharacter(demo, { body: "oak" }));
    const frame = composeFrame(look, images, { animation: "idle", facing: "south", time: 0 });
    const portrait = drawCrop(look, images, "portrait");
    expectSamePicture(portrait, cropImage(frame, { x: 16, y: 6, width: 32, height: 36 }));
    expect(() => drawCrop(look, images, "portrat")).toThrow(/"portrait" if that is meant/);
  });

  test("a crop that reaches beyond the picture is transparent there; enlarging makes squares", () => {
    const dot = { ...createImage(1, 1), data: Uint8ClampedArray.of(9, 8, 7, 255) };
    const cropped = cropImage(dot, { x: -1, y: 0, width: 3, height: 1 });
    expect([...cropped.data]).toEqual([0, 0, 0, 0, 9, 8, 7, 255, 0, 0, 0, 0]);
    const large = enlargeImage(cropped, 2);
    expect([large.width, large.height]).toEqual([6, 2]);
    for (let y = 0; y < 2; y += 1)
      for (let x = 0; x < 6; x += 1) expect(pixelOf(large, x, y)).toEqual(pixelOf(cropped, x >> 1, 0));
  });
});

describe("PNG", () => {
  test("what is written is read back, translucent pixels too", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9 }), fc.uint8Array({ minLength: 36, maxLength: 36 }), (width, bytes) => {
        const image = createImage(width, Math.floor(9 / width));
        image.data.set(bytes.subarray(0, image.data.length));
        expect(decodePng(encodePng(image))).toEqual(image);
      }),
    );
  });

  test("gray, palette, 16-bit and packed pictures become RGBA", () => {
    const read = (png: Parameters<typeof encode>[0]) => [...decodePng(encode(png)).data];
    expect(read({ width: 2, height: 1, channels: 1, depth: 8, data: Uint8Array.of(0, 200) })).toEqual([
      0, 0, 0, 255, 200, 200, 200, 255,
    ]);
    expect(read({ width: 1, height: 1, channels: 2, depth: 8, data: Uint8Array.of(50, 128) })).toEqual([
      50, 50, 50, 128,
    ]);
    expect(read({ width: 1, height: 1, channels: 3, depth: 8, data: Uint8Array.of(1, 2, 3) })).toEqual([1, 2, 3, 255]);
    expect(read({ width: 1, height: 1, channels: 4, depth: 16, data: Uint16Array.of(65535, 0, 32768, 65535) })).toEqual(
      [255, 0, 128, 255],
    );
  });

  test("bytes that are not a PNG are unreadable input", () => {
    expect(() => decodePng(Uint8Array.of(1, 2, 3))).toThrow(MantleError);
    expect(() => decodePng(encodePng(createImage(8, 8)).subarray(0, 40))).toThrow(
      expect.objectContaining({ code: "bad-picture" }),
    );
  });
});

function pixelOf({ data, width }: Image, x: number, y: number): readonly number[] {
  return [...data.subarray((y * width + x) * 4, (y * width + x) * 4 + 4)];
}
