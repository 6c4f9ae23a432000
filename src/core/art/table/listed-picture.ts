import type { Point, Rectangle, Size } from "../../catalog/model/rectangle.ts";

/** A picture in a packed one, as a table lists it. */
export interface ListedPicture {
  readonly name: string;
  /** Where it lies in the packed picture. */
  readonly rectangle: Rectangle;
  /** Whether it lies there turned by a quarter, clockwise. */
  readonly isTurned: boolean;
  /** The size of the whole picture, blank edges included; `undefined` when the table does not say. */
  readonly whole: Size | undefined;
  /** Where the rectangle's corner lies in the whole picture; `undefined` when the table says where the feet are. */
  readonly offset: Point | undefined;
  /** Where the feet are, from the rectangle's corner. */
  readonly feet: Point | undefined;
}
