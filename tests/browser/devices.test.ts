import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import type { Browser, Page } from "playwright-core";
import { change, openDevices, runServer } from "../../scripts/two-devices.ts";
import { newPostgresDatabase } from "../server/shared-postgres.ts";
import { useSite } from "./site.ts";

const site = useSite();
let server: Awaited<ReturnType<typeof runServer>> | undefined;
beforeAll(async () => {
  server = await runServer(await newPostgresDatabase());
});
afterAll(() => server?.close());

let opened: Promise<readonly [Page, Page]> | undefined;
/** The creator on two devices of one player, who has one courier; the same two for all tests. */
function devices(): Promise<readonly [Page, Page]> {
  opened ??= openThem();
  return opened;
}
async function openThem(): Promise<readonly [Page, Page]> {
  const { page } = await site.run("saving");
  const browser = page.context().browser() as Browser;
  return openDevices(browser, new URL(page.url()).origin, server?.url ?? "", { art: false });
}
const state = (page: Page, wanted: string) => page.waitForSelector(`.kept[data-state=${wanted}]`);
/** The courier as a device has it: its name, hat and color. */
const kept = (page: Page) =>
  page.evaluate(async (name) => {
    const done = <T>(asked: IDBRequest<T>) =>
      new Promise<T>((resolve, reject) => {
        asked.onsuccess = () => resolve(asked.result);
        asked.onerror = () => reject(asked.error);
      });
    const database = await done(indexedDB.open(name));
    const saves = database.transaction("saves").objectStore("saves");
    const [newest] = await done<readonly { readonly text: string }[]>(saves.get("character-wren"));
    database.close();
    const { content } = JSON.parse(newest?.text ?? "{}");
    return [content.name, content.loadout.hat, content.colors.oilcloth];
  }, `saltmarsh at ${server?.url}`);

describe("a courier on two devices", () => {
  test("is changed on one and found on the other, and without the server it is kept until that answers", async () => {
    const [one, two] = await devices();
    await state(one, "agreed");
    await two.context().setOffline(true);
    await change(two, { name: "Wren", wear: "storm-hat", paint: "indigo" });
    await state(two, "offline");
    await change(one, { name: "Wren", wear: "wool-cap", paint: "mustard" });
    await state(one, "agreed");
    await two.context().setOffline(false);
    await state(two, "agreed");
    // Each changed something else, so nobody is asked.
    expect(await two.$("dialog")).toBeNull();
    const both = ["Wren", "wool-cap", "indigo"];
    expect(await kept(two)).toEqual(both);
    await one.reload();
    await state(one, "agreed");
    expect(await kept(one)).toEqual(both);
  });

  test("that were changed in the same place are shown side by side, and the player chooses", async () => {
    const [one, two] = await devices();
    for (const device of [one, two]) {
      await device.reload();
      await device.waitForSelector("mantle-fitting");
    }
    await two.context().setOffline(true);
    await change(two, { name: "Wrenley", wear: "storm-hat", paint: "madder" });
    await change(one, { name: "Wrenna", wear: "reed-cap", paint: "mustard" });
    await state(one, "agreed");
    await two.context().setOffline(false);
    await two.waitForSelector("dialog");
    expect(await two.$$eval("fieldset legend", (all) => all.map(({ textContent }) => textContent))).toEqual([
      "Hat",
      "Name",
      "Oilcloth",
    ]);
    await two.click("text=Decide later");
    await state(two, "undecided");
    expect(await kept(two)).toEqual(["Wrenley", "storm-hat", "madder"]);
    await two.reload();
    await two.waitForSelector("dialog");
    await two.click("text=Reed cap");
    await two.click("text=Keep this");
    await state(two, "agreed");
    const chosen = ["Wrenley", "reed-cap", "madder"];
    expect(await kept(two)).toEqual(chosen);
    await one.reload();
    await state(one, "agreed");
    expect(await kept(one)).toEqual(chosen);
  });
});
