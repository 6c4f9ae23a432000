const primes = firstPrimes(64);

/** The first 32 bits of the fractional parts of the square roots of the first 8 primes. */
const start = Int32Array.from(primes.slice(0, 8), (prime) => fractionOf(Math.sqrt(prime)));

/** The same of the cube roots of the first 64. */
const rounds = Int32Array.from(primes, (prime) => fractionOf(Math.cbrt(prime)));

/** The words of the block that is being added: one for all calls, since memory of its own would cost more than a block does. */
const schedule = new Int32Array(64);

/**
 * The 32 bytes of SHA-256 (FIPS 180-4, section 6.2) of a sequence of bytes.
 *
 * @example
 * hexOf(sha256(utf8Bytes("abc"))) // → "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad"
 */
export function sha256(bytes: Uint8Array): Uint8Array {
  const { length } = bytes;
  const whole = length - (length % 64);
  const tail = new Uint8Array(length - whole < 56 ? 64 : 128);
  tail.set(bytes.subarray(whole));
  tail[length - whole] = 0x80;
  const bits = new DataView(tail.buffer);
  bits.setUint32(tail.length - 8, Math.floor(length / 0x2000_0000));
  bits.setUint32(tail.length - 4, length << 3);
  const state = start.slice();
  addBlocks(state, bytes, whole);
  addBlocks(state, tail, tail.length);
  const digest = new Uint8Array(32);
  const words = new DataView(digest.buffer);
  for (const [at, word] of state.entries()) words.setInt32(at * 4, word);
  return digest;
}

/** Adds the first bytes of a sequence, 64 at a time, to the state. */
function addBlocks(state: Int32Array, bytes: Uint8Array, end: number): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  for (let from = 0; from < end; from += 64) {
    for (let at = 0; at < 16; at += 1) schedule[at] = view.getInt32(from + at * 4);
    for (let at = 16; at < 64; at += 1) {
      const two = wordAt(schedule, at - 15);
      const last = wordAt(schedule, at - 2);
      const low = turned(two, 7) ^ turned(two, 18) ^ (two >>> 3);
      const high = turned(last, 17) ^ turned(last, 19) ^ (last >>> 10);
      schedule[at] = (wordAt(schedule, at - 16) + low + wordAt(schedule, at - 7) + high) | 0;
    }
    addBlock(state);
  }
}

function addBlock(state: Int32Array): void {
  let a = wordAt(state, 0);
  let b = wordAt(state, 1);
  let c = wordAt(state, 2);
  let d = wordAt(state, 3);
  let e = wordAt(state, 4);
  let f = wordAt(state, 5);
  let g = wordAt(state, 6);
  let h = wordAt(state, 7);
  for (let at = 0; at < 64; at += 1) {
    const one = turned(e, 6) ^ turned(e, 11) ^ turned(e, 25);
    const first = (h + one + ((e & f) ^ (~e & g)) + wordAt(rounds, at) + wordAt(schedule, at)) | 0;
    const two = turned(a, 2) ^ turned(a, 13) ^ turned(a, 22);
    const second = (two + ((a & b) ^ (a & c) ^ (b & c))) | 0;
    h = g;
    g = f;
    f = e;
    e = (d + first) | 0;
    d = c;
    c = b;
    b = a;
    a = (first + second) | 0;
  }
  state[0] = (wordAt(state, 0) + a) | 0;
  state[1] = (wordAt(state, 1) + b) | 0;
  state[2] = (wordAt(state, 2) + c) | 0;
  state[3] = (wordAt(state, 3) + d) | 0;
  state[4] = (wordAt(state, 4) + e) | 0;
  state[5] = (wordAt(state, 5) + f) | 0;
  state[6] = (wordAt(state, 6) + g) | 0;
  state[7] = (wordAt(state, 7) + h) | 0;
}

function wordAt(words: Int32Array, at: number): number {
  return words[at] as number;
}

function turned(word: number, bits: number): number {
  return (word >>> bits) | (word << (32 - bits));
}

function firstPrimes(count: number): readonly number[] {
  const found: number[] = [];
  for (let number = 2; found.length < count; number += 1)
    if (found.every((prime) => number % prime !== 0)) found.push(number);
  return found;
}

function fractionOf(root: number): number {
  return (root - Math.floor(root)) * 0x1_0000_0000;
}

const digits = Array.from({ length: 256 }, (_, byte) => byte.toString(16).padStart(2, "0"));

/** Bytes in hexadecimal, two lower-case digits each. */
export function hexOf(bytes: Uint8Array): string {
  let text = "";
  for (const byte of bytes) text += digits[byte];
  return text;
}

/** The SHA-256 of a text in UTF-8, in hexadecimal. */
export function sha256Of(text: string): string {
  return hexOf(sha256(utf8Bytes(text)));
}

/** A text in UTF-8 (RFC 3629). Half a surrogate pair becomes U+FFFD, as in `TextEncoder`. */
export function utf8Bytes(text: string): Uint8Array {
  const bytes = new Uint8Array(text.length);
  for (let at = 0; at < text.length; at += 1) {
    const unit = text.charCodeAt(at);
    if (unit >= 0x80) return Uint8Array.from(Array.from(text, utf8Of).flat());
    bytes[at] = unit;
  }
  return bytes;
}

/** The bytes of one character. */
function utf8Of(character: string): readonly number[] {
  const code = character.codePointAt(0) ?? 0;
  if (code < 0x80) return [code];
  if (code < 0x800) return [0xc0 | (code >> 6), follower(code)];
  if (code >= 0xd800 && code <= 0xdfff) return utf8Of("\ufffd");
  if (code < 0x1_0000) return [0xe0 | (code >> 12), follower(code >> 6), follower(code)];
  return [0xf0 | (code >> 18), follower(code >> 12), follower(code >> 6), follower(code)];
}

function follower(code: number): number {
  return 0x80 | (code & 0x3f);
}
