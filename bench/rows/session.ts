import { createCharacter, type Look, memoryStore, openSession, readCatalog, resolveLook } from "zealous-mantle";
import { agree, type Row, sideBySide } from "../measure.ts";

const seats = 1_000;

/** A thousand players to whom something happens at once. */
export const session: Row = {
  name: "session",
  work: "a cue for each of 1,000 seats and how each looks then, emitted to a listener",
  against: "resolving 1,000 looks",
  unit: "ms",
  goal: { atMost: 1.5 },
  async measure() {
    const slots = Array.from({ length: 12 }, (_, number) => `slot-${number}`);
    const source = {
      mantle: "catalog/1",
      id: "session",
      version: "1",
      rigs: {
        rig: {
          frame: { width: 64, height: 64 },
          origin: [32, 60],
          facings: ["south", "west", "north", { id: "east", mirror: "west" }],
          animations: { idle: { frames: 4, fps: 4 } },
        },
      },
      bodies: { plain: { rig: "rig", art: [{ image: "body.png", depth: 0 }] } },
      ramps: { red: ["#400000", "#f08080"], blue: ["#000040", "#8080f0"] },
      channels: { dye: { ramps: ["red", "blue"], default: "red", key: ["#202020", "#808080"] } },
      slots: Object.fromEntries(slots.map((id) => [id, { kind: "appearance" }])),
      parts: Object.fromEntries(
        slots.map((slot, depth) => [
          `part-${depth}`,
          { slot, layers: [{ image: `${depth}.png`, depth, channel: "dye" }] },
        ]),
      ),
      cues: [
        { on: "dip", if: { by: "player" }, do: [{ paint: "dye", ramp: "blue" }] },
        { on: "rinse", if: { by: "player" }, do: [{ paint: "dye", ramp: "red" }] },
      ],
    };
    const { catalog } = readCatalog(source);
    if (catalog === undefined) throw new Error("The catalog of the row cannot be read");
    const loadout = Object.fromEntries(slots.map((slot, depth) => [slot, `part-${depth}`]));
    const characters = Array.from({ length: seats }, (_, number) => ({
      ...createCharacter(catalog, { body: "plain", id: `player-${number}` }),
      loadout,
    }));
    const open = await openSession({ catalog, store: memoryStore() });
    for (const [number, character] of characters.entries()) {
      open.add(character);
      open.seat(number + 1).take(character.id);
    }
    const emitted = new Map<number, Look | undefined>();
    open.on("look", ({ seat, look }) => emitted.set(seat, look));
    let turn = 0;
    const ours = () => {
      turn += 1;
      for (let seat = 1; seat <= seats; seat += 1)
        open.raise(turn % 2 === 0 ? "rinse" : "dip", { by: "player" }, { seat });
    };
    const dipped = characters.map((character) => ({ ...character, colors: { dye: "blue" } }));
    const theirs = () => dipped.map((character) => resolveLook(catalog, character));
    ours();
    agree(
      theirs().every(({ key }, number) => emitted.get(number + 1)?.key === key),
      "the looks are not the same",
    );
    // A steady frame asks and nothing happens: the same objects, and no garbage.
    const steady = () => {
      for (let seat = 1; seat <= seats; seat += 1)
        agree(open.seat(seat).look === emitted.get(seat), "a look is made anew");
    };
    steady();
    const before = process.memoryUsage().heapUsed;
    for (let frame = 0; frame < 1_000; frame += 1) steady();
    const grown = process.memoryUsage().heapUsed - before;
    agree(grown < 500_000, `a million steady looks left ${grown} bytes behind, and should leave none`);
    return sideBySide({ run: ours, times: 1 }, { run: theirs, times: 1 });
  },
};
