import { describe, expect, test } from "@jest/globals";
import type { Savings } from "./saving-page.ts";
import { useSite } from "./site.ts";

const site = useSite();

async function save(fails: number, end: "wait" | "hide" | "stop"): Promise<Savings> {
  const { page } = await site.run("saving");
  return page.evaluate(([times, how]) => Reflect.get(window, "save")(times, how), [fails, end] as const);
}

describe("a session that is kept saved", () => {
  test.each(["wait", "hide", "stop"] as const)(
    "stores the last of many changes, in a few writes, by %s",
    async (end) => {
      const { writes, stored, said } = await save(0, end);
      expect(stored[0]).toContain('"Name 99"');
      expect(writes).toBeLessThanOrEqual(5);
      expect([said[0], said.at(-1)]).toEqual(["unsaved", "stored"]);
    },
  );

  test("tries again by itself where storing fails, says each failure, and is stored in the end", async () => {
    const { stored, said } = await save(8, "wait");
    expect(stored[0]).toContain('"Name 99"');
    expect(said.filter((each) => each === "Error: Disk full")).toHaveLength(4);
    expect(said.indexOf("stored")).toBeGreaterThan(said.lastIndexOf("Error: Disk full"));
  });
});

test("what somebody else stored meanwhile is reported once, and saving goes on when the game has decided", async () => {
  const { page } = await site.run("saving");
  expect(await page.evaluate(() => Reflect.get(window, "saveBesideAnother")())).toEqual([
    ["unsaved", "changed-elsewhere"],
    ["stored"],
    ["true"],
  ]);
});

test("the store of the browser keeps what every store has to keep", async () => {
  const { page } = await site.run("saving");
  expect(await page.evaluate(() => Reflect.get(window, "checkIndexedStore")())).toEqual([]);
});

describe("the store of the browser", () => {
  const call = async (name: string, ...args: readonly unknown[]) => {
    const { page } = await site.run("saving");
    return page.evaluate(([called, given]) => Reflect.get(window, called)(...given), [name, args] as const);
  };

  test("says where nothing may be stored, and stores once it may", async () => {
    expect(await call("askWhereForbidden")).toEqual([
      expect.stringMatching(
        /^no-storage: The browser does not allow this page to store anything: denied by the player/,
      ),
      expect.stringMatching(/^no-storage/),
      "",
    ]);
  });

  test("does not stand in the way of who deletes its database, and stores anew", async () => {
    expect(await call("storeAfterDeletion")).toEqual(["deleted", "", "character-one"]);
  });

  test("stores again after the player cleared the site's data", async () => {
    const { page } = await site.run("saving");
    await call("beginToPlay");
    const browser = await page.context().newCDPSession(page);
    const { origin } = new URL(page.url());
    await browser.send("Storage.clearDataForOrigin", { origin, storageTypes: "indexeddb" });
    const [refused, stored] = (await call("playOn", "Second")) as readonly string[];
    expect([refused, stored]).toEqual(["", expect.stringContaining('"Second"')]);
  });

  test("reports what others put among its saves, and removes none of it", async () => {
    expect(await call("playBesideForeign")).toEqual({
      names: ["one", "two"],
      problems: ["unknown-entry 42", "unreadable-save character-two"],
      held: [expect.stringContaining('{"'), "unreadable"],
    });
  });
});
