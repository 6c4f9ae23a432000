/** Prints a program for a page in one piece of JavaScript: for the browser tests, whose own process cannot bundle. */
import { resolve } from "node:path";
import { bundlePage } from "./bundle-page.ts";

process.stdout.write(await bundlePage(resolve(process.argv[2] ?? "")));
