import { type Browser, type BrowserServer, chromium, type LaunchOptions } from "playwright-core";

/** Where Debian's Chromium is, unless `CHROMIUM` says otherwise. */
export const chromiumPath = process.env["CHROMIUM"] ?? "/usr/bin/chromium";

const options: LaunchOptions = {
  executablePath: chromiumPath,
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
};

/** Starts Chromium without a window. */
export function openBrowser(): Promise<Browser> {
  return chromium.launch(options);
}

/** Starts Chromium without a window, for several processes at once: each connects to its `wsEndpoint`. */
export function openSharedBrowser(): Promise<BrowserServer> {
  return chromium.launchServer(options);
}
