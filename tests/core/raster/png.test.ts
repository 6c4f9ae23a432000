import { deflateSync } from "node:zlib";
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { encode } from "fast-png";
import sharp from "sharp";
import { MantleError } from "zealous-mantle";
import { createImage, decodePng, encodePng } from "zealous-mantle/raster";

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

  test.each([1, 2, 256, 257])("a picture of %d colors comes back as it was, smaller with a palette", (count) => {
    const image = createImage(count, 3);
    const pixels = new Uint32Array(image.data.buffer);
    // Opaque and translucent ones in turn, so that the order of a palette matters.
    for (let at = 0; at < pixels.length; at += 1)
      pixels[at] = ((at % 2 === 0 ? 0xff : 0x40) * 0x1000000 + (at % count) * 77) >>> 0;
    const bytes = encodePng(image);
    expect(decodePng(bytes)).toEqual(image);
    const colors = new Set(pixels).size;
    expect(bytes[25]).toBe(colors <= 256 ? 3 : 6);
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

  test("every color type, depth and filter is read as a picture library reads it, interlaced ones too", async () => {
    const size = { width: 13, height: 11 };
    const noise = Buffer.from(Array.from({ length: 13 * 11 * 4 }, (_, at) => (at * at * 31 + at * 7) % 256));
    const source = () => sharp(noise, { raw: { ...size, channels: 4 } });
    for (const progressive of [false, true]) {
      const written = [
        source().png({ progressive, adaptiveFiltering: true, compressionLevel: 9 }),
        source().removeAlpha().png({ progressive, adaptiveFiltering: true }),
        source().removeAlpha().toColorspace("b-w").png({ progressive, adaptiveFiltering: true }),
        source().toColorspace("b-w").png({ progressive, adaptiveFiltering: true }),
        source().toColorspace("rgb16").png({ progressive, adaptiveFiltering: true }),
        ...[2, 4, 16, 200].map((colors) => source().png({ progressive, palette: true, colors, dither: 0 })),
      ];
      for (const each of written) {
        const bytes = await each.toBuffer();
        const expected = await sharp(bytes).ensureAlpha().toColorspace("srgb").raw({ depth: "uchar" }).toBuffer();
        const { data } = decodePng(bytes);
        // 16 bits become 8 by scaling, as the standard has it; the library cuts them off.
        const tolerance = bytes[24] === 16 ? 1 : 0;
        expect(data.filter((byte, at) => Math.abs(byte - (expected[at] ?? 0)) > tolerance)).toHaveLength(0);
        expect(data).toHaveLength(expected.length);
      }
    }
  });

  test("interlaced pictures of every type and depth are the same as plain ones, at any size", () => {
    const passes = [
      [0, 0, 8, 8],
      [4, 0, 8, 8],
      [0, 4, 4, 8],
      [2, 0, 4, 4],
      [0, 2, 2, 4],
      [1, 0, 2, 2],
      [0, 1, 1, 2],
    ];
    const kinds = { 0: [1, 2, 4, 8, 16], 2: [8, 16], 3: [1, 2, 4, 8], 4: [8, 16], 6: [8, 16] };
    const channelsOf: Record<string, number> = { 0: 1, 2: 3, 3: 1, 4: 2, 6: 4 };
    /** Packs samples of noise, pass by pass, each row after a byte that says it has no filter. */
    const written = (type: string, depth: number, width: number, height: number, isInterlaced: boolean) => {
      const channels = channelsOf[type] ?? 1;
      const rows: Uint8Array[] = [];
      for (const [x = 0, y = 0, across = 1, down = 1] of isInterlaced ? passes : [[0, 0, 1, 1]]) {
        const columns = Math.ceil((width - x) / across);
        for (let row = y; row < height && columns > 0; row += down) {
          let bits = "";
          for (let column = x; column < width; column += across)
            for (let channel = 0; channel < channels; channel += 1)
              bits += (((column * 7 + row * 13 + channel * 5) * 2_654_435) % 2 ** depth)
                .toString(2)
                .padStart(depth, "0");
          rows.push(
            Uint8Array.from(["0".repeat(8), ...(bits.match(/.{1,8}/g) ?? [])], (byte) =>
              Number.parseInt(byte.padEnd(8, "0"), 2),
            ),
          );
        }
      }
      const header = Buffer.alloc(13);
      header.writeUInt32BE(width);
      header.writeUInt32BE(height, 4);
      header.set([depth, Number(type), 0, 0, isInterlaced ? 1 : 0], 8);
      const palette = Uint8Array.from({ length: 3 * 2 ** Math.min(8, depth) }, (_, at) => (at * 37) % 256);
      const start = encodePng(createImage(1, 1)).subarray(0, 8);
      return Buffer.concat([
        start,
        chunk("IHDR", header),
        ...(type === "3" ? [chunk("PLTE", palette)] : []),
        chunk("IDAT", deflateSync(Buffer.concat(rows))),
        chunk("IEND", new Uint8Array(0)),
      ]);
    };
    let count = 0;
    for (const [type, depths] of Object.entries(kinds))
      for (const depth of depths)
        for (const [width, height] of [
          [1, 1],
          [2, 3],
          [5, 7],
          [9, 9],
          [33, 17],
        ] as const) {
          expect(decodePng(written(type, depth, width, height, true))).toEqual(
            decodePng(written(type, depth, width, height, false)),
          );
          count += 1;
        }
    expect(count).toBe(75);
  });

  test("one that is damaged, lies about itself or is too large is refused at once, whatever its header says", () => {
    const good = encodePng(createImage(8, 8));
    const refusal = (bytes: Uint8Array) => {
      try {
        return decodePng(bytes).width;
      } catch (error) {
        return error instanceof MantleError ? error.message.replace(/^.*: |\.$/g, "") : error;
      }
    };
    const changed = (at: number, value: number) => good.map((byte, place) => (place === at ? value : byte));
    const header = (width: number, height: number, depth = 8, type = 6) => {
      const data = Buffer.alloc(13);
      data.writeUInt32BE(width);
      data.writeUInt32BE(height, 4);
      data.set([depth, type], 8);
      return chunk("IHDR", data);
    };
    const png = (...chunks: readonly Uint8Array[]) =>
      Buffer.concat([good.subarray(0, 8), ...chunks, chunk("IEND", new Uint8Array(0))]);
    const blank = (bytes: number) => deflateSync(Buffer.alloc(bytes));

    expect(refusal(good)).toBe(8);
    for (let at = 0; at < good.length; at += 1) expect(refusal(changed(at, (good[at] ?? 0) ^ 64))).not.toBe(8);
    for (let length = 0; length < good.length; length += 1)
      expect(typeof refusal(good.subarray(0, length))).toBe("string");
    expect(refusal(png(header(100_000, 100_000), chunk("IDAT", blank(1_000))))).toMatch(
      /67,108,864 in all is the most/,
    );
    expect(refusal(png(header(4, 4), chunk("IDAT", blank(50_000_000))))).toMatch(/more than its header says/);
    expect(refusal(png(header(4, 4), chunk("IDAT", blank(10))))).toMatch(/its end is missing/);
    expect(refusal(png(header(4, 4, 8, 3), chunk("IDAT", blank(20))))).toMatch(/its palette is missing/);
    expect(refusal(png(header(4, 4, 3), chunk("IDAT", blank(68))))).toMatch(/its header is damaged/);
    expect(refusal(png(header(4, 4), chunk("IDAT", deflateSync(Buffer.alloc(68, 9)))))).toMatch(
      /filter that is not known/,
    );
    const sum = blank(68);
    sum[sum.length - 1] = (sum.at(-1) ?? 0) ^ 1;
    expect(refusal(png(header(4, 4), chunk("IDAT", sum)))).toMatch(/checksum|damaged/);
  });
});

function chunk(type: string, data: Uint8Array): Buffer {
  const body = Buffer.concat([Buffer.from(type), data]);
  const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
  length.writeUInt32BE(data.length);
  sum.writeUInt32BE(crc32(body));
  return Buffer.concat([length, body, sum]);
}

/** The checksum of a chunk, bit by bit (ISO/IEC 15948, annex D). */
function crc32(bytes: Uint8Array): number {
  let crc = 0xffffffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit += 1) crc = (crc >>> 1) ^ (crc & 1 ? 0xedb88320 : 0);
  }
  return (crc ^ 0xffffffff) >>> 0;
}
