import { SaxesParser } from "saxes";
import { MantleError } from "../../base/problem.ts";

/** A layer of a drawing, or a group of them. */
export interface StackItem {
  readonly name: string;
  /** From the upper left corner of the canvas. */
  readonly x: number;
  readonly y: number;
  /** 0 to 1. */
  readonly opacity: number;
  readonly isHidden: boolean;
  /** How it is blended, as the file names it: `svg:src-over` is normal. */
  readonly blending: string;
  /** The path of its picture in the file; `undefined` for a group. */
  readonly source: string | undefined;
  /** Of a group, the topmost first. */
  readonly items: readonly StackItem[];
}

/** A drawing as its file describes it. */
export interface Stack {
  readonly width: number;
  readonly height: number;
  /** The topmost first. */
  readonly items: readonly StackItem[];
}

/** An item whose group is still being read. */
interface OpenItem extends StackItem {
  readonly items: StackItem[];
}

/** How deep groups may be nested, and how many layers there may be. */
const limit = { depth: 32, items: 4_096 };

/**
 * Reads the stack of an OpenRaster file (its `stack.xml`). Whatever is no layer or group, such as a text, is left out.
 *
 * @throws MantleError `bad-drawing`.
 */
export function readStack(xml: string): Stack {
  const parser = new SaxesParser<{ xmlns: false }>({ xmlns: false });
  let size: { readonly width: number; readonly height: number } | undefined;
  const root: OpenItem = itemOf({}, undefined);
  const open: OpenItem[] = [];
  let count = 0;
  parser.on("error", ({ message }) => {
    throw bad(`its stack is no XML (${message})`);
  });
  parser.on("doctype", () => {
    throw bad("its stack has a document type, which no drawing needs");
  });
  parser.on("opentag", ({ name, attributes }) => {
    if (name === "image") {
      size = { width: sizeOf(attributes["w"]), height: sizeOf(attributes["h"]) };
      return;
    }
    if (name !== "stack" && name !== "layer") return;
    count += 1;
    if (count > limit.items || open.length >= limit.depth) throw bad("it has too many layers, or groups too deep");
    const parent = open.at(-1);
    // The outermost stack is the drawing itself.
    const item = parent === undefined && name === "stack" ? root : itemOf(attributes, parent);
    if (item !== root) (parent ?? root).items.push(item);
    if (name === "stack") open.push(item);
  });
  parser.on("closetag", ({ name }) => {
    if (name === "stack") open.pop();
  });
  parser.write(xml).close();
  if (size === undefined) throw bad("its stack has no image");
  return { ...size, items: root.items };
}

function itemOf(attributes: Readonly<Record<string, string>>, parent: StackItem | undefined): OpenItem {
  const { name = "", src, opacity, visibility } = attributes;
  const number = (text: string | undefined, otherwise: number) => {
    const value = Number(text ?? otherwise);
    return Number.isFinite(value) ? value : otherwise;
  };
  return {
    name,
    // What a group is moved by moves its layers.
    x: Math.round(number(attributes["x"], 0)) + (parent?.x ?? 0),
    y: Math.round(number(attributes["y"], 0)) + (parent?.y ?? 0),
    opacity: Math.min(1, Math.max(0, number(opacity, 1))) * (parent?.opacity ?? 1),
    isHidden: visibility === "hidden" || parent?.isHidden === true,
    blending: attributes["composite-op"] ?? "svg:src-over",
    source: src,
    items: [],
  };
}

function sizeOf(text: string | undefined): number {
  const size = Number(text);
  if (!Number.isInteger(size) || size < 1 || size > 32_767) throw bad("its stack does not say how large the canvas is");
  return size;
}

/** A file that is no drawing, or one that cannot be read. */
export function bad(reason: string): MantleError {
  return new MantleError("bad-drawing", `The OpenRaster file cannot be read: ${reason}.`);
}
