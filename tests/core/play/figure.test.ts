import { describe, expect, test } from "@jest/globals";
import {
  composeFrame,
  createCharacter,
  createFromPreset,
  type FigureOptions,
  type FigurePlacement,
  type Image,
  type Look,
  memoryStore,
  openFigure,
  openSession,
  type Painter,
  type Session,
} from "zealous-mantle";
import { pointAt } from "zealous-mantle/raster";
import { demo, picturesOf } from "../../demo-catalog.ts";
import { smallCatalog } from "../../small-catalog.ts";

const wren = createCharacter(demo, { body: "reed", id: "wren", name: "Wren" });
const heron = createFromPreset(demo, "old-hand", { id: "heron", name: "Heron" });

async function openDemo(): Promise<Session> {
  const session = await openSession({ catalog: demo, store: memoryStore() });
  for (const character of [wren, heron]) session.add(character);
  session.seat(1).take("wren");
  return session;
}

/** Reads the pictures of looks from the demo's folder, each look once `wait` lets it. */
function fileLoader(wait: (look: Look) => Promise<void> = async () => {}) {
  const images = new Map<string, Image>();
  /** The keys of the looks whose pictures are there. */
  const loaded = new Set<string>();
  return {
    images,
    loaded,
    async load(...looks: readonly Look[]) {
      await Promise.all(looks.map(wait));
      for (const [path, image] of await picturesOf(...looks)) images.set(path, image);
      for (const { key } of looks) loaded.add(key);
    },
  };
}

/** A figure whose pictures are there. */
async function openReady(options: Partial<FigureOptions> & { readonly session: Session }) {
  const loader = fileLoader();
  for (const character of [wren, heron]) {
    options.session.seat(9).take(character.id);
    const { look } = options.session.seat(9);
    if (look !== undefined) await loader.load(look);
  }
  options.session.seat(9).leave();
  return { loader, figure: openFigure({ seat: 1, loader, ...options }) };
}

/** Lets a look be shown once its pictures have been read. */
async function shown(figure: { readonly look: Look | undefined }, wanted: Look | undefined): Promise<void> {
  for (let tries = 0; tries < 500 && figure.look !== wanted; tries += 1)
    await new Promise((done) => setTimeout(done, 10));
  expect(figure.look).toBe(wanted);
}

describe("a figure", () => {
  test("is drawn by whatever paints: as its seat looks, at its moment, where it stands", async () => {
    const session = await openDemo();
    const at = { x: 40, y: 90 };
    const { figure, loader } = await openReady({ session, animation: "walk", facing: "east", at });
    const painter: Painter<unknown[]> = {
      paint: (target, look, moment, { x, y }) => target.push(composeFrame(look, loader.images, moment), [x, y]),
    };
    const painted: unknown[] = [];
    figure.advance(0.35);
    at.x += 2;
    figure.paint(painted, painter);
    const { look } = session.seat(1);
    if (look === undefined) throw new Error("Nobody sits in seat 1");
    const moment = { animation: "walk", facing: "east", time: 0.35 };
    expect(painted).toEqual([composeFrame(look, loader.images, moment), [42, 90]]);
    expect(figure.moment).toEqual(moment);
  });

  test("keeps its pose when its clothes, its form, its body or who it is become others", async () => {
    const session = await openDemo();
    const { figure } = await openReady({ session, animation: "walk", facing: "west" });
    figure.advance(0.35);
    session.edit("wren", { paint: "skin", ramp: "umber" });
    expect([figure.look, figure.moment.time]).toEqual([session.seat(1).look, 0.35]);
    // A trudge is as many frames, and slower: the same step of it.
    session.signal({ stamina: 1 });
    expect(figure.look?.form).toBe("weary");
    expect(figure.moment.time).toBeCloseTo(0.5);
    session.signal({ stamina: 9 });
    expect(figure.moment.time).toBeCloseTo(0.35);
    session.seat(1).take("heron");
    expect([figure.look, figure.animation, figure.facing]).toEqual([session.seat(1).look, "walk", "west"]);
    expect(figure.moment.time).toBeCloseTo(0.35);
    session.edit("heron", { body: "reed" });
    await shown(figure, session.seat(1).look);
    figure.animation = "walk";
    expect(figure.moment.time).toBeCloseTo(0.35);
    figure.animation = "idle";
    expect(figure.moment.time).toBe(0);
  });

  test("shows the look before until all pictures are there, and never an older one than it showed", async () => {
    const session = await openDemo();
    const doors = new Map<string, () => void>();
    const failures: unknown[] = [];
    const loader = fileLoader((look) => new Promise((open) => doors.set(look.key, open)));
    const figure = openFigure({ session, seat: 1, loader, onError: (error) => failures.push(error) });
    const bare = session.seat(1).look;
    expect([figure.look, figure.point("crown")]).toEqual([undefined, undefined]);
    figure.paint([], { paint: () => failures.push("Painted without pictures") });
    doors.get(bare?.key ?? "")?.();
    await shown(figure, bare);
    session.edit("wren", { wear: "storm-hat" });
    const hatted = session.seat(1).look;
    expect(figure.look).toBe(bare);
    session.edit("wren", { wear: "oilskin" });
    const coated = session.seat(1).look;
    doors.get(coated?.key ?? "")?.();
    await shown(figure, coated);
    doors.get(hatted?.key ?? "")?.();
    while (!loader.loaded.has(hatted?.key ?? "")) await new Promise((done) => setTimeout(done));
    await new Promise((done) => setTimeout(done));
    expect([figure.look, failures]).toEqual([coated, []]);
  });

  test("says so when pictures cannot be had, and goes on with the look before", async () => {
    const session = await openDemo();
    const failures: unknown[] = [];
    const { figure, loader } = await openReady({ session, onError: (error) => failures.push(error) });
    const before = figure.look;
    loader.load = () => Promise.reject(new Error("No harbor light"));
    session.edit("wren", { wear: "storm-hat" });
    await new Promise((done) => setTimeout(done));
    expect([figure.look, failures]).toEqual([before, [new Error("No harbor light")]]);
  });

  test("stands where it is put, on a bench or a mark, looks as one looks there, and knows where its hands are", async () => {
    const session = await openDemo();
    const mark: FigurePlacement = { x: 10, y: 20, facing: "east" };
    const { figure } = await openReady({ session, at: mark, animation: "idle" });
    const [look, moment] = [figure.look, { animation: "idle", facing: "north", time: 0 }];
    expect(figure.facing).toBe("east");
    const bench: FigurePlacement = { x: 100, y: 50, scale: 2, facing: "north" };
    figure.at = bench;
    const hand = look && pointAt(look, "hand-left", moment);
    expect([figure.at, figure.facing]).toEqual([bench, "north"]);
    expect(figure.point("hand-left")).toEqual(hand && { x: 100 + hand.x * 2, y: 50 + hand.y * 2 });
    expect(figure.point("tail")).toBeUndefined();
    figure.at = { x: 0, y: 0 };
    expect(figure.facing).toBe("north");
  });

  test("is gone while nobody sits in its seat, and receives nothing once it is freed", async () => {
    const session = await openDemo();
    const { figure } = await openReady({ session, animation: "row" });
    session.seat(1).leave();
    expect([figure.look, figure.point("crown")]).toEqual([undefined, undefined]);
    session.seat(1).take("heron");
    expect([figure.look, figure.animation]).toEqual([session.seat(1).look, "row"]);
    figure.close();
    const last = figure.look;
    session.seat(1).take("wren");
    expect(figure.look).toBe(last);
  });

  test("of a rig that does not know what was done so far does what that rig does first", async () => {
    const rig = { frame: { width: 4, height: 4 }, origin: [2, 4], facings: ["south", "west"] };
    const catalog = smallCatalog({
      rigs: {
        rider: { ...rig, animations: { idle: { frames: 2, fps: 2 }, ride: { frames: 4, fps: 8 } } },
        horse: { ...rig, facings: ["left", "right"], animations: { graze: { frames: 2, fps: 2 } } },
      },
      bodies: { rider: { rig: "rider" }, horse: { rig: "horse" } },
    });
    const session = await openSession({ catalog, store: memoryStore() });
    for (const body of ["rider", "horse"]) session.add(createCharacter(catalog, { body, id: body }));
    session.seat(1).take("rider");
    const figure = openFigure({ session, seat: 1, loader: fileLoader(), animation: "ride", facing: "west" });
    figure.advance(0.2);
    session.seat(1).take("horse");
    expect([figure.look?.rig.id, figure.animation, figure.facing]).toEqual(["horse", "graze", "left"]);
  });
});
