import { MantleError } from "../base/problem.ts";
import type { PackFiles } from "../catalog/packs/pack-files.ts";
import type { PointImage } from "../catalog/read/point-images.ts";
import { contentHash, nameOfDigest } from "../raster/content-hash.ts";

/** The form of a bundle. It changes when the form does. */
export const bundleForm = "bundle/1";

/** What `catalog.json` of a bundle says: which file holds the rest. All other files are named by their content. */
export interface BundleIndex {
  readonly mantle: typeof bundleForm;
  readonly id: string;
  readonly version: string;
  readonly contents: string;
}

/** A catalog with all that is needed to read it, and where its pictures are. */
export interface BundleContents {
  readonly mantle: typeof bundleForm;
  readonly main: unknown;
  readonly included: Readonly<Record<string, unknown>>;
  readonly marks: Readonly<Record<string, PointImage>>;
  readonly tables: Readonly<Record<string, unknown>>;
  readonly pages: readonly BundlePage[];
  /** The packs that are laid over it, where there are any. */
  readonly packs?: readonly PackFiles[];
}

/** What is drawn of several pictures, close together in one. */
export interface BundlePage {
  /** A PNG. */
  readonly image: string;
  /** A JSON file that says where in it the cells of each picture are: `PageCells`. */
  readonly cells: string;
  /** The pictures that are on it, by their paths in the catalog. */
  readonly pictures: readonly string[];
}

/** By the path of a picture: its width and height, and then of each cell left, top, width and height in the picture, and left and top on the page. */
export type PageCells = Readonly<Record<string, readonly number[]>>;

/** Whether what `catalog.json` holds is a bundle, of whichever form. */
export function isBundle(main: unknown): main is { readonly mantle: string } {
  const form: unknown = Object(main).mantle;
  return typeof form === "string" && form.startsWith("bundle/");
}

/**
 * Reads what `catalog.json` of a bundle says.
 *
 * @throws MantleError `bad-bundle` for one of another form.
 */
export function readIndex(main: { readonly mantle: string }): BundleIndex {
  if (main.mantle !== bundleForm)
    throw badBundle(`it is of the form "${main.mantle.slice(0, 40)}", and this version reads "${bundleForm}"`);
  const { contents } = main as Partial<BundleIndex>;
  if (typeof contents !== "string") throw badBundle('its catalog.json does not say where its "contents" are');
  return main as BundleIndex;
}

/**
 * The file of a bundle with this content.
 *
 * @param ending - `.json` or `.png`.
 */
export function bundleFile(bytes: Uint8Array, ending: string): string {
  return `${contentHash(bytes)}${ending}`;
}

/**
 * Makes sure that a file of a bundle has the content by which it is named.
 *
 * @param digest - SHA-256 of `namedBytes`, if that is known.
 * @throws MantleError `bad-bundle`.
 */
export function requireContent(file: string, bytes: Uint8Array, digest: Uint8Array | undefined): void {
  if (file.startsWith(digest === undefined ? contentHash(bytes) : nameOfDigest(digest))) return;
  throw badBundle(
    `"${file}" came with ${bytes.length} bytes that are not those it was packed with; it was cut short or changed on the way`,
  );
}

/** @param why - what is wrong, as the rest of a sentence. */
export function badBundle(why: string): MantleError {
  return new MantleError(
    "bad-bundle",
    `This bundle cannot be used: ${why}. Pack the catalog again with "mantle pack", and serve every file that it writes.`,
  );
}
