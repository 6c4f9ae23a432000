import { textIn } from "zealous-mantle";
import { type Coverage, type PartCoverage, surveyCoverage } from "zealous-mantle/authoring";
import { make } from "../shared/dom.ts";
import type { Bench } from "./bench.ts";

const words = { drawn: "drawn", "falls-back": "another animation in its place", missing: "nothing" };
const marks = { drawn: "", "falls-back": "~", missing: "×" };

/** What is drawn of every part on the chosen body, as a map: a click puts that on the bench. */
export function coverageMap(bench: Bench, open: () => void): HTMLElement {
  const { catalog, choice } = bench;
  const rig = catalog.bodies.get(choice.body)?.rig;
  const drawn = [...(rig?.facings.values() ?? [])].filter(({ mirrored }) => !mirrored);
  const animations = [...(rig?.animations.values() ?? [])];
  const rows = surveyCoverage(catalog).filter(({ body }) => body === choice.body);
  const top = make(
    "tr",
    {},
    make("td"),
    ...animations.map(({ title }) => {
      const cell = make("th", { textContent: textIn(title), colSpan: drawn.length });
      cell.scope = "colgroup";
      return cell;
    }),
  );
  const below = make(
    "tr",
    {},
    make("td"),
    ...animations.flatMap(() =>
      drawn.map(({ id }) => make("th", { textContent: id.charAt(0).toUpperCase(), title: id })),
    ),
  );
  const row = ({ part, moments }: PartCoverage) => {
    const cells = animations.flatMap(({ id }) =>
      drawn.map((facing) => {
        const moment = moments.find((each) => each.animation === id && each.facing === facing.id);
        return make("td", {}, cell(part, moment));
      }),
    );
    const title = make("th", {
      textContent: part === undefined ? "The body" : textIn(catalog.parts.get(part)?.title ?? part),
    });
    title.scope = "row";
    return make("tr", {}, title, ...cells);
  };
  const cell = (part: string | undefined, moment: Coverage | undefined) => {
    const { animation = "", facing = "", state = "missing", shown = [] } = moment ?? {};
    const button = make("button", { type: "button", className: state, textContent: marks[state] });
    const instead = state === "falls-back" ? ` (${shown.join(", ")})` : "";
    button.setAttribute("aria-label", `${part ?? "the body"}, ${animation}, ${facing}: ${words[state]}${instead}`);
    button.title = button.ariaLabel ?? "";
    button.tabIndex = -1;
    button.onclick = () => {
      bench.choose({ part, animation, facing, wearer: undefined });
      open();
    };
    return button;
  };
  const table = make("table", { className: "map" }, make("thead", {}, top, below), make("tbody", {}, ...rows.map(row)));
  walkByArrows(table);
  const isDrawn = new Set(drawn.map(({ id }) => id));
  const counts = rows.flatMap(({ moments }) =>
    moments.filter(({ facing }) => isDrawn.has(facing)).map(({ state }) => state),
  );
  const said = (["drawn", "falls-back", "missing"] as const).map(
    (state) => `${counts.filter((each) => each === state).length.toLocaleString("en")} ${words[state]}`,
  );
  return make(
    "div",
    { className: "scroll" },
    make("p", {
      className: "lead",
      textContent: `On ${textIn(catalog.bodies.get(choice.body)?.title ?? "")}: ${said.join(", ")}. Click a cell to see it.`,
    }),
    table,
  );
}

/** One cell of the table takes part in the order of the keyboard; arrows lead to the others. */
function walkByArrows(table: HTMLTableElement): void {
  const buttons = () => [...(table.tBodies[0]?.rows ?? [])].map((row) => [...row.querySelectorAll("button")]);
  const [first] = buttons()[0] ?? [];
  if (first !== undefined) first.tabIndex = 0;
  table.onkeydown = (event) => {
    const [down = 0, right = 0] =
      { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[event.key] ?? [];
    const all = buttons();
    const at = all.findIndex((row) => row.includes(event.target as HTMLButtonElement));
    const next = all[at + down]?.[(all[at]?.indexOf(event.target as HTMLButtonElement) ?? 0) + right];
    if (next === undefined || (down === 0 && right === 0)) return;
    event.preventDefault();
    (event.target as HTMLButtonElement).tabIndex = -1;
    next.tabIndex = 0;
    next.focus();
  };
}
