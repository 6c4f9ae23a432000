import { createHmac, timingSafeEqual } from "node:crypto";
import { fileURLToPath } from "node:url";
import { Piscina } from "piscina";
import { type Character, MantleError, shareLook } from "zealous-mantle";
import type { Game } from "../game.ts";
import { madeOnce } from "./made-once.ts";
import { type PictureKind, type PictureOrder, pictureKinds } from "./picture-kinds.ts";

/** Pictures of looks, named by the content that makes them. */
export interface PictureMaker {
  /** The names of a character's pictures. They stay the same as long as the look and the catalog do. */
  namesOf(character: Character): Readonly<Record<PictureKind, string>>;
  /**
   * A picture by its name, made when it is asked for first.
   *
   * @returns the bytes of a PNG; `undefined` for a name that this server did not give.
   */
  picture(name: string): Promise<Uint8Array> | undefined;
  /** How many were made. */
  readonly made: number;
  close(): Promise<void>;
}

/**
 * Opens the threads that draw.
 *
 * A name is the code of the look, and a hash of that, the kind of the picture and all files of the catalog. The hash has a key, so nobody but
 * this server makes names: a stranger cannot have it draw looks without end.
 */
export function openPictureMaker(game: Game, secret: string, threads: number): PictureMaker {
  const pool = new Piscina<PictureOrder, Uint8Array>({
    filename: fileURLToPath(new URL("./thread.js", import.meta.url)),
    name: "drawPicture",
    workerData: { folder: game.folder },
    minThreads: 1,
    maxThreads: threads,
    maxQueue: 256,
  });
  const pictures = madeOnce(64_000_000);
  const hashOf = ({ kind, code }: PictureOrder) =>
    createHmac("sha256", secret).update(`picture ${game.edition} ${kind} ${code}`).digest("hex").slice(0, 32);
  const read = (name: string): PictureOrder | undefined => {
    const [, hash = "", code = "", kind = ""] = /^([0-9a-f]{32})-([0-9A-Z]{1,1000})\.([a-z]+)\.png$/.exec(name) ?? [];
    const known = pictureKinds.find((each) => each === kind);
    if (known === undefined) return undefined;
    const order = { kind: known, code };
    return timingSafeEqual(Buffer.from(hash), Buffer.from(hashOf(order))) ? order : undefined;
  };
  return {
    namesOf(character) {
      const code = shareLook(game.catalog, character);
      const names = pictureKinds.map((kind) => [kind, `${hashOf({ kind, code })}-${code}.${kind}.png`] as const);
      return Object.fromEntries(names) as Record<PictureKind, string>;
    },
    picture(name) {
      const order = read(name);
      if (order === undefined) return undefined;
      return pictures.get(name, async () => {
        if (pool.queueSize >= 256) throw new MantleError("try-later", "Too many pictures are waited for.");
        const bytes = await pool.run(order);
        return Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
      });
    },
    get made() {
      return pictures.made;
    },
    close: () => pool.close(),
  };
}
