import { EventQueue } from "../base/event-queue.ts";
import { getOrInsert } from "../base/get-or-insert.ts";
import { MantleError } from "../base/problem.ts";
import type { CatalogIds, Point, Rectangle } from "../catalog/model/catalog.ts";
import { type Clip, clipOf, frameOfClip } from "../look/cels-at.ts";
import type { Look, Moment } from "../look/look.ts";
import { type MomentsOptions, momentsOf } from "../look/moments-of.ts";
import { pointAt } from "../look/point-at.ts";
import { type Representative, Representatives } from "../look/representatives.ts";
import { type AtlasPage, OpenPage } from "./atlas-page.ts";
import { composeInto } from "./compose-frame.ts";
import { createImage, type Image, type Images } from "./image.ts";
import { visibleBounds } from "./visible-bounds.ts";

export interface AtlasOptions {
  /** Width and height of a page, in pixels. @defaultValue `1024` */
  readonly size?: number;
  /** Blank pixels between frames. @defaultValue `1` */
  readonly gap?: number;
  /** How many pixels wide the outermost pixels of a frame are repeated around it: 1 for engines that smooth pixels. @defaultValue `0` */
  readonly extrude?: number;
  /**
   * How many bytes of pages to keep. Frames that were not shown for longest make room; what was shown in this tick or the one before
   * never does, so that a full screen of figures may take more.
   *
   * @defaultValue 64 MiB
   */
  readonly bytes?: number;
  /** Whether colors are multiplied by alpha, as most engines want them. @defaultValue `"straight"` */
  readonly alpha?: "straight" | "multiplied";
}

/** A frame of a look, cut to what is seen of it: where it lies in the atlas, and around the figure's origin. */
export interface AtlasFrame {
  /** `undefined` for a frame in which nothing is seen. */
  readonly page: AtlasPage | undefined;
  /** Upper left corner, width and height in the page, in pixels. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** From the origin of the figure to the upper left corner, in pixels. */
  readonly left: number;
  readonly top: number;
  /** The named points that are seen, in pixels from the origin. */
  readonly points: ReadonlyMap<string, Point>;
}

/** Pages of pixels shared by all looks that are shown, filled when a frame is first asked for. */
export interface Atlas {
  readonly pages: readonly AtlasPage[];
  /** How many bytes the pages take. */
  readonly bytes: number;
  /**
   * The frame of a look at a moment: the same object as long as it is kept, for all looks that look the same, and drawn now if it
   * is not there. To be asked for at each tick in which it is on the screen.
   *
   * @throws MantleError `missing-picture`, `unknown-animation`, `unknown-facing`, `picture-too-large` for one that no page can hold.
   */
  frame<Ids extends CatalogIds>(look: Look<Ids>, moment: Moment<Ids>): AtlasFrame;
  /** Draws frames before they are asked for, and keeps every frame of the look until it is released as often. @throws as `frame` does. */
  warm(look: Look, options?: MomentsOptions): void;
  /** Ends one `warm` of a look: its frames may make room again. Does nothing for a look that is not kept. */
  release(look: Look): void;
  /** Ends a tick: calls `upload` with each page that changed and the part of it that did. */
  flush(upload: (page: AtlasPage, changed: Rectangle) => void): void;
  /** Calls a listener when a frame made room, or a page was dropped: what was made of it can go. Returns what ends that. */
  on(event: "drop", listener: (frame: AtlasFrame) => void): () => void;
  on(event: "drop-page", listener: (page: AtlasPage) => void): () => void;
  /** Drops everything; what is asked for afterwards is drawn anew, from the pictures that are there then. */
  close(): void;
}

/**
 * Opens an atlas.
 *
 * @param images - every picture of the looks that will be asked for; may grow later.
 * @example
 * const atlas = openAtlas(loader.images)
 * const { page, x, y, width, height, left, top } = atlas.frame(look, { animation: "walk", facing: "west", time: 0.35 })
 * atlas.flush((page, { x, y, width, height }) => upload(page, x, y, width, height))
 */
export function openAtlas(images: Images, options: AtlasOptions = {}): Atlas {
  return new OpenAtlas(images, options);
}

/** A look, and what is kept of it. */
interface Owner extends Representative {
  /** How often it is to be kept. */
  warm: number;
  /** What was asked for last, so that a figure that goes on walking costs no further look-up. */
  clip: Clip | undefined;
  shown: (Kept | undefined)[];
  readonly clips: Map<Clip, (Kept | undefined)[]>;
}

/** A frame that is kept. */
interface Kept extends AtlasFrame {
  readonly page: OpenPage | undefined;
  readonly owner: Owner;
  /** Where it is kept. */
  readonly among: (Kept | undefined)[];
  readonly number: number;
  /** All that is taken of the page, its border too. */
  readonly place: Rectangle | undefined;
  /** The tick in which it was last shown. */
  shownAt: number;
}

class OpenAtlas implements Atlas {
  readonly pages: OpenPage[] = [];
  readonly #images: Images;
  readonly #options: Required<AtlasOptions>;
  /** How many pages there may be. */
  readonly #mostPages: number;
  readonly #queue = new EventQueue<{ drop: AtlasFrame; "drop-page": AtlasPage }>();
  readonly #frames = new Set<Kept>();
  readonly #looks = new Representatives<Owner>((look) => ({
    look,
    frames: 0,
    warm: 0,
    clip: undefined,
    shown: [],
    clips: new Map(),
  }));
  #tick = 0;
  #scratch: Image = createImage(0, 0);

  constructor(
    images: Images,
    { size = 1024, gap = 1, extrude = 0, bytes = 64 * 2 ** 20, alpha = "straight" }: AtlasOptions,
  ) {
    this.#images = images;
    this.#options = { size, gap, extrude, bytes, alpha };
    this.#mostPages = Math.max(1, Math.floor(bytes / (size * size * 4)));
  }

  get bytes(): number {
    return this.pages.length * this.#options.size ** 2 * 4;
  }

  frame(look: Look, moment: Moment): AtlasFrame {
    const owner = this.#looks.of(look);
    const { clip } = owner;
    const isSame = clip?.animation === moment.animation && clip.facing.id === moment.facing;
    const number = frameOfClip(isSame ? clip : begin(owner, moment), moment.time);
    const frame = owner.shown[number] ?? this.#draw(owner, number, moment);
    frame.shownAt = this.#tick;
    return frame;
  }

  warm(look: Look, options?: MomentsOptions): void {
    const owner = this.#looks.of(look);
    for (const { moment } of momentsOf(look, options)) this.frame(look, moment);
    owner.warm += 1;
  }

  release(look: Look): void {
    const owner = this.#looks.of(look);
    owner.warm = Math.max(0, owner.warm - 1);
  }

  flush(upload: (page: AtlasPage, changed: Rectangle) => void): void {
    for (const page of this.pages) {
      const { changed } = page;
      if (changed === undefined) continue;
      page.changed = undefined;
      upload(page, changed);
    }
    this.#tick += 1;
    if (this.pages.length > this.#mostPages) this.#dropPages();
  }

  on(event: "drop", listener: (frame: AtlasFrame) => void): () => void;
  on(event: "drop-page", listener: (page: AtlasPage) => void): () => void;
  on(event: "drop" | "drop-page", listener: (dropped: AtlasFrame & AtlasPage) => void): () => void {
    return this.#queue.on(event, listener as (dropped: AtlasFrame | AtlasPage) => void);
  }

  close(): void {
    this.#queue.together(() => {
      for (const frame of this.#frames) {
        frame.owner.warm = 0;
        this.#drop(frame);
      }
      for (const page of this.pages.splice(0)) this.#queue.emit("drop-page", page);
    });
  }

  #draw(owner: Owner, number: number, moment: Moment): Kept {
    const { look } = owner;
    const { frame, origin } = look.rig;
    if (this.#scratch.width === frame.width && this.#scratch.height === frame.height) this.#scratch.data.fill(0);
    else this.#scratch = createImage(frame.width, frame.height);
    composeInto(this.#scratch, look, this.#images, moment, 0, 0);
    const bounds = visibleBounds(this.#scratch);
    const { page, place, x, y, width, height } = bounds === undefined ? nowhere : this.#write(this.#scratch, bounds);
    const drawn: Kept = {
      page,
      place,
      x,
      y,
      width,
      height,
      left: (bounds?.x ?? 0) - origin.x,
      top: (bounds?.y ?? 0) - origin.y,
      points: pointsOf(look, moment),
      owner,
      among: owner.shown,
      number,
      shownAt: this.#tick,
    };
    owner.shown[number] = drawn;
    this.#frames.add(drawn);
    this.#looks.keep(owner);
    return drawn;
  }

  /** Writes what is seen of a frame into a page. */
  #write(picture: Image, bounds: Rectangle): Pick<Kept, "page" | "place" | "x" | "y" | "width" | "height"> {
    const { size, gap, extrude, alpha } = this.#options;
    const { width, height } = bounds;
    const [across, down] = [width + 2 * extrude, height + 2 * extrude];
    if (across > size || down > size) throw tooLarge(across, down, size);
    // At the edge of a page nothing is beside a frame.
    const { page, place } = this.#room(Math.min(size, across + gap), Math.min(size, down + gap));
    page.write(picture, bounds, place, extrude, alpha === "multiplied");
    return { page, place, x: place.x + extrude, y: place.y + extrude, width, height };
  }

  #room(width: number, height: number): { readonly page: OpenPage; readonly place: Rectangle } {
    do {
      for (const page of this.pages) {
        const place = page.take(width, height);
        if (place !== undefined) return { page, place };
      }
    } while (this.pages.length >= this.#mostPages && this.#makeRoom());
    const page = new OpenPage(this.#options.size);
    this.pages.push(page);
    return { page, place: page.take(width, height) as Rectangle };
  }

  /** Drops the quarter of all frames that can go which was not shown for longest. Whether there was any. */
  #makeRoom(): boolean {
    const old = [...this.#frames].filter((frame) => this.#canGo(frame));
    old.sort((one, other) => one.shownAt - other.shownAt);
    this.#queue.together(() => {
      for (const frame of old.slice(0, Math.ceil(old.length / 4))) this.#drop(frame);
    });
    for (const page of this.#emptyPages()) page.reset();
    return old.length > 0;
  }

  #canGo({ shownAt, owner }: Kept): boolean {
    return shownAt < this.#tick - 1 && owner.warm === 0;
  }

  /** Drops what is more than there may be, as far as nothing of it was shown in the last tick. */
  #dropPages(): void {
    const busy = new Set<OpenPage | undefined>();
    for (const { page, shownAt, owner } of this.#frames)
      if (shownAt >= this.#tick - 1 || owner.warm > 0) busy.add(page);
    const idle = this.pages.filter((page) => !busy.has(page)).slice(0, this.pages.length - this.#mostPages);
    this.#queue.together(() => {
      for (const page of idle) {
        for (const frame of this.#frames) if (frame.page === page) this.#drop(frame);
        this.pages.splice(this.pages.indexOf(page), 1);
        this.#queue.emit("drop-page", page);
      }
    });
  }

  #emptyPages(): readonly OpenPage[] {
    const used = new Set([...this.#frames].map(({ page }) => page));
    return this.pages.filter((page) => !used.has(page));
  }

  #drop(frame: Kept): void {
    this.#frames.delete(frame);
    frame.among[frame.number] = undefined;
    this.#looks.drop(frame.owner);
    if (frame.place !== undefined) frame.page?.give(frame.place);
    this.#queue.emit("drop", frame);
  }
}

/** Turns to another animation or facing. */
function begin(owner: Owner, moment: Moment): Clip {
  const clip = clipOf(owner.look, moment);
  owner.clip = clip;
  owner.shown = getOrInsert(owner.clips, clip, () => []);
  return clip;
}

const nowhere = { page: undefined, place: undefined, x: 0, y: 0, width: 0, height: 0 };

function pointsOf(look: Look, moment: Moment): ReadonlyMap<string, Point> {
  const seen = new Map<string, Point>();
  for (const name of look.points.keys()) {
    const point = pointAt(look, name, moment);
    if (point !== undefined) seen.set(name, point);
  }
  return seen;
}

function tooLarge(width: number, height: number, size: number): MantleError {
  return new MantleError(
    "picture-too-large",
    `A frame of ${width}×${height} pixels, its border with it, does not fit a page of ${size}×${size}. Open the atlas with a larger "size".`,
  );
}
