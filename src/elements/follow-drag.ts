import type { Part } from "../core/catalog/model/catalog.ts";

/** Something that is being dragged, and where it is on the page, in CSS pixels. */
export interface Carried {
  readonly part: Part;
  /** The slot it comes from; `undefined` from the bag. */
  readonly from: string | undefined;
  /** The slots that take it. */
  readonly slots: readonly string[];
  readonly x: number;
  readonly y: number;
}

/** What happens on the way of a drag. */
export interface Drag {
  move(x: number, y: number): void;
  drop(x: number, y: number): void;
  cancel(): void;
}

/** Pixels a pointer travels before it drags and no longer presses. */
const threshold = 6;

/** Follows a pointer that was put down until it is lifted, wherever it goes. */
export function followDrag(start: PointerEvent, drag: Drag): void {
  if (!start.isPrimary || start.button !== 0) return;
  const stops = new AbortController();
  const { signal } = stops;
  let isDragging = false;
  const isOurs = (event: PointerEvent) => event.pointerId === start.pointerId;
  addEventListener(
    "pointermove",
    (event) => {
      if (!isOurs(event)) return;
      isDragging ||= Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) > threshold;
      if (isDragging) drag.move(event.clientX, event.clientY);
    },
    { signal },
  );
  addEventListener(
    "pointerup",
    (event) => {
      if (!isOurs(event)) return;
      stops.abort();
      if (isDragging) drag.drop(event.clientX, event.clientY);
    },
    { signal },
  );
  addEventListener(
    "pointercancel",
    (event) => {
      if (!isOurs(event)) return;
      stops.abort();
      drag.cancel();
    },
    { signal },
  );
}
