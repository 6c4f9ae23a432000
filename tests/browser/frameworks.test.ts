import { symlink } from "node:fs/promises";
import { join, resolve } from "node:path";
import { afterAll, beforeAll, describe, expect, test } from "@jest/globals";
import { expectTypeOf } from "expect-type";
import type { JSX } from "react";
import type { SvelteHTMLElements } from "svelte/elements";
import { type GlobalComponents, isReactive, reactive } from "vue";
import { type Character, createCharacter, type Fitting, openFitting, openSession, resolveLook } from "zealous-mantle";
import type { ImageLoader } from "zealous-mantle/browser";
import type { CharacterEvent, MantleElements, RequestEvent } from "zealous-mantle/elements";
import "zealous-mantle/jsx/react";
import "zealous-mantle/jsx/svelte";
import "zealous-mantle/jsx/vue";
import { memoryStore } from "zealous-mantle";
import { filesOnPage } from "../../scripts/files-on-page.ts";
import { type PackedProject, packedProject } from "../../scripts/packed-project.ts";
import { demo } from "../demo-catalog.ts";
import { isLong } from "../runs.ts";
import { serveFolder } from "../served-folder.ts";
import { useSite } from "./site.ts";

const site = useSite();

/** The pages on an engine; most of them in the long run. */
const engines = isLong ? ["pixi", "phaser", "three"] : ["pixi"];

let project: PackedProject;
let address = "";

beforeAll(async () => {
  project = await packedProject("frameworks");
  await project.mantle("new", "keepers");
  for (const page of ["frameworks", ...engines])
    for (const [path, [content = ""]] of await filesOnPage(`docs/${page}.md`)) await project.write({ [path]: content });
  for (const [folder, entry] of [
    ["react", "main.jsx"],
    ["vue", "main.js"],
    ["svelte", "main.js"],
    ...engines.map((engine) => [engine, "main.js"]),
  ])
    await project.write({
      [`${folder}/index.html`]: `<!doctype html><html lang="en"><title>${folder}</title><link rel="icon" href="data:,"><div id="app"></div><script type="module" src="./${entry}"></script>`,
    });
  address = await project.serve("dev");
});
afterAll(() => project.close());

describe.each(["react", "vue", "svelte"])("in %s", (framework) => {
  test("the page of the docs shows what is worn, and who is ready", async () => {
    const { page, errors } = await site.open(`${address}${framework}/`);
    await page.click('[data-page="slot:hat"]');
    expect(await page.textContent("#worn")).toBe("Worn: nothing");
    await page.click('[data-card="cap"]');
    await page.waitForSelector("text=Worn: cap");
    // The framework handed the very fitting on, and not one of its own making.
    const isWhole = () =>
      page.evaluate(() => {
        const { fitting } = document.querySelector("mantle-fitting") ?? {};
        return fitting?.catalog.parts instanceof Map && Object.isFrozen(fitting);
      });
    expect(await isWhole()).toBe(true);
    await page.click("#finish");
    await page.waitForSelector("text=Ada is ready.");
    expect(errors).toEqual([]);
  });
});

test.each(engines)("the page of the docs on %s ends with somebody who walks", async (engine) => {
  const { page, errors } = await site.open(`${address}${engine}/`);
  // Without a graphics card, pixels are what takes time.
  await page.setViewportSize({ width: 360, height: 280 });
  await page.waitForSelector("canvas");
  let [before, changes] = ["", 0];
  for (let tries = 0; tries < 80 && changes < 4; tries += 1) {
    const now = (await page.locator("canvas").screenshot()).toString("base64");
    if (now !== before && before !== "") changes += 1;
    before = now;
    await page.waitForTimeout(50);
  }
  await page.goto("about:blank");
  // Somebody came, and put one foot before the other.
  expect(changes).toBe(4);
  expect(errors).toEqual([]);
});

test("the page of the docs without a bundler shows somebody who walks, after few requests", async () => {
  for (const each of ["leven", "pure-rand"])
    await symlink(resolve("node_modules", each), join(project.folder, "node_modules", each));
  const served = await serveFolder(project.folder);
  const { page, errors } = await site.open(`${served.url}plain/page.html`);
  const drawn = () =>
    page.$eval("canvas", (canvas) =>
      (canvas as HTMLCanvasElement).getContext("2d")?.getImageData(0, 0, 16, 24).data.join(),
    );
  await page.waitForFunction(() => document.querySelector("canvas")?.width === 16);
  const first = await drawn();
  expect(first?.split(",").filter((value) => value !== "0").length).toBeGreaterThan(300);
  while ((await drawn()) === first) await page.waitForTimeout(20);
  expect(served.asked.filter((path) => path.startsWith("node_modules/")).length).toBeLessThanOrEqual(8);
  expect(errors).toEqual([]);
  served.close();
});

test("nothing that is looked up is made reactive by accident", async () => {
  const wren = createCharacter(demo, { body: "reed" });
  const session = await openSession({ catalog: demo, store: memoryStore() });
  const state = reactive({
    catalog: demo,
    look: resolveLook(demo, wren),
    fitting: openFitting(demo, wren),
    session,
    plain: { a: 1 },
  });
  const { catalog, look, fitting, plain } = state;
  expect([catalog, look, fitting, state.session, plain].map((each) => isReactive(each))).toEqual([
    false,
    false,
    false,
    false,
    true,
  ]);
  expect(state.catalog).toBe(demo);
});

test("properties and events of every element are known in each framework", () => {
  type Written = JSX.IntrinsicElements["mantle-fitting"];
  expectTypeOf<Written["fitting"]>().toEqualTypeOf<Fitting | undefined>();
  expectTypeOf<Parameters<NonNullable<Written["onmantle-finish"]>>>().toEqualTypeOf<[CharacterEvent]>();
  expectTypeOf<Parameters<NonNullable<Written["onmantle-request"]>>>().toEqualTypeOf<[RequestEvent]>();
  expectTypeOf<SvelteHTMLElements["mantle-fitting"]["fitting"]>().toEqualTypeOf<Fitting | undefined>();
  type InVue = InstanceType<GlobalComponents["mantle-fitting"]>["$props"];
  expectTypeOf<InVue["loader"]>().toEqualTypeOf<ImageLoader | undefined>();
  expectTypeOf<Parameters<NonNullable<InVue["onMantleFinish"]>>[0]["character"]>().toEqualTypeOf<Character>();
  expectTypeOf<keyof JSX.IntrinsicElements>().extract<keyof MantleElements>().toEqualTypeOf<keyof MantleElements>();
  expectTypeOf<Extract<keyof GlobalComponents, keyof MantleElements>>().toEqualTypeOf<keyof MantleElements>();
  // @ts-expect-error A property of that name is not known.
  expectTypeOf<Written["fiting"]>();
});
