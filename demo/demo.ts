/** The whole job in the terminal, on the demo catalog: `npm run demo`. */
import { spawnSync } from "node:child_process";
import { mkdir, rm, writeFile } from "node:fs/promises";
import { join, relative } from "node:path";
import { fileURLToPath } from "node:url";
import { isDeepStrictEqual } from "node:util";
import pc from "picocolors";
import {
  type Character,
  checkLoadout,
  composeFrame,
  createCharacter,
  describeProblem,
  distinguish,
  drawCrop,
  type EditResult,
  type Evidence,
  editMessage,
  format,
  type Image,
  openFitting,
  openSession,
  resolveLook,
  textIn,
  wornParts,
} from "zealous-mantle";
import { messages } from "zealous-mantle/locales/en";
import { fileStore, inspectCatalog, loadImages } from "zealous-mantle/node";
import { bakeSheet, encodeApng, encodePng, enlargeImage } from "zealous-mantle/raster";
import { countLoadouts, repairLoadout, rollCharacter, solver } from "zealous-mantle/solver";
import { pictureSum } from "./picture-sum.ts";

const folder = fileURLToPath(new URL("./saltmarsh", import.meta.url));
const out = fileURLToPath(new URL("../out", import.meta.url));
const saves = join(out, "saves");
const lineLength = Math.min(170, process.stdout.columns ?? 100) - 2;
const say = (text: string) => console.log(text);
const heading = (text: string) => say(`\n${pc.bold(text)}`);

heading("1  The catalog");
const { catalog, problems } = await inspectCatalog(folder);
for (const problem of problems) say(`   ${describeProblem(problem, messages)}`);
if (catalog === undefined) throw new Error("The demo catalog cannot be used");
say(
  `   ${textIn(catalog.title)}: ${catalog.bodies.size} bodies, ${catalog.slots.size} slots, ${catalog.parts.size} parts. ${problems.length} problems.`,
);

heading("2  Three couriers, rolled from seeds 7, 8 and 9");
for (const seed of [7, 8, 9]) {
  const rolled = rollCharacter(catalog, { seed });
  await picture(`${rolled.id}.png`, enlargeImage(await standing(rolled), 4));
  say(wrapped(worn(rolled), 6));
}

heading("3  Wren is dressed");
const fitting = openFitting(catalog, createCharacter(catalog, { body: "reed", name: "Wren", id: "wren" }), { solver });
report("wear braid", fitting.wear("braid"));
report("paint hair silver", fitting.paint("hair", "silver"));
report("wear storm-hat", fitting.wear("storm-hat"));
report("dress storm-watch", fitting.dress("storm-watch"));
report("wear hood-up", fitting.wear("hood-up"));
report("wear lamp-crown", fitting.wear("lamp-crown"));
report("wear watch-chain", fitting.wear("watch-chain"));
explained("watch-chain", "chain");
report("wear watch-chain", fitting.wear("watch-chain"));
report("remove vest", fitting.remove("vest"));
report("remove boots", fitting.remove("boots"));
report("remove boots", fitting.remove("boots"));
report("wear strom-hat", fitting.wear("strom-hat"));
fitting.undo();
say(`   undo               ${pc.green("done   ")}  the boots are back on`);
const wren = fitting.finish();
say(wrapped(`Wren wears ${worn(wren)}.`, 3));
say(`   ${checkLoadout(catalog, wren).length} problems in the loadout.`);

heading("4  A character from elsewhere is judged, and mended with the fewest edits");
const stranger = {
  ...wren,
  loadout: { chain: "watch-chain", hat: "lamp-crown", neck: "hood-up", "hand-right": "boathook" },
};
for (const problem of checkLoadout(catalog, stranger, { solver }))
  say(wrapped(`${pc.red("wrong")}  ${format(problem, messages)}`, 3));
const repair = repairLoadout(catalog, stranger);
for (const edit of repair.edits ?? []) say(`   ${pc.green("mend ")}  ${format(editMessage(edit), messages)}`);
say(`   ${repair.changes} slots change, and it is proved that fewer would not do.`);
const { count } = countLoadouts(catalog, { body: "reed" });
say(`   A reed can be dressed in exactly ${count.toLocaleString("en")} valid ways.`);

heading("5  Pictures, all from the same layers");
const look = resolveLook(catalog, wren);
const images = await loadImages(folder, [look]);
await picture("wren-portrait.png", enlargeImage(drawCrop(look, images, "portrait"), 6));
await picture("wren-token.png", enlargeImage(drawCrop(look, images, "token"), 6));
const baked = bakeSheet(look, images, { animations: ["walk"] });
await picture("wren-walk.png", enlargeImage(baked.image, 2));
await writeFile(join(out, "wren-walk.frames.json"), `${JSON.stringify(baked.table, null, 2)}\n`);
const packed = bakeSheet(look, images, { packed: true });
const share = (packed.image.width * packed.image.height) / (packed.table.frames.length * 64 * 80);
say(`   All ${packed.table.frames.length} frames packed take ${Math.round(share * 100)}% of their room.`);

const weary = resolveLook(catalog, wren, { signals: { stamina: 2 } });
const rested = [3, 4].map((stamina) => resolveLook(catalog, wren, { signals: { stamina }, before: weary.activeForms }));
say(`   At stamina 2 Wren is ${weary.form}, at 3 still ${rested[0]?.form}, and at 4 ${rested[1]?.form ?? "rested"}.`);
const wading = resolveLook(catalog, wren, { signals: { "in-water": true } });
const inWater = await loadImages(folder, [wading]);
const steps = Array.from({ length: 8 }, (_, step) => ({
  image: enlargeImage(composeFrame(wading, inWater, { animation: "walk", facing: "south", time: step / 8 }), 4),
  duration: 1 / 8,
}));
await write("wren-wading.png", encodeApng(steps), "256×320, moving");
const friends = [wren, wren, wren].map((each, seat) => ({ ...each, id: `seat-${seat + 1}` }));
const { ramps, difference } = distinguish(catalog, friends, { channel: "cloth" });
say(`   Three who look alike are told apart by ${ramps.join(", ")} (ΔE ${difference.toFixed(0)} for any eyes).`);

heading("6  Saved, and met again in another scene");
await rm(saves, { recursive: true, force: true });
const session = await openSession({ catalog, store: fileStore(saves) });
session.add(wren);
session.seat(1).take(wren.id);
await session.flush();
const mine = pictureSum(composeFrame(look, images, { animation: "walk", facing: "west", time: 0.35 }));
say(`   This process saved ${wren.name} and drew picture ${mine}.`);
const script = fileURLToPath(new URL("./second-scene.ts", import.meta.url));
const scene = spawnSync(process.execPath, [...process.execArgv, script, folder, saves], { encoding: "utf8" });
if (scene.status !== 0) throw new Error(`The second scene failed: ${scene.stderr}`);
const theirs: { character: Character; picture: string } = JSON.parse(scene.stdout);
say(
  `   A new process opened the session, found ${theirs.character.name} in seat 1 and drew picture ${theirs.picture}.`,
);
const same = isDeepStrictEqual(theirs.character, wren) && theirs.picture === mine;
say(same ? `   ${pc.green("The same")}: every choice and every pixel.` : `   ${pc.red("Not the same.")}`);
if (!same) process.exitCode = 1;

say(`\nThe pictures are in ${relative(process.cwd(), out) || "."}/. To dress a courier yourself: npm start`);

/** Says of a blocked part which facts stand in its way, and does the fewest edits that lead to it. */
function explained(part: string, slot: string): void {
  const option = fitting.options(slot).find((each) => each.part.id === part);
  const chain = option?.problems[0]?.chain ?? [];
  say(wrapped(`Why? ${chain.map(sayFact).join(" → ")}`, 22));
  const firsts = (option?.editsToWear ?? []).filter((edit) => edit.wear !== part);
  for (const edit of firsts) report(Object.entries(edit).slice(0, 1).flat().join(" "), fitting.apply(edit));
}

function sayFact(fact: Evidence): string {
  if (fact.kind === "worn") return `the ${fact.part} would be worn`;
  if (fact.kind === "missing") return "what it needs is not there";
  return fact.kind === "rule" ? textIn(fact.message ?? "a rule forbids it") : fact.kind;
}

function report(edit: string, result: EditResult): void {
  const verdict = result.ok ? pc.green("done   ") : pc.red("refused");
  const reasons = result.ok
    ? result.displaced.map(
        ({ part, to, because }) => `${part} goes ${to === "bag" ? "back" : "away"}: ${format(because, messages)}`,
      )
    : result.problems.map((problem) => [problem, ...problem.fixes].map((each) => format(each, messages)).join(" "));
  const margin = 31;
  say(`   ${edit.padEnd(18)} ${verdict}  ${wrapped(reasons.join(" "), margin).trim()}`.trimEnd());
}

/** A text in lines that fit the terminal, each moved in. */
function wrapped(text: string, indent: number): string {
  const lines = [""];
  for (const word of text.split(" ")) {
    const line = lines.at(-1) ?? "";
    if (line.length + word.length > lineLength - indent) lines.push(word);
    else lines[lines.length - 1] = line === "" ? word : `${line} ${word}`;
  }
  return lines.map((line) => " ".repeat(indent) + line).join("\n");
}

function worn(character: Character): string {
  return catalog === undefined
    ? ""
    : wornParts(catalog, character)
        .map(({ part }) => part.id)
        .join(", ");
}

async function standing(character: Character): Promise<Image> {
  if (catalog === undefined) throw new Error("The demo catalog cannot be used");
  const itsLook = resolveLook(catalog, character);
  return composeFrame(itsLook, await loadImages(folder, [itsLook]), { animation: "idle", facing: "south", time: 0 });
}

async function picture(name: string, image: Image): Promise<void> {
  await write(name, encodePng(image), `${image.width}×${image.height}`);
}

async function write(name: string, bytes: Uint8Array, about: string): Promise<void> {
  await mkdir(out, { recursive: true });
  await writeFile(join(out, name), bytes);
  say(`   ${join("out", name)}  ${about}`);
}
