import { composeFrame, type Look, resolveLook } from "zealous-mantle";
import { type AtlasFrame, openAtlas } from "zealous-mantle/raster";
import { makeFigure } from "../looks.ts";
import { agree, type Row, sideBySide } from "../measure.ts";

const looks = 50;
const calls = 100_000;

/** Which place of the atlas to show now, for a crowd whose frames are all there. */
export const atlasFrame: Row = {
  name: "atlas-frame",
  work: "a frame of the atlas that is there already, of 50 looks in turn",
  against: "a map of maps of arrays, by look, by animation and facing, by frame",
  unit: "ms for 100,000",
  goal: { atMost: 3 },
  async measure() {
    const figure = makeFigure();
    const crowd = Array.from({ length: looks }, (_, number) => resolveLook(figure.catalog, figure.painted(number + 1)));
    const atlas = openAtlas(figure.images);
    const moments = Array.from({ length: 16 }, (_, frame) => ({
      animation: "two",
      facing: "west",
      time: (frame + 0.5) / 12,
    }));
    const map = new Map(
      crowd.map((look) => [look, new Map([["two west", moments.map((moment) => atlas.frame(look, moment))]])] as const),
    );
    for (const look of crowd.slice(0, 5)) {
      const [moment] = moments;
      if (moment === undefined) continue;
      const { page, x, y, width, left, top } = atlas.frame(look, moment);
      const whole = composeFrame(look, figure.images, moment);
      const at = ((top + look.rig.origin.y) * whole.width + left + look.rig.origin.x) * 4;
      const start = (y * (page?.size ?? 0) + x) * 4;
      const row = page?.data.subarray(start, start + width * 4);
      agree(row?.every((value, byte) => value === whole.data[at + byte]) === true, "the pixels are not the same");
    }
    const ours = () => {
      let sum = 0;
      for (let call = 0; call < calls; call += 1)
        sum += atlas.frame(crowd[call % looks] as Look, moments[call % 16] as (typeof moments)[0]).x;
      return sum;
    };
    const theirs = () => {
      let sum = 0;
      for (let call = 0; call < calls; call += 1) {
        const frames = map.get(crowd[call % looks] as Look)?.get("two west") as readonly AtlasFrame[];
        const { time } = moments[call % 16] as (typeof moments)[0];
        sum += (frames[Math.floor(time * 12) % 16] as AtlasFrame).x;
      }
      return sum;
    };
    agree(ours() === theirs(), "the frames are not the same");
    const before = process.memoryUsage().heapUsed;
    for (let run = 0; run < 10; run += 1) ours();
    const grown = process.memoryUsage().heapUsed - before;
    agree(grown < 500_000, `a million calls left ${grown} bytes behind, and should leave none`);
    return sideBySide({ run: ours, times: 1 }, { run: theirs, times: 1 });
  },
};
