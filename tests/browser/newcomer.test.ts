import { spawn } from "node:child_process";
import { cp, readFile } from "node:fs/promises";
import { join } from "node:path";
import { afterAll, beforeAll, expect, test } from "@jest/globals";
import type { Page } from "playwright-core";
import type { Character } from "zealous-mantle";
import { type PackedProject, packedProject } from "../../scripts/packed-project.ts";
import { overflowOn } from "./overflow.ts";
import { useSite } from "./site.ts";

const site = useSite();

let project: PackedProject;
let address = "";

/** A game of somebody else's, on the published package: the pictures are those of a new catalog, all else is theirs. */
beforeAll(async () => {
  project = await packedProject("newcomer");
  await project.mantle("new", "first");
  await cp("tests/newcomer", project.folder, { recursive: true });
  await cp(join(project.folder, "first/art"), join(project.folder, "survey/art"), { recursive: true });
  // As it is published; a server that is used while a game is made is in `start`.
  await project.build();
  address = await project.serve("preview");
});
afterAll(() => project.close());

const card = (id: string) => `[data-card="${id}"]`;
const question = (page: Page) => page.textContent("#question");

/** Who is in the roster, as it is stored. */
async function stored(page: Page): Promise<readonly Character[]> {
  const saves = Object.entries(await site.saved(page, "survey"));
  const characters = saves.filter(([key]) => key.startsWith("character"));
  return characters.map(([, generations]) => JSON.parse(generations.at(-1)?.text ?? "").content);
}

test("a game of one's own: created in four steps, fitted, played by two, kept, and judged on a server", async () => {
  expect(await project.mantle("check", "survey")).toMatch(
    /2 bodies, 4 slots, 14 parts, 1 outfit, 2 rules\. Nothing is wrong\./,
  );
  const { page, errors } = await site.open(address);
  expect(await question(page)).toBe("Do you fit through narrow places?");
  await page.click(card("strong"));
  await page.click("#next");
  await page.click(card("lichen"));
  await page.click("#next");
  await page.click(card("measures"));
  await page.click("#next");
  expect(await question(page)).toBe("Keep I measure?");
  await page.click("#next");
  await page.click("#next");
  await page.waitForSelector("text=Write a name first");
  await page.fill("#name", "Ode");
  await page.click("#next");
  await page.click("#finish");

  // Bareheaded, nobody hangs on a rope: the rule's own sentence, and what was done about it.
  await page.click('[data-page="slot:head"]');
  await page.click(card("wool-hood"));
  const notice = page.locator("mantle-fitting [role=status]");
  await page.waitForSelector("text=Nobody hangs on a rope bareheaded.");
  expect(await notice.textContent()).toMatch(/So that it holds: Take off Short rope\./);
  await page.click(card("lamp-helmet"));
  await page.click('[data-page="slot:notes"]');
  expect(await page.locator(card("chalk")).textContent()).toContain("–");
  await page.click(card("slate-board"));
  await page.click("#finish");

  // Two players, each with keys of their own.
  await page.waitForSelector("mantle-seats");
  await page.keyboard.press("Enter");
  await page.keyboard.press("KeyE");
  await page.waitForSelector("mantle-seats mantle-stage >> nth=1");
  await page.keyboard.press("Enter");
  await page.keyboard.press("KeyE");
  await page.waitForSelector("canvas[data-places]");
  const places = async () => (await page.getAttribute("canvas", "data-places"))?.split(",").map(Number) ?? [];
  const [one = 0, other = 0] = await places();
  await page.keyboard.down("ArrowRight");
  await page.keyboard.down("KeyA");
  await page.waitForFunction(
    ([first, second]) => {
      const now = document.querySelector("canvas")?.dataset["places"]?.split(",").map(Number) ?? [];
      return (now[0] ?? 0) > (first ?? 0) + 10 && (now[1] ?? 0) < (second ?? 0) - 10;
    },
    [one, other] as const,
  );
  await page.keyboard.up("ArrowRight");
  await page.keyboard.up("KeyA");

  // They are there after a reload, and nobody is asked again.
  await page.reload();
  await page.waitForSelector("mantle-seats");
  expect(await page.locator(".words > span:first-child").allTextContents()).toEqual(["Bo", "Ode"]);
  const ode = (await stored(page)).find(({ name }) => name === "Ode");
  expect(ode).toMatchObject({
    body: "strong",
    loadout: { head: "lamp-helmet", notes: "slate-board" },
    colors: { cloth: "lichen" },
    facts: { task: "measures" },
  });
  expect(errors).toEqual([]);

  const server = spawn("node", ["server.js"], { cwd: project.folder });
  const [at] = String(await new Promise((printed) => server.stdout.once("data", printed))).split("\n");
  const judged = async (character: unknown) => {
    const response = await fetch(at ?? "", { method: "POST", body: JSON.stringify(character) });
    return [response.status, await response.text()] as const;
  };
  expect(await judged(ode)).toEqual([200, ""]);
  const [status, reasons] = await judged({ ...ode, loadout: { ...ode?.loadout, head: "wool-hood", rope: "ladder" } });
  expect([status, reasons]).toEqual([422, expect.stringContaining("Nobody hangs on a rope bareheaded.")]);
  server.kill();
});

test("in another language and another theme it fits screens of every size", async () => {
  const { page } = await site.open(`${address}?lang=nl`);
  const expectToFit = async () => {
    for (const [width, height] of [
      [1280, 800],
      [1024, 600],
      [390, 844],
    ] as const) {
      await page.setViewportSize({ width, height });
      expect([width, await overflowOn(page)]).toEqual([width, { cut: [], sideways: 0 }]);
    }
  };
  expect(await question(page)).toBe("Pas je door nauwe doorgangen?");
  await expectToFit();
  for (const answer of ["short", "rust", "draws"]) {
    await page.click(card(answer));
    await page.click("#next");
  }
  await page.click("#next");
  await page.fill("#name", "Noor");
  await page.click("#next");
  await page.click("#finish");
  await page.waitForSelector("mantle-fitting");
  await page.click('[data-page="slot:head"]');
  await expectToFit();
  const surface = await page.locator("mantle-fitting").evaluate((screen) => getComputedStyle(screen).backgroundColor);
  expect(surface).toBe("rgb(27, 29, 34)");
});

test("no file of that game does what the package has to do", async () => {
  const main = await readFile("tests/newcomer/main.js", "utf8");
  // What a game writes itself is its own: pictures decoded, files listed and looks put together are the package's.
  expect(main).not.toMatch(/fetch\(|import\.meta\.glob|decodePng|readCatalog|resolveLook|localStorage/);
  expect(main.split("\n").length).toBeLessThan(110);
});
