/**
 * Makes sure that the browser tests have a browser: Debian's Chromium, installed when it is missing and we may. Chromium without windows
 * is preferred, with which the tests take a seventh less time; where only that with windows is there, and the other cannot be had, it does.
 */
import { existsSync } from "node:fs";
import { chromiumPath, headlessChromium } from "./browser.ts";
import { mayInstall, run } from "./debian.ts";

const name = "chromium-headless-shell";
/** Where there is no network, that is known soon. */
const soonOver = ["-o", "Acquire::Retries=0", "-o", "Acquire::http::Timeout=10"];

if (!existsSync(chromiumPath)) {
  if (!mayInstall) {
    console.error(`The browser tests need Chromium at ${chromiumPath}, and this user may not install it.`);
    console.error(`Install it (on Debian: sudo apt-get install ${name}), or set CHROMIUM to where it is.`);
    process.exit(1);
  }
  console.log("Installing Debian's Chromium for the browser tests …");
  const failure = run("apt-get", ["update"]) ?? run("apt-get", ["install", "--yes", "--no-install-recommends", name]);
  if (failure !== undefined || !existsSync(headlessChromium)) {
    console.error(failure ?? `It is installed, and there is nothing at ${headlessChromium}.`);
    process.exit(1);
  }
} else if (mayInstall && process.env["CHROMIUM"] === undefined && !existsSync(headlessChromium)) {
  console.log("Installing Debian's Chromium without windows, with which the tests take less time …");
  const failure = run("apt-get", [...soonOver, "install", "--yes", "--no-install-recommends", name]);
  if (failure !== undefined) console.log(`It cannot be installed; the tests use ${chromiumPath}.`);
}
