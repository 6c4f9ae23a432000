import { sep } from "node:path";
import vm from "node:vm";
import { TestEnvironment } from "jest-environment-node";
import { takeSample } from "./speed-sample.js";

/**
 * The usual environment, with a global object that is a plain one: what is usual looks at every `Math` and `Map` that code names, and loops over
 * pixels take ten times as long.
 */
export default class PlainGlobals extends TestEnvironment {
  #needsPage;

  constructor(config, context) {
    takeSample();
    const { createContext } = vm;
    vm.createContext = (_, options) => createContext(vm.constants.DONT_CONTEXTIFY, options);
    try {
      super(config, context);
    } finally {
      vm.createContext = createContext;
    }
    this.#needsPage = context.testPath.includes(`${sep}browser${sep}`);
  }

  async setup() {
    await super.setup();
    // Loaded once for each worker: within each file of tests it would be loaded anew, which takes half a second.
    if (this.#needsPage) this.global.chromium = (await import("playwright-core")).chromium;
  }
}
