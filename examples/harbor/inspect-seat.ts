import type { Figure, Seat } from "zealous-mantle";
import { catalog } from "../shared/saltmarsh.ts";

const isWanted = new URLSearchParams(location.search).has("inspect");

/** With `?inspect` in the address, lays the overlay over the page that says why whoever sits here looks as they do. */
export function inspectSeat(seat: Seat, figure: Figure): void {
  if (!isWanted) return;
  void import("../../src/elements/inspect.ts").then(() => {
    const overlay =
      document.querySelector("mantle-inspect") ?? document.body.appendChild(document.createElement("mantle-inspect"));
    overlay.figure = () => {
      const { character, signals, look } = seat;
      if (character === undefined || look === undefined) return undefined;
      return { catalog, character, moment: figure.moment, signals, before: look.activeForms };
    };
  });
}
