import type { Rig } from "../catalog/model/catalog.ts";
import type { Image } from "../raster/image.ts";
import type { FilesOptions } from "./files/read-files.ts";
import type { Found } from "./found.ts";
import type { FiguresOptions } from "./gaps/read-figures.ts";
import type { DrawingOptions } from "./layered/read-drawing.ts";
import type { SheetOptions } from "./sheet/read-sheet.ts";
import type { TableOptions } from "./table/read-table.ts";

/** How art is read. Which of these are set decides which importer reads it. */
export interface ArtOptions
  extends SheetOptions,
    Omit<FiguresOptions, "as">,
    Pick<DrawingOptions, "guides" | "corner">,
    Pick<TableOptions, "lines">,
    Partial<Omit<FilesOptions, "anchor">> {
  /** A key color, as `0xrrggbb`, that means nothing is there. */
  readonly blank?: number;
  /** The text of the table that comes with a packed picture. */
  readonly table?: string;
  /** Whether figures are cut out where nothing is between them. @defaultValue `false` */
  readonly gaps?: boolean;
  /** Whether figures are frames of one part. @defaultValue `false`: each is a part */
  readonly frames?: boolean;
}

/** What art is read for. */
export interface ArtSetting {
  readonly rig: Rig;
  /** The ids of the slots that parts may go in. */
  readonly slots: ReadonlySet<string>;
  /** The bare body, as the first frame of the rig: it shows where on the rig a drawing lies. */
  readonly figure?: Image;
}

/** One way of reading art. */
export interface Importer {
  /** Whether a file is read in this way. */
  reads(name: string, options: ArtOptions): boolean;
  /** Whether it reads all files together; else each by itself. */
  readonly isForAll: boolean;
  /**
   * @param files - their bytes, by their names: paths below the folder that they are all in.
   * @throws MantleError for a file that cannot be read.
   */
  read(files: ReadonlyMap<string, Uint8Array>, setting: ArtSetting, options: ArtOptions): Found;
}
