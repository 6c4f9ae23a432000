// A thread begins without what lets Node read TypeScript.
import { register } from "tsx/esm/api";

register();

export const { drawPicture } = await import("./draw-picture.ts");
