import { catalogTitles, format, textIn } from "zealous-mantle";
import { type Relation, relationsOf } from "zealous-mantle/authoring";
import { messages } from "zealous-mantle/locales/en";
import { make } from "../shared/dom.ts";
import type { Bench } from "./bench.ts";

const size = 680;
const middle = size / 2;
const radius = 214;
const verbs = { excludes: "excludes", displaces: "takes off", needs: "needs" };

/** Every part that a rule speaks of, on a circle by slots, with a line to each that it excludes, takes off or needs. */
export function ruleGraph(bench: Bench): HTMLElement {
  const { catalog, choice } = bench;
  const relations = relationsOf(catalog);
  const named = new Set(relations.flatMap(({ from, to }) => [from, to]));
  const parts = [...catalog.slots.values()].flatMap((slot) =>
    slot.parts.filter(({ id, slots }) => named.has(id) && slots[0] === slot.id),
  );
  const told = make("aside", { className: "told" });
  const svg = shape("svg", { viewBox: `0 0 ${size} ${size}`, role: "group", "aria-label": "Rules between parts" });
  const places = new Map(parts.map(({ id }, at) => [id, (2 * Math.PI * at) / parts.length - Math.PI / 2]));
  const lines = relations.map((relation) => {
    const [from, to] = [places.get(relation.from) ?? 0, places.get(relation.to) ?? 0].map((angle) => at(angle, radius));
    const line = shape("path", { class: `line ${relation.kind}`, d: `M ${from} Q ${middle} ${middle} ${to}` });
    return { relation, line };
  });
  const nodes = parts.map((part) => {
    const angle = places.get(part.id) ?? 0;
    const isLeft = Math.cos(angle) < 0;
    const [x, y] = at(angle, radius + 10).split(" ");
    const turned = (angle * 180) / Math.PI + (isLeft ? 180 : 0);
    const label = shape("text", {
      x,
      y,
      "text-anchor": isLeft ? "end" : "start",
      "dominant-baseline": "middle",
      transform: `rotate(${turned} ${x} ${y})`,
    });
    label.textContent = textIn(part.title);
    const [cx, cy] = at(angle, radius).split(" ");
    const node = shape("g", { class: "node", tabindex: "0", role: "button", "aria-label": textIn(part.title) });
    node.append(shape("circle", { cx, cy, r: "4" }), label);
    node.addEventListener("pointerenter", () => point(part.id));
    node.addEventListener("focus", () => point(part.id));
    node.addEventListener("click", () => bench.choose({ part: part.id }));
    node.addEventListener("keydown", (event) => {
      if ((event as KeyboardEvent).key === "Enter") bench.choose({ part: part.id });
    });
    return { id: part.id, node };
  });
  svg.append(...lines.map(({ line }) => line), ...nodes.map(({ node }) => node));
  svg.addEventListener("pointerleave", () => point(choice.part));

  /** Shows what rules make of one part, and of nothing else. */
  function point(part: string | undefined): void {
    const own = relations.filter(({ from, to }) => from === part || to === part);
    const others = new Set(own.flatMap(({ from, to }) => [from, to]));
    const isNone = own.length === 0;
    for (const { relation, line } of lines) line.classList.toggle("off", !isNone && !own.includes(relation));
    for (const { id, node } of nodes) {
      node.classList.toggle("off", !isNone && !others.has(id));
      node.classList.toggle("on", id === part);
    }
    told.replaceChildren(...explained(bench, part, own, relations.length));
  }
  point(choice.part);
  return make("div", { className: "graph" }, make("div", { className: "circle" }, svg), told);
}

function explained(bench: Bench, part: string | undefined, own: readonly Relation[], all: number): readonly Node[] {
  const { catalog } = bench;
  const titleOf = (id: string) => textIn(catalog.parts.get(id)?.title ?? id);
  const key = make(
    "ul",
    { className: "key" },
    ...(["excludes", "displaces", "needs"] as const).map((kind) =>
      make("li", {
        className: kind,
        textContent: {
          excludes: "never together",
          displaces: "one takes the other off",
          needs: "one asks for the other, or for one of several",
        }[kind],
      }),
    ),
  );
  if (part === undefined || own.length === 0) {
    const text =
      part === undefined
        ? `${all} pairs of parts have to do with one another. Point at one.`
        : `No rule between parts speaks of ${titleOf(part)}.`;
    return [make("p", { className: "lead", textContent: text }), key];
  }
  const rules = [...new Set(own.map(({ rule }) => rule))];
  const items = rules.map((rule) => {
    const of = own.filter((each) => each.rule === rule);
    const [{ kind, from, because, message: say }] = of as [Relation];
    const others = of.map((each) => titleOf(each.from === part ? each.to : each.from));
    const isAsked = kind === "needs" && from !== part;
    const verb = isAsked ? "is asked for by" : verbs[kind];
    const list = kind === "needs" && !isAsked && others.length > 1 ? `one of ${others.join(", ")}` : others.join(", ");
    const said = because.map((message) => format(message, messages, catalogTitles(catalog, "en"))).join(" ");
    return make(
      "li",
      { className: kind },
      make("b", { textContent: `${verb} ` }),
      list,
      make("p", { className: "soft", textContent: say === undefined ? said : `${textIn(say)} ${said}` }),
    );
  });
  return [make("h2", { textContent: titleOf(part) }), make("ul", {}, ...items), key];
}

/** A place on a circle around the middle, `x y`. */
function at(angle: number, far: number): string {
  return `${(middle + Math.cos(angle) * far).toFixed(1)} ${(middle + Math.sin(angle) * far).toFixed(1)}`;
}

function shape(name: string, attributes: Readonly<Record<string, string | undefined>>): SVGElement {
  const element = document.createElementNS("http://www.w3.org/2000/svg", name);
  for (const [key, value] of Object.entries(attributes)) if (value !== undefined) element.setAttribute(key, value);
  return element;
}
