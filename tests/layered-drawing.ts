import { buffer } from "node:stream/consumers";
import yazl from "yazl";
import type { Image } from "zealous-mantle";
import { encodePng } from "zealous-mantle/raster";

/** A layer or a group, as it is written into an OpenRaster file. */
export interface DrawnLayer {
  readonly name: string;
  readonly image?: Image;
  /** The topmost first. */
  readonly layers?: readonly DrawnLayer[];
  readonly x?: number;
  readonly y?: number;
  readonly opacity?: number;
  readonly hidden?: boolean;
  readonly blending?: string;
}

export interface DrawingFile {
  readonly width: number;
  readonly height: number;
  /** The topmost first. */
  readonly layers: readonly DrawnLayer[];
  readonly whole?: Image;
  readonly thumbnail?: boolean;
  /** Stored as they are, or deflated. */
  readonly compress?: boolean;
  /** Further entries of `stack.xml`, before the outermost stack. */
  readonly extra?: string;
}

/** Writes an OpenRaster file by the open specification, with another library than the one that reads it. */
export async function writeDrawing({
  width,
  height,
  layers,
  whole,
  thumbnail = true,
  compress = true,
  extra = "",
}: DrawingFile): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  // First, and stored, so that the kind of the file is in its first bytes.
  zip.addBuffer(Buffer.from("image/openraster"), "mimetype", { compress: false });
  let count = 0;
  const written = (layer: DrawnLayer): string => {
    const said = [`name="${quoted(layer.name)}"`];
    if (layer.x !== undefined) said.push(`x="${layer.x}"`);
    if (layer.y !== undefined) said.push(`y="${layer.y}"`);
    if (layer.opacity !== undefined) said.push(`opacity="${layer.opacity}"`);
    if (layer.hidden === true) said.push('visibility="hidden"');
    if (layer.blending !== undefined) said.push(`composite-op="${layer.blending}"`);
    if (layer.image === undefined)
      return `<stack ${said.join(" ")}>${(layer.layers ?? []).map(written).join("\n")}</stack>`;
    const source = `data/layer${count}.png`;
    count += 1;
    zip.addBuffer(Buffer.from(encodePng(layer.image)), source, { compress });
    return `<layer ${said.join(" ")} src="${source}"/>`;
  };
  const stack = layers.map(written).join("\n");
  const xml = `<?xml version='1.0' encoding='UTF-8'?>\n<image version="0.0.3" w="${width}" h="${height}">${extra}<stack>${stack}</stack></image>`;
  zip.addBuffer(Buffer.from(xml), "stack.xml", { compress });
  if (whole !== undefined) zip.addBuffer(Buffer.from(encodePng(whole)), "mergedimage.png", { compress });
  if (thumbnail)
    zip.addBuffer(Buffer.from("no picture, and nobody looks at it"), "Thumbnails/thumbnail.png", { compress });
  zip.end();
  return buffer(zip.outputStream);
}

function quoted(text: string): string {
  return text.replaceAll("&", "&amp;").replaceAll('"', "&quot;").replaceAll("<", "&lt;");
}
