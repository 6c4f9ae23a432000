import { paintHarborJetty, paintMarsh, paintMarshFront } from "../shared/scenery.ts";

type Painting = (context: CanvasRenderingContext2D, width: number, height: number, time: number) => void;

/** A place one can stand in: how it looks, where its ground is, and what lies beyond its edges. */
export interface Place {
  readonly title: string;
  readonly paint: Painting;
  readonly paintFront?: Painting;
  /** The least and greatest y a figure can stand at, in pixels of the scene. */
  readonly ground: readonly [number, number];
  readonly west?: string;
  readonly east?: string;
  /** Where one stands in water. */
  readonly water?: (x: number, y: number) => boolean;
  /** The x of a locker one can open. */
  readonly locker?: number;
}

export const places: Readonly<Record<string, Place>> = {
  jetty: { title: "The jetty", paint: paintHarborJetty, ground: [150, 173], east: "marsh", locker: 113 },
  marsh: {
    title: "The marsh at low water",
    paint: paintMarsh,
    paintFront: paintMarshFront,
    ground: [140, 168],
    west: "jetty",
    water: (x, y) => y > 160 && x > 60 && x < 290,
  },
};
