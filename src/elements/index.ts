/**
 * Zealous Mantle's ready-made screens, as custom elements: import this, and they can be written in any page.
 *
 * @module zealous-mantle/elements
 */

export { type OpenScreenOptions, openScreen, type ScreenName, type ScreenResults } from "./open-screen.ts";
export { CharacterEvent, type EndEvents } from "./character-event.ts";
export type { ScreenElement } from "./screen-element.ts";
export { MantleFitting, RequestEvent } from "./fitting-screen.ts";
export { ResultEvent, type ResultEvents } from "./result-event.ts";
export { MantleSteps } from "./steps-screen.ts";
export { MantleEquipment } from "./equipment-screen.ts";
export { MantleRoster } from "./roster-screen.ts";
export { MantleSeats, pointerDevice, StartEvent } from "./seats-screen.ts";
export { type Backdrop, MantleStage, PickEvent } from "./stage.ts";
export { ShowEvent } from "./show-event.ts";
export { type Card, CardEvent, type DrawCard } from "./card.ts";
export { MantleCards } from "./option-cards.ts";
export type { Inspected, LayerEvent, MantleInspect } from "./inspect.ts";
export type { ElementProps, EventsOf, ListenersOf, MantleElements, MantleTags, PropertiesOf } from "./jsx.ts";
export type { ScreenLanguage, ScreenText, ScreenTexts } from "./texts.ts";
