import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  createFromPreset,
  memoryStore,
  openPicker,
  openSession,
  type PickerOptions,
  type PickPress,
  pickSeats,
} from "zealous-mantle";
import { demo } from "../../demo-catalog.ts";
import { runs } from "../../runs.ts";

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
    const received: string[] = [];
    picker.on("change", () => received.push(JSON.stringify(picker.cursors)));
    picker.join(1);
    const results = [1, 2, 3, 4, 5].map(() => picker.confirm(1));
    expect(results).toEqual([{ ok: true, id: "a" }, ...Array.from({ length: 4 }, () => ({ ok: false, code: "over" }))]);
    expect([picker.isOver, picker.cancel(1), received.length]).toEqual([true, false, 2]);
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

  test("leaves a moment after the last pick, in which somebody comes, or takes theirs back", () => {
    const picker = open({ pause: 3 });
    picker.join(1);
    expect(picker.remaining).toBeUndefined();
    picker.confirm(1);
    picker.tick(2);
    expect([picker.isOver, picker.remaining]).toEqual([false, 1]);
    picker.join(2);
    picker.tick(5);
    expect([picker.isOver, picker.remaining]).toEqual([false, undefined]);
    picker.confirm(2);
    picker.tick(2.5);
    expect(picker.cancel(1)).toBe(true);
    picker.tick(5);
    picker.confirm(1);
    picker.tick(3);
    expect([picker.isOver, [...picker.picks.keys()]]).toEqual([true, [1, 2]]);
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
      { maxLength: 60, size: "max" },
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
      runs(300),
    );
  });
});

describe("picking seats", () => {
  const presets = [...demo.presets.keys()];
  const openWith = async (exclusive: boolean) => {
    const session = await openSession({
      catalog: demo,
      store: memoryStore(),
      seats: 3,
      exclusive,
      distinguishBy: "cloth",
    });
    for (const id of presets) session.add(createFromPreset(demo, id, { id, name: id.slice(0, 16) }));
    session.seat(1).take("old-hand");
    session.seat(2).take("lamp-child");
    return session;
  };
  const seated = (session: Awaited<ReturnType<typeof openWith>>) =>
    [1, 2, 3].map((number) => session.seat(number).character?.id);

  test("begins with whom one had, seats what is picked at once, starts when all have, and closed before puts everyone back", async () => {
    const session = await openWith(true);
    const picking = pickSeats(session, { columns: 4 });
    expect(seated(session)).toEqual([undefined, undefined, undefined]);
    picking.press("keys", "act");
    picking.press("pad", "act");
    expect(picking.picker.cursors.map(({ at }) => at)).toEqual(["old-hand", "lamp-child"]);
    picking.press("keys", "left");
    picking.press("keys", "act");
    expect(seated(session)).toEqual(["first-watch", undefined, undefined]);
    expect([picking.press("other", "left"), picking.hasStarted]).toEqual([false, false]);
    // Whoever comes to the roster can be picked from then on; who had picked picks again.
    session.duplicate("old-hand");
    expect(picking.picker.entries.map(({ id }) => id)).toContain("old-hand-2");
    picking.close();
    expect(picking.press("keys", "act")).toBe(false);
    expect(seated(session)).toEqual(["old-hand", "lamp-child", undefined]);
    const again = pickSeats(session);
    again.press("keys", "act");
    again.press("pad", "act");
    expect([again.hasStarted, again.press("third", "act")]).toEqual([true, false]);
    again.close();
    expect(seated(session)).toEqual(["old-hand", "lamp-child", undefined]);
  });

  test("seats whom a player picked, wherever the game has seated them meanwhile; taken back, they sit nowhere", async () => {
    const session = await openWith(true);
    const picking = pickSeats(session);
    let changes = 0;
    const stop = picking.on("change", () => {
      changes += 1;
    });
    picking.press("keys", "act");
    session.seat(3).take("old-hand");
    picking.press("pad", "act");
    picking.press("keys", "act");
    expect(seated(session)).toEqual(["old-hand", undefined, undefined]);
    expect(changes).toBe(3);
    stop();
    picking.press("keys", "back");
    expect([seated(session), changes]).toEqual([[undefined, undefined, undefined], 3]);
  });

  test("whatever is pressed, who picked sits and nobody else does, exclusive ones once, and it starts once or changes nothing", async () => {
    const device = fc.constantFrom("keys", "pad-0", "pad-1", "pad-2");
    const pressed = fc.constantFrom<PickPress[]>("left", "right", "up", "down", "act", "act", "act", "back");
    const walk = fc.array(
      fc.oneof(
        fc.record({ device, pressed }),
        fc.record({ device, id: fc.constantFrom(...presets) }),
        fc.record({ seconds: fc.constantFrom(0.5, 2) }),
        fc.record({ retired: fc.constantFrom(...presets) }),
      ),
      { maxLength: 40, size: "max" },
    );
    await fc.assert(
      fc.asyncProperty(walk, fc.boolean(), async (steps, exclusive) => {
        const session = await openWith(exclusive);
        const picking = pickSeats(session, { columns: 3, pause: 1, limit: 20 });
        let startedWith: ReturnType<typeof seated> | undefined;
        for (const step of steps) {
          if ("pressed" in step) picking.press(step.device, step.pressed);
          else if ("id" in step) picking.point(step.device, step.id);
          else if ("seconds" in step) picking.tick(step.seconds);
          else if (!picking.hasStarted) session.retire(step.retired);
          const { picks } = picking.picker;
          expect(seated(session)).toEqual([1, 2, 3].map((number) => picks.get(number)));
          if (exclusive) expect(new Set(picks.values()).size).toBe(picks.size);
          if (!picking.hasStarted) continue;
          startedWith ??= seated(session);
          expect(seated(session)).toEqual(startedWith);
        }
        const here = (id: string) => (session.retired.some((each) => each.id === id) ? undefined : id);
        picking.close();
        expect(seated(session)).toEqual(startedWith ?? [here("old-hand"), here("lamp-child"), undefined]);
      }),
      runs(200),
    );
  });
});
