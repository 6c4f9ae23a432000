import { sep } from "node:path";
import Sequencer from "@jest/test-sequencer";

/** The tests that need a page come after all others: a browser takes a core of its own, and what runs beside it would wait. */
export default class PagesLast extends Sequencer {
  sort(tests) {
    const needsPage = ({ path }) => path.includes(`${sep}browser${sep}`);
    const sorted = super.sort(tests);
    return [...sorted.filter((test) => !needsPage(test)), ...sorted.filter(needsPage)];
  }
}
