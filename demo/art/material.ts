/**
 * What a piece is made of: five tones from ink to light. A material of a channel is drawn in the key colors of that channel and
 * takes its color in the game; a fixed material keeps its own.
 */
export interface Material {
  readonly channel?: string;
  readonly tones: readonly number[];
}

/** The key colors of every channel of five tones. */
export const keyTones = [0x141414, 0x3c3c3c, 0x6e6e6e, 0xa2a2a2, 0xd6d6d6];

const dyed = (channel: string): Material => ({ channel, tones: keyTones });
const fixed = (...tones: readonly number[]): Material => ({ tones });

export const skin = dyed("skin");
export const hair = dyed("hair");
export const cloth = dyed("cloth");
export const accent = dyed("accent");
export const oilcloth = dyed("oilcloth");
export const leather = dyed("leather");

export const linen = fixed(0x2b2320, 0x7d6d5c, 0xb3a288, 0xdccfb3, 0xf6efdc);
export const brass = fixed(0x3a2410, 0x74501c, 0xb07f2e, 0xdcb04e, 0xf8e29a);
/** For things too thin for an outline. */
export const gilt = fixed(0xdcb04e, 0xb07f2e, 0xdcb04e, 0xf8e29a, 0xf8e29a);
export const straw = fixed(0x35250f, 0x7a5a26, 0xb48d40, 0xdcb965, 0xf4e09c);
export const wood = fixed(0x22130b, 0x4c2f1b, 0x7a5230, 0xa6784a, 0xcda271);
export const iron = fixed(0x14181d, 0x363f49, 0x5f6c78, 0x93a1ab, 0xcbd6db);
export const tarred = fixed(0x0c0e12, 0x23272e, 0x3a414b, 0x5a6572, 0x8a97a5);
export const flame = fixed(0x5a2a0c, 0xc9701c, 0xf2a83a, 0xfbd873, 0xfff6c9);
export const paper = fixed(0x33291f, 0x8c7c66, 0xc5b699, 0xe8dcc2, 0xfbf5e4);
