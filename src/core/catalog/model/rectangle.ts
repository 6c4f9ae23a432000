/** Width and height in pixels. */
export interface Size {
  readonly width: number;
  readonly height: number;
}

/** A point in pixels, x to the right and y down. */
export interface Point {
  readonly x: number;
  readonly y: number;
}

/** A rectangle in pixels; x and y are its upper left corner. */
export interface Rectangle extends Point, Size {}
