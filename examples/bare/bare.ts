import { type Answer, createCharacter, openSteps, resolveLook, type StepsResult, textIn } from "zealous-mantle";
import { canvasPainter } from "zealous-mantle/browser";
import { byId, contextOf, make } from "../shared/dom.ts";
import { catalog, inWords, loader } from "../shared/saltmarsh.ts";

// Creation in steps on the headless core: questions, answers and the figure, and nothing of how a screen looks.
const steps = openSteps(catalog, createCharacter(catalog, { body: "reed" }));
const painter = canvasPainter(loader.images);
const canvas = byId("figure", HTMLCanvasElement);
const say = (id: string, text: string) => byId(id, HTMLParagraphElement).replaceChildren(text);

function show(): void {
  const { step, confirming } = steps;
  if (step === undefined) say("question", `${steps.finish().name} is ready.`);
  else say("question", confirming ? "Shall it stay so?" : textIn(step.say ?? step.title));
  const isName = step?.asks.kind === "name";
  const buttons = confirming
    ? []
    : steps.choices.map(({ answer, title }) => choice(answer, textIn(title ?? "Nothing")));
  byId("choices", HTMLDivElement).replaceChildren(...(isName ? [nameInput()] : buttons));
  void paint();
}

function choice(answer: Answer, title: string): HTMLElement {
  const button = make("button", { type: "button", textContent: title, onclick: () => tell(steps.answer(answer)) });
  button.setAttribute("aria-pressed", String(steps.answered === answer));
  return button;
}

function nameInput(): HTMLElement {
  const input = make("input", { value: steps.answered ?? "", onchange: () => tell(steps.answer(input.value)) });
  input.setAttribute("aria-label", "Name");
  return input;
}

async function paint(): Promise<void> {
  const look = resolveLook(catalog, steps.character);
  await loader.load(look);
  const context = contextOf(canvas);
  context.clearRect(0, 0, canvas.width, canvas.height);
  painter.paint(context, look, { animation: "idle", facing: "south", time: 0 }, look.rig.origin);
}

function tell(result: StepsResult): void {
  say("message", result.ok ? "" : inWords(...result.problems));
}

byId("next", HTMLButtonElement).onclick = () => tell(steps.next());
byId("back", HTMLButtonElement).onclick = () => steps.back();
steps.on("change", show);
show();
document.body.dataset.ready = "true";
