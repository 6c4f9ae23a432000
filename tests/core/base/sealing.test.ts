import { createHash } from "node:crypto";
import { describe, expect, test } from "@jest/globals";
import canonicalize from "canonicalize";
import fc from "fast-check";
import { canonicalText } from "../../../src/core/base/canonical-text.ts";
import { hexOf, sha256, utf8Bytes } from "../../../src/core/base/sha256.ts";

describe("what saves are sealed with", () => {
  test("hashes as the platform does, at every length around a block", () => {
    const lengths = fc.oneof(fc.nat(200), fc.nat(5_000));
    fc.assert(
      fc.property(
        lengths.chain((length) => fc.uint8Array({ minLength: length, maxLength: length })),
        (bytes) => expect(hexOf(sha256(bytes))).toBe(createHash("sha256").update(bytes).digest("hex")),
      ),
    );
    for (let length = 0; length <= 130; length += 1) {
      const bytes = new Uint8Array(length).fill(length);
      expect(hexOf(sha256(bytes))).toBe(createHash("sha256").update(bytes).digest("hex"));
    }
  });

  test("writes UTF-8 as the platform does, half characters too", () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.nat(0x10ffff).map((code) => String.fromCodePoint(code)) }), (text) =>
        expect(utf8Bytes(text)).toEqual(new TextEncoder().encode(text)),
      ),
    );
  });

  test("writes the canonical form of any JSON as the reference does", () => {
    fc.assert(fc.property(fc.jsonValue(), (value) => expect(canonicalText(value)).toBe(canonicalize(value))));
    const keys = { "10": 1, "9": 2, "\u20ac": 3, "\r": 4, "\ufb33": 5, "\ud83d\ude00": 6, gone: undefined };
    const odd = { keys, zero: -0, small: 1e-7, gaps: [undefined, 1], day: new Date(0) };
    expect(canonicalText(odd)).toBe(canonicalize(odd));
  });

  test("refuses what is no JSON", () => {
    expect(() => canonicalText({ at: [Number.NaN] })).toThrow(new RangeError("JSON has no number NaN."));
    expect(() => canonicalText({ at: () => 1 })).toThrow(new TypeError("JSON has no function."));
  });
});
