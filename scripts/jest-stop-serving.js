/** After the browser tests: stops serving the examples, and what all tests share. */
import stop from "./jest-stop.js";

export default function stopServing() {
  globalThis.examplesServer?.removeAllListeners("exit");
  globalThis.examplesServer?.kill();
  stop();
}
