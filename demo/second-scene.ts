/** Another scene, in a process of its own: it knows the catalog and the store, and asks the session who seat 1 is. */
import { composeFrame, openSession, resolveLook } from "zealous-mantle";
import { fileStore, loadCatalog, loadImages } from "zealous-mantle/node";
import { pictureSum } from "./picture-sum.ts";

const [folder = "", saves = ""] = process.argv.slice(2);
const catalog = await loadCatalog(folder);
const session = await openSession({ catalog, store: fileStore(saves) });
const character = session.seat(1).character;
if (character === undefined) throw new Error("Nobody is in seat 1");
const look = resolveLook(catalog, character);
const frame = composeFrame(look, await loadImages(folder, [look]), { animation: "walk", facing: "west", time: 0.35 });
console.log(JSON.stringify({ character, picture: pictureSum(frame) }));
