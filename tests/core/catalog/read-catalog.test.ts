import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { checkLoadout, createCharacter, readCatalog, textIn } from "zealous-mantle";
import { checkArt } from "zealous-mantle/authoring";
import { demo } from "../../demo-catalog.ts";
import { described, inWords } from "../../in-words.ts";
import { runs } from "../../runs.ts";
import { appearance, gear, part, smallCatalog, smallSource } from "../../small-catalog.ts";

/** What reading a catalog says about each flaw: code, pointer, and words that must be in the message. */
const flaws: readonly (readonly [string, Record<string, unknown>, string, string, RegExp])[] = [
  ["an unknown key", { colour: 1 }, "unknown-key", "", /"colour" is not a key/],
  [
    "a key that is misspelled",
    { parts: { cap: { slot: "hat", layer: [{ image: "cap.png", depth: 1 }] } } },
    "unknown-key",
    "/parts/cap",
    /"layer" is not a key known here\. Write "layers"/,
  ],
  [
    "a key beside the one it is like",
    { parts: { cap: { slot: "hat", layer: [], layers: [{ image: "cap.png", depth: 1 }] } } },
    "unknown-key",
    "/parts/cap",
    /"layers" is beside it: move its content there/,
  ],
  [
    "a key that is missing since it is misspelled",
    { parts: { cap: { slt: "hat" } } },
    "unknown-key",
    "/parts/cap",
    /"slt" is not a key known here\. Write "slot"/,
  ],
  ["a wrong version of the format", { mantle: "catalog/2" }, "value-not-allowed", "/mantle", /Write "catalog\/1"/],
  ["an id that is no id", { slots: { Hat: gear } }, "not-an-id", "/slots/Hat", /lower-case words/],
  ["a value of the wrong type", { version: 1 }, "wrong-type", "/version", /Write a string/],
  [
    "a key that is missing",
    { slots: { hat: {} } },
    "missing-key",
    "/slots/hat/kind",
    /"kind" is missing\. Write "appearance" or "gear"/,
  ],
  ["a color that is no color", { ramps: { red: ["#12"] } }, "not-a-color", "/ramps/red/0", /six hexadecimal digits/],
  [
    "a pattern that is no pattern",
    { rules: [{ never: ["hat", "tag:x"] }] },
    "not-a-pattern",
    "/rules/0/never/0",
    /"part:"/,
  ],
  [
    "a frame of no width",
    { rigs: { rig: { frame: { width: 0, height: 4 } } } },
    "value-too-small",
    "/rigs/rig/frame/width",
    /at least 1/,
  ],
  [
    "a rate of nothing",
    rateOf(0),
    "value-too-small",
    "/rigs/rig/animations/idle/fps",
    /0 is too small\. Give more than 0\./,
  ],
  [
    "a list of nothing",
    { parts: { cap: { slot: [] } } },
    "list-too-short",
    "/parts/cap/slot",
    /too short\. Give at least 1 of them/,
  ],
  [
    "a form that is one of several",
    { parts: { cap: { slot: 5 } } },
    "wrong-form",
    "/parts/cap/slot",
    /5 is not what belongs here\. Write a string or a list\./,
  ],
  [
    "an action that is misspelled",
    { cues: [{ on: "touch", do: [{ contrl: "with" }] }] },
    "unknown-key",
    "/cues/0/do/0",
    /"contrl" is not a key known here\. Write "control"\./,
  ],
  [
    "an action of the wrong type",
    { cues: [{ on: "touch", do: [{ dress: 5 }] }] },
    "wrong-type",
    "/cues/0/do/0/dress",
    /5 is given where a string belongs/,
  ],
  [
    "an action with a key too many",
    { cues: [{ on: "touch", do: [{ wear: "cap", inside: "hat" }] }] },
    "unknown-key",
    "/cues/0/do/0",
    /"inside" is not a key known here\. Correct the spelling or remove it/,
  ],
  [
    "an action of nothing",
    { cues: [{ on: "touch", do: [{}] }] },
    "nothing-said",
    "/cues/0/do/0",
    /one of "wear", "remove", .* is missing/,
  ],
  [
    "a slot that does not exist",
    { slots: { hat: gear }, parts: { cap: part("hats") } },
    "unknown-slot",
    "/parts/cap/slot",
    /Write "hat" if that is meant/,
  ],
  [
    "a default that belongs to another slot",
    { slots: { badge: { ...gear, default: "boots" }, feet: gear }, parts: { boots: part("feet") } },
    "default-elsewhere",
    "/slots/badge/default",
    /Slot "badge" starts with "boots", which goes in "feet"/,
  ],
  [
    "a default that does not exist",
    { slots: { hat: { ...gear, default: "cap" } } },
    "unknown-part",
    "/slots/hat/default",
    /no part "cap"/,
  ],
  [
    "a required default that does not fit every body",
    {
      bodies: { plain: { rig: "rig" }, tall: { extends: "plain" } },
      slots: { hat: { ...gear, required: true, default: "cap" } },
      parts: { cap: part("hat", { fits: ["plain"] }) },
    },
    "default-does-not-fit",
    "/slots/hat/default",
    /does not fit "tall"/,
  ],
  [
    "a body that extends itself",
    { bodies: { a: { extends: "b" }, b: { extends: "a" } } },
    "circular-extends",
    "/bodies/a/extends",
    /by way of "b"/,
  ],
  ["a body without a rig", { bodies: { a: {} } }, "missing-rig", "/bodies/a", /has no rig/],
  ["a body on a rig that does not exist", { bodies: { a: { rig: "rigg" } } }, "unknown-rig", "/bodies/a/rig", /"rig"/],
  [
    "points of more frames than there are",
    { bodies: { a: { rig: "rig", points: { frames: { crown: { idle: { south: [[1, 1], [1, 2], null] } } } } } } },
    "point-frames",
    "/bodies/a/points/frames/crown/idle/south",
    /3 places for an animation of 2 frames/,
  ],
  [
    "a layer attached to a point no body has",
    { bodies: { a: { rig: "rig", art: [{ image: "a.png", depth: 0, attach: { point: "crwn" } }] } } },
    "unknown-point",
    "/bodies/a/art/0/attach/point",
    /no point "crwn"/,
  ],
  [
    "a turn with nothing to look along",
    {
      bodies: {
        a: {
          rig: "rig",
          points: { frames: { crown: { idle: { south: [1, 1] } } } },
          art: [{ image: "a.png", depth: 0, attach: { point: "crown", toward: "crown" } }],
        },
      },
    },
    "incomplete-attach",
    "/bodies/a/art/0/attach",
    /needs both "toward"/,
  ],
  [
    "a layer of a form that does not exist",
    {
      bodies: { a: { rig: "rig", art: [{ image: "a.png", depth: 0, forms: ["wery"] }] } },
      forms: { weary: { when: { signal: "tired" } } },
    },
    "unknown-form",
    "/bodies/a/art/0/forms/0",
    /no form "wery"/,
  ],
  [
    "a form of an animation that does not exist",
    { forms: { weary: { when: { signal: "tired" }, animations: { walk: "trduge" } } } },
    "unknown-animation",
    "/forms/weary/animations/walk",
    /no animation "trduge"/,
  ],
  [
    "a form that shows a part no one has made",
    { slots: { hat: gear }, forms: { weary: { when: { signal: "tired" }, parts: { hat: "cap" } } } },
    "unknown-part",
    "/forms/weary/parts/hat",
    /no part "cap"/,
  ],
  [
    "twins of which one is nothing",
    {
      slots: { "hand-left": gear },
      rigs: {
        rig: {
          frame: { width: 4, height: 4 },
          origin: [2, 4],
          facings: ["south"],
          animations: { idle: { frames: 1, fps: 1 } },
          twins: [["hand-left", "hand-rihgt"]],
        },
      },
    },
    "unknown-slot",
    "/rigs/rig/twins/0/1",
    /no slot "hand-rihgt"/,
  ],
  [
    "a form that shows a part where it does not go",
    {
      slots: { hat: gear, boots: gear },
      parts: { clogs: part("boots") },
      forms: { weary: { when: { signal: "tired" }, parts: { hat: "clogs" } } },
    },
    "form-elsewhere",
    "/forms/weary/parts/hat",
    /shows "clogs" in slot "hat", where it does not go/,
  ],
  [
    "a counterpart of another slot",
    {
      slots: { hat: gear, boots: gear },
      parts: { cap: part("hat", { counterparts: { plain: "clogs" } }), clogs: part("boots") },
    },
    "counterpart-elsewhere",
    "/parts/cap/counterparts/plain",
    /"clogs" goes in none of the slots of "cap"/,
  ],
  [
    "a counterpart that does not fit either",
    {
      bodies: { plain: { rig: "rig" }, tall: { rig: "rig" } },
      slots: { hat: gear },
      parts: {
        cap: part("hat", { fits: ["plain"], counterparts: { tall: "hood" } }),
        hood: part("hat", { fits: ["plain"] }),
      },
    },
    "counterpart-does-not-fit",
    "/parts/cap/counterparts/tall",
    /"hood" was not made for body "tall" either/,
  ],
  [
    "a counterpart on a body that does not exist",
    { slots: { hat: gear }, parts: { cap: part("hat", { counterparts: { taller: "cap" } }) } },
    "unknown-body",
    "/parts/cap/counterparts/taller",
    /no body "taller"/,
  ],
  [
    "a channel that starts with a ramp it does not offer",
    {
      ramps: { red: ["#ff0000"], blue: ["#0000ff"] },
      channels: { dye: { ramps: ["red"], default: "blue", key: ["#000000"] } },
    },
    "default-not-offered",
    "/channels/dye/default",
    /Choose one of "red"/,
  ],
  [
    "a layer with a channel that does not exist",
    { slots: { hat: gear }, parts: { cap: { slot: "hat", layers: [{ image: "a.png", depth: 1, channel: "dye" }] } } },
    "unknown-channel",
    "/parts/cap/layers/0/channel",
    /no channel "dye"/,
  ],
  [
    "a layer for an animation the rig does not have",
    {
      slots: { hat: gear },
      parts: { cap: { slot: "hat", layers: [{ image: "a.png", depth: 1, animations: ["wlak"] }] } },
    },
    "unknown-animation",
    "/parts/cap/layers/0/animations/0",
    /Write "walk" if that is meant/,
  ],
  [
    "a layer with a depth for a facing the rig does not have",
    {
      slots: { hat: gear },
      parts: { cap: { slot: "hat", layers: [{ image: "a.png", depth: { default: 1, nroth: 2 } }] } },
    },
    "unknown-facing",
    "/parts/cap/layers/0/depth/nroth",
    /no facing "nroth"/,
  ],
  [
    "a layer for a slot the part never goes in",
    {
      slots: { hat: gear, feet: gear },
      parts: { cap: { slot: "hat", layers: [{ image: "a.png", depth: 1, in: "feet" }] } },
    },
    "layer-elsewhere",
    "/parts/cap/layers/0/in",
    /where "cap" never goes/,
  ],
  [
    "a part that hides a slot that does not exist",
    { slots: { hat: gear }, parts: { cap: part("hat", { hides: ["hair/top"] }) } },
    "unknown-slot",
    "/parts/cap/hides/0",
    /no slot "hair"/,
  ],
  [
    "an outfit whose parts take one slot twice",
    {
      slots: { hat: gear },
      parts: { cap: part("hat"), hood: part("hat") },
      outfits: { both: { parts: ["cap", "hood"] } },
    },
    "parts-clash",
    "/outfits/both/parts/1",
    /"hood" and "cap" both take slot "hat"/,
  ],
  [
    "a rule that names no part",
    { rules: [{ never: ["part:cap", "part:hat"] }] },
    "unknown-part",
    "/rules/0/never/0",
    /no part "cap"/,
  ],
  [
    "a rule about a tag nothing bears",
    { rules: [{ never: ["tag:wet", "tag:dry"] }] },
    "unknown-tag",
    "/rules/0/never/0",
    /no tag "wet"/,
  ],
  [
    "a facing that mirrors a mirrored one",
    mirrorOfMirror(),
    "unknown-facing",
    "/rigs/rig/facings/2/mirror",
    /no facing "b"/,
  ],
  [
    "an animation that falls back to nothing",
    fallback("wlk"),
    "unknown-animation",
    "/rigs/rig/animations/idle/else",
    /no animation "wlk"/,
  ],
];

function mirrorOfMirror() {
  const facings = ["a", { id: "b", mirror: "a" }, { id: "c", mirror: "b" }];
  return {
    rigs: {
      rig: { frame: { width: 1, height: 1 }, origin: [0, 0], facings, animations: { idle: { frames: 1, fps: 1 } } },
    },
  };
}

function rateOf(fps: number) {
  const rig = {
    frame: { width: 1, height: 1 },
    origin: [0, 0],
    facings: ["a"],
    animations: { idle: { frames: 1, fps } },
  };
  return { rigs: { rig } };
}

function fallback(to: string) {
  const rig = {
    frame: { width: 1, height: 1 },
    origin: [0, 0],
    facings: ["a"],
    animations: { idle: { frames: 1, fps: 1, else: to } },
  };
  return { rigs: { rig } };
}

describe("a flaw in a catalog is a problem with its place and its mend", () => {
  test.each(flaws)("%s", (_name, sections, code, pointer, words) => {
    const { catalog, problems } = readCatalog(smallSource(sections));
    expect(catalog).toBeUndefined();
    const found = problems.find((problem) => problem.code === code && problem.place.pointer === pointer);
    expect(found).toBeDefined();
    expect(found?.place.file).toBe("catalog.json");
    expect(found?.fixes.length).toBeGreaterThan(0);
    expect(found && described(found)).toMatch(words);
  });
});

describe("reading a catalog", () => {
  test("every problem is returned, not just the first", () => {
    const { problems } = readCatalog(
      smallSource({ slots: { hat: { ...gear, default: "cap" }, Coat: gear }, version: 2 }),
    );
    expect(problems.map(({ code }) => code)).toEqual(["not-an-id", "wrong-type"]);
    const later = readCatalog(
      smallSource({ slots: { hat: { ...gear, default: "cap" } }, parts: { boot: part("feet") } }),
    );
    expect(later.problems.map(({ code }) => code).sort()).toEqual(["unknown-part", "unknown-slot"]);
  });

  test("an included file adds to the sections, and its problems name it", () => {
    const source = smallSource({ slots: { hat: gear } });
    const read = readCatalog(source, { "parts/hats.json": { parts: { cap: part("hat") } } });
    expect(read.catalog?.parts.get("cap")?.slots).toEqual(["hat"]);
    const wrong = readCatalog(source, { "parts/hats.json": { parts: { cap: part("hut") } } });
    expect(wrong.problems[0]?.place).toEqual({ file: "parts/hats.json", pointer: "/parts/cap/slot" });
  });

  test("an id that stands in two files is a problem in the second", () => {
    const source = smallSource({ slots: { hat: gear }, parts: { cap: part("hat") } });
    const { problems } = readCatalog(source, { "more.json": { parts: { cap: part("hat") } } });
    expect(problems.map(({ code, place }) => [code, place.file])).toEqual([["duplicate-id", "more.json"]]);
    expect(inWords(problems[0])).toContain("catalog.json at /parts/cap");
  });

  test("ids that every object inherits are ordinary ids", () => {
    const catalog = smallCatalog({
      slots: { constructor: gear, "to-string": gear },
      parts: { "value-of": part("constructor") },
    });
    expect(catalog.slots.get("constructor")?.parts.map(({ id }) => id)).toEqual(["value-of"]);
  });

  test("__proto__ is refused as an id, and nothing is passed over in silence", () => {
    const source = JSON.parse(
      '{"mantle":"catalog/1","id":"small","version":"1","slots":{"__proto__":{"kind":"gear"}}}',
    );
    const { catalog, problems } = readCatalog(source);
    expect(catalog).toBeUndefined();
    expect(problems.map(({ place }) => place.pointer)).toEqual(["/slots/__proto__"]);
  });

  test("a slot without pictures is an ordinary slot, and a part without pictures elsewhere a warning", () => {
    const slots = { badge: { ...gear, data: true }, hat: gear };
    const { problems } = readCatalog(
      smallSource({ slots, parts: { star: { slot: "badge" }, ghost: { slot: "hat" }, disc: part("badge") } }),
    );
    expect(problems.map(({ code, severity }) => [code, severity])).toEqual([
      ["nothing-to-show", "warning"],
      ["picture-in-data-slot", "warning"],
    ]);
  });

  test("a body extends another: what it does not say comes from the base, stats one by one", () => {
    const bodies = {
      base: {
        rig: "rig",
        art: [{ image: "{body}.png", depth: 0 }],
        stats: { strength: 4, carry: 8 },
        growsInto: "tall",
      },
      tall: { extends: "base", stats: { strength: 6 } },
      taller: { extends: "tall", artFrom: "tall", stats: { reach: 1 } },
    };
    const { bodies: read } = smallCatalog({ bodies });
    expect(read.get("tall")).toMatchObject({ artName: "tall", stats: { strength: 6, carry: 8 }, growsInto: undefined });
    expect(read.get("taller")).toMatchObject({ artName: "tall", stats: { strength: 6, carry: 8, reach: 1 } });
    expect(read.get("taller")?.layers).toEqual(read.get("base")?.layers);
    expect(read.get("taller")?.rig).toBe(read.get("base")?.rig);
  });

  test("parts know the rules that can concern them, and no others", () => {
    const catalog = smallCatalog({
      slots: { hat: gear, coat: gear },
      parts: { cap: part("hat", { tags: ["wool"] }), coat: part("coat"), hood: part("hat") },
      rules: [{ never: ["tag:wool", "part:coat"] }, { never: ["slot:hat", "slot:coat"], then: "displace" }],
    });
    const broken = (loadout: Record<string, string>) =>
      checkLoadout(catalog, { ...createCharacter(catalog, { body: "plain" }), loadout }).flatMap(({ chain }) =>
        chain.flatMap((fact) => (fact.kind === "rule" ? [fact.number] : [])),
      );
    expect(broken({ hat: "cap", coat: "coat" })).toEqual([0, 1]);
    expect(broken({ hat: "hood", coat: "coat" })).toEqual([1]);
    expect(broken({ hat: "cap" })).toEqual([]);
  });

  test("the quick look at parts lets nothing pass that the schema refuses, and refuses nothing that it lets pass", () => {
    const good = {
      slot: "hat",
      tags: ["wool"],
      layers: [{ image: "a.png", depth: 1 }],
      gives: { warmth: 1 },
      stack: 2,
    };
    const odd = fc
      .tuple(fc.constantFrom(...Object.keys(good), "price", "access", "hides", "title", "wings"), fc.jsonValue())
      .map(([key, value]) => ({ ...good, [key]: value }));
    const formOf = (parts: object) =>
      readCatalog(smallSource({ slots: { hat: gear }, parts }))
        .problems.filter(({ code, place }) => /form|key/.test(code) && place.pointer.startsWith("/parts/odd"))
        .map(({ code, place }) => `${code} ${place.pointer}`);
    fc.assert(
      fc.property(odd, (part) => {
        // Beside a part that is no part at all, every part goes to the schema.
        expect(formOf({ odd: part })).toEqual(formOf({ odd: part, none: 1 }));
      }),
      runs(500),
    );
  });

  test("a value that cannot be made a text is reported like any other", () => {
    const odd = { slot: "hat", access: { toString: 1, valueOf: 1 } };
    const { problems } = readCatalog(smallSource({ slots: { hat: gear }, parts: { odd } }));
    expect(problems.map(({ code, place }) => [code, place.pointer])).toEqual([
      ["value-not-allowed", "/parts/odd/access"],
    ]);
  });

  test("arbitrary JSON gives problems or a catalog, and never throws", () => {
    fc.assert(
      fc.property(
        fc.oneof(fc.jsonValue(), nearlyCatalogs()),
        fc.dictionary(fc.string(), fc.jsonValue(), { maxKeys: 2 }),
        (source, included) => {
          const { catalog, problems } = readCatalog(source, included);
          expect(catalog === undefined ? problems.length : 1).toBeGreaterThan(0);
          for (const problem of problems) expect(described(problem)).not.toMatch(/undefined|\[object/);
        },
      ),
      runs(400),
    );
  });

  test("a catalog can be read without its marker pictures, by whoever only judges, and says what is not shown then", () => {
    const { catalog, problems } = readCatalog(
      smallSource({
        bodies: { a: { rig: "rig", points: { image: "{body}/marks.png", colors: { crown: "#ff0000" } } } },
      }),
    );
    expect(problems).toMatchObject([
      { code: "missing-points", severity: "warning", place: { pointer: "/bodies/a/points/image" } },
    ]);
    expect(catalog?.bodies.get("a")?.points.size).toBe(0);
    expect(checkArt(catalog ?? demo, new Map()).map(({ place }) => place.file)).toContain("a/marks.png");
  });

  test("the demo catalog has what its world promises", () => {
    expect([...demo.bodies.keys()]).toEqual(["reed", "oak", "reed-young", "oak-young"]);
    expect([...demo.forms.keys()]).toEqual(["wading", "weary", "lamplit"]);
    for (const { rig } of demo.bodies.values()) {
      expect([...rig.animations.keys()]).toEqual(["idle", "walk", "row", "wade", "hail", "trudge"]);
    }
    expect([...demo.slots.values()].filter(({ data }) => data).length).toBeGreaterThan(0);
    expect(demo.slots.size).toBeGreaterThanOrEqual(9);
    expect(demo.parts.size).toBeGreaterThanOrEqual(30);
    for (const { ramps } of demo.channels.values()) expect(ramps.length).toBeGreaterThanOrEqual(4);
  });
});

describe("texts", () => {
  test("a text is picked by the lookup of BCP 47", () => {
    const text = { en: "hat", de: "Hut", "pt-BR": "chapéu" };
    expect(["de-AT", "pt-br", "pt", "fr", "en-GB"].map((tag) => textIn(text, tag))).toEqual([
      "Hut",
      "chapéu",
      "hat",
      "hat",
      "hat",
    ]);
    expect(textIn({ sv: "hatt" }, "fr")).toBe("hatt");
    expect(textIn("plain", "fr")).toBe("plain");
  });

  test("what has no title is called by its id, in words", () => {
    expect(smallCatalog({ slots: { "hand-left": appearance } }).slots.get("hand-left")?.title).toBe("Hand left");
  });
});

/** A small catalog with one value somewhere in it exchanged for another. */
function nearlyCatalogs() {
  const source = smallSource({
    slots: { hat: { ...gear, required: true, default: "cap" }, coat: gear },
    ramps: { red: ["#ff0000"] },
    channels: { dye: { ramps: ["red"], default: "red", key: ["#000000"] } },
    parts: { cap: part("hat", { tags: ["wool"], occupies: ["coat"], gives: { warmth: 1 } }) },
    outfits: { best: { parts: ["cap"], colors: { dye: "red" } } },
    rules: [{ never: ["tag:wool", "slot:coat"] }],
  });
  const paths = [...pathsIn(source, [])];
  return fc
    .tuple(
      fc.constantFrom(...paths),
      fc.oneof(fc.jsonValue({ maxDepth: 1 }), fc.constantFrom("cap", "hat", "constructor", -1, 1e9)),
    )
    .map(([path, value]) => {
      const copy = structuredClone(source);
      let inner: Record<string, unknown> = copy;
      for (const key of path.slice(0, -1)) inner = inner[key] as Record<string, unknown>;
      inner[path.at(-1) ?? ""] = value;
      return copy;
    });
}

function* pathsIn(value: unknown, path: readonly string[]): Iterable<readonly string[]> {
  if (path.length > 0) yield path;
  if (typeof value !== "object" || value === null) return;
  for (const [key, inner] of Object.entries(value)) yield* pathsIn(inner, [...path, key]);
}
