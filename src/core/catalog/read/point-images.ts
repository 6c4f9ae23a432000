/** The opaque pixels of a picture that marks points: all that is read of it. */
export interface PointImage {
  /** In pixels. */
  readonly width: number;
  readonly height: number;
  /** Each opaque pixel, row by row: across, down, and its color `0xRRGGBB`. */
  readonly marks: readonly (readonly [x: number, y: number, color: number])[];
}

/**
 * Finds the opaque pixels of a decoded picture, as `readCatalog` takes them for a picture that marks points.
 *
 * @param picture - row-major RGBA, `width * height * 4` bytes.
 * @example
 * readCatalog(main, included, { pictures: new Map([["points.png", extractPoints(decodePng(bytes))]]) })
 */
export function extractPoints({ width, height, data }: Picture): PointImage {
  const marks: [number, number, number][] = [];
  for (let pixel = 0; pixel < width * height; pixel += 1) {
    const byte = pixel * 4;
    if (data[byte + 3] !== 255) continue;
    const color = ((data[byte] ?? 0) << 16) | ((data[byte + 1] ?? 0) << 8) | (data[byte + 2] ?? 0);
    marks.push([pixel % width, Math.floor(pixel / width), color]);
  }
  return { width, height, marks };
}

/** Whether a value that was read has the form of marks. */
export function isMarks(value: unknown): value is PointImage {
  if (typeof value !== "object" || value === null) return false;
  const { width, height, marks } = value as Readonly<Record<string, unknown>>;
  if (!Number.isSafeInteger(width) || !Number.isSafeInteger(height) || !Array.isArray(marks)) return false;
  return marks.every((mark) => Array.isArray(mark) && mark.length === 3 && mark.every(Number.isSafeInteger));
}

interface Picture {
  readonly width: number;
  readonly height: number;
  readonly data: ArrayLike<number>;
}

/**
 * The paths of the marker pictures that catalog files name, so that they can be loaded before the catalog is read. A path with
 * `{body}` stands for one picture for each body; those that are nobody's need not be there.
 */
export function pointImages(...contents: readonly unknown[]): readonly string[] {
  const bodies = new Set<string>();
  const paths = new Set<string>();
  for (const content of contents) {
    for (const [id, body] of entriesOf(partOf(content, "bodies"))) {
      const artName = partOf(body, "artFrom");
      bodies.add(typeof artName === "string" ? artName : id);
    }
    for (const section of ["rigs", "bodies"]) {
      for (const [, entry] of entriesOf(partOf(content, section))) {
        const image = partOf(partOf(entry, "points"), "image");
        if (typeof image === "string") paths.add(image);
      }
    }
  }
  return [...new Set([...paths].flatMap((path) => [...bodies].map((body) => path.replaceAll("{body}", body))))];
}

function partOf(content: unknown, key: string): unknown {
  return typeof content === "object" && content !== null ? Reflect.get(content, key) : undefined;
}

function entriesOf(content: unknown): readonly (readonly [string, unknown])[] {
  return typeof content === "object" && content !== null ? Object.entries(content) : [];
}
