import vm from "node:vm";
import { TestEnvironment } from "jest-environment-node";
import { takeSample } from "./speed-sample.js";

/**
 * The usual environment, with a global object that is a plain one: what is usual looks at every `Math` and `Map` that code names, and loops over
 * pixels take ten times as long.
 */
export default class PlainGlobals extends TestEnvironment {
  constructor(config, context) {
    takeSample();
    const { createContext } = vm;
    vm.createContext = (_, options) => createContext(vm.constants.DONT_CONTEXTIFY, options);
    try {
      super(config, context);
    } finally {
      vm.createContext = createContext;
    }
  }
}
