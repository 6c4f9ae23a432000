import { mkdir, mkdtemp, readdir, readFile, rename, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { crc32, deflateSync } from "node:zlib";
import { afterAll, beforeAll, beforeEach, describe, expect, test } from "@jest/globals";
import type { Image, Problem } from "zealous-mantle";
import { createImage, decodePng, encodePng, pasteImage } from "zealous-mantle/raster";
import { mantle, mantleProcess } from "../run-mantle.ts";
import { appearance, smallSource } from "../small-catalog.ts";

let folder = "";

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), "mantle-check-art-"));
});

afterAll(() => rm(folder, { recursive: true }));

/** Four frames of a block of colors: nobody draws what is all one color. */
function sheet(left: number, top: number, width: number, height: number, blue = 90): Image {
  const image = createImage(64, 16);
  for (let frame = 0; frame < 4; frame += 1)
    for (let y = top; y < top + height; y += 1)
      for (let x = left; x < left + width; x += 1)
        image.data.set([40 + x * 9, 60 + y * 9, blue + frame * 9, 255], (y * 64 + frame * 16 + x) * 4);
  return image;
}

const body = sheet(4, 2, 8, 13);
const hat = sheet(4, 1, 8, 5, 120);
const source = smallSource({
  rigs: {
    rig: {
      frame: { width: 16, height: 16 },
      origin: [8, 16],
      facings: ["south"],
      animations: { idle: { frames: 4, fps: 4 } },
    },
  },
  slots: { hat: appearance },
  bodies: { plain: { rig: "rig", art: [{ image: "body.png", depth: 0 }] } },
  parts: { helm: { slot: "hat", layers: [{ image: "art/helm.png", depth: 1 }] } },
});

beforeEach(async () => {
  await mkdir(join(folder, "art"), { recursive: true });
  await writeFile(join(folder, "catalog.json"), JSON.stringify(source));
  await writeFile(join(folder, "body.png"), encodePng(body));
  await writeFile(join(folder, "art/helm.png"), encodePng(hat));
});

const check = (...more: readonly string[]) => mantle("check", folder, ...more);

describe("mantle check, of pixels", () => {
  test("says nothing of a catalog that is well", async () => {
    expect(await check()).toMatchObject({ status: 0, stdout: expect.stringMatching(/Nothing is wrong/), stderr: "" });
  });

  test("draws where it sees what is wrong, six pixels for each, with a ring; quick, it does not look", async () => {
    const blank = createImage(64, 16);
    blank.data.set(hat.data);
    for (let y = 0; y < 16; y += 1) blank.data.fill(0, (y * 64 + 32) * 4, (y * 64 + 48) * 4);
    await writeFile(join(folder, "art/helm.png"), encodePng(blank));
    const seen = join(folder, "seen");
    const { status, stdout } = await check("--pictures", seen);
    expect([status, stdout]).toEqual([
      0,
      expect.stringMatching(/warning {2}art\/helm\.png: "helm" shows nothing in idle south 2, and.*\nPicture: /),
    ]);
    const [picture = "", ...others] = await readdir(seen);
    expect([picture, others]).toEqual(["1-blank-frame-helm.png", []]);
    const { width, height, data } = decodePng(await readFile(join(seen, picture)));
    expect([width, height]).toEqual([96, 96]);
    const ring = Array.from({ length: width * height }, (_, at) => data.subarray(at * 4, at * 4 + 3).join()).filter(
      (color) => color === "156,59,46",
    );
    expect(ring.length).toBeGreaterThan(4 * 90);
    await rm(seen, { recursive: true });
    expect((await check("--quick")).stdout).toMatch(/Nothing is wrong/);
    expect(JSON.parse((await check("--json")).stdout).problems[0]).toMatchObject({
      code: "blank-frame",
      place: { file: "art/helm.png" },
    });
  });

  test("says so when a picture has other colors than sRGB, and reads it all the same", async () => {
    const plain = encodePng(hat);
    const chunk = (type: string, data: Uint8Array) => {
      const body = Buffer.concat([Buffer.from(type, "latin1"), data]);
      const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
      length.writeUInt32BE(data.length);
      sum.writeUInt32BE(crc32(body));
      return Buffer.concat([length, body, sum]);
    };
    // After the header, which is 25 bytes behind the signature.
    const withChunks = (...chunks: readonly Buffer[]) =>
      Buffer.concat([plain.subarray(0, 33), ...chunks, plain.subarray(33)]);
    const gamma = (value: number) => chunk("gAMA", Buffer.from([value >> 24, value >> 16, value >> 8, value]));
    const profile = (name: string) =>
      chunk("iCCP", Buffer.concat([Buffer.from(`${name}\0\0`), deflateSync(Buffer.alloc(8))]));
    const told = async (...chunks: readonly Buffer[]) => {
      await writeFile(join(folder, "art/helm.png"), withChunks(...chunks));
      return (await check()).stdout;
    };
    expect(await told(gamma(100_000))).toMatch(
      /warning {2}art\/helm\.png: .*not sRGB \(gamma 1\); they are read as if/,
    );
    expect(await told(profile("Wide paint"))).toMatch(/not sRGB \(Wide paint\)/);
    for (const fine of [[gamma(45_455)], [profile("sRGB IEC61966-2.1")], [gamma(100_000), chunk("sRGB", Buffer.of(0))]])
      expect(await told(...fine)).toMatch(/Nothing is wrong/);
  });

  test("says what is shown in place of an animation that was not drawn, which is not wrong", async () => {
    const rig = {
      ...Object(source["rigs"]).rig,
      animations: { idle: { frames: 4, fps: 4 }, nod: { frames: 4, fps: 4 } },
    };
    const nodding = (more: object) => ({
      ...rig,
      animations: { ...rig.animations, nod: { frames: 4, fps: 4, ...more } },
    });
    const told = async (more: object, ...options: readonly string[]) => {
      const layers = [{ image: "art/helm.png", depth: 1, animations: ["idle"] }];
      const art = [{ image: "body.png", depth: 0, layout: { down: ["facing"] } }];
      const parts = { helm: { slot: "hat", layers } };
      const bodies = { plain: { rig: "rig", art } };
      const broken = { ...source, rigs: { rig: nodding(more) }, bodies, parts };
      await writeFile(join(folder, "catalog.json"), JSON.stringify(broken));
      return (await check(...options)).stdout;
    };
    const double = createImage(128, 16);
    for (const x of [0, 64]) pasteImage(double, body, x, 0);
    await writeFile(join(folder, "body.png"), encodePng(double));
    expect(await told({ else: "idle" })).toMatch(
      /^nod is not drawn for 1 part, which shows idle: helm\.\n.*Nothing is wrong/,
    );
    expect(await told({}, "--quick")).toMatch(/^Small 1.*Nothing is wrong/);
    const { fallbacks } = JSON.parse(await told({}, "--json"));
    expect(fallbacks).toEqual([{ rig: "rig", animation: "nod", parts: ["helm"] }]);
  });

  test("looks in several threads at more than a few million pixels, and finds what one finds", async () => {
    const large = await mkdtemp(join(tmpdir(), "mantle-check-large-"));
    const drawn = (shade: number, blank: number) => {
      const image = createImage(2048, 512);
      for (let at = 0; at < 2048 * 512; at += 1) {
        const [x, y] = [at % 512, Math.floor(at / 2048)];
        if (x < 100 || x >= 180 || y < 50 || y >= 130 || Math.floor((at % 2048) / 512) === blank) continue;
        image.data.set([shade, (x >> 2) * 5, (y >> 3) * 9, 255], at * 4);
      }
      return encodePng(image);
    };
    await writeFile(join(large, "body.png"), drawn(10, -1));
    await writeFile(join(large, "helm.png"), drawn(90, -1));
    await writeFile(join(large, "torn.png"), drawn(170, 2));
    await writeFile(join(large, "short.png"), drawn(250, -1).subarray(0, 900));
    const pictures = Array.from({ length: 20 }, (_, at) => (at === 4 ? "torn" : at === 17 ? "short" : "helm"));
    const parts = pictures.map((name, at) => [
      `helm-${at}`,
      { slot: "hat", layers: [{ image: `${name}.png`, depth: 1 }] },
    ]);
    const rigs = { rig: { ...Object(source["rigs"]).rig, frame: { width: 512, height: 512 } } };
    const catalog = { ...source, rigs, parts: Object.fromEntries(parts) };
    await writeFile(join(large, "catalog.json"), JSON.stringify(catalog));
    const { stdout } = mantleProcess(["check", large, "--json"]);
    expect(JSON.parse(stdout).problems.map((each: Problem) => [each.code, each.place.file])).toEqual([
      ["bad-picture", "short.png"],
      ["blank-frame", "torn.png"],
    ]);
    await rm(large, { recursive: true });
  });

  test("keeps quiet of what is allowed, with a reason", async () => {
    await writeFile(join(folder, "body.png"), encodePng(sheet(4, 0, 8, 15)));
    expect((await check()).stdout).toMatch(
      /warning {2}body\.png: "plain" is cut off by the edge of its cell at 0, 0 \(4 cells in all\)/,
    );
    const bodies = {
      plain: { rig: "rig", art: [{ image: "body.png", depth: 0 }], allow: { "cut-by-frame": "A tall hat." } },
    };
    await writeFile(join(folder, "catalog.json"), JSON.stringify({ ...source, bodies }));
    expect((await check()).stdout).toMatch(/Nothing is wrong/);
  });

  test.each<[string, () => Promise<unknown>, RegExp]>([
    [
      "a file that was cut short",
      async () =>
        writeFile(join(folder, "art/helm.png"), (await readFile(join(folder, "art/helm.png"))).subarray(0, 90)),
      /error {4}art\/helm\.png: .*(missing|damaged|cut)/,
    ],
    [
      "a file that is no picture",
      async () => writeFile(join(folder, "art/helm.png"), "a note"),
      /art\/helm\.png: This is not a PNG that can be read/,
    ],
    [
      "a file whose pixels are damaged",
      async () => {
        const bytes = Buffer.from(encodePng(hat));
        bytes[bytes.length - 30] = (bytes[bytes.length - 30] ?? 0) ^ 1;
        await writeFile(join(folder, "art/helm.png"), bytes);
      },
      /error {4}art\/helm\.png: .*(checksum|damaged)/,
    ],
    [
      "a name in another case",
      () => rename(join(folder, "art/helm.png"), join(folder, "art/Helm.png")),
      /The picture art\/helm\.png is missing, and art\/Helm\.png is not used: they are called the same but for case\. Rename it to art\/helm\.png/,
    ],
    [
      "a number that is wrong in the rig, once for all",
      async () => {
        for (const name of ["body.png", "art/helm.png"])
          await writeFile(join(folder, name), encodePng(createImage(4 * 20, 18)));
      },
      /^error {4}catalog\.json:1:65 \/rigs\/rig\/frame: Every picture on the rig "rig" \(2 in all\) has cells of 20×18 pixels; the frames of the rig are 16×16\. Set the frame of the rig to 20×18, and its origin with it\.\n[^\n]+\n$/,
    ],
  ])("%s is found", async (_name, spoil, words) => {
    await spoil();
    expect((await check()).stdout).toMatch(words);
    await rm(join(folder, "art"), { recursive: true });
  });
});
