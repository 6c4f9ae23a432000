import { type Cel, resolveLook } from "zealous-mantle";
import { celsAt } from "zealous-mantle/raster";
import { makeFigure } from "../looks.ts";
import { agree, type Row, sideBySide } from "../measure.ts";

const calls = 100_000;

/** Which pictures to show now, for a figure that goes on walking. */
export const moment: Row = {
  name: "moment",
  work: "celsAt in steady state, and walk its 12 cels",
  against: "walking the same cels in a prebuilt array",
  unit: "ms for 100,000",
  goal: { atMost: 4 },
  async measure() {
    const figure = makeFigure();
    const look = resolveLook(figure.catalog, figure.painted(1));
    const moments = Array.from({ length: 256 }, (_, tick) => ({ animation: "two", facing: "west", time: tick / 60 }));
    const prebuilt = moments.map((each) => celsAt(look, each));
    const ours = () => {
      let sum = 0;
      for (let call = 0; call < calls; call += 1) sum += walk(celsAt(look, moments[call % 256] as (typeof moments)[0]));
      return sum;
    };
    const theirs = () => {
      let sum = 0;
      for (let call = 0; call < calls; call += 1) sum += walk(prebuilt[call % 256] as readonly Cel[]);
      return sum;
    };
    agree(ours() === theirs(), "the cels are not the same");
    const before = process.memoryUsage().heapUsed;
    for (let run = 0; run < 10; run += 1) ours();
    const grown = process.memoryUsage().heapUsed - before;
    agree(grown < 500_000, `a million calls left ${grown} bytes behind, and should leave none`);
    return sideBySide({ run: ours, times: 1 }, { run: theirs, times: 1 });
  },
};

function walk(cels: readonly Cel[]): number {
  let sum = 0;
  for (let at = 0; at < cels.length; at += 1) {
    const cel = cels[at] as Cel;
    sum += cel.x + cel.y + cel.source.x + cel.source.y + cel.source.width + cel.source.height + (cel.flip ? 1 : 0);
  }
  return sum;
}
