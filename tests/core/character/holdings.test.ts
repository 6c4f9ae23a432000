import { describe, expect, test } from "@jest/globals";
import fc from "fast-check";
import {
  applyEdit,
  catalogTitles,
  checkLoadout,
  countGear,
  createCharacter,
  type Fitting,
  type FittingChange,
  format,
  type Holdings,
  MantleError,
  type Messages,
  openFitting,
  optionsFor,
  type PurchaseOptions,
  purchase,
  reveal,
} from "zealous-mantle";
import { repairLoadout, rollCharacter, solver } from "zealous-mantle/solver";
import { demo } from "../../demo-catalog.ts";
import { edited } from "../../edited.ts";
import { runs } from "../../runs.ts";
import { appearance, gear, part, smallCatalog } from "../../small-catalog.ts";

const catalog = smallCatalog({
  slots: { hat: gear, hair: appearance, belt: { ...gear, data: true } },
  parts: {
    cap: part("hat", { price: 30 }),
    crown: part("hat", { price: 90, access: "secret" }),
    hood: part("hat", { access: "owned" }),
    braid: part("hair", { price: 5 }),
    flare: { slot: "belt", stack: 20, price: 2 },
    rope: { slot: "belt", price: 4 },
  },
});
const bare = createCharacter(catalog, { body: "plain" });
const codes = (problems: readonly { readonly code: string }[]) => problems.map(({ code }) => code);

describe("what a player knows of and owns", () => {
  test("goes from secret to listed to owned", () => {
    const states = (holdings: Holdings) => optionsFor(catalog, bare, "hat", { holdings }).map(({ state }) => state);
    expect(states({})).toEqual(["locked", "secret", "ready"]);
    const known = reveal(catalog, {}, "crown");
    expect(states(known)).toEqual(["locked", "locked", "ready"]);
    expect(reveal(catalog, known, "crown")).toBe(known);
    const bought = purchase(catalog, bare, "crown", { holdings: known, balance: 100 });
    expect(bought).toMatchObject({ ok: true, balance: 10, character: { bag: { crown: [1] } } });
    expect(states(bought.holdings)).toEqual(["locked", "ready", "ready"]);
    expect(() => reveal(catalog, {}, "crwon")).toThrow(MantleError);
  });

  test("a locked part says its price, and an edit refuses it", () => {
    const [cap] = optionsFor(catalog, bare, "hat", { holdings: {} });
    expect(cap?.problems).toMatchObject([
      {
        code: "not-owned",
        subject: { kind: "part", id: "cap" },
        fixes: [{ code: "acquire-for", params: { price: 30 } }],
      },
    ]);
    expect(applyEdit(catalog, bare, { wear: "crown" }, { holdings: {} })).toMatchObject({
      ok: false,
      problems: [{ code: "not-known" }],
    });
  });

  test("a server finds what is worn or carried and not owned, and the repair takes it off", () => {
    const cheat = { ...bare, loadout: { hat: "crown" }, bag: { rope: [1] } };
    expect(codes(checkLoadout(catalog, cheat, { holdings: { crown: "listed" } }))).toEqual(["not-owned", "not-owned"]);
    expect(checkLoadout(catalog, cheat)).toEqual([]);
    expect(repairLoadout(catalog, cheat, { holdings: {} })).toMatchObject({
      edits: [{ remove: "hat" }, { drop: "rope" }, { drop: "crown" }],
      changes: 1,
    });
  });

  test("only owned parts come up in a roll", () => {
    for (let seed = 0; seed < 40; seed += 1) {
      const { loadout } = rollCharacter(catalog, { seed, holdings: { rope: "owned" } });
      for (const id of Object.values(loadout)) expect(["hood", "rope"]).toContain(id);
    }
  });

  test("a roll keeps what is owned, and says when what it is to keep is not", () => {
    const keep = { character: { ...bare, loadout: { hat: "cap" } }, slots: ["hat"] };
    const seen = new Set<string | undefined>();
    for (let seed = 0; seed < 40; seed += 1) {
      const { loadout } = rollCharacter(catalog, { seed, holdings: { cap: "owned", rope: "owned" }, keep });
      expect(loadout["hat"]).toBe("cap");
      seen.add(loadout["belt"]);
    }
    expect(seen).toEqual(new Set([undefined, "rope"]));
    expect(() => rollCharacter(catalog, { seed: 1, holdings: {}, keep })).toThrow(/agrees with what is kept/);
  });
});

describe("acquiring", () => {
  test.each([
    ["what costs more than there is", "cap", { balance: 29 }, "too-dear"],
    ["what is secret", "crown", { balance: 99 }, "not-known"],
    ["what has no price", "hood", { balance: 99 }, "not-for-sale"],
    ["what does not exist", "cpa", { balance: 99 }, "unknown-part"],
    ["what the bag has no place for", "cap", { balance: 99, bagPlaces: 0 }, "bag-full"],
  ])("%s is refused, and nothing changes", (_name, id, means, code) => {
    const holdings = {};
    const result = purchase(catalog, bare, id, { holdings, ...means });
    expect(result.ok ? [] : codes(result.problems)).toEqual([code]);
    expect([result.balance, result.character, result.holdings]).toEqual([means.balance, bare, holdings]);
    expect(result.character).toBe(bare);
  });

  test("appearance is acquired once, gear again and again, and the balance never falls below 0", () => {
    const braided = purchase(catalog, bare, "braid", { holdings: {}, balance: 9 });
    expect(braided).toMatchObject({ ok: true, balance: 4, character: { bag: {} } });
    const again = purchase(catalog, bare, "braid", { holdings: braided.holdings, balance: 9 });
    expect(again.ok ? [] : codes(again.problems)).toEqual(["already-owned"]);
    fc.assert(
      fc.property(
        fc.nat({ max: 60 }),
        fc.array(fc.constantFrom("flare", "rope", "cap"), { maxLength: 20 }),
        (purse, wants) => {
          let state = { holdings: {} as Holdings, balance: purse, character: bare };
          let spent = 0;
          for (const id of wants) {
            const result = purchase(catalog, state.character, id, state);
            if (result.ok) spent += catalog.parts.get(id)?.price ?? 0;
            state = result;
          }
          expect(state.balance).toBe(purse - spent);
          expect(state.balance).toBeGreaterThanOrEqual(0);
        },
      ),
    );
    for (const balance of [-1, Number.NaN]) {
      expect(() => purchase(catalog, bare, "cap", { holdings: {}, balance })).toThrow(/is not a balance/);
    }
  });
});

describe("the bag", () => {
  const carrying = { ...bare, bag: { flare: [20, 5], rope: [1] } };

  test("stacks fill up before a new one is begun", () => {
    const worn = edited(catalog, carrying, { wear: "flare" });
    expect(worn.bag).toEqual({ flare: [20, 4], rope: [1] });
    expect(edited(catalog, worn, { remove: "belt" }).bag).toEqual(carrying.bag);
  });

  test("a stack is split, and stacks are poured together", () => {
    const split = edited(catalog, carrying, { split: "flare", count: 8 });
    expect(split.bag).toEqual({ flare: [12, 8, 5], rope: [1] });
    expect(edited(catalog, split, { merge: "flare" }).bag).toEqual(carrying.bag);
    for (const count of [0, 20, 2.5]) {
      const refused = applyEdit(catalog, carrying, { split: "flare", count });
      expect(refused.ok ? [] : codes(refused.problems)).toEqual(["cannot-split"]);
    }
    expect(applyEdit(catalog, bare, { merge: "rope" })).toMatchObject({
      ok: false,
      problems: [{ code: "not-carried" }],
    });
  });

  test("a full bag refuses with the reason, and changes nothing", () => {
    const full = { wardrobe: "bag", bagPlaces: 3 } as const;
    const worn = { ...carrying, loadout: { hat: "cap" } };
    const refused = applyEdit(catalog, worn, { remove: "hat" }, full);
    expect(refused).toMatchObject({ ok: false, problems: [{ code: "bag-full", subject: { id: "cap" } }] });
    expect(refused.character).toBe(worn);
    expect(applyEdit(catalog, worn, { split: "flare", count: 1 }, full).ok).toBe(false);
    expect(applyEdit(catalog, { ...worn, bag: { flare: [19] } }, { remove: "hat" }, full).ok).toBe(true);
    expect(openFitting(catalog, worn, full).remove("hat").ok).toBe(false);
  });

  test("nothing is lost or doubled, whatever the order of calls", () => {
    const ids = ["cap", "flare", "rope", "hood"];
    const edits = fc.oneof(
      fc.record({ wear: fc.constantFrom(...ids) }),
      fc.record({ remove: fc.constantFrom("hat", "belt") }),
      fc.record({ split: fc.constantFrom(...ids), count: fc.integer({ min: 0, max: 6 }) }),
      fc.record({ merge: fc.constantFrom(...ids) }),
    );
    fc.assert(
      fc.property(
        fc.array(edits, { maxLength: 25, size: "max" }),
        fc.integer({ min: 2, max: 5 }),
        (sequence, bagPlaces) => {
          let character = { ...bare, bag: { cap: [1], flare: [9, 3], rope: [1] } } as typeof bare;
          const owned = new Map([...countGear(catalog, character)].sort());
          for (const edit of sequence) {
            character = applyEdit(catalog, character, edit, { wardrobe: "bag", bagPlaces }).character;
            expect(new Map([...countGear(catalog, character)].sort())).toEqual(owned);
            expect(
              Object.values(character.bag)
                .flat()
                .every((count) => count >= 1),
            ).toBe(true);
          }
        },
      ),
    );
  });
});

describe("findings", () => {
  const wren = createCharacter(demo, { body: "reed", name: "Wren", id: "wren" });

  test("say what they are about, and the chain of facts that leads to them", () => {
    const [problem] = checkLoadout(demo, { ...wren, loadout: { chain: "watch-chain" } }, { solver });
    expect(problem).toMatchObject({
      code: "needs-missing",
      subject: { kind: "rule" },
      chain: [
        { kind: "worn", part: "watch-chain", slot: "chain", issued: false },
        { kind: "missing", condition: { kind: "part", id: "waistcoat" } },
        { kind: "rule", message: { en: expect.stringContaining("hangs from a waistcoat") } },
      ],
    });
  });

  test("are said in the game's own words and language", () => {
    const german = smallCatalog({
      slots: { hat: gear, coat: gear },
      parts: {
        cap: part("hat", { title: { en: "Cap", de: "Kappe" } }),
        cloak: part("coat", { title: { en: "Cloak", de: "Umhang" } }),
      },
      rules: [{ never: ["part:cap", "part:cloak"], message: { en: "No.", de: "Das sieht nicht gut aus." } }],
    });
    const worn = { ...createCharacter(german, { body: "plain" }), loadout: { hat: "cap", coat: "cloak" } };
    const messages: Partial<Messages> = {
      "never-together": "„{part}“ und „{other}“ passen nicht zusammen.",
      "take-off": "{part} ablegen.",
    };
    // As a server sends it to a client, who knows the language.
    const [problem]: ReturnType<typeof checkLoadout> = JSON.parse(JSON.stringify(checkLoadout(german, worn)));
    const said = [problem, ...(problem?.fixes ?? [])].map((each) =>
      each === undefined ? "" : format(each, messages, catalogTitles(german, "de-AT")),
    );
    expect(said).toEqual([
      "Kappe und Umhang passen nicht zusammen. Das sieht nicht gut aus.",
      "Kappe ablegen.",
      "Umhang ablegen.",
    ]);
  });

  test("know the game's signals and what it adds to stats", () => {
    const packed = { ...wren, loadout: { back: "mail-pack" } };
    const inFlood = (loadout: object) =>
      codes(
        checkLoadout(demo, { ...packed, loadout: { ...packed.loadout, ...loadout } }, { signals: { flood: true } }),
      );
    expect(checkLoadout(demo, packed)).toEqual([]);
    expect([inFlood({}), inFlood({ vest: "cork-vest" })]).toEqual([["needs-missing"], []]);
    expect(applyEdit(demo, wren, { wear: "anchor-charm" }, { stats: { strength: 1 } }).ok).toBe(true);
  });
});

describe("edits done together", () => {
  const tied = smallCatalog({
    slots: { hat: gear, coat: gear },
    parts: { cap: part("hat"), cloak: part("coat") },
    rules: [
      { if: "part:cap", needs: "part:cloak" },
      { if: "part:cloak", needs: "part:cap" },
    ],
  });
  const plain = createCharacter(tied, { body: "plain" });

  test("are judged by what they come to, so that parts which need each other can be put on", () => {
    expect(applyEdit(tied, plain, { wear: "cap" }).ok).toBe(false);
    const both = { together: [{ wear: "cap" }, { wear: "cloak" }] };
    expect(edited(tied, plain, both).loadout).toEqual({ hat: "cap", coat: "cloak" });
    expect(applyEdit(tied, plain, { together: [{ wear: "cap" }, { wear: "cpa" }] })).toMatchObject({
      ok: false,
      character: plain,
    });
  });

  test("are what leads to a part that needs another which needs it", () => {
    const [cap] = optionsFor(tied, plain, "hat", { solver });
    expect(cap).toMatchObject({ state: "blocked" });
    expect(edited(tied, plain, ...(cap?.editsToWear ?? [])).loadout).toEqual({ hat: "cap", coat: "cloak" });
  });
});

describe("a purchase while a fitting is open", () => {
  const open = (character = bare, options: Parameters<typeof openFitting>[2] = {}) =>
    openFitting(catalog, character, { holdings: {}, solver, ...options });
  const buy = (fitting: Fitting, parts: readonly string[], balance = 100) => {
    let means: PurchaseOptions = { holdings: fitting.context.holdings ?? {}, balance };
    for (const id of parts) {
      const bought = purchase(catalog, fitting.original, id, means);
      if (!bought.ok) throw new Error(codes(bought.problems).join());
      means = bought;
    }
    fitting.update({ holdings: means.holdings, gained: parts });
    return means.balance;
  };

  test("makes the part ready to wear; edits, undone ones too, stay, and no undo gives it back", () => {
    const fitting = open();
    fitting.wear("hood");
    fitting.remove("hat");
    fitting.undo();
    expect(fitting.wear("cap")).toMatchObject({ ok: false, problems: [{ code: "not-owned" }] });
    const heard: FittingChange[] = [];
    fitting.on("change", (change) => heard.push(change));
    expect(buy(fitting, ["cap"])).toBe(70);
    expect(heard).toMatchObject([{ kind: "update", options: ["hat", "hair", "belt"] }]);
    expect(fitting.character).toMatchObject({ loadout: { hat: "hood" }, bag: { cap: [1] } });
    expect(fitting.options("hat").map(({ state }) => state)).toEqual(["ready", "secret", "worn"]);
    expect([fitting.canUndo, fitting.canRedo]).toEqual([true, true]);
    expect(fitting.wear("cap").ok).toBe(true);
    while (fitting.canUndo) fitting.undo();
    expect(fitting.character).toEqual({ ...bare, bag: { cap: [1] } });
    expect(fitting.original).toBe(fitting.character);
    expect(fitting.cancel().bag).toEqual({ cap: [1] });
  });

  test("takes what was only tried on for what was bought, and looks need no place in a bag", () => {
    const fitting = openFitting(catalog, bare, { drafts: "allow" });
    fitting.wear("cap");
    buy(fitting, ["cap", "braid"]);
    expect(fitting.character.bag).toEqual({});
    expect(fitting.problems).toEqual([]);
    fitting.remove("hat");
    expect(fitting.character.bag).toEqual({ cap: [1] });
    fitting.update({ bagPlaces: 0 });
    expect(fitting.context).toMatchObject({
      drafts: "allow",
      bagPlaces: 0,
      holdings: { cap: "owned", braid: "owned" },
    });
  });

  test("never makes more of a thing than was owned and bought, nor fewer, whatever is edited around it", () => {
    const ids = ["cap", "hood", "flare", "rope"] as const;
    const step = fc.oneof(
      fc.record({ wear: fc.constantFrom(...ids) }),
      fc.record({ remove: fc.constantFrom("hat", "belt") }),
      fc.record({ buy: fc.constantFrom(...ids.filter((id) => id !== "hood")) }),
      fc.constantFrom("undo" as const, "redo" as const, "revert" as const),
    );
    const owner = { ...bare, bag: { rope: [1], hood: [1] } };
    fc.assert(
      fc.property(fc.array(step, { maxLength: 25 }), fc.boolean(), (steps, isJudged) => {
        const fitting = isJudged ? open(owner) : openFitting(catalog, owner);
        const owned = new Map<string, number>([
          ["rope", 1],
          ["hood", 1],
        ]);
        for (const each of steps) {
          if (typeof each === "string") fitting[each]();
          else if ("buy" in each) {
            buy(fitting, [each.buy]);
            owned.set(each.buy, (owned.get(each.buy) ?? 0) + 1);
          } else fitting.apply(each);
          const counts = countGear(catalog, fitting.character);
          for (const id of ids) {
            const isWorn = Object.values(fitting.character.loadout).includes(id);
            const has = counts.get(id) ?? 0;
            const least = owned.get(id) ?? 0;
            // One more is worn where it is only tried on.
            expect([id, has >= least, has <= Math.max(least, isWorn ? 1 : 0)]).toEqual([id, true, true]);
          }
        }
      }),
      runs(200),
    );
  });
});
