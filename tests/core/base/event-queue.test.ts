import { describe, expect, test } from "@jest/globals";
import { EventQueue } from "../../../src/core/base/event-queue.ts";

type Events = { readonly one: string; readonly two: string };

/** A queue, and what its listeners got, in order. */
function watched(): { readonly queue: EventQueue<Events>; readonly got: string[] } {
  const queue = new EventQueue<Events>();
  const got: string[] = [];
  for (const event of ["one", "two"] as const) queue.on(event, (happened) => got.push(`${event} ${happened}`));
  return { queue, got };
}

describe("an event queue", () => {
  test("delivers in the order in which things happened, and after a change as a whole", () => {
    const { queue, got } = watched();
    queue.together(() => {
      queue.emit("two", "a");
      queue.together(() => queue.emit("one", "b"));
      expect(got).toEqual([]);
      queue.emit("two", "c");
    });
    expect(got).toEqual(["two a", "one b", "two c"]);
  });

  test("delivers what a listener does once all listeners have what it answers to", () => {
    const queue = new EventQueue<Events>();
    const got: string[] = [];
    queue.on("one", (happened) => {
      got.push(`first ${happened}`);
      if (happened === "a") queue.emit("one", "b");
    });
    queue.on("one", (happened) => got.push(`second ${happened}`));
    queue.emit("one", "a");
    expect(got).toEqual(["first a", "second a", "first b", "second b"]);
  });

  test("calls nobody who has ended it, even by another listener a moment before", () => {
    const queue = new EventQueue<Events>();
    const got: string[] = [];
    let end = () => {};
    queue.on("one", () => end());
    end = queue.on("one", (happened) => got.push(happened));
    queue.emit("one", "a");
    expect([got, queue.hasListeners("one"), queue.hasListeners("two")]).toEqual([[], true, false]);
    queue.clear();
    expect(queue.hasListeners("one")).toBe(false);
  });

  test("delivers everything to everyone before it throws what was thrown first", () => {
    const { queue, got } = watched();
    queue.on("one", () => {
      throw new Error("The bell is cracked.");
    });
    queue.on("one", (happened) => got.push(`last ${happened}`));
    const change = () =>
      queue.together(() => {
        queue.emit("one", "a");
        queue.emit("two", "b");
      });
    expect(change).toThrow("The bell is cracked.");
    expect(got).toEqual(["one a", "last a", "two b"]);
    queue.emit("two", "c");
    expect(got.at(-1)).toBe("two c");
  });

  test("delivers what happened in a change that failed on its way", () => {
    const { queue, got } = watched();
    const change = () =>
      queue.together(() => {
        queue.emit("one", "a");
        throw new Error("Low water.");
      });
    expect(change).toThrow("Low water.");
    expect(got).toEqual(["one a"]);
  });

  test("ends listeners that answer each other without end, and works after", () => {
    const { queue, got } = watched();
    queue.on("one", () => queue.emit("two", "again"));
    queue.on("two", (happened) => happened === "again" && queue.emit("one", "again"));
    expect(() => queue.emit("one", "a")).toThrow(expect.objectContaining({ code: "endless-answers" }));
    expect(got.length).toBeLessThan(1_000);
    queue.emit("two", "b");
    expect(got.at(-1)).toBe("two b");
  });
});
