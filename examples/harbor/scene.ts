import { type CuePayload, countGear, openFigure, placeSeats, type Session, type Spawn } from "zealous-mantle";
import { type Action, type CanvasPainter, type Controls, isInputCaptured } from "zealous-mantle/browser";
import { contextOf, make } from "../shared/dom.ts";
import { darken, glow } from "../shared/night.ts";
import { catalog, inWords, loader } from "../shared/saltmarsh.ts";
import { inspectSeat } from "./inspect-seat.ts";
import { type Place, places, type Thing } from "./places.ts";

/** What every scene works with. */
export interface Stage {
  readonly canvas: HTMLCanvasElement;
  readonly painter: CanvasPainter;
  readonly controls: Controls;
  readonly session: Session;
  /** Says what happened. */
  readonly say: (text: string) => void;
  /** Shows what can be done here. */
  readonly offer: (text: string, act: () => void) => void;
  readonly isNight: () => boolean;
}

/** Where one goes, and where one comes from. */
export interface Entry {
  readonly place: string;
  readonly from?: string;
}

/** Somebody who stands in the scene: where, in pixels. */
type Body = { x: number; y: number; facing?: string };

const speed = 62;
/** Seconds for which the print of a foot is seen. */
const printed = 0.4;
const strongest = 9;
const ways = [
  ["left", "west", -1, 0],
  ["right", "east", 1, 0],
  ["up", "north", 0, -1],
  ["down", "south", 0, 1],
] as const satisfies readonly (readonly [Action, string, number, number])[];
type Direction = (typeof ways)[number];

/**
 * Plays one scene until the player leaves it, and says where they go. The scene knows its place, and nothing of any figure: the player
 * is whoever sits in seat 1, a bystander whoever sits in seat 2, as they look now.
 */
export function playScene(stage: Stage, entry: Entry): Promise<Entry> {
  const { canvas, painter, controls, session, say, offer, isNight } = stage;
  const place = places[entry.place] as Place;
  const context = contextOf(canvas);
  const still = matchMedia("(prefers-reduced-motion: reduce)");
  const seat = session.seat(1);
  const spawn = placeSeats([1], place.spawns, entry).get(1) as Spawn;
  let body: Body = { ...spawn };
  const figure = openFigure({ session, seat: 1, loader, animation: "idle", at: body });
  // Who stands here already keeps their place; only who moves them is another, when control passes.
  let beside: Body | undefined = place.bystander && { ...place.bystander };
  const bystander = beside && openFigure({ session, seat: 2, loader, animation: "idle", at: beside });
  inspectSeat(seat, figure);
  let stamina = strongest;
  let goal: { x: number; y: number } | undefined;

  const front = contextOf(make("canvas", { width: canvas.width, height: canvas.height }));
  /** What stands before the figures, darkened alone at night. */
  const paintFront = (isDark: boolean, time: number) => {
    if (place.paintFront === undefined) return;
    const { width, height } = canvas;
    front.globalCompositeOperation = "source-over";
    front.clearRect(0, 0, width, height);
    place.paintFront(front, width, height, time);
    if (isDark) {
      front.globalCompositeOperation = "source-atop";
      front.fillStyle = "#1a2248a0";
      front.fillRect(0, 0, width, height);
    }
    context.drawImage(front.canvas, 0, 0);
  };
  const player = () => session.seat(1).character;
  let counted: ReturnType<typeof player>;
  let gear: ReadonlyMap<string, number> = new Map();
  const has = (part: string) => {
    const now = player();
    if (now !== undefined && now !== counted) gear = countGear(catalog, now);
    counted = now;
    return (gear.get(part) ?? 0) > 0;
  };
  const near = () =>
    place.things.find(({ x, part }) => Math.abs(body.x - x) < 16 && (part === undefined || !has(part)));
  const nearOther = () =>
    beside !== undefined && bystander?.look !== undefined && Math.hypot(body.x - beside.x, body.y - beside.y) < 30;

  const use = async ({ leads, word, ask, says }: Thing) => {
    if (leads !== undefined) return void session.flush().then(() => location.assign(leads));
    const asked = ask === undefined ? {} : await ask(session, word);
    if (asked === undefined) return;
    const payload: CuePayload = { by: "player", ...asked };
    const meant = session
      .raise(word, payload)
      .filter(({ cue }) => Object.entries(cue.payload).every(([key, value]) => payload[key] === value));
    const outcome = meant.find(({ ok }) => !ok) ?? meant.at(-1);
    if (outcome?.code !== "resting") say(outcome?.ok ? says : inWords(outcome?.because));
  };
  /** Control passes to who stands there: the figures stay, and the player is the other one now. */
  const touch = () => {
    const other = session.seat(2).character;
    if (other === undefined || beside === undefined || bystander === undefined) return;
    const [outcome] = session.raise("touch:courier", { by: "player", with: other.id });
    if (outcome?.code === "grace") return say("Still busy with the mail. In a moment.");
    if (!outcome?.ok) return say(inWords(outcome?.because));
    [body, beside] = [{ ...beside }, { ...body, facing: figure.facing }];
    [figure.at, bystander.at] = [body, beside];
    say(`You are ${other.name} now.`);
  };
  const act = () => {
    const thing = near();
    if (thing !== undefined) void use(thing);
    else if (nearOther()) touch();
  };
  const showOffer = () => {
    const other = session.seat(2).character;
    offer(near()?.offers ?? (nearOther() ? `Be ${other?.name ?? ""}` : ""), act);
  };

  /** Where a foot came down a moment ago, what it said, and how long ago that is in seconds. */
  let prints: { readonly x: number; readonly y: number; readonly word: string; age: number }[] = [];
  figure.on("event", ({ word }) => {
    if (!still.matches) prints.push({ x: body.x, y: body.y, word, age: 0 });
  });

  return new Promise((leave) => {
    const stopPresses = controls.on("press", ({ action }) => {
      if (action === "act") act();
      return action !== "back";
    });
    const point = (event: PointerEvent) => {
      if (event.buttons === 0) return;
      const box = canvas.getBoundingClientRect();
      const scale = canvas.width / box.width;
      goal = { x: (event.clientX - box.left) * scale, y: (event.clientY - box.top) * scale };
    };
    canvas.addEventListener("pointerdown", point);
    canvas.addEventListener("pointermove", point);
    const end = (next: Entry) => {
      stopPresses();
      canvas.removeEventListener("pointerdown", point);
      canvas.removeEventListener("pointermove", point);
      figure.close();
      bystander?.close();
      leave(next);
    };

    let before = performance.now();
    const tick = (now: number) => {
      const seconds = Math.min(0.1, (now - before) / 1000);
      before = now;
      const pressed = ways.filter(([action]) => isHeld(controls, action));
      if (pressed.length > 0 || isInputCaptured()) goal = undefined;
      const held = pressed.length > 0 ? pressed : waysTo(body, goal);
      if (held.length === 0) goal = undefined;
      walk(body, held, seconds, place);
      figure.animation = held.length > 0 ? "walk" : "idle";
      figure.facing = held.at(-1)?.[1] ?? figure.facing;
      figure.advance(seconds);
      bystander?.advance(seconds);
      for (const print of prints) print.age += seconds;
      prints = prints.filter(({ age }) => age < printed);

      // What the running game knows, in the game's own words; the catalog says what follows.
      stamina = Math.max(0, Math.min(strongest, stamina + (held.length > 0 ? -0.9 : 1.8) * seconds));
      seat.signal({ stamina: Math.floor(stamina), "in-water": place.water?.(body.x, body.y) ?? false });
      showOffer();

      const scenery = still.matches ? 0 : now / 1000;
      place.paint(context, canvas.width, canvas.height, scenery);
      for (const thing of place.things)
        if (thing.part === undefined || !has(thing.part)) thing.paint?.(context, thing.x);
      const isDark = isNight() && !place.isIndoors;
      if (isDark) {
        darken(context);
        glow(context, body.x, body.y - 24, 60);
        place.paintLights?.(context, canvas.width, canvas.height, scenery);
      }
      for (const print of prints) paintPrint(context, print);
      const isBehind = beside !== undefined && beside.y < body.y;
      if (isBehind) bystander?.paint(context, painter);
      figure.paint(context, painter);
      if (!isBehind) bystander?.paint(context, painter);
      paintFront(isDark, scenery);
      Object.assign(canvas.dataset, {
        place: entry.place,
        x: String(Math.round(body.x)),
        y: String(Math.round(body.y)),
        facing: figure.facing,
        animation: figure.animation,
        form: figure.look?.form ?? "",
        who: player()?.id ?? "",
      });
      keepInView(canvas, body);
      const beyond = body.x < 0 ? place.west : body.x > canvas.width ? place.east : undefined;
      if (beyond === undefined) requestAnimationFrame(tick);
      else end({ place: beyond, from: entry.place });
    };
    requestAnimationFrame(tick);
  });
}

/** Dust from a step, or a ring on the water. */
function paintPrint(
  context: CanvasRenderingContext2D,
  { x, y, word, age }: { readonly x: number; readonly y: number; readonly word: string; readonly age: number },
): void {
  const grown = age / printed;
  context.globalAlpha = 1 - grown;
  context.fillStyle = word === "splash" ? "#d8ecec" : "#e9dcb8";
  const far = Math.round(3 + grown * (word === "splash" ? 9 : 4));
  const up = Math.round(grown * 2);
  for (const side of [-1, 1]) context.fillRect(Math.round(x) + side * far, Math.round(y) - up, 2, 1);
  context.globalAlpha = 1;
}

function isHeld(controls: Controls, action: Action): boolean {
  return controls.isDown("keys-arrows", action) || controls.isDown("gamepad-0", action);
}

/** The ways to a goal, until it is reached. */
function waysTo(body: Body, goal: { x: number; y: number } | undefined): readonly Direction[] {
  if (goal === undefined) return [];
  const [dx, dy] = [goal.x - body.x, goal.y - body.y];
  return ways.filter(([, , x, y]) => (x !== 0 ? dx * x > 2 : Math.abs(dx) <= 24 && dy * y > 12));
}

/** Where the scene is larger than the page, the player stays in view. */
function keepInView(canvas: HTMLCanvasElement, { x }: Body): void {
  const room = canvas.clientWidth - (canvas.parentElement?.clientWidth ?? 0);
  if (room <= 0) return void canvas.style.removeProperty("translate");
  const at = (x / canvas.width) * canvas.clientWidth - (canvas.clientWidth - room) / 2;
  canvas.style.translate = `${-Math.round(Math.min(room, Math.max(0, at)))}px`;
}

function walk(body: Body, held: readonly Direction[], seconds: number, place: Place): void {
  for (const [, , dx, dy] of held) {
    body.x += dx * speed * seconds;
    body.y += dy * speed * seconds * 0.5;
  }
  const [far, near] = place.ground;
  body.y = Math.min(near, Math.max(far, body.y));
  if (place.west === undefined) body.x = Math.max(14, body.x);
  if (place.east === undefined) body.x = Math.min(306, body.x);
}
