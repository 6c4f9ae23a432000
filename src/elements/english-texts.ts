import type { ScreenLanguage } from "./texts.ts";
import * as texts from "./texts.ts";

/** Every text of the screens, in English. */
export const englishScreenTexts = {
  ...texts.commonTexts,
  ...texts.stageTexts,
  ...texts.endingTexts,
  ...texts.choosingTexts,
  ...texts.wearingTexts,
  ...texts.fittingTexts,
  ...texts.stepsTexts,
  ...texts.equipmentTexts,
  ...texts.peopleTexts,
  ...texts.rosterTexts,
  ...texts.seatsTexts,
} as const satisfies ScreenLanguage;
