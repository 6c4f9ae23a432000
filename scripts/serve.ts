/** Builds and serves the examples until it is stopped; prints where. For the browser tests. */
import { serveExamples } from "./serve-examples.ts";

const { url } = await serveExamples();
console.log(url);
