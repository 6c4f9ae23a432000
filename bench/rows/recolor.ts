import { resolveLook } from "zealous-mantle";
import { bakeSheet } from "zealous-mantle/raster";
import { composedPlainly, makeFigure, recoloredSheets, sameBytes } from "../looks.ts";
import { agree, type Row, sideBySide } from "../measure.ts";

/** The same character in colors it never had, all of its sheets. */
export const recolor: Row = {
  name: "recolor",
  work: "one of 50 new color sets of a character, all sheets",
  against: "replacing key colors pixel by pixel and composing",
  unit: "ms",
  goal: { atLeast: 20 },
  async measure() {
    const figure = makeFigure();
    const turns = { ours: 0, theirs: 0 };
    const next = (who: keyof typeof turns) => {
      turns[who] += 1;
      return resolveLook(figure.catalog, figure.painted(1 + (turns[who] % 50)));
    };
    const ours = () => bakeSheet(next("ours"), figure.images).image;
    const theirs = () => composedPlainly(recoloredSheets(figure, next("theirs")));
    agree(sameBytes(ours().data, theirs().data), "the pictures are not the same");
    return sideBySide({ run: ours, times: 5 }, { run: theirs, times: 1 }, 15);
  },
};
