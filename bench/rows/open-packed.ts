import { readFile } from "node:fs/promises";
import { createServer } from "node:http";
import type { AddressInfo } from "node:net";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { globSync } from "tinyglobby";
import { packCatalog } from "zealous-mantle/node";
import { openBrowser } from "../../scripts/browser.ts";
import { bundlePage } from "../../scripts/bundle-page.ts";
import { agree, type Pair, type Row } from "../measure.ts";

const demo = fileURLToPath(new URL("../../demo/saltmarsh", import.meta.url));
const rounds = 7;

interface Opened {
  readonly milliseconds: number;
  /** What the figure on the stage looks like, so that both show the same. */
  readonly drawn: string;
}

interface Measured {
  readonly time: Pair;
  readonly requests: Pair;
}

let measured: Promise<Measured> | undefined;

/** Opens the fitting screen in a new page each time, in turn from the folder and from its bundle. */
async function measure(): Promise<Measured> {
  const { files } = await packCatalog(demo);
  const script = await bundlePage(fileURLToPath(new URL("../open-page.ts", import.meta.url)));
  let asked = 0;
  const server = createServer(async ({ url: path = "" }, response) => {
    const [, kind, name = ""] = /^\/(plain|packed)\/([\w./-]+)$/.exec(path) ?? [];
    if (kind === undefined)
      return void response.setHeader("content-type", "text/html").end("<!doctype html><title>Bench</title>");
    asked += 1;
    const bytes = kind === "packed" ? files.get(name) : await readFile(join(demo, name)).catch(() => undefined);
    response.setHeader("content-type", name.endsWith(".png") ? "image/png" : "application/json");
    response.writeHead(bytes === undefined ? 404 : 200).end(bytes);
  });
  await new Promise<void>((resolve) => server.listen(0, "127.0.0.1", resolve));
  const { port } = server.address() as AddressInfo;
  const browser = await openBrowser();
  const list = globSync("**/*", { cwd: demo });
  const open = async (kind: "plain" | "packed") => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await page.goto(`http://127.0.0.1:${port}/`);
    await page.addScriptTag({ content: script });
    asked = 0;
    const call = [`/${kind}/`, kind === "plain" ? list : undefined] as const;
    const opened: Opened = await page.evaluate(([url, all]) => Reflect.get(window, "openFitting")(url, all), call);
    await context.close();
    return { ...opened, requests: asked };
  };
  try {
    const [plain, packed] = [[], []] as Awaited<ReturnType<typeof open>>[][];
    for (let round = 0; round < rounds; round += 1) {
      plain?.push(await open("plain"));
      packed?.push(await open("packed"));
    }
    agree(
      new Set([...(plain ?? []), ...(packed ?? [])].map(({ drawn }) => drawn)).size === 1,
      "the screens are not the same",
    );
    const median = (of: typeof plain, what: "milliseconds" | "requests") =>
      (of ?? []).map((each) => each[what]).toSorted((one, other) => one - other)[Math.floor(rounds / 2)] ?? 0;
    return {
      time: { ours: median(packed, "milliseconds"), theirs: median(plain, "milliseconds") },
      requests: { ours: median(packed, "requests"), theirs: median(plain, "requests") },
    };
  } finally {
    await browser.close();
    server.close();
  }
}

function once(): Promise<Measured> {
  measured ??= measure();
  return measured;
}

export const openPacked: Row = {
  name: "open-packed",
  work: "from a packed catalog to the first full fitting screen, in a new page of Chromium",
  against: "its plain folder",
  unit: "ms",
  goal: { atMost: 0.3 },
  measure: async () => (await once()).time,
};

export const openPackedRequests: Row = {
  name: "open-packed-n",
  work: "requests from a packed catalog to the first full fitting screen",
  against: "its plain folder",
  unit: "requests",
  goal: { atMost: 0.3 },
  measure: async () => (await once()).requests,
};
