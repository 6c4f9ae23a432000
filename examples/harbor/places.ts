import type { CuePayload, Session, Spawn } from "zealous-mantle";
import { paintPostOffice, paintPostOfficeFront, paintWhistle } from "../shared/post-office.ts";
import { paintHarborJetty, paintJettyLights, paintMarsh, paintMarshFront } from "../shared/scenery.ts";
import { openLocker } from "./locker.ts";

type Painting = (context: CanvasRenderingContext2D, width: number, height: number, time: number) => void;

/** Something one can do something with. */
export interface Thing {
  readonly x: number;
  /** The word that is raised; the catalog says what follows. */
  readonly word: string;
  /** What can be done, and what is said when it was. */
  readonly offers: string;
  readonly says: string;
  /** The part that lies here, until the player has it. */
  readonly part?: string;
  /** Asks the player, with a screen, for more that comes with the word; nothing is raised when they think better of it. */
  readonly ask?: (session: Session, word: string) => Promise<CuePayload | undefined>;
  /** The page it leads to. */
  readonly leads?: string;
  readonly paint?: (context: CanvasRenderingContext2D, x: number) => void;
}

/** A place one can stand in: how it looks, where its ground is, where one enters it, and what lies beyond its edges. */
export interface Place {
  readonly title: string;
  readonly paint: Painting;
  readonly paintFront?: Painting;
  /** What shines there at night. */
  readonly paintLights?: Painting;
  /** The least and greatest y a figure can stand at, in pixels of the scene. */
  readonly ground: readonly [number, number];
  readonly west?: string;
  readonly east?: string;
  readonly spawns: readonly Spawn[];
  readonly things: readonly Thing[];
  /** Where one stands in water. */
  readonly water?: (x: number, y: number) => boolean;
  /** Where somebody else stands. */
  readonly bystander?: Spawn;
  readonly isIndoors?: boolean;
}

export const places: Readonly<Record<string, Place>> = {
  jetty: {
    title: "The jetty",
    paint: paintHarborJetty,
    paintLights: paintJettyLights,
    ground: [150, 173],
    east: "marsh",
    spawns: [
      { x: 160, y: 161, facing: "south" },
      { x: 312, y: 161, facing: "west", from: "marsh" },
    ],
    things: [
      { x: 113, word: "touch:locker", offers: "Open the locker", says: "Changed from head to foot.", ask: openLocker },
    ],
  },
  marsh: {
    title: "The marsh at low water",
    paint: paintMarsh,
    paintFront: paintMarshFront,
    ground: [140, 168],
    west: "jetty",
    east: "post-office",
    spawns: [
      { x: 160, y: 154, facing: "south" },
      { x: 8, y: 154, facing: "east", from: "jetty" },
      { x: 312, y: 154, facing: "west", from: "post-office" },
    ],
    things: [
      {
        x: 262,
        word: "find:whistle",
        offers: "Pick up what glints there",
        says: "A boatman’s whistle. It is in the bag.",
        part: "whistle",
        paint: paintWhistle,
      },
    ],
    water: (x, y) => y > 160 && x > 60 && x < 290,
  },
  "post-office": {
    title: "The post office",
    paint: paintPostOffice,
    paintFront: paintPostOfficeFront,
    ground: [146, 168],
    west: "marsh",
    spawns: [
      { x: 110, y: 158, facing: "south" },
      { x: 8, y: 158, facing: "east", from: "marsh" },
    ],
    things: [
      {
        x: 246,
        word: "use:whistle",
        offers: "Whistle for the ferry",
        says: "The ferry answers, and hands out its clothes.",
      },
      { x: 296, word: "board", offers: "Board the ferry", says: "", leads: "../ferry/" },
    ],
    bystander: { x: 176, y: 152, facing: "south" },
    isIndoors: true,
  },
};
