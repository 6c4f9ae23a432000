import { expect } from "@jest/globals";
import type { Image } from "zealous-mantle";

/** Expects two pictures to be equal in size and in every byte; says where they first differ. */
export function expectSamePicture(found: Image, expected: Image): void {
  expect([found.width, found.height]).toEqual([expected.width, expected.height]);
  const isSame = Buffer.compare(bytesOf(found), bytesOf(expected)) === 0;
  const byte = isSame ? -1 : found.data.findIndex((value, at) => value !== expected.data[at]);
  const pixel = Math.floor(byte / 4);
  expect(byte < 0 ? "the same" : `another at ${pixel % found.width}, ${Math.floor(pixel / found.width)}`).toBe(
    "the same",
  );
}

const bytesOf = ({ data }: Image): Buffer => Buffer.from(data.buffer, data.byteOffset, data.byteLength);
