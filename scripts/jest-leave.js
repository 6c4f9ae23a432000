/** After the browser tests: stops serving the examples. */
export default function leave() {
  globalThis.examplesServer?.kill();
}
