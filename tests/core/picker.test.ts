import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { openPicker, type PickerOptions } from "zealous-mantle";

const entries = ["a", "b", "c", "d", "e"].map((id) => ({ id, isAvailable: id !== "c" }));
const open = (options: Partial<PickerOptions> = {}) => openPicker({ entries, columns: 2, ...options });
const at = (picker: ReturnType<typeof open>, seat = 1) => picker.cursors.find((each) => each.seat === seat)?.at;

describe("a picker", () => {
  test("moves over a grid, around its ends, past what cannot be picked", () => {
    const picker = open();
    picker.join(1);
    const walk = (["right", "right", "down", "up", "left", "down", "down"] as const).map((way) => {
      picker.move(1, way);
      return at(picker);
    });
    // a b / c d / e : c cannot be picked, and the last row is short.
    expect(walk).toEqual(["b", "a", "e", "a", "b", "d", "b"]);
  });

  test("stays at its ends where it does not wrap", () => {
    const picker = open({ wrap: false, columns: 5 });
    picker.join(1);
    picker.move(1, "left");
    expect(at(picker)).toBe("a");
    for (let step = 0; step < 9; step += 1) picker.move(1, "right");
    expect(at(picker)).toBe("e");
  });

  test("is confirmed exactly once, however often it is pressed", () => {
    const picker = open();
    const heard: string[] = [];
    picker.subscribe(() => heard.push(JSON.stringify(picker.cursors)));
    picker.join(1);
    const results = [1, 2, 3, 4, 5].map(() => picker.confirm(1));
    expect(results).toEqual([{ ok: true, id: "a" }, ...Array.from({ length: 4 }, () => ({ ok: false, code: "over" }))]);
    expect([picker.isOver, picker.cancel(1), heard.length]).toEqual([true, false, 2]);
    picker.move(1, "right");
    expect([...picker.picks]).toEqual([[1, "a"]]);
  });

  test("lets several pick at once, late or not, and what one has no other gets", () => {
    const picker = open({ exclusive: true });
    picker.join(1);
    picker.join(2);
    expect(picker.confirm(2)).toEqual({ ok: true, id: "a" });
    expect(at(picker, 1)).toBe("b");
    picker.highlight(1, "a");
    expect(at(picker, 1)).toBe("b");
    picker.join(3, "a");
    expect(at(picker, 3)).toBe("b");
    expect(picker.confirm(2)).toEqual({ ok: false, code: "picked-already" });
    expect([picker.cancel(2), picker.cancel(2)]).toEqual([true, false]);
    picker.highlight(1, "a");
    picker.confirm(1);
    picker.confirm(3);
    expect(picker.isOver).toBe(false);
    picker.leave(2);
    expect([picker.isOver, [...picker.picks]]).toEqual([
      true,
      [
        [1, "a"],
        [3, "b"],
      ],
    ]);
    expect(picker.confirm(9)).toEqual({ ok: false, code: "over" });
  });

  test("picks what is highlighted when the time is over; who finds nothing is not waited for", () => {
    const picker = openPicker({ entries: [{ id: "a" }], exclusive: true, limit: 10 });
    picker.tick(60);
    picker.join(1);
    picker.join(2);
    picker.tick(9.5);
    expect(picker.isOver).toBe(false);
    picker.tick(0.5);
    expect([picker.isOver, picker.cursors]).toEqual([true, [{ seat: 1, at: "a", picked: true }]]);
  });

  test("with nothing to pick refuses, and never loops", () => {
    const picker = openPicker({ entries: [{ id: "a", isAvailable: false }] });
    picker.join(1);
    picker.move(1, "down");
    expect([at(picker), picker.confirm(1)]).toEqual([undefined, { ok: false, code: "unavailable" }]);
    expect(openPicker({ entries: [] }).cursors).toEqual([]);
  });

  test("whatever is pressed, exclusive picks are different, and nobody who can pick stands on what cannot be had", () => {
    const seat = fc.integer({ min: 1, max: 4 });
    const presses = fc.array(
      fc.tuple(seat, fc.constantFrom("join", "leave", "left", "right", "up", "down", "confirm", "cancel")),
      { maxLength: 60 },
    );
    fc.assert(
      fc.property(presses, fc.integer({ min: 1, max: 5 }), fc.boolean(), (walk, columns, exclusive) => {
        const picker = open({ columns, exclusive });
        let overWith: string | undefined;
        for (const [number, press] of walk) {
          if (press === "join" || press === "leave" || press === "confirm" || press === "cancel") picker[press](number);
          else picker.move(number, press as "left");
          const picks = [...picker.picks.values()];
          if (exclusive) expect(new Set(picks).size).toBe(picks.length);
          for (const cursor of picker.cursors) {
            expect(cursor.at).not.toBe("c");
            if (exclusive && !cursor.picked) expect(picks).not.toContain(cursor.at);
          }
          if (picker.isOver) {
            overWith ??= JSON.stringify(picks);
            expect(JSON.stringify(picks)).toBe(overWith);
          }
        }
      }),
      { numRuns: 500 },
    );
  });
});
