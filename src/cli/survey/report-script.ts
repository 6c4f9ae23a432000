/** What the report does: it filters, zooms, says how a picture is drawn, and what is known of a pair. Plain JavaScript, for a page without a network. */
export const reportScript = `
const data = JSON.parse(document.getElementById("data").textContent);
const all = (selector, within = document) => [...within.querySelectorAll(selector)];
const form = document.querySelector("form");
const [search, zoom] = [form.elements.search, form.elements.zoom];
const fold = (text) => text.toLowerCase().normalize("NFD").replace(/\\p{M}/gu, "");

function filter(isShown) {
  for (const list of all(".figures")) {
    let shown = 0;
    for (const figure of list.children) {
      figure.hidden = !isShown(figure);
      shown += figure.hidden ? 0 : 1;
    }
    list.parentElement.classList.toggle("is-empty", shown === 0);
    list.parentElement.querySelector(".count").textContent = shown === list.children.length ? "" : shown + " shown";
  }
}
function bySearch() {
  const wanted = fold(search.value).split(/\\s+/).filter(Boolean);
  filter((figure) => wanted.every((word) => fold(figure.dataset.words).includes(word)));
}
search.addEventListener("input", bySearch);
zoom.addEventListener("input", () => document.documentElement.style.setProperty("--zoom", zoom.value));
form.addEventListener("submit", (event) => event.preventDefault());

const bar = document.querySelector("footer");
document.addEventListener("click", (event) => {
  const picture = event.target.closest(".figure button");
  if (picture === null) return;
  for (const each of all('[aria-pressed="true"]')) each.setAttribute("aria-pressed", "false");
  picture.setAttribute("aria-pressed", "true");
  bar.hidden = false;
  bar.querySelector("code").textContent = picture.dataset.command;
});
bar.querySelector("button").addEventListener("click", () => {
  const code = bar.querySelector("code");
  const done = () => { bar.querySelector("button").textContent = "Copied"; setTimeout(() => { bar.querySelector("button").textContent = "Copy"; }, 1500); };
  if (navigator.clipboard) return navigator.clipboard.writeText(code.textContent).then(done, select);
  select();
  function select() { getSelection().selectAllChildren(code); }
});

const map = document.getElementById("map");
if (map !== null) {
  const said = document.querySelector("output");
  const ring = map.querySelector(".at");
  const find = (event) => {
    const box = map.getBoundingClientRect();
    const scale = map.viewBox.baseVal.width / box.width;
    const row = Math.floor(((event.clientY - box.top) * scale - data.map.top) / data.map.cell);
    const column = Math.floor(((event.clientX - box.left) * scale - data.map.left) / data.map.cell);
    return row > column && column >= 0 && row < data.items.length ? [column, row] : undefined;
  };
  const name = (number) => data.items[number].title + " (" + data.items[number].place + ")";
  const show = (pair) => {
    const [one, other] = pair;
    const key = one + "," + other;
    ring.setAttribute("x", data.map.left + one * data.map.cell);
    ring.setAttribute("y", data.map.top + other * data.map.cell);
    const seen = data.seen[key];
    const both = name(one) + " and " + name(other);
    const how = seen ? "seen on " + seen.map((figure) => data.figures[figure]).join(", ") + ". Click to show only these."
      : data.apart[key] ? "never together. " + data.apart[key] : data.items[one].place === data.items[other].place ? "go in the same place." : "are not looked at together.";
    said.textContent = both + (seen ? " are " : data.apart[key] ? " are " : " ") + how;
    return seen;
  };
  map.addEventListener("pointermove", (event) => { const pair = find(event); if (pair) show(pair); });
  map.addEventListener("click", (event) => {
    const pair = find(event);
    const seen = pair && show(pair);
    if (!seen) return;
    search.value = "";
    const wanted = new Set(seen.map(String));
    filter((figure) => wanted.has(figure.dataset.number));
    document.getElementById("pairs").scrollIntoView();
  });
}
`;
