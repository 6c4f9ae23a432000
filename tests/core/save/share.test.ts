import { deflateRawSync } from "node:zlib";
import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import { createCharacter, openFitting, readSharedLook, shareLook } from "zealous-mantle";
import { rollCharacter } from "zealous-mantle/solver";
import { demo } from "../../demo-catalog.ts";
import { inWords } from "../../in-words.ts";
import { appearance, part, smallCatalog } from "../../small-catalog.ts";

const looks = fc.integer().map((seed) => {
  const { body, loadout, colors } = rollCharacter(demo, { seed });
  return { body, loadout, colors };
});

describe("a code of a look", () => {
  test("comes back exactly, however it is typed, and is shorter than deflated JSON", () => {
    fc.assert(
      fc.property(looks, (look) => {
        const code = shareLook(demo, look);
        expect(readSharedLook(demo, code)).toEqual({ look, problems: [] });
        const typed = code
          .toLowerCase()
          .replaceAll("0", "o")
          .replaceAll("1", "l")
          .replaceAll(/(.{5})/g, "$1-");
        expect(readSharedLook(demo, ` ${typed}\n`).look).toEqual(look);
        expect((code.length * 5) / 8).toBeLessThan(deflateRawSync(JSON.stringify(look), { level: 9 }).length / 2);
      }),
    );
  });

  test("is put on someone else, whose name and gear stay", () => {
    const heron = {
      ...createCharacter(demo, { body: "oak", name: "Heron", id: "heron" }),
      loadout: { hat: "wool-cap" },
    };
    const look = rollCharacter(demo, { seed: 5, body: "reed" });
    const fitting = openFitting(demo, heron);
    const read = readSharedLook(demo, shareLook(demo, look)).look;
    expect(read && fitting.applyAppearance(read).ok).toBe(true);
    expect(fitting.character).toMatchObject({
      name: "Heron",
      body: "reed",
      loadout: look.loadout,
      colors: look.colors,
    });
    expect({ ...fitting.character.bag, [look.loadout.hat ?? ""]: [1] }).toHaveProperty("wool-cap");
  });

  test("with any one letter wrong, missing or doubled differs from a right one", () => {
    fc.assert(
      fc.property(looks, fc.nat(), fc.constantFrom(..."0123456789ABCDEFGHJKMNPQRSTVWXYZ"), (look, at, letter) => {
        const code = shareLook(demo, look);
        const place = at % code.length;
        const wrong = [
          `${code.slice(0, place)}${letter}${code.slice(place + 1)}`,
          code.slice(0, place) + code.slice(place + 1),
          code.slice(0, place) + letter + code.slice(place),
        ];
        for (const each of wrong) {
          if (each === code) continue;
          const { look: read, problems } = readSharedLook(demo, each);
          expect([read, problems.map(({ code: name }) => name)]).toEqual([undefined, ["code-mistyped"]]);
        }
      }),
    );
  });

  test("of any content never throws, and what is too long is not looked at", () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.string({ unit: fc.constantFrom(..."0123456789ABCZ") })), (code) => {
        expect(readSharedLook(demo, code).problems.length).toBeGreaterThan(0);
      }),
    );
    const codes = ["", "A", "!?", "0".repeat(1_001)].map((code) => readSharedLook(demo, code).problems[0]?.code);
    expect(codes).toEqual(["not-a-code", "not-a-code", "not-a-code", "code-too-long"]);
  });

  test("holds colors of the character's own", () => {
    const catalog = smallCatalog({
      ramps: { red: ["#800000", "#ff0000"] },
      channels: { dye: { ramps: ["red"], default: "red", key: ["#000000", "#ffffff"], custom: true } },
    });
    const look = { body: "plain", loadout: {}, colors: { dye: "#12ab9f" } };
    expect(readSharedLook(catalog, shareLook(catalog, look)).look).toEqual(look);
    const fixed = smallCatalog({
      ramps: { red: ["#800000", "#ff0000"] },
      channels: { dye: { ramps: ["red"], default: "red", key: ["#000000", "#ffffff"] } },
    });
    expect(readSharedLook(fixed, shareLook(catalog, look)).problems.map(({ code }) => code)).toEqual([
      "color-not-here",
    ]);
  });
});

describe("a code that meets another catalog", () => {
  const slots = { hat: appearance, coat: appearance };
  const parts = { cap: part("hat"), hood: part("hat"), cloak: part("coat") };
  const ramps = { red: ["#ff0000"], blue: ["#0000ff"] };
  const channels = { dye: { ramps: ["red", "blue"], default: "red", key: ["#000000"] } };
  const rig = { rig: "rig" };
  const old = smallCatalog({ bodies: { plain: rig, tall: rig }, slots, parts, ramps, channels });
  const code = shareLook(old, { body: "tall", loadout: { hat: "hood", coat: "cloak" }, colors: { dye: "blue" } });
  const saidBy = (catalog: ReturnType<typeof smallCatalog>, holdings = {}) => {
    const { look, problems } = readSharedLook(catalog, code, { holdings });
    return [look, problems.map(inWords)];
  };

  test("is whole in one that has grown and is in another order", () => {
    const more = Object.fromEntries(Array.from({ length: 200 }, (_, number) => [`new-${number}`, part("hat")]));
    const grown = smallCatalog({
      bodies: { small: rig, tall: rig },
      slots: { coat: appearance, ring: appearance, hat: appearance },
      parts: { ...more, ...parts },
      ramps,
      channels,
    });
    expect(saidBy(grown)).toEqual([
      { body: "tall", loadout: { coat: "cloak", hat: "hood" }, colors: { dye: "blue" } },
      [],
    ]);
  });

  test("keeps what is there, and says what is not", () => {
    const { hood: _, ...others } = parts;
    const shrunk = smallCatalog({
      bodies: { plain: rig },
      slots: { hat: appearance },
      parts: { cap: others.cap },
      ramps,
      channels: { dye: { ...channels.dye, ramps: ["red"] } },
    });
    expect(saidBy(shrunk)).toEqual([
      { loadout: {}, colors: {} },
      [
        "The body of this look is not in this game.",
        'This look wears something in slot "hat" that is not in this game.',
        "This look wears something somewhere that is not in this game.",
        'This look paints "dye" in a color that is not in this game.',
      ],
    ]);
  });

  test("leaves out what the player does not own, and gives no secret away", () => {
    expect(saidBy(old, { hood: "secret" })).toEqual([
      { body: "tall", loadout: { coat: "cloak" }, colors: { dye: "blue" } },
      ['This look wears something in slot "hat" that this player does not own.'],
    ]);
  });
});
