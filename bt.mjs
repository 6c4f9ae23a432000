// dist/core/problem.js
var MantleError = class extends Error {
  name = "MantleError";
  /** Stable, machine-readable name of what went wrong. */
  code;
  /** The findings behind the error, when there are any. */
  problems;
  constructor(code, message, problems = []) {
    super(message);
    this.code = code;
    this.problems = problems;
  }
};
function describeProblem(problem) {
  const where = [problem.place.file, problem.place.pointer].filter(Boolean).join(" ");
  const what = [problem.because, ...problem.fixes.map((fix) => fix.say)].join(" ");
  return where === "" ? what : `${where}: ${what}`;
}
function pointerTo(...keys) {
  return keys.map((key) => `/${String(key).replaceAll("~", "~0").replaceAll("/", "~1")}`).join("");
}

// dist/core/record.js
function valueAt(record2, key) {
  return Object.hasOwn(record2, key) ? record2[key] : void 0;
}
function without(record2, key) {
  if (!Object.hasOwn(record2, key))
    return record2;
  return Object.fromEntries(Object.entries(record2).filter(([each]) => each !== key));
}

// dist/core/catalog/pattern.js
function readPattern(source) {
  const [kind, id2 = ""] = source.split(":");
  if (kind !== "part" && kind !== "tag" && kind !== "slot")
    throw new TypeError(`"${source}" is not a pattern`);
  return { kind, id: id2 };
}
function readCondition(source) {
  if (typeof source !== "string") {
    if ("any" in source)
      return { kind: "any", of: source.any.map(readCondition) };
    if ("all" in source)
      return { kind: "all", of: source.all.map(readCondition) };
    return { kind: "not", of: readCondition(source.not) };
  }
  if (source.startsWith("fact:") || source.startsWith("signal:")) {
    const [id3 = "", ...value] = source.slice(source.indexOf(":") + 1).split("=");
    if (source.startsWith("fact:"))
      return { kind: "fact", id: id3, value: value.join("=") };
    return { kind: "signal", id: id3, value: value.length === 0 ? void 0 : value.join("=") };
  }
  const [kind, id2 = ""] = source.split(":");
  return kind === "body" || kind === "outfit" ? { kind, id: id2 } : readPattern(source);
}

// dist/core/catalog/check-rule.js
function idsForRules(sources) {
  const tags = /* @__PURE__ */ new Set();
  const stats = new Set(sources.stats.keys());
  for (const { value } of sources.bodies.values())
    for (const stat2 in value.stats)
      stats.add(stat2);
  for (const { value } of sources.parts.values()) {
    for (const tag of value.tags ?? [])
      tags.add(tag);
    for (const stat2 in value.gives)
      stats.add(stat2);
  }
  return {
    part: sources.parts,
    slot: sources.slots,
    body: sources.bodies,
    outfit: sources.outfits,
    tag: tags,
    stat: stats
  };
}
var kinds = [
  ["never", "then"],
  ["if", "needs"],
  ["total", "atLeast", "atMost"],
  ["count", "atLeast", "atMost"]
];
function checkRule(entry, known, findings) {
  const rule2 = entry.value;
  const kind = kinds.find(([key]) => key !== void 0 && rule2[key] !== void 0);
  if (kind === void 0) {
    findings.report(entry, [], "rule-of-no-kind", "This rule says nothing.", 'Give it "never", "if" and "needs", "total", or "count".');
    return;
  }
  for (const key of Object.keys(rule2)) {
    if (key === "say" || kind.includes(key))
      continue;
    findings.report(entry, [key], "rule-of-two-kinds", `"${key}" does not belong in a rule with "${kind[0]}".`, "Remove it, or make two rules of it.");
  }
  if (rule2.if !== void 0 && rule2.needs === void 0) {
    findings.report(entry, ["if"], "rule-without-needs", 'This rule has an "if" and no "needs".', 'Say what it "needs".');
  }
  if ((rule2.total ?? rule2.count) !== void 0 && rule2.atLeast === void 0 && rule2.atMost === void 0) {
    findings.report(entry, [], "rule-without-bounds", "This rule has no bounds.", 'Give it "atMost" or "atLeast".');
  }
  checkBounds(entry, known, findings);
  for (const [number2, pattern2] of (rule2.never ?? []).entries()) {
    checkCondition(entry, ["never", number2], readCondition(pattern2), known, findings);
  }
  for (const key of ["if", "needs", "count"]) {
    const condition2 = rule2[key];
    if (condition2 !== void 0)
      checkCondition(entry, [key], readCondition(condition2), known, findings);
  }
}
function checkBounds(entry, known, findings) {
  if (entry.value.total !== void 0)
    findings.known(entry, ["total"], "stat", entry.value.total, known.stat);
  for (const key of ["atLeast", "atMost"]) {
    const bound2 = entry.value[key];
    if (typeof bound2 !== "object")
      continue;
    if (entry.value.count !== void 0)
      findings.report(entry, [key], "bound-of-count", "A count is bounded by a number.", "Write a number.");
    findings.known(entry, [key, "stat"], "stat", bound2.stat, known.stat);
  }
}
function checkCondition(entry, keys, condition2, known, findings) {
  switch (condition2.kind) {
    case "any":
    case "all":
      for (const [number2, each] of condition2.of.entries()) {
        checkCondition(entry, [...keys, condition2.kind, number2], each, known, findings);
      }
      return;
    case "not":
      checkCondition(entry, [...keys, "not"], condition2.of, known, findings);
      return;
    case "fact":
    case "signal":
      return;
    default:
      findings.known(entry, keys, condition2.kind, condition2.id, known[condition2.kind]);
  }
}

// dist/core/catalog/suggest.js
import { closest, distance } from "fastest-levenshtein";
function suggest(wrong, known, sayMeant, sayElse) {
  if (known.length > 0) {
    const meant = closest(wrong, known);
    if (distance(wrong, meant) <= Math.min(3, Math.max(1, Math.floor(wrong.length / 2))))
      return [{ say: sayMeant(meant) }];
  }
  return [{ say: sayElse }];
}

// dist/core/catalog/findings.js
var Findings = class {
  problems = [];
  report(entry, keys, code, because, say) {
    this.#add(entry, keys, code, "error", because, [{ say }]);
  }
  warn(entry, keys, code, because, say) {
    this.#add(entry, keys, code, "warning", because, [{ say }]);
  }
  /** Reports an id that nothing defines, with the nearest that is defined. */
  known(entry, keys, noun, id2, all) {
    if (all.has(id2))
      return true;
    const fixes = suggest(id2, [...all.keys()], (meant) => `Write "${meant}" if that is meant.`, `Define ${noun} "${id2}", or name one that exists.`);
    this.#add(entry, keys, `unknown-${noun}`, "error", `There is no ${noun} "${id2}".`, fixes);
    return false;
  }
  #add(entry, keys, code, severity, because, fixes) {
    this.problems.push({
      code,
      severity,
      place: { file: entry.file, pointer: entry.pointer + pointerTo(...keys) },
      because,
      fixes
    });
  }
};

// dist/core/catalog/lineage.js
function lineage(body2, sources) {
  const line = [];
  for (let entry = sources.bodies.get(body2); entry !== void 0 && !line.includes(entry); ) {
    line.push(entry);
    const base = entry.value.extends;
    entry = base === void 0 ? void 0 : sources.bodies.get(base);
  }
  return line;
}
function extendsItself(body2, sources) {
  return lineage(body2, sources).some(({ value }) => value.extends === body2);
}
function inherited(line, key) {
  return line.find(({ value }) => value[key] !== void 0)?.value[key];
}

// dist/core/catalog/check-references.js
function checkReferences(sources) {
  const findings = new Findings();
  for (const entry of sources.rigs.values())
    checkRig(entry, findings);
  for (const entry of sources.bodies.values())
    checkBody(entry, sources, findings);
  for (const entry of sources.slots.values())
    checkSlot(entry, sources, findings);
  for (const entry of sources.channels.values())
    checkChannel(entry, sources, findings);
  for (const entry of sources.stats.values())
    checkStat(entry, findings);
  for (const entry of sources.parts.values())
    checkPart(entry, sources, findings);
  for (const entry of sources.outfits.values())
    checkOutfit(entry, sources, findings);
  const known = idsForRules(sources);
  for (const entry of sources.rules)
    checkRule(entry, known, findings);
  return findings.problems;
}
var nothing = [];
function checkRig(entry, findings) {
  const { facings, animations, crops = {} } = entry.value;
  const drawn = new Set(facings.filter((facing) => typeof facing === "string"));
  const animationIds = new Set(Object.keys(animations));
  const seen = /* @__PURE__ */ new Set();
  for (const [number2, facing] of facings.entries()) {
    const id2 = typeof facing === "string" ? facing : facing.id;
    if (seen.has(id2))
      findings.report(entry, ["facings", number2], "duplicate-id", `Facing "${id2}" is listed twice.`, "Remove one of the two.");
    seen.add(id2);
    if (typeof facing !== "string")
      findings.known(entry, ["facings", number2, "mirror"], "facing", facing.mirror, drawn);
  }
  for (const [id2, animation] of Object.entries(animations)) {
    if (animation.else !== void 0)
      findings.known(entry, ["animations", id2, "else"], "animation", animation.else, animationIds);
  }
  for (const [id2, crop] of Object.entries(crops)) {
    findings.known(entry, ["crops", id2, "animation"], "animation", crop.animation, animationIds);
    findings.known(entry, ["crops", id2, "facing"], "facing", crop.facing, seen);
  }
}
function checkBody(entry, sources, findings) {
  const { extends: base, rig: rig2, artFrom, growsInto, art = [] } = entry.value;
  if (base !== void 0 && findings.known(entry, ["extends"], "body", base, sources.bodies) && extendsItself(entry.id, sources)) {
    findings.report(entry, ["extends"], "circular-extends", `Body "${entry.id}" extends itself, by way of "${base}".`, "Let one body of the circle stand on its own.");
    return;
  }
  if (rig2 !== void 0)
    findings.known(entry, ["rig"], "rig", rig2, sources.rigs);
  if (inherited(lineage(entry.id, sources), "rig") === void 0) {
    findings.report(entry, [], "missing-rig", `Body "${entry.id}" has no rig.`, 'Give it a "rig", or let it extend a body that has one.');
  }
  if (artFrom !== void 0)
    findings.known(entry, ["artFrom"], "body", artFrom, sources.bodies);
  if (growsInto !== void 0)
    findings.known(entry, ["growsInto"], "body", growsInto, sources.bodies);
  for (const [number2, layer2] of art.entries())
    checkLayer(entry, ["art", number2], layer2, [entry.id], sources, findings);
}
function checkSlot(entry, sources, findings) {
  const { required = false, default: initial, kind } = entry.value;
  if (initial === void 0) {
    if (required && kind === "gear") {
      findings.warn(entry, ["required"], "required-without-default", `Slot "${entry.id}" must never be empty, but nothing fills it by itself.`, 'Give it a "default".');
    }
    return;
  }
  if (!findings.known(entry, ["default"], "part", initial, sources.parts))
    return;
  const part = sources.parts.get(initial)?.value;
  if (part === void 0)
    return;
  if (!slotsOf(part.slot).includes(entry.id)) {
    const where = slotsOf(part.slot).map((slot2) => `"${slot2}"`).join(" or ");
    findings.report(entry, ["default"], "default-elsewhere", `Slot "${entry.id}" starts with "${initial}", which goes in ${where}.`, `Choose a part of slot "${entry.id}".`);
  }
  if (required && part.fits !== void 0) {
    const left = [...sources.bodies.keys()].filter((body2) => !part.fits?.includes(body2));
    if (left.length > 0) {
      findings.report(entry, ["default"], "default-does-not-fit", `Slot "${entry.id}" must never be empty, but its default "${initial}" does not fit ${left.map((body2) => `"${body2}"`).join(", ")}.`, "Choose a default that fits every body.");
    }
  }
}
function checkChannel(entry, sources, findings) {
  const { ramps, default: initial, key } = entry.value;
  for (const [number2, id2] of ramps.entries()) {
    if (!findings.known(entry, ["ramps", number2], "ramp", id2, sources.ramps))
      continue;
    const ramp2 = sources.ramps.get(id2)?.value ?? [];
    const length = ("colors" in ramp2 ? ramp2.colors : ramp2).length;
    if (length !== key.length) {
      findings.report(entry, ["ramps", number2], "ramp-length", `Ramp "${id2}" has ${length} colors, but channel "${entry.id}" has a key of ${key.length}.`, `Give the ramp ${key.length} colors.`);
    }
  }
  if (!ramps.includes(initial)) {
    findings.report(entry, ["default"], "default-elsewhere", `Channel "${entry.id}" starts with ramp "${initial}", which it does not offer.`, `Choose one of ${ramps.map((ramp2) => `"${ramp2}"`).join(", ")}.`);
  }
}
function checkStat(entry, findings) {
  const { least, most } = entry.value;
  if (least === void 0 || most === void 0 || least <= most)
    return;
  const because = `Stat "${entry.id}" is to be at least ${least} and at most ${most}, which nothing is.`;
  findings.report(entry, ["least"], "empty-bounds", because, "Exchange the two, or correct one.");
}
function checkPart(entry, sources, findings) {
  const { slot: slot2, occupies = nothing, fits = nothing, hides = nothing, layers = nothing } = entry.value;
  const slots = slotsOf(slot2);
  for (const each of slots) {
    if (!sources.slots.has(each))
      findings.known(entry, ["slot"], "slot", each, sources.slots);
  }
  for (const [number2, each] of occupies.entries())
    findings.known(entry, ["occupies", number2], "slot", each, sources.slots);
  for (const [number2, each] of fits.entries())
    findings.known(entry, ["fits", number2], "body", each, sources.bodies);
  for (const [number2, each] of hides.entries())
    findings.known(entry, ["hides", number2], "slot", each.split("/")[0] ?? each, sources.slots);
  for (const [number2, layer2] of layers.entries()) {
    if (isPlain(layer2, sources))
      continue;
    checkLayer(entry, ["layers", number2], layer2, entry.value.fits ?? sources.bodies.keys(), sources, findings);
    if (layer2.in !== void 0 && !slots.includes(layer2.in)) {
      findings.report(entry, ["layers", number2, "in"], "layer-elsewhere", `This layer is for slot "${layer2.in}", where "${entry.id}" never goes.`, `Name one of ${slots.map((each) => `"${each}"`).join(", ")}.`);
    }
  }
  const isData = (each) => sources.slots.get(each)?.value.data === true;
  if (layers.length > 0 && slots.some(isData)) {
    findings.warn(entry, ["layers"], "picture-in-data-slot", `"${entry.id}" has pictures, but its slot holds data only.`, `Remove the layers, or the slot's "data".`);
  }
  if (layers.length === 0 && !slots.some(isData)) {
    findings.warn(entry, ["layers"], "nothing-to-show", `"${entry.id}" has no layers, so wearing it shows nothing.`, 'Add a layer, or mark the slot with "data": true.');
  }
}
function isPlain({ channel: channel2, animations, else: otherwise, depth, in: slot2 }, { channels }) {
  const isKnown = channel2 === void 0 || channels.has(channel2);
  return isKnown && animations === void 0 && otherwise === void 0 && slot2 === void 0 && typeof depth === "number";
}
function checkLayer(entry, keys, layer2, bodies, sources, findings) {
  if (layer2.channel !== void 0 && !sources.channels.has(layer2.channel))
    findings.known(entry, [...keys, "channel"], "channel", layer2.channel, sources.channels);
  const rigs = new Set([...bodies].map((body2) => inherited(lineage(body2, sources), "rig")));
  const animations = /* @__PURE__ */ new Set();
  const facings = /* @__PURE__ */ new Set();
  for (const id2 of rigs) {
    const rig2 = id2 === void 0 ? void 0 : sources.rigs.get(id2)?.value;
    for (const animation of Object.keys(rig2?.animations ?? {}))
      animations.add(animation);
    for (const facing of rig2?.facings ?? [])
      facings.add(typeof facing === "string" ? facing : facing.id);
  }
  if (animations.size === 0)
    return;
  for (const [number2, animation] of (layer2.animations ?? []).entries()) {
    findings.known(entry, [...keys, "animations", number2], "animation", animation, animations);
  }
  for (const [from, to] of Object.entries(layer2.else ?? {})) {
    findings.known(entry, [...keys, "else", from], "animation", from, animations);
    findings.known(entry, [...keys, "else", from], "animation", to, layer2.animations === void 0 ? animations : new Set(layer2.animations));
  }
  if (typeof layer2.depth === "number")
    return;
  for (const facing of Object.keys(layer2.depth)) {
    if (facing !== "default")
      findings.known(entry, [...keys, "depth", facing], "facing", facing, facings);
  }
}
function checkOutfit(entry, sources, findings) {
  const taken = /* @__PURE__ */ new Map();
  for (const [number2, id2] of entry.value.parts.entries()) {
    if (!findings.known(entry, ["parts", number2], "part", id2, sources.parts))
      continue;
    const part = sources.parts.get(id2)?.value;
    if (part === void 0)
      continue;
    const free = slotsOf(part.slot).find((slot2) => !taken.has(slot2));
    const clash = free === void 0 ? slotsOf(part.slot)[0] : (part.occupies ?? []).find((slot2) => taken.has(slot2));
    if (clash !== void 0) {
      findings.report(entry, ["parts", number2], "outfit-clash", `"${id2}" and "${taken.get(clash)}" both take slot "${clash}".`, "Keep one of the two.");
      continue;
    }
    for (const slot2 of [free, ...part.occupies ?? []])
      if (slot2 !== void 0)
        taken.set(slot2, id2);
  }
  for (const [channel2, ramp2] of Object.entries(entry.value.colors ?? {})) {
    if (!findings.known(entry, ["colors", channel2], "channel", channel2, sources.channels))
      continue;
    findings.known(entry, ["colors", channel2], "ramp", ramp2, new Set(sources.channels.get(channel2)?.value.ramps));
  }
}
function slotsOf(slot2) {
  return typeof slot2 === "string" ? [slot2] : slot2;
}

// dist/core/recall.js
function recall(kept2, key, make) {
  const known = kept2.get(key);
  if (known !== void 0)
    return known;
  const made = make();
  kept2.set(key, made);
  return made;
}

// dist/core/catalog/compile-rules.js
function compileRules({ rules, slots, stats, outfits, needed }) {
  const marks = /* @__PURE__ */ new Map();
  const statNumbers = /* @__PURE__ */ new Map();
  const mark2 = (key) => recall(marks, key, () => marks.size);
  const stat2 = (id2) => recall(statNumbers, id2, () => statNumbers.size);
  const bound2 = (source) => source === void 0 || typeof source === "number" ? source : { stat: stat2(source.stat) };
  const condition2 = (source) => compileCondition(source, mark2, outfits);
  const compileRule2 = (rule2) => {
    switch (rule2.kind) {
      case "never":
        return ruleOf({ kind: "never", marks: rule2.patterns.map((pattern2) => mark2(markKey(pattern2))) });
      case "needs":
        return ruleOf({ kind: "needs", when: condition2(rule2.when), needs: condition2(rule2.needs) });
      case "count":
        return ruleOf({ kind: "count", marks: [mark2(markKey(rule2.of))], atLeast: rule2.atLeast, atMost: rule2.atMost });
      case "total":
        return ruleOf({
          kind: "total",
          stat: stat2(rule2.stat),
          atLeast: bound2(rule2.atLeast),
          atMost: bound2(rule2.atMost)
        });
    }
  };
  const compiled = rules.map(compileRule2);
  for (const id2 of needed)
    stat2(id2);
  return {
    rules: compiled,
    marks,
    partMarks: marksOf("part:", marks),
    tagMarks: marksOf("tag:", marks),
    slotMarks: slots.map((id2) => marks.get(`slot:${id2}`) ?? -1),
    slotNumbers: new Map(slots.map((id2, number2) => [id2, number2])),
    answers: answersIn(marks),
    stats: [...statNumbers.keys()].map((id2) => ({
      id: id2,
      least: stats.get(id2)?.least ?? Number.NEGATIVE_INFINITY,
      most: stats.get(id2)?.most ?? Number.POSITIVE_INFINITY
    })),
    statNumbers,
    ...indexRules(compiled, marks, statNumbers.size)
  };
}
var nothing2 = { kind: "any", mark: -1, of: [] };
function ruleOf(fields) {
  const { kind, marks = [], when = nothing2, needs = nothing2, stat: stat2 = -1, atLeast, atMost } = fields;
  return { kind, marks, when, needs, stat: stat2, atLeast, atMost };
}
function marksOf(kind, marks) {
  return new Map([...marks].filter(([key]) => key.startsWith(kind)).map(([key, mark2]) => [key.slice(kind.length), mark2]));
}
function markKey({ kind, id: id2, value }) {
  return value === void 0 ? `${kind}:${id2}` : `${kind}:${id2}=${value}`;
}
function compileCondition(source, mark2, outfits) {
  switch (source.kind) {
    case "any":
    case "all":
      return { kind: source.kind, mark: -1, of: source.of.map((each) => compileCondition(each, mark2, outfits)) };
    case "not":
      return { kind: "not", mark: -1, of: [compileCondition(source.of, mark2, outfits)] };
    case "outfit": {
      const parts = outfits.get(source.id) ?? [];
      if (parts.length === 0)
        return nothing2;
      return { kind: "all", mark: -1, of: parts.map((id2) => ({ kind: "mark", mark: mark2(`part:${id2}`), of: [] })) };
    }
    default:
      return { kind: "mark", mark: mark2(markKey(source)), of: [] };
  }
}
function answersIn(marks) {
  return [...marks].flatMap(([key, mark2]) => {
    const source = key.startsWith("fact:") ? "facts" : key.startsWith("signal:") ? "signals" : void 0;
    if (source === void 0)
      return [];
    const [id2 = "", ...value] = key.slice(key.indexOf(":") + 1).split("=");
    return [{ source, id: id2, value: value.length === 0 ? void 0 : value.join("="), mark: mark2 }];
  });
}
function indexRules(rules, marks, statCount) {
  const standing = new Set([...marks].filter(([key]) => /^(body|fact|signal):/.test(key)).map(([, mark2]) => mark2));
  const byMark = () => Array.from(marks, () => []);
  const [triggers, apart2] = [byMark(), byMark()];
  const more = { leading: byMark(), failing: byMark() };
  const fewer = { leading: byMark(), failing: byMark() };
  const totals = Array.from({ length: statCount }, () => []);
  const always = [];
  for (const [number2, rule2] of rules.entries()) {
    if (rule2.kind === "never")
      for (const mark2 of new Set(rule2.marks))
        apart2[mark2]?.push(number2);
    for (const [change, { leading, failing }] of [[true, more], [false, fewer]]) {
      for (const mark2 of leaders(rule2, change))
        leading[mark2]?.push(number2);
      for (const mark2 of new Set(marksTowards(rule2.needs, !change)))
        failing[mark2]?.push(number2);
    }
    for (const stat2 of statsOf(rule2))
      totals[stat2]?.push(number2);
    const triggered = triggersOf(rule2, standing);
    if (triggered === void 0)
      always.push(number2);
    else
      for (const mark2 of triggered)
        triggers[mark2]?.push(number2);
  }
  return { triggers, apart: apart2, more, fewer, totals, always };
}
function leaders(rule2, more) {
  switch (rule2.kind) {
    case "needs":
      return new Set(marksTowards(rule2.when, more));
    case "count":
      return new Set((more ? rule2.atMost : rule2.atLeast) === void 0 ? [] : rule2.marks);
    case "never":
    case "total":
      return /* @__PURE__ */ new Set();
  }
}
function marksTowards(condition2, coming) {
  switch (condition2.kind) {
    case "mark":
      return coming ? [condition2.mark] : [];
    case "any":
    case "all":
      return condition2.of.flatMap((part) => marksTowards(part, coming));
    case "not":
      return condition2.of.flatMap((part) => marksTowards(part, !coming));
  }
}
function statsOf({ stat: stat2, atLeast, atMost }) {
  const bounds = [atLeast, atMost].flatMap((bound2) => typeof bound2 === "object" ? [bound2.stat] : []);
  return new Set(stat2 < 0 ? [] : [stat2, ...bounds]);
}
function triggersOf(rule2, standing) {
  switch (rule2.kind) {
    case "never":
      return new Set(rule2.marks.slice(0, -1));
    case "needs": {
      const leading = leadingTo(rule2.when, true, standing);
      return leading === void 0 ? void 0 : new Set(leading);
    }
    case "count":
      return Number(rule2.atLeast ?? 0) > 0 || Number(rule2.atMost ?? 0) < 0 ? void 0 : new Set(rule2.marks);
    case "total":
      return void 0;
  }
}
function leadingTo(condition2, outcome, standing) {
  if (mayBare(condition2, outcome, standing))
    return void 0;
  switch (condition2.kind) {
    case "mark":
      return [condition2.mark];
    case "any":
    case "all": {
      const each = condition2.of.map((part) => leadingTo(part, outcome, standing));
      if (condition2.kind === "any" === outcome)
        return each.flatMap((marks) => marks ?? []);
      return each.reduce((fewest, marks) => marks !== void 0 && (fewest === void 0 || marks.length < fewest.length) ? marks : fewest);
    }
    case "not":
      return condition2.of.flatMap((inner) => leadingTo(inner, !outcome, standing) ?? []);
  }
}
function mayBare(condition2, outcome, standing) {
  switch (condition2.kind) {
    case "mark":
      return !outcome || standing.has(condition2.mark);
    case "any":
    case "all": {
      const each = (part) => mayBare(part, outcome, standing);
      return condition2.kind === "any" === outcome ? condition2.of.some(each) : condition2.of.every(each);
    }
    case "not":
      return condition2.of.every((inner) => mayBare(inner, !outcome, standing));
  }
}
function marksIn(condition2) {
  switch (condition2.kind) {
    case "mark":
      return [condition2.mark];
    case "any":
    case "all":
    case "not":
      return condition2.of.flatMap(marksIn);
  }
}

// dist/core/catalog/text.js
function textIn(text2, language = "en") {
  if (typeof text2 === "string")
    return text2;
  const byTag = new Map(Object.entries(text2).map(([tag, words]) => [tag.toLowerCase(), words]));
  for (let tag = language.toLowerCase(); tag !== ""; tag = tag.slice(0, Math.max(0, tag.lastIndexOf("-")))) {
    const words = byTag.get(tag);
    if (words !== void 0)
      return words;
  }
  return byTag.get("en") ?? byTag.values().next().value ?? "";
}
function titleFromId(id2) {
  const words = id2.includes("-") ? id2.replaceAll("-", " ") : id2;
  return words.charAt(0).toUpperCase() + words.slice(1);
}

// dist/core/catalog/compile-catalog.js
var nothing3 = [];
var noMap = /* @__PURE__ */ new Map();
function compileCatalog(main, sources) {
  const rules = sources.rules.map(compileRule);
  const needed = /* @__PURE__ */ new Set();
  for (const { value } of sources.parts.values())
    for (const stat2 in value.needs)
      needed.add(stat2);
  const compiled = compileRules({
    rules,
    slots: [...sources.slots.keys()],
    stats: compileEach(sources.stats, ({ value }) => readBounds(value)),
    outfits: compileEach(sources.outfits, ({ value }) => value.parts),
    needed
  });
  const rigs = compileEach(sources.rigs, ({ id: id2, value }) => compileRig(id2, value));
  const parts = compileEach(sources.parts, ({ id: id2, value }) => compilePart(id2, value, compiled));
  const partsBySlot = /* @__PURE__ */ new Map();
  for (const part of parts.values()) {
    for (const slot2 of part.slots) {
      const list = partsBySlot.get(slot2);
      if (list === void 0)
        partsBySlot.set(slot2, [part]);
      else
        list.push(part);
    }
  }
  return {
    id: main.id,
    version: main.version,
    title: main.title ?? titleFromId(main.id),
    rigs,
    bodies: compileEach(sources.bodies, ({ id: id2 }) => compileBody(id2, sources, rigs)),
    slots: compileEach(sources.slots, ({ id: id2, value }) => ({
      id: id2,
      number: compiled.slotNumbers.get(id2) ?? -1,
      title: value.title ?? titleFromId(id2),
      kind: value.kind,
      required: value.required ?? false,
      default: value.default,
      data: value.data ?? false,
      parts: partsBySlot.get(id2) ?? []
    })),
    ramps: compileEach(sources.ramps, ({ id: id2, value }) => compileRamp(id2, value)),
    channels: compileEach(sources.channels, ({ id: id2, value }) => ({
      id: id2,
      title: value.title ?? titleFromId(id2),
      ramps: value.ramps,
      default: value.default,
      key: value.key.map(readColor)
    })),
    stats: compileEach(sources.stats, ({ id: id2, value }) => ({
      id: id2,
      title: value.title ?? titleFromId(id2),
      ...readBounds(value)
    })),
    parts,
    outfits: compileEach(sources.outfits, ({ id: id2, value }) => ({
      id: id2,
      title: value.title ?? titleFromId(id2),
      parts: value.parts,
      colors: value.colors ?? {},
      others: value.others ?? "keep"
    })),
    rules,
    compiled
  };
}
function compileEach(entries, compile) {
  const compiled = /* @__PURE__ */ new Map();
  for (const [id2, entry] of entries)
    compiled.set(id2, compile(entry));
  return compiled;
}
function compileRule({ value: source, file, pointer }, number2) {
  const { atLeast, atMost } = source;
  const every = { number: number2, place: { file, pointer }, say: source.say };
  if (source.never !== void 0) {
    return { ...every, kind: "never", patterns: source.never.map(readPattern), then: source.then ?? "refuse" };
  }
  if (source.if !== void 0 && source.needs !== void 0) {
    return { ...every, kind: "needs", when: readCondition(source.if), needs: readCondition(source.needs) };
  }
  if (source.total !== void 0)
    return { ...every, kind: "total", stat: source.total, atLeast, atMost };
  if (source.count !== void 0) {
    const of = readPattern(source.count);
    return { ...every, kind: "count", of, atLeast: plain(atLeast), atMost: plain(atMost) };
  }
  throw new TypeError(`Rule ${number2} is of no known kind, which the reference check has let pass`);
}
function plain(bound2) {
  return typeof bound2 === "number" ? bound2 : void 0;
}
function compileRig(id2, source) {
  const facings = source.facings.map((facing) => typeof facing === "string" ? [facing, { id: facing, drawnAs: facing, mirrored: false }] : [facing.id, { id: facing.id, drawnAs: facing.mirror, mirrored: true }]);
  const animations = Object.entries(source.animations).map(([name, animation]) => [
    name,
    { id: name, frames: animation.frames, fps: animation.fps, otherwise: animation.else }
  ]);
  const crops = Object.entries(source.crops ?? {});
  return {
    id: id2,
    title: source.title ?? titleFromId(id2),
    frame: source.frame,
    origin: readPoint(source.origin),
    facings: new Map(facings),
    animations: new Map(animations),
    crops: new Map(crops.map(([name, { animation, facing, rect }]) => [name, { animation, facing, rectangle: readRectangle(rect) }]))
  };
}
function compileBody(id2, sources, rigs) {
  const line = lineage(id2, sources);
  const rig2 = rigs.get(inherited(line, "rig") ?? "");
  if (rig2 === void 0)
    throw new TypeError(`Body "${id2}" has no rig, which the reference check has let pass`);
  const own = line[0]?.value;
  return {
    id: id2,
    title: own?.title ?? titleFromId(id2),
    rig: rig2,
    layers: (inherited(line, "art") ?? []).map(compileLayer),
    artName: own?.artFrom ?? id2,
    collider: inherited(line, "collider"),
    stats: Object.assign({}, ...line.map(({ value }) => value.stats ?? {}).reverse()),
    growsInto: own?.growsInto
  };
}
function compilePart(id2, source, rules) {
  const occupies = source.occupies ?? nothing3;
  const tags = source.tags ?? nothing3;
  const slots = typeof source.slot === "string" ? [source.slot] : source.slot;
  const price = source.price;
  const gives = {};
  for (const stat2 in source.gives)
    gives[stat2] = readGift(source.gives[stat2] ?? 0);
  const needs = source.needs ?? {};
  return {
    id: id2,
    title: source.title ?? titleFromId(id2),
    slots,
    occupies,
    tags: new Set(tags),
    layers: (source.layers ?? nothing3).map(compileLayer),
    fits: source.fits === void 0 ? void 0 : new Set(source.fits),
    hides: source.hides === void 0 ? nothing3 : source.hides.map(readGroup),
    gives,
    needs,
    price,
    access: source.access ?? (price === void 0 || price === 0 ? "owned" : "listed"),
    rarity: source.rarity,
    stack: source.stack ?? 1,
    compiled: compileForRules(id2, tags, slots, occupies, gives, needs, rules)
  };
}
function readGroup(source) {
  const [slot2 = "", group] = source.split("/");
  return { slot: slot2, group };
}
function compileForRules(id2, tags, slots, occupies, gives, needs, rules) {
  const marks = [];
  const covers = [];
  const led = [];
  mark(marks, rules.partMarks, id2);
  for (const tag of tags)
    mark(marks, rules.tagMarks, tag);
  for (const slot2 of occupies) {
    const number2 = rules.slotMarks[rules.slotNumbers.get(slot2) ?? -1] ?? -1;
    if (number2 >= 0)
      add(marks, number2);
    add(covers, rules.slotNumbers.get(slot2) ?? -1);
  }
  const places = slots.map((slot2) => rules.slotNumbers.get(slot2) ?? -1);
  for (const each of marks)
    for (const rule2 of rules.triggers[each] ?? nothing3)
      add(led, rule2);
  const own = places.length === 1 ? rules.slotMarks[places[0] ?? -1] : void 0;
  for (const rule2 of rules.triggers[own ?? -1] ?? nothing3)
    add(led, rule2);
  const weighed = [];
  for (const stat2 in gives) {
    const number2 = rules.statNumbers.get(stat2);
    const gift2 = gives[stat2];
    if (number2 !== void 0 && gift2 !== void 0)
      weighed.push({ stat: number2, add: gift2.add, times: gift2.times });
  }
  const least = [];
  for (const stat2 in needs)
    least.push({ stat: rules.statNumbers.get(stat2) ?? -1, atLeast: needs[stat2] ?? 0 });
  return { marks, rules: led, places, covers, gives: weighed, needs: least };
}
function mark(marks, known, id2) {
  const number2 = known.get(id2);
  if (number2 !== void 0)
    add(marks, number2);
}
function add(numbers, number2) {
  if (!numbers.includes(number2))
    numbers.push(number2);
}
function compileLayer(source) {
  const { depth } = source;
  const byFacing = typeof depth === "number" ? nothing3 : Object.entries(depth).filter(([facing]) => facing !== "default");
  return {
    image: source.image,
    depth: typeof depth === "number" ? depth : depth.default,
    depthByFacing: byFacing.length === 0 ? noMap : new Map(byFacing),
    channel: source.channel,
    group: source.group,
    in: source.in,
    opacity: source.opacity ?? 1,
    animations: source.animations,
    otherwise: source.else === void 0 ? noMap : new Map(Object.entries(source.else)),
    grid: source.grid === void 0 ? void 0 : { cell: source.grid.cell, at: readPoint(source.grid.at ?? [0, 0]) }
  };
}
function compileRamp(id2, source) {
  const { title, colors } = "colors" in source ? source : { title: void 0, colors: source };
  return { id: id2, title: title ?? titleFromId(id2), colors: colors.map(readColor) };
}
function readGift(source) {
  return typeof source === "number" ? { add: source, times: 1 } : { add: source.add ?? 0, times: source.times ?? 1 };
}
function readBounds(source) {
  return { least: source.least ?? Number.NEGATIVE_INFINITY, most: source.most ?? Number.POSITIVE_INFINITY };
}
function readColor(source) {
  return Number.parseInt(source.slice(1), 16);
}
function readPoint([x, y]) {
  return { x, y };
}
function readRectangle([x, y, width, height]) {
  return { x, y, width, height };
}

// dist/core/catalog/explain-issue.js
var forms = [
  [/#\[0-9a-f\]\{6\}/, "is not a color", "Write a color as # and six hexadecimal digits, like #4a5bb5."],
  [
    /part\|tag\|slot/,
    "is not a pattern",
    'Write a pattern as "part:", "tag:" or "slot:" and an id, like "tag:brimmed".'
  ],
  [/\^\[a-z\]/, "is not an id", 'Write an id in lower-case words joined by hyphens, like "storm-hat".']
];
function explainIssue(issue, root, file) {
  const path = issue.path;
  const { because, fixes } = explain(issue, lookUp(root, path));
  const code = issue.code === "unrecognized_keys" ? "unknown-key" : "wrong-form";
  return { code, severity: "error", place: { file, pointer: pointerTo(...path) }, because, fixes };
}
function explain(issue, found) {
  switch (issue.code) {
    case "unrecognized_keys":
      return {
        because: `${issue.keys.map(quote).join(", ")} ${issue.keys.length === 1 ? "is not a key" : "are not keys"} known here.`,
        fixes: [{ say: "Correct the spelling or remove it; the catalog schema lists the keys." }]
      };
    case "invalid_key": {
      const key = String(issue.path.at(-1));
      return formProblem(key, issue.issues[0]);
    }
    case "invalid_format":
      return formProblem(found, issue);
    case "invalid_value":
      return {
        because: found === void 0 ? missing(issue) : `${show(found)} is not one of the values allowed here.`,
        fixes: suggest(String(found), issue.values.map(String), (value) => `Write "${value}".`, `Write one of ${issue.values.map(quote).join(", ")}.`)
      };
    case "invalid_type":
      return {
        because: found === void 0 ? missing(issue) : `${show(found)} stands where ${article(issue.expected)} belongs.`,
        fixes: [{ say: `Write ${article(issue.expected)}.` }]
      };
    case "too_small":
      return isNumber(issue) ? {
        because: `${show(found)} is too small.`,
        fixes: [
          {
            say: issue.inclusive === false ? `Give more than ${issue.minimum}.` : `Give at least ${issue.minimum}.`
          }
        ]
      } : { because: `${show(found)} is too short.`, fixes: [{ say: `Give at least ${issue.minimum} of them.` }] };
    case "too_big":
      return isNumber(issue) ? { because: `${show(found)} is too large.`, fixes: [{ say: `Give at most ${issue.maximum}.` }] } : { because: `${show(found)} is too long.`, fixes: [{ say: `Give at most ${issue.maximum} of them.` }] };
    case "invalid_union": {
      const advice = `Write ${expectedIn(issue)}.`;
      if (found === void 0)
        return { because: missing(issue), fixes: [{ say: advice }] };
      const nearest = issue.errors.find((branch) => branch.some((each) => each.path.length > 0))?.[0] ?? formOf(issue);
      if (nearest === void 0)
        return { because: `${show(found)} is not what belongs here.`, fixes: [{ say: advice }] };
      return explain({ ...nearest, path: [...issue.path, ...nearest.path] }, lookUp(found, nearest.path));
    }
    default:
      return {
        because: `${show(found)} has a form that is not known here.`,
        fixes: [{ say: "See the catalog schema for the forms allowed." }]
      };
  }
}
function isNumber(issue) {
  return "origin" in issue && (issue.origin === "number" || issue.origin === "int");
}
function expectedIn(issue) {
  const kinds3 = issue.errors.flat().flatMap((each) => each.code === "invalid_type" && each.path.length === 0 ? [article(each.expected)] : []);
  return kinds3.length === 0 ? "one of the forms in the catalog schema" : [...new Set(kinds3)].join(" or ");
}
function missing(issue) {
  return `"${String(issue.path.at(-1) ?? "document")}" is missing.`;
}
function formOf(issue) {
  return issue.errors.flat().find((each) => each.code !== "invalid_type");
}
function formProblem(found, issue) {
  const pattern2 = issue?.code === "invalid_format" ? issue.pattern ?? "" : "";
  const [, what, hint] = forms.find(([source]) => source.test(pattern2)) ?? [
    "",
    "has a form that is not known here",
    "See the catalog schema for the forms allowed."
  ];
  return { because: `${show(found)} ${what}.`, fixes: [{ say: hint }] };
}
function article(expected) {
  const names = {
    int: "a whole number",
    record: "an object",
    tuple: "a list",
    array: "a list",
    object: "an object"
  };
  return names[expected] ?? `a ${expected}`;
}
function quote(value) {
  return `"${String(value)}"`;
}
function show(value) {
  if (Array.isArray(value))
    return value.length === 0 ? "An empty list" : "A list";
  if (value === null)
    return "null";
  if (typeof value === "object")
    return "An object";
  if (typeof value === "string")
    return `"${value.length > 60 ? `${value.slice(0, 57)}\u2026` : value}"`;
  return String(value);
}
function lookUp(root, path) {
  let value = root;
  for (const key of path) {
    if (typeof value !== "object" || value === null || !Object.hasOwn(value, key))
      return void 0;
    value = value[key];
  }
  return value;
}

// dist/core/catalog/has-part-form.js
var hasPartForm = validate52;
var schema19 = { "$schema": "https://json-schema.org/draft/2020-12/schema", "type": "object", "properties": { "title": { "anyOf": [{ "type": "string" }, { "type": "object", "propertyNames": { "type": "string" }, "additionalProperties": { "type": "string" } }] }, "slot": { "anyOf": [{ "$ref": "#/$defs/__schema0" }, { "minItems": 1, "type": "array", "items": { "$ref": "#/$defs/__schema0" } }] }, "occupies": { "type": "array", "items": { "$ref": "#/$defs/__schema0" } }, "tags": { "type": "array", "items": { "$ref": "#/$defs/__schema0" } }, "layers": { "type": "array", "items": { "type": "object", "properties": { "image": { "type": "string", "minLength": 1 }, "depth": { "anyOf": [{ "type": "number" }, { "type": "object", "properties": { "default": { "type": "number" } }, "required": ["default"], "additionalProperties": { "type": "number" } }] }, "channel": { "$ref": "#/$defs/__schema0" }, "group": { "$ref": "#/$defs/__schema0" }, "in": { "$ref": "#/$defs/__schema0" }, "opacity": { "type": "number", "minimum": 0, "maximum": 1 }, "animations": { "minItems": 1, "type": "array", "items": { "$ref": "#/$defs/__schema0" } }, "else": { "type": "object", "propertyNames": { "$ref": "#/$defs/__schema0" }, "additionalProperties": { "$ref": "#/$defs/__schema0" } }, "grid": { "type": "object", "properties": { "cell": { "type": "object", "properties": { "width": { "$ref": "#/$defs/__schema1" }, "height": { "$ref": "#/$defs/__schema1" } }, "required": ["width", "height"], "additionalProperties": false }, "at": { "type": "array", "prefixItems": [{ "type": "integer", "minimum": -9007199254740991, "maximum": 9007199254740991 }, { "type": "integer", "minimum": -9007199254740991, "maximum": 9007199254740991 }], "items": false, "minItems": 2, "maxItems": 2 } }, "required": ["cell"], "additionalProperties": false } }, "required": ["image", "depth"], "additionalProperties": false } }, "fits": { "type": "array", "items": { "$ref": "#/$defs/__schema0" } }, "hides": { "type": "array", "items": { "type": "string", "pattern": "^[a-z0-9-]+(\\/[a-z0-9-]+)?$" } }, "gives": { "type": "object", "propertyNames": { "$ref": "#/$defs/__schema0" }, "additionalProperties": { "anyOf": [{ "type": "number" }, { "type": "object", "properties": { "add": { "type": "number" }, "times": { "type": "number", "minimum": 0 } }, "additionalProperties": false }] } }, "needs": { "type": "object", "propertyNames": { "$ref": "#/$defs/__schema0" }, "additionalProperties": { "type": "number" } }, "price": { "type": "integer", "minimum": 0, "maximum": 9007199254740991 }, "access": { "type": "string", "enum": ["secret", "listed", "owned"] }, "rarity": { "$ref": "#/$defs/__schema0" }, "stack": { "$ref": "#/$defs/__schema1" } }, "required": ["slot"], "additionalProperties": false, "$defs": { "__schema0": { "type": "string", "pattern": "^[a-z][a-z0-9]*(-[a-z0-9]+)*$" }, "__schema1": { "type": "integer", "minimum": 1, "maximum": 9007199254740991 } }, "$id": "part" };
var func1 = Object.prototype.hasOwnProperty;
var pattern3 = new RegExp("^[a-z][a-z0-9]*(-[a-z0-9]+)*$", "u");
function validate53(data, { instancePath = "", parentData, parentDataProperty, rootData = data, dynamicAnchors = {} } = {}) {
  let vErrors = null;
  let errors = 0;
  const evaluated0 = validate53.evaluated;
  if (evaluated0.dynamicProps) {
    evaluated0.props = void 0;
  }
  if (evaluated0.dynamicItems) {
    evaluated0.items = void 0;
  }
  if (errors === 0) {
    if (typeof data === "string") {
      if (!pattern3.test(data)) {
        validate53.errors = [{ instancePath, schemaPath: "#/pattern", keyword: "pattern", params: { pattern: "^[a-z][a-z0-9]*(-[a-z0-9]+)*$" } }];
        return false;
      }
    } else {
      validate53.errors = [{ instancePath, schemaPath: "#/type", keyword: "type", params: { type: "string" } }];
      return false;
    }
  }
  validate53.errors = vErrors;
  return errors === 0;
}
validate53.evaluated = { "dynamicProps": false, "dynamicItems": false };
function validate64(data, { instancePath = "", parentData, parentDataProperty, rootData = data, dynamicAnchors = {} } = {}) {
  let vErrors = null;
  let errors = 0;
  const evaluated0 = validate64.evaluated;
  if (evaluated0.dynamicProps) {
    evaluated0.props = void 0;
  }
  if (evaluated0.dynamicItems) {
    evaluated0.items = void 0;
  }
  if (!(typeof data == "number" && (!(data % 1) && !isNaN(data)) && isFinite(data))) {
    validate64.errors = [{ instancePath, schemaPath: "#/type", keyword: "type", params: { type: "integer" } }];
    return false;
  }
  if (errors === 0) {
    if (typeof data == "number" && isFinite(data)) {
      if (data > 9007199254740991 || isNaN(data)) {
        validate64.errors = [{ instancePath, schemaPath: "#/maximum", keyword: "maximum", params: { comparison: "<=", limit: 9007199254740991 } }];
        return false;
      } else {
        if (data < 1 || isNaN(data)) {
          validate64.errors = [{ instancePath, schemaPath: "#/minimum", keyword: "minimum", params: { comparison: ">=", limit: 1 } }];
          return false;
        }
      }
    }
  }
  validate64.errors = vErrors;
  return errors === 0;
}
validate64.evaluated = { "dynamicProps": false, "dynamicItems": false };
var pattern4 = new RegExp("^[a-z0-9-]+(\\/[a-z0-9-]+)?$", "u");
function validate52(data, { instancePath = "", parentData, parentDataProperty, rootData = data, dynamicAnchors = {} } = {}) {
  ;
  let vErrors = null;
  let errors = 0;
  const evaluated0 = validate52.evaluated;
  if (evaluated0.dynamicProps) {
    evaluated0.props = void 0;
  }
  if (evaluated0.dynamicItems) {
    evaluated0.items = void 0;
  }
  if (errors === 0) {
    if (data && typeof data == "object" && !Array.isArray(data)) {
      let missing0;
      if (data.slot === void 0 && (missing0 = "slot")) {
        validate52.errors = [{ instancePath, schemaPath: "#/required", keyword: "required", params: { missingProperty: missing0 } }];
        return false;
      } else {
        const _errs1 = errors;
        for (const key0 in data) {
          if (!func1.call(schema19.properties, key0)) {
            validate52.errors = [{ instancePath, schemaPath: "#/additionalProperties", keyword: "additionalProperties", params: { additionalProperty: key0 } }];
            return false;
            break;
          }
        }
        if (_errs1 === errors) {
          if (data.title !== void 0) {
            let data0 = data.title;
            const _errs2 = errors;
            const _errs3 = errors;
            let valid1 = false;
            const _errs4 = errors;
            if (typeof data0 !== "string") {
              const err0 = { instancePath: instancePath + "/title", schemaPath: "#/properties/title/anyOf/0/type", keyword: "type", params: { type: "string" } };
              if (vErrors === null) {
                vErrors = [err0];
              } else {
                vErrors.push(err0);
              }
              errors++;
            }
            var _valid0 = _errs4 === errors;
            valid1 = valid1 || _valid0;
            const _errs6 = errors;
            if (errors === _errs6) {
              if (data0 && typeof data0 == "object" && !Array.isArray(data0)) {
                for (const key1 in data0) {
                  const _errs8 = errors;
                  if (typeof key1 !== "string") {
                    const err1 = { instancePath: instancePath + "/title", schemaPath: "#/properties/title/anyOf/1/propertyNames/type", keyword: "type", params: { type: "string" }, propertyName: key1 };
                    if (vErrors === null) {
                      vErrors = [err1];
                    } else {
                      vErrors.push(err1);
                    }
                    errors++;
                  }
                  var valid2 = _errs8 === errors;
                  if (!valid2) {
                    const err2 = { instancePath: instancePath + "/title", schemaPath: "#/properties/title/anyOf/1/propertyNames", keyword: "propertyNames", params: { propertyName: key1 } };
                    if (vErrors === null) {
                      vErrors = [err2];
                    } else {
                      vErrors.push(err2);
                    }
                    errors++;
                    break;
                  }
                }
                if (valid2) {
                  for (const key2 in data0) {
                    const _errs11 = errors;
                    if (typeof data0[key2] !== "string") {
                      const err3 = { instancePath: instancePath + "/title/" + key2.replace(/~/g, "~0").replace(/\//g, "~1"), schemaPath: "#/properties/title/anyOf/1/additionalProperties/type", keyword: "type", params: { type: "string" } };
                      if (vErrors === null) {
                        vErrors = [err3];
                      } else {
                        vErrors.push(err3);
                      }
                      errors++;
                    }
                    var valid3 = _errs11 === errors;
                    if (!valid3) {
                      break;
                    }
                  }
                }
              } else {
                const err4 = { instancePath: instancePath + "/title", schemaPath: "#/properties/title/anyOf/1/type", keyword: "type", params: { type: "object" } };
                if (vErrors === null) {
                  vErrors = [err4];
                } else {
                  vErrors.push(err4);
                }
                errors++;
              }
            }
            var _valid0 = _errs6 === errors;
            valid1 = valid1 || _valid0;
            if (!valid1) {
              const err5 = { instancePath: instancePath + "/title", schemaPath: "#/properties/title/anyOf", keyword: "anyOf", params: {} };
              if (vErrors === null) {
                vErrors = [err5];
              } else {
                vErrors.push(err5);
              }
              errors++;
              validate52.errors = vErrors;
              return false;
            } else {
              errors = _errs3;
              if (vErrors !== null) {
                if (_errs3) {
                  vErrors.length = _errs3;
                } else {
                  vErrors = null;
                }
              }
            }
            var valid0 = _errs2 === errors;
          } else {
            var valid0 = true;
          }
          if (valid0) {
            if (data.slot !== void 0) {
              let data2 = data.slot;
              const _errs13 = errors;
              const _errs14 = errors;
              let valid4 = false;
              const _errs15 = errors;
              if (!validate53(data2, { instancePath: instancePath + "/slot", parentData: data, parentDataProperty: "slot", rootData, dynamicAnchors })) {
                vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                errors = vErrors.length;
              }
              var _valid1 = _errs15 === errors;
              valid4 = valid4 || _valid1;
              const _errs16 = errors;
              if (errors === _errs16) {
                if (Array.isArray(data2)) {
                  if (data2.length < 1) {
                    const err6 = { instancePath: instancePath + "/slot", schemaPath: "#/properties/slot/anyOf/1/minItems", keyword: "minItems", params: { limit: 1 } };
                    if (vErrors === null) {
                      vErrors = [err6];
                    } else {
                      vErrors.push(err6);
                    }
                    errors++;
                  } else {
                    var valid5 = true;
                    const len0 = data2.length;
                    for (let i0 = 0; i0 < len0; i0++) {
                      const _errs18 = errors;
                      if (!validate53(data2[i0], { instancePath: instancePath + "/slot/" + i0, parentData: data2, parentDataProperty: i0, rootData, dynamicAnchors })) {
                        vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                        errors = vErrors.length;
                      }
                      var valid5 = _errs18 === errors;
                      if (!valid5) {
                        break;
                      }
                    }
                  }
                } else {
                  const err7 = { instancePath: instancePath + "/slot", schemaPath: "#/properties/slot/anyOf/1/type", keyword: "type", params: { type: "array" } };
                  if (vErrors === null) {
                    vErrors = [err7];
                  } else {
                    vErrors.push(err7);
                  }
                  errors++;
                }
              }
              var _valid1 = _errs16 === errors;
              valid4 = valid4 || _valid1;
              if (!valid4) {
                const err8 = { instancePath: instancePath + "/slot", schemaPath: "#/properties/slot/anyOf", keyword: "anyOf", params: {} };
                if (vErrors === null) {
                  vErrors = [err8];
                } else {
                  vErrors.push(err8);
                }
                errors++;
                validate52.errors = vErrors;
                return false;
              } else {
                errors = _errs14;
                if (vErrors !== null) {
                  if (_errs14) {
                    vErrors.length = _errs14;
                  } else {
                    vErrors = null;
                  }
                }
              }
              var valid0 = _errs13 === errors;
            } else {
              var valid0 = true;
            }
            if (valid0) {
              if (data.occupies !== void 0) {
                let data4 = data.occupies;
                const _errs19 = errors;
                if (errors === _errs19) {
                  if (Array.isArray(data4)) {
                    var valid6 = true;
                    const len1 = data4.length;
                    for (let i1 = 0; i1 < len1; i1++) {
                      const _errs21 = errors;
                      if (!validate53(data4[i1], { instancePath: instancePath + "/occupies/" + i1, parentData: data4, parentDataProperty: i1, rootData, dynamicAnchors })) {
                        vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                        errors = vErrors.length;
                      }
                      var valid6 = _errs21 === errors;
                      if (!valid6) {
                        break;
                      }
                    }
                  } else {
                    validate52.errors = [{ instancePath: instancePath + "/occupies", schemaPath: "#/properties/occupies/type", keyword: "type", params: { type: "array" } }];
                    return false;
                  }
                }
                var valid0 = _errs19 === errors;
              } else {
                var valid0 = true;
              }
              if (valid0) {
                if (data.tags !== void 0) {
                  let data6 = data.tags;
                  const _errs22 = errors;
                  if (errors === _errs22) {
                    if (Array.isArray(data6)) {
                      var valid7 = true;
                      const len2 = data6.length;
                      for (let i2 = 0; i2 < len2; i2++) {
                        const _errs24 = errors;
                        if (!validate53(data6[i2], { instancePath: instancePath + "/tags/" + i2, parentData: data6, parentDataProperty: i2, rootData, dynamicAnchors })) {
                          vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                          errors = vErrors.length;
                        }
                        var valid7 = _errs24 === errors;
                        if (!valid7) {
                          break;
                        }
                      }
                    } else {
                      validate52.errors = [{ instancePath: instancePath + "/tags", schemaPath: "#/properties/tags/type", keyword: "type", params: { type: "array" } }];
                      return false;
                    }
                  }
                  var valid0 = _errs22 === errors;
                } else {
                  var valid0 = true;
                }
                if (valid0) {
                  if (data.layers !== void 0) {
                    let data8 = data.layers;
                    const _errs25 = errors;
                    if (errors === _errs25) {
                      if (Array.isArray(data8)) {
                        var valid8 = true;
                        const len3 = data8.length;
                        for (let i3 = 0; i3 < len3; i3++) {
                          let data9 = data8[i3];
                          const _errs27 = errors;
                          if (errors === _errs27) {
                            if (data9 && typeof data9 == "object" && !Array.isArray(data9)) {
                              let missing1;
                              if (data9.image === void 0 && (missing1 = "image") || data9.depth === void 0 && (missing1 = "depth")) {
                                validate52.errors = [{ instancePath: instancePath + "/layers/" + i3, schemaPath: "#/properties/layers/items/required", keyword: "required", params: { missingProperty: missing1 } }];
                                return false;
                              } else {
                                const _errs29 = errors;
                                for (const key3 in data9) {
                                  if (!func1.call(schema19.properties.layers.items.properties, key3)) {
                                    validate52.errors = [{ instancePath: instancePath + "/layers/" + i3, schemaPath: "#/properties/layers/items/additionalProperties", keyword: "additionalProperties", params: { additionalProperty: key3 } }];
                                    return false;
                                    break;
                                  }
                                }
                                if (_errs29 === errors) {
                                  if (data9.image !== void 0) {
                                    let data10 = data9.image;
                                    const _errs30 = errors;
                                    if (errors === _errs30) {
                                      if (typeof data10 === "string") {
                                        if (data10.length < 1) {
                                          validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/image", schemaPath: "#/properties/layers/items/properties/image/minLength", keyword: "minLength", params: { limit: 1 } }];
                                          return false;
                                        }
                                      } else {
                                        validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/image", schemaPath: "#/properties/layers/items/properties/image/type", keyword: "type", params: { type: "string" } }];
                                        return false;
                                      }
                                    }
                                    var valid9 = _errs30 === errors;
                                  } else {
                                    var valid9 = true;
                                  }
                                  if (valid9) {
                                    if (data9.depth !== void 0) {
                                      let data11 = data9.depth;
                                      const _errs32 = errors;
                                      const _errs33 = errors;
                                      let valid10 = false;
                                      const _errs34 = errors;
                                      if (!(typeof data11 == "number" && isFinite(data11))) {
                                        const err9 = { instancePath: instancePath + "/layers/" + i3 + "/depth", schemaPath: "#/properties/layers/items/properties/depth/anyOf/0/type", keyword: "type", params: { type: "number" } };
                                        if (vErrors === null) {
                                          vErrors = [err9];
                                        } else {
                                          vErrors.push(err9);
                                        }
                                        errors++;
                                      }
                                      var _valid2 = _errs34 === errors;
                                      valid10 = valid10 || _valid2;
                                      const _errs36 = errors;
                                      if (errors === _errs36) {
                                        if (data11 && typeof data11 == "object" && !Array.isArray(data11)) {
                                          let missing2;
                                          if (data11.default === void 0 && (missing2 = "default")) {
                                            const err10 = { instancePath: instancePath + "/layers/" + i3 + "/depth", schemaPath: "#/properties/layers/items/properties/depth/anyOf/1/required", keyword: "required", params: { missingProperty: missing2 } };
                                            if (vErrors === null) {
                                              vErrors = [err10];
                                            } else {
                                              vErrors.push(err10);
                                            }
                                            errors++;
                                          } else {
                                            const _errs38 = errors;
                                            for (const key4 in data11) {
                                              if (!(key4 === "default")) {
                                                let data12 = data11[key4];
                                                const _errs39 = errors;
                                                if (!(typeof data12 == "number" && isFinite(data12))) {
                                                  const err11 = { instancePath: instancePath + "/layers/" + i3 + "/depth/" + key4.replace(/~/g, "~0").replace(/\//g, "~1"), schemaPath: "#/properties/layers/items/properties/depth/anyOf/1/additionalProperties/type", keyword: "type", params: { type: "number" } };
                                                  if (vErrors === null) {
                                                    vErrors = [err11];
                                                  } else {
                                                    vErrors.push(err11);
                                                  }
                                                  errors++;
                                                }
                                                var valid11 = _errs39 === errors;
                                                if (!valid11) {
                                                  break;
                                                }
                                              }
                                            }
                                            if (_errs38 === errors) {
                                              if (data11.default !== void 0) {
                                                let data13 = data11.default;
                                                if (!(typeof data13 == "number" && isFinite(data13))) {
                                                  const err12 = { instancePath: instancePath + "/layers/" + i3 + "/depth/default", schemaPath: "#/properties/layers/items/properties/depth/anyOf/1/properties/default/type", keyword: "type", params: { type: "number" } };
                                                  if (vErrors === null) {
                                                    vErrors = [err12];
                                                  } else {
                                                    vErrors.push(err12);
                                                  }
                                                  errors++;
                                                }
                                              }
                                            }
                                          }
                                        } else {
                                          const err13 = { instancePath: instancePath + "/layers/" + i3 + "/depth", schemaPath: "#/properties/layers/items/properties/depth/anyOf/1/type", keyword: "type", params: { type: "object" } };
                                          if (vErrors === null) {
                                            vErrors = [err13];
                                          } else {
                                            vErrors.push(err13);
                                          }
                                          errors++;
                                        }
                                      }
                                      var _valid2 = _errs36 === errors;
                                      valid10 = valid10 || _valid2;
                                      if (!valid10) {
                                        const err14 = { instancePath: instancePath + "/layers/" + i3 + "/depth", schemaPath: "#/properties/layers/items/properties/depth/anyOf", keyword: "anyOf", params: {} };
                                        if (vErrors === null) {
                                          vErrors = [err14];
                                        } else {
                                          vErrors.push(err14);
                                        }
                                        errors++;
                                        validate52.errors = vErrors;
                                        return false;
                                      } else {
                                        errors = _errs33;
                                        if (vErrors !== null) {
                                          if (_errs33) {
                                            vErrors.length = _errs33;
                                          } else {
                                            vErrors = null;
                                          }
                                        }
                                      }
                                      var valid9 = _errs32 === errors;
                                    } else {
                                      var valid9 = true;
                                    }
                                    if (valid9) {
                                      if (data9.channel !== void 0) {
                                        const _errs43 = errors;
                                        if (!validate53(data9.channel, { instancePath: instancePath + "/layers/" + i3 + "/channel", parentData: data9, parentDataProperty: "channel", rootData, dynamicAnchors })) {
                                          vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                                          errors = vErrors.length;
                                        }
                                        var valid9 = _errs43 === errors;
                                      } else {
                                        var valid9 = true;
                                      }
                                      if (valid9) {
                                        if (data9.group !== void 0) {
                                          const _errs44 = errors;
                                          if (!validate53(data9.group, { instancePath: instancePath + "/layers/" + i3 + "/group", parentData: data9, parentDataProperty: "group", rootData, dynamicAnchors })) {
                                            vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                                            errors = vErrors.length;
                                          }
                                          var valid9 = _errs44 === errors;
                                        } else {
                                          var valid9 = true;
                                        }
                                        if (valid9) {
                                          if (data9.in !== void 0) {
                                            const _errs45 = errors;
                                            if (!validate53(data9.in, { instancePath: instancePath + "/layers/" + i3 + "/in", parentData: data9, parentDataProperty: "in", rootData, dynamicAnchors })) {
                                              vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                                              errors = vErrors.length;
                                            }
                                            var valid9 = _errs45 === errors;
                                          } else {
                                            var valid9 = true;
                                          }
                                          if (valid9) {
                                            if (data9.opacity !== void 0) {
                                              let data17 = data9.opacity;
                                              const _errs46 = errors;
                                              if (errors === _errs46) {
                                                if (typeof data17 == "number" && isFinite(data17)) {
                                                  if (data17 > 1 || isNaN(data17)) {
                                                    validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/opacity", schemaPath: "#/properties/layers/items/properties/opacity/maximum", keyword: "maximum", params: { comparison: "<=", limit: 1 } }];
                                                    return false;
                                                  } else {
                                                    if (data17 < 0 || isNaN(data17)) {
                                                      validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/opacity", schemaPath: "#/properties/layers/items/properties/opacity/minimum", keyword: "minimum", params: { comparison: ">=", limit: 0 } }];
                                                      return false;
                                                    }
                                                  }
                                                } else {
                                                  validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/opacity", schemaPath: "#/properties/layers/items/properties/opacity/type", keyword: "type", params: { type: "number" } }];
                                                  return false;
                                                }
                                              }
                                              var valid9 = _errs46 === errors;
                                            } else {
                                              var valid9 = true;
                                            }
                                            if (valid9) {
                                              if (data9.animations !== void 0) {
                                                let data18 = data9.animations;
                                                const _errs48 = errors;
                                                if (errors === _errs48) {
                                                  if (Array.isArray(data18)) {
                                                    if (data18.length < 1) {
                                                      validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/animations", schemaPath: "#/properties/layers/items/properties/animations/minItems", keyword: "minItems", params: { limit: 1 } }];
                                                      return false;
                                                    } else {
                                                      var valid13 = true;
                                                      const len4 = data18.length;
                                                      for (let i4 = 0; i4 < len4; i4++) {
                                                        const _errs50 = errors;
                                                        if (!validate53(data18[i4], { instancePath: instancePath + "/layers/" + i3 + "/animations/" + i4, parentData: data18, parentDataProperty: i4, rootData, dynamicAnchors })) {
                                                          vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                                                          errors = vErrors.length;
                                                        }
                                                        var valid13 = _errs50 === errors;
                                                        if (!valid13) {
                                                          break;
                                                        }
                                                      }
                                                    }
                                                  } else {
                                                    validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/animations", schemaPath: "#/properties/layers/items/properties/animations/type", keyword: "type", params: { type: "array" } }];
                                                    return false;
                                                  }
                                                }
                                                var valid9 = _errs48 === errors;
                                              } else {
                                                var valid9 = true;
                                              }
                                              if (valid9) {
                                                if (data9.else !== void 0) {
                                                  let data20 = data9.else;
                                                  const _errs51 = errors;
                                                  if (errors === _errs51) {
                                                    if (data20 && typeof data20 == "object" && !Array.isArray(data20)) {
                                                      for (const key5 in data20) {
                                                        const _errs53 = errors;
                                                        if (!validate53(key5, { instancePath: instancePath + "/layers/" + i3 + "/else", parentData: data20, parentDataProperty: "else", rootData, dynamicAnchors })) {
                                                          vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                                                          errors = vErrors.length;
                                                        }
                                                        var valid14 = _errs53 === errors;
                                                        if (!valid14) {
                                                          const err15 = { instancePath: instancePath + "/layers/" + i3 + "/else", schemaPath: "#/properties/layers/items/properties/else/propertyNames", keyword: "propertyNames", params: { propertyName: key5 } };
                                                          if (vErrors === null) {
                                                            vErrors = [err15];
                                                          } else {
                                                            vErrors.push(err15);
                                                          }
                                                          errors++;
                                                          validate52.errors = vErrors;
                                                          return false;
                                                          break;
                                                        }
                                                      }
                                                      if (valid14) {
                                                        for (const key6 in data20) {
                                                          const _errs55 = errors;
                                                          if (!validate53(data20[key6], { instancePath: instancePath + "/layers/" + i3 + "/else/" + key6.replace(/~/g, "~0").replace(/\//g, "~1"), parentData: data20, parentDataProperty: key6, rootData, dynamicAnchors })) {
                                                            vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                                                            errors = vErrors.length;
                                                          }
                                                          var valid15 = _errs55 === errors;
                                                          if (!valid15) {
                                                            break;
                                                          }
                                                        }
                                                      }
                                                    } else {
                                                      validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/else", schemaPath: "#/properties/layers/items/properties/else/type", keyword: "type", params: { type: "object" } }];
                                                      return false;
                                                    }
                                                  }
                                                  var valid9 = _errs51 === errors;
                                                } else {
                                                  var valid9 = true;
                                                }
                                                if (valid9) {
                                                  if (data9.grid !== void 0) {
                                                    let data22 = data9.grid;
                                                    const _errs56 = errors;
                                                    if (errors === _errs56) {
                                                      if (data22 && typeof data22 == "object" && !Array.isArray(data22)) {
                                                        let missing3;
                                                        if (data22.cell === void 0 && (missing3 = "cell")) {
                                                          validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid", schemaPath: "#/properties/layers/items/properties/grid/required", keyword: "required", params: { missingProperty: missing3 } }];
                                                          return false;
                                                        } else {
                                                          const _errs58 = errors;
                                                          for (const key7 in data22) {
                                                            if (!(key7 === "cell" || key7 === "at")) {
                                                              validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid", schemaPath: "#/properties/layers/items/properties/grid/additionalProperties", keyword: "additionalProperties", params: { additionalProperty: key7 } }];
                                                              return false;
                                                              break;
                                                            }
                                                          }
                                                          if (_errs58 === errors) {
                                                            if (data22.cell !== void 0) {
                                                              let data23 = data22.cell;
                                                              const _errs59 = errors;
                                                              if (errors === _errs59) {
                                                                if (data23 && typeof data23 == "object" && !Array.isArray(data23)) {
                                                                  let missing4;
                                                                  if (data23.width === void 0 && (missing4 = "width") || data23.height === void 0 && (missing4 = "height")) {
                                                                    validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/cell", schemaPath: "#/properties/layers/items/properties/grid/properties/cell/required", keyword: "required", params: { missingProperty: missing4 } }];
                                                                    return false;
                                                                  } else {
                                                                    const _errs61 = errors;
                                                                    for (const key8 in data23) {
                                                                      if (!(key8 === "width" || key8 === "height")) {
                                                                        validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/cell", schemaPath: "#/properties/layers/items/properties/grid/properties/cell/additionalProperties", keyword: "additionalProperties", params: { additionalProperty: key8 } }];
                                                                        return false;
                                                                        break;
                                                                      }
                                                                    }
                                                                    if (_errs61 === errors) {
                                                                      if (data23.width !== void 0) {
                                                                        const _errs62 = errors;
                                                                        if (!validate64(data23.width, { instancePath: instancePath + "/layers/" + i3 + "/grid/cell/width", parentData: data23, parentDataProperty: "width", rootData, dynamicAnchors })) {
                                                                          vErrors = vErrors === null ? validate64.errors : vErrors.concat(validate64.errors);
                                                                          errors = vErrors.length;
                                                                        }
                                                                        var valid17 = _errs62 === errors;
                                                                      } else {
                                                                        var valid17 = true;
                                                                      }
                                                                      if (valid17) {
                                                                        if (data23.height !== void 0) {
                                                                          const _errs63 = errors;
                                                                          if (!validate64(data23.height, { instancePath: instancePath + "/layers/" + i3 + "/grid/cell/height", parentData: data23, parentDataProperty: "height", rootData, dynamicAnchors })) {
                                                                            vErrors = vErrors === null ? validate64.errors : vErrors.concat(validate64.errors);
                                                                            errors = vErrors.length;
                                                                          }
                                                                          var valid17 = _errs63 === errors;
                                                                        } else {
                                                                          var valid17 = true;
                                                                        }
                                                                      }
                                                                    }
                                                                  }
                                                                } else {
                                                                  validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/cell", schemaPath: "#/properties/layers/items/properties/grid/properties/cell/type", keyword: "type", params: { type: "object" } }];
                                                                  return false;
                                                                }
                                                              }
                                                              var valid16 = _errs59 === errors;
                                                            } else {
                                                              var valid16 = true;
                                                            }
                                                            if (valid16) {
                                                              if (data22.at !== void 0) {
                                                                let data26 = data22.at;
                                                                const _errs64 = errors;
                                                                if (errors === _errs64) {
                                                                  if (Array.isArray(data26)) {
                                                                    if (data26.length > 2) {
                                                                      validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/at", schemaPath: "#/properties/layers/items/properties/grid/properties/at/maxItems", keyword: "maxItems", params: { limit: 2 } }];
                                                                      return false;
                                                                    } else {
                                                                      if (data26.length < 2) {
                                                                        validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/at", schemaPath: "#/properties/layers/items/properties/grid/properties/at/minItems", keyword: "minItems", params: { limit: 2 } }];
                                                                        return false;
                                                                      } else {
                                                                        const len5 = data26.length;
                                                                        if (len5 > 0) {
                                                                          let data27 = data26[0];
                                                                          const _errs66 = errors;
                                                                          if (!(typeof data27 == "number" && (!(data27 % 1) && !isNaN(data27)) && isFinite(data27))) {
                                                                            validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/at/0", schemaPath: "#/properties/layers/items/properties/grid/properties/at/prefixItems/0/type", keyword: "type", params: { type: "integer" } }];
                                                                            return false;
                                                                          }
                                                                          if (errors === _errs66) {
                                                                            if (typeof data27 == "number" && isFinite(data27)) {
                                                                              if (data27 > 9007199254740991 || isNaN(data27)) {
                                                                                validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/at/0", schemaPath: "#/properties/layers/items/properties/grid/properties/at/prefixItems/0/maximum", keyword: "maximum", params: { comparison: "<=", limit: 9007199254740991 } }];
                                                                                return false;
                                                                              } else {
                                                                                if (data27 < -9007199254740991 || isNaN(data27)) {
                                                                                  validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/at/0", schemaPath: "#/properties/layers/items/properties/grid/properties/at/prefixItems/0/minimum", keyword: "minimum", params: { comparison: ">=", limit: -9007199254740991 } }];
                                                                                  return false;
                                                                                }
                                                                              }
                                                                            }
                                                                          }
                                                                          var valid18 = _errs66 === errors;
                                                                        }
                                                                        if (valid18) {
                                                                          if (len5 > 1) {
                                                                            let data28 = data26[1];
                                                                            const _errs68 = errors;
                                                                            if (!(typeof data28 == "number" && (!(data28 % 1) && !isNaN(data28)) && isFinite(data28))) {
                                                                              validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/at/1", schemaPath: "#/properties/layers/items/properties/grid/properties/at/prefixItems/1/type", keyword: "type", params: { type: "integer" } }];
                                                                              return false;
                                                                            }
                                                                            if (errors === _errs68) {
                                                                              if (typeof data28 == "number" && isFinite(data28)) {
                                                                                if (data28 > 9007199254740991 || isNaN(data28)) {
                                                                                  validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/at/1", schemaPath: "#/properties/layers/items/properties/grid/properties/at/prefixItems/1/maximum", keyword: "maximum", params: { comparison: "<=", limit: 9007199254740991 } }];
                                                                                  return false;
                                                                                } else {
                                                                                  if (data28 < -9007199254740991 || isNaN(data28)) {
                                                                                    validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/at/1", schemaPath: "#/properties/layers/items/properties/grid/properties/at/prefixItems/1/minimum", keyword: "minimum", params: { comparison: ">=", limit: -9007199254740991 } }];
                                                                                    return false;
                                                                                  }
                                                                                }
                                                                              }
                                                                            }
                                                                            var valid18 = _errs68 === errors;
                                                                          }
                                                                          if (valid18) {
                                                                            const len6 = data26.length;
                                                                            if (!(len6 <= 2)) {
                                                                              validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/at", schemaPath: "#/properties/layers/items/properties/grid/properties/at/items", keyword: "items", params: { limit: 2 } }];
                                                                              return false;
                                                                            }
                                                                          }
                                                                        }
                                                                      }
                                                                    }
                                                                  } else {
                                                                    validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid/at", schemaPath: "#/properties/layers/items/properties/grid/properties/at/type", keyword: "type", params: { type: "array" } }];
                                                                    return false;
                                                                  }
                                                                }
                                                                var valid16 = _errs64 === errors;
                                                              } else {
                                                                var valid16 = true;
                                                              }
                                                            }
                                                          }
                                                        }
                                                      } else {
                                                        validate52.errors = [{ instancePath: instancePath + "/layers/" + i3 + "/grid", schemaPath: "#/properties/layers/items/properties/grid/type", keyword: "type", params: { type: "object" } }];
                                                        return false;
                                                      }
                                                    }
                                                    var valid9 = _errs56 === errors;
                                                  } else {
                                                    var valid9 = true;
                                                  }
                                                }
                                              }
                                            }
                                          }
                                        }
                                      }
                                    }
                                  }
                                }
                              }
                            } else {
                              validate52.errors = [{ instancePath: instancePath + "/layers/" + i3, schemaPath: "#/properties/layers/items/type", keyword: "type", params: { type: "object" } }];
                              return false;
                            }
                          }
                          var valid8 = _errs27 === errors;
                          if (!valid8) {
                            break;
                          }
                        }
                      } else {
                        validate52.errors = [{ instancePath: instancePath + "/layers", schemaPath: "#/properties/layers/type", keyword: "type", params: { type: "array" } }];
                        return false;
                      }
                    }
                    var valid0 = _errs25 === errors;
                  } else {
                    var valid0 = true;
                  }
                  if (valid0) {
                    if (data.fits !== void 0) {
                      let data29 = data.fits;
                      const _errs70 = errors;
                      if (errors === _errs70) {
                        if (Array.isArray(data29)) {
                          var valid19 = true;
                          const len7 = data29.length;
                          for (let i5 = 0; i5 < len7; i5++) {
                            const _errs72 = errors;
                            if (!validate53(data29[i5], { instancePath: instancePath + "/fits/" + i5, parentData: data29, parentDataProperty: i5, rootData, dynamicAnchors })) {
                              vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                              errors = vErrors.length;
                            }
                            var valid19 = _errs72 === errors;
                            if (!valid19) {
                              break;
                            }
                          }
                        } else {
                          validate52.errors = [{ instancePath: instancePath + "/fits", schemaPath: "#/properties/fits/type", keyword: "type", params: { type: "array" } }];
                          return false;
                        }
                      }
                      var valid0 = _errs70 === errors;
                    } else {
                      var valid0 = true;
                    }
                    if (valid0) {
                      if (data.hides !== void 0) {
                        let data31 = data.hides;
                        const _errs73 = errors;
                        if (errors === _errs73) {
                          if (Array.isArray(data31)) {
                            var valid20 = true;
                            const len8 = data31.length;
                            for (let i6 = 0; i6 < len8; i6++) {
                              let data32 = data31[i6];
                              const _errs75 = errors;
                              if (errors === _errs75) {
                                if (typeof data32 === "string") {
                                  if (!pattern4.test(data32)) {
                                    validate52.errors = [{ instancePath: instancePath + "/hides/" + i6, schemaPath: "#/properties/hides/items/pattern", keyword: "pattern", params: { pattern: "^[a-z0-9-]+(\\/[a-z0-9-]+)?$" } }];
                                    return false;
                                  }
                                } else {
                                  validate52.errors = [{ instancePath: instancePath + "/hides/" + i6, schemaPath: "#/properties/hides/items/type", keyword: "type", params: { type: "string" } }];
                                  return false;
                                }
                              }
                              var valid20 = _errs75 === errors;
                              if (!valid20) {
                                break;
                              }
                            }
                          } else {
                            validate52.errors = [{ instancePath: instancePath + "/hides", schemaPath: "#/properties/hides/type", keyword: "type", params: { type: "array" } }];
                            return false;
                          }
                        }
                        var valid0 = _errs73 === errors;
                      } else {
                        var valid0 = true;
                      }
                      if (valid0) {
                        if (data.gives !== void 0) {
                          let data33 = data.gives;
                          const _errs77 = errors;
                          if (errors === _errs77) {
                            if (data33 && typeof data33 == "object" && !Array.isArray(data33)) {
                              for (const key9 in data33) {
                                const _errs79 = errors;
                                if (!validate53(key9, { instancePath: instancePath + "/gives", parentData: data33, parentDataProperty: "gives", rootData, dynamicAnchors })) {
                                  vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                                  errors = vErrors.length;
                                }
                                var valid21 = _errs79 === errors;
                                if (!valid21) {
                                  const err16 = { instancePath: instancePath + "/gives", schemaPath: "#/properties/gives/propertyNames", keyword: "propertyNames", params: { propertyName: key9 } };
                                  if (vErrors === null) {
                                    vErrors = [err16];
                                  } else {
                                    vErrors.push(err16);
                                  }
                                  errors++;
                                  validate52.errors = vErrors;
                                  return false;
                                  break;
                                }
                              }
                              if (valid21) {
                                for (const key10 in data33) {
                                  let data34 = data33[key10];
                                  const _errs81 = errors;
                                  const _errs82 = errors;
                                  let valid23 = false;
                                  const _errs83 = errors;
                                  if (!(typeof data34 == "number" && isFinite(data34))) {
                                    const err17 = { instancePath: instancePath + "/gives/" + key10.replace(/~/g, "~0").replace(/\//g, "~1"), schemaPath: "#/properties/gives/additionalProperties/anyOf/0/type", keyword: "type", params: { type: "number" } };
                                    if (vErrors === null) {
                                      vErrors = [err17];
                                    } else {
                                      vErrors.push(err17);
                                    }
                                    errors++;
                                  }
                                  var _valid3 = _errs83 === errors;
                                  valid23 = valid23 || _valid3;
                                  const _errs85 = errors;
                                  if (errors === _errs85) {
                                    if (data34 && typeof data34 == "object" && !Array.isArray(data34)) {
                                      const _errs87 = errors;
                                      for (const key11 in data34) {
                                        if (!(key11 === "add" || key11 === "times")) {
                                          const err18 = { instancePath: instancePath + "/gives/" + key10.replace(/~/g, "~0").replace(/\//g, "~1"), schemaPath: "#/properties/gives/additionalProperties/anyOf/1/additionalProperties", keyword: "additionalProperties", params: { additionalProperty: key11 } };
                                          if (vErrors === null) {
                                            vErrors = [err18];
                                          } else {
                                            vErrors.push(err18);
                                          }
                                          errors++;
                                          break;
                                        }
                                      }
                                      if (_errs87 === errors) {
                                        if (data34.add !== void 0) {
                                          let data35 = data34.add;
                                          const _errs88 = errors;
                                          if (!(typeof data35 == "number" && isFinite(data35))) {
                                            const err19 = { instancePath: instancePath + "/gives/" + key10.replace(/~/g, "~0").replace(/\//g, "~1") + "/add", schemaPath: "#/properties/gives/additionalProperties/anyOf/1/properties/add/type", keyword: "type", params: { type: "number" } };
                                            if (vErrors === null) {
                                              vErrors = [err19];
                                            } else {
                                              vErrors.push(err19);
                                            }
                                            errors++;
                                          }
                                          var valid24 = _errs88 === errors;
                                        } else {
                                          var valid24 = true;
                                        }
                                        if (valid24) {
                                          if (data34.times !== void 0) {
                                            let data36 = data34.times;
                                            const _errs90 = errors;
                                            if (errors === _errs90) {
                                              if (typeof data36 == "number" && isFinite(data36)) {
                                                if (data36 < 0 || isNaN(data36)) {
                                                  const err20 = { instancePath: instancePath + "/gives/" + key10.replace(/~/g, "~0").replace(/\//g, "~1") + "/times", schemaPath: "#/properties/gives/additionalProperties/anyOf/1/properties/times/minimum", keyword: "minimum", params: { comparison: ">=", limit: 0 } };
                                                  if (vErrors === null) {
                                                    vErrors = [err20];
                                                  } else {
                                                    vErrors.push(err20);
                                                  }
                                                  errors++;
                                                }
                                              } else {
                                                const err21 = { instancePath: instancePath + "/gives/" + key10.replace(/~/g, "~0").replace(/\//g, "~1") + "/times", schemaPath: "#/properties/gives/additionalProperties/anyOf/1/properties/times/type", keyword: "type", params: { type: "number" } };
                                                if (vErrors === null) {
                                                  vErrors = [err21];
                                                } else {
                                                  vErrors.push(err21);
                                                }
                                                errors++;
                                              }
                                            }
                                            var valid24 = _errs90 === errors;
                                          } else {
                                            var valid24 = true;
                                          }
                                        }
                                      }
                                    } else {
                                      const err22 = { instancePath: instancePath + "/gives/" + key10.replace(/~/g, "~0").replace(/\//g, "~1"), schemaPath: "#/properties/gives/additionalProperties/anyOf/1/type", keyword: "type", params: { type: "object" } };
                                      if (vErrors === null) {
                                        vErrors = [err22];
                                      } else {
                                        vErrors.push(err22);
                                      }
                                      errors++;
                                    }
                                  }
                                  var _valid3 = _errs85 === errors;
                                  valid23 = valid23 || _valid3;
                                  if (!valid23) {
                                    const err23 = { instancePath: instancePath + "/gives/" + key10.replace(/~/g, "~0").replace(/\//g, "~1"), schemaPath: "#/properties/gives/additionalProperties/anyOf", keyword: "anyOf", params: {} };
                                    if (vErrors === null) {
                                      vErrors = [err23];
                                    } else {
                                      vErrors.push(err23);
                                    }
                                    errors++;
                                    validate52.errors = vErrors;
                                    return false;
                                  } else {
                                    errors = _errs82;
                                    if (vErrors !== null) {
                                      if (_errs82) {
                                        vErrors.length = _errs82;
                                      } else {
                                        vErrors = null;
                                      }
                                    }
                                  }
                                  var valid22 = _errs81 === errors;
                                  if (!valid22) {
                                    break;
                                  }
                                }
                              }
                            } else {
                              validate52.errors = [{ instancePath: instancePath + "/gives", schemaPath: "#/properties/gives/type", keyword: "type", params: { type: "object" } }];
                              return false;
                            }
                          }
                          var valid0 = _errs77 === errors;
                        } else {
                          var valid0 = true;
                        }
                        if (valid0) {
                          if (data.needs !== void 0) {
                            let data37 = data.needs;
                            const _errs92 = errors;
                            if (errors === _errs92) {
                              if (data37 && typeof data37 == "object" && !Array.isArray(data37)) {
                                for (const key12 in data37) {
                                  const _errs94 = errors;
                                  if (!validate53(key12, { instancePath: instancePath + "/needs", parentData: data37, parentDataProperty: "needs", rootData, dynamicAnchors })) {
                                    vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                                    errors = vErrors.length;
                                  }
                                  var valid25 = _errs94 === errors;
                                  if (!valid25) {
                                    const err24 = { instancePath: instancePath + "/needs", schemaPath: "#/properties/needs/propertyNames", keyword: "propertyNames", params: { propertyName: key12 } };
                                    if (vErrors === null) {
                                      vErrors = [err24];
                                    } else {
                                      vErrors.push(err24);
                                    }
                                    errors++;
                                    validate52.errors = vErrors;
                                    return false;
                                    break;
                                  }
                                }
                                if (valid25) {
                                  for (const key13 in data37) {
                                    let data38 = data37[key13];
                                    const _errs96 = errors;
                                    if (!(typeof data38 == "number" && isFinite(data38))) {
                                      validate52.errors = [{ instancePath: instancePath + "/needs/" + key13.replace(/~/g, "~0").replace(/\//g, "~1"), schemaPath: "#/properties/needs/additionalProperties/type", keyword: "type", params: { type: "number" } }];
                                      return false;
                                    }
                                    var valid26 = _errs96 === errors;
                                    if (!valid26) {
                                      break;
                                    }
                                  }
                                }
                              } else {
                                validate52.errors = [{ instancePath: instancePath + "/needs", schemaPath: "#/properties/needs/type", keyword: "type", params: { type: "object" } }];
                                return false;
                              }
                            }
                            var valid0 = _errs92 === errors;
                          } else {
                            var valid0 = true;
                          }
                          if (valid0) {
                            if (data.price !== void 0) {
                              let data39 = data.price;
                              const _errs98 = errors;
                              if (!(typeof data39 == "number" && (!(data39 % 1) && !isNaN(data39)) && isFinite(data39))) {
                                validate52.errors = [{ instancePath: instancePath + "/price", schemaPath: "#/properties/price/type", keyword: "type", params: { type: "integer" } }];
                                return false;
                              }
                              if (errors === _errs98) {
                                if (typeof data39 == "number" && isFinite(data39)) {
                                  if (data39 > 9007199254740991 || isNaN(data39)) {
                                    validate52.errors = [{ instancePath: instancePath + "/price", schemaPath: "#/properties/price/maximum", keyword: "maximum", params: { comparison: "<=", limit: 9007199254740991 } }];
                                    return false;
                                  } else {
                                    if (data39 < 0 || isNaN(data39)) {
                                      validate52.errors = [{ instancePath: instancePath + "/price", schemaPath: "#/properties/price/minimum", keyword: "minimum", params: { comparison: ">=", limit: 0 } }];
                                      return false;
                                    }
                                  }
                                }
                              }
                              var valid0 = _errs98 === errors;
                            } else {
                              var valid0 = true;
                            }
                            if (valid0) {
                              if (data.access !== void 0) {
                                let data40 = data.access;
                                const _errs100 = errors;
                                if (typeof data40 !== "string") {
                                  validate52.errors = [{ instancePath: instancePath + "/access", schemaPath: "#/properties/access/type", keyword: "type", params: { type: "string" } }];
                                  return false;
                                }
                                if (!(data40 === "secret" || data40 === "listed" || data40 === "owned")) {
                                  validate52.errors = [{ instancePath: instancePath + "/access", schemaPath: "#/properties/access/enum", keyword: "enum", params: { allowedValues: schema19.properties.access.enum } }];
                                  return false;
                                }
                                var valid0 = _errs100 === errors;
                              } else {
                                var valid0 = true;
                              }
                              if (valid0) {
                                if (data.rarity !== void 0) {
                                  const _errs102 = errors;
                                  if (!validate53(data.rarity, { instancePath: instancePath + "/rarity", parentData: data, parentDataProperty: "rarity", rootData, dynamicAnchors })) {
                                    vErrors = vErrors === null ? validate53.errors : vErrors.concat(validate53.errors);
                                    errors = vErrors.length;
                                  }
                                  var valid0 = _errs102 === errors;
                                } else {
                                  var valid0 = true;
                                }
                                if (valid0) {
                                  if (data.stack !== void 0) {
                                    const _errs103 = errors;
                                    if (!validate64(data.stack, { instancePath: instancePath + "/stack", parentData: data, parentDataProperty: "stack", rootData, dynamicAnchors })) {
                                      vErrors = vErrors === null ? validate64.errors : vErrors.concat(validate64.errors);
                                      errors = vErrors.length;
                                    }
                                    var valid0 = _errs103 === errors;
                                  } else {
                                    var valid0 = true;
                                  }
                                }
                              }
                            }
                          }
                        }
                      }
                    }
                  }
                }
              }
            }
          }
        }
      }
    } else {
      validate52.errors = [{ instancePath, schemaPath: "#/type", keyword: "type", params: { type: "object" } }];
      return false;
    }
  }
  validate52.errors = vErrors;
  return errors === 0;
}
validate52.evaluated = { "props": true, "dynamicProps": false, "dynamicItems": false };

// dist/core/catalog/schema.js
import * as z from "zod/mini";
var idForm = /^[a-z][a-z0-9]*(-[a-z0-9]+)*$/;
var id = z.string().check(z.regex(idForm));
var text = z.union([z.string(), z.record(z.string(), z.string())]);
var color = z.string().check(z.regex(/^#[0-9a-f]{6}$/i));
var whole = z.int().check(z.minimum(0));
var positive2 = z.int().check(z.minimum(1));
var point = z.tuple([z.int(), z.int()]);
var rectangle = z.tuple([z.int(), z.int(), positive2, positive2]);
var size = z.strictObject({ width: positive2, height: positive2 });
var idOrIds = z.union([id, z.array(id).check(z.minLength(1))]);
var layer = z.strictObject({
  image: z.string().check(z.minLength(1)),
  depth: z.union([z.number(), z.catchall(z.object({ default: z.number() }), z.number())]),
  channel: z.optional(id),
  group: z.optional(id),
  in: z.optional(id),
  opacity: z.optional(z.number().check(z.minimum(0), z.maximum(1))),
  animations: z.optional(z.array(id).check(z.minLength(1))),
  else: z.optional(z.record(id, id)),
  grid: z.optional(z.strictObject({ cell: size, at: z.optional(point) }))
});
var rig = z.strictObject({
  title: z.optional(text),
  frame: size,
  origin: point,
  facings: z.array(z.union([id, z.strictObject({ id, mirror: id })])).check(z.minLength(1)),
  animations: z.record(id, z.strictObject({ frames: positive2, fps: z.number().check(z.positive()), else: z.optional(id) })),
  crops: z.optional(z.record(id, z.strictObject({ animation: id, facing: id, rect: rectangle })))
});
var body = z.strictObject({
  title: z.optional(text),
  extends: z.optional(id),
  rig: z.optional(id),
  art: z.optional(z.array(layer)),
  artFrom: z.optional(id),
  collider: z.optional(z.strictObject({ x: z.number(), y: z.number(), width: z.number(), height: z.number() })),
  stats: z.optional(z.record(id, z.number())),
  growsInto: z.optional(id)
});
var slot = z.strictObject({
  title: z.optional(text),
  kind: z.enum(["appearance", "gear"]),
  required: z.optional(z.boolean()),
  default: z.optional(id),
  data: z.optional(z.boolean())
});
var channel = z.strictObject({
  title: z.optional(text),
  ramps: z.array(id).check(z.minLength(1)),
  default: id,
  key: z.array(color).check(z.minLength(1), z.maxLength(256))
});
var ramp = z.union([
  z.array(color).check(z.minLength(1), z.maxLength(256)),
  z.strictObject({ title: text, colors: z.array(color).check(z.minLength(1), z.maxLength(256)) })
]);
var gift = z.union([
  z.number(),
  z.strictObject({ add: z.optional(z.number()), times: z.optional(z.number().check(z.minimum(0))) })
]);
var partSchema = z.strictObject({
  title: z.optional(text),
  slot: idOrIds,
  occupies: z.optional(z.array(id)),
  tags: z.optional(z.array(id)),
  layers: z.optional(z.array(layer)),
  fits: z.optional(z.array(id)),
  hides: z.optional(z.array(z.string().check(z.regex(/^[a-z0-9-]+(\/[a-z0-9-]+)?$/)))),
  gives: z.optional(z.record(id, gift)),
  needs: z.optional(z.record(id, z.number())),
  price: z.optional(whole),
  access: z.optional(z.enum(["secret", "listed", "owned"])),
  rarity: z.optional(id),
  stack: z.optional(positive2)
});
var stat = z.strictObject({
  title: z.optional(text),
  least: z.optional(z.number()),
  most: z.optional(z.number())
});
var outfit = z.strictObject({
  title: z.optional(text),
  parts: z.array(id),
  colors: z.optional(z.record(id, id)),
  others: z.optional(z.enum(["keep", "clear"]))
});
var pattern = z.string().check(z.regex(/^(part|tag|slot):[a-z][a-z0-9]*(-[a-z0-9]+)*$/));
var conditionPattern = z.string().check(z.regex(/^((part|tag|slot|body|outfit):[a-z][a-z0-9]*(-[a-z0-9]+)*|fact:[a-z][a-z0-9]*(-[a-z0-9]+)*=.+|signal:[a-z][a-z0-9]*(-[a-z0-9]+)*(=.+)?)$/));
var condition = z.lazy(() => z.union([
  conditionPattern,
  z.strictObject({ any: z.array(condition).check(z.minLength(1)) }),
  z.strictObject({ all: z.array(condition).check(z.minLength(1)) }),
  z.strictObject({ not: condition })
]));
var bound = z.union([z.number(), z.strictObject({ stat: id })]);
var rule = z.strictObject({
  never: z.optional(z.array(pattern).check(z.minLength(2))),
  then: z.optional(z.enum(["displace", "refuse"])),
  if: z.optional(condition),
  needs: z.optional(condition),
  total: z.optional(id),
  count: z.optional(pattern),
  atLeast: z.optional(bound),
  atMost: z.optional(bound),
  say: z.optional(text)
});
var sections = {
  rigs: z.optional(z.record(id, rig)),
  bodies: z.optional(z.record(id, body)),
  slots: z.optional(z.record(id, slot)),
  ramps: z.optional(z.record(id, ramp)),
  channels: z.optional(z.record(id, channel)),
  stats: z.optional(z.record(id, stat)),
  parts: z.optional(z.record(id, partSchema)),
  outfits: z.optional(z.record(id, outfit)),
  rules: z.optional(z.array(rule))
};
var catalogSchema = z.strictObject({
  $schema: z.optional(z.string()),
  mantle: z.literal("catalog/1"),
  id,
  version: z.string().check(z.minLength(1)),
  title: z.optional(text),
  include: z.optional(z.array(z.string())),
  ...sections
});
var fragmentSchema = z.strictObject({ $schema: z.optional(z.string()), ...sections });

// dist/core/catalog/source.js
var mapSections = ["rigs", "bodies", "slots", "ramps", "channels", "stats", "parts", "outfits"];
var SectionEntry = class {
  id;
  value;
  file;
  #section;
  constructor(section, id2, value, file) {
    this.id = id2;
    this.value = value;
    this.file = file;
    this.#section = section;
  }
  get pointer() {
    return pointerTo(this.#section, this.id);
  }
};
function gatherSources(files) {
  const problems = [];
  const gathered = Object.fromEntries(mapSections.map((section) => [section, /* @__PURE__ */ new Map()]));
  const rules = [];
  for (const { file, content } of files) {
    for (const section of mapSections) {
      const entries = gathered[section];
      for (const [id2, value] of Object.entries(content[section] ?? {})) {
        const entry = new SectionEntry(section, id2, value, file);
        const first = entries.get(id2);
        if (first === void 0)
          entries.set(id2, entry);
        else
          problems.push(duplicateProblem(entry, first));
      }
    }
    for (const [number2, value] of (content.rules ?? []).entries()) {
      rules.push({ id: String(number2), value, file, pointer: pointerTo("rules", number2) });
    }
  }
  return { sources: { ...gathered, rules }, problems };
}
function duplicateProblem(entry, first) {
  return {
    code: "duplicate-id",
    severity: "error",
    place: { file: entry.file, pointer: entry.pointer },
    because: `"${entry.id}" is already defined in ${first.file} at ${first.pointer}.`,
    fixes: [{ say: "Rename one of the two, or remove it." }]
  };
}

// dist/core/catalog/read-catalog.js
function readCatalog(source, included = {}) {
  const problems = [];
  const main = readForm(catalogSchema, source, "catalog.json", problems);
  const files = main === void 0 ? [] : [{ file: "catalog.json", content: main }];
  for (const [file, content] of Object.entries(included)) {
    const fragment = readForm(fragmentSchema, content, file, problems);
    if (fragment !== void 0)
      files.push({ file, content: fragment });
  }
  if (main === void 0 || problems.length > 0)
    return { catalog: void 0, problems };
  const gathered = gatherSources(files);
  problems.push(...gathered.problems, ...checkReferences(gathered.sources));
  if (problems.some(({ severity }) => severity === "error"))
    return { catalog: void 0, problems };
  return { catalog: compileCatalog(main, gathered.sources), problems };
}
function readForm(schema, content, file, problems) {
  const { parts, rest } = setGoodPartsAside(content);
  if (isDeeperThan(rest, depthLimit)) {
    problems.push(tooDeep(file));
    return void 0;
  }
  const unusable = prototypeKeys(content, file);
  problems.push(...unusable);
  const result = schema.safeParse(rest);
  if (result.success)
    return unusable.length === 0 ? Object.assign({}, result.data, parts) : void 0;
  problems.push(...result.error.issues.map((issue) => explainIssue(issue, content, file)));
  return void 0;
}
function setGoodPartsAside(content) {
  if (typeof content !== "object" || content === null || !("parts" in content))
    return { rest: content };
  const { parts, ...rest } = content;
  if (typeof parts !== "object" || parts === null || Array.isArray(parts))
    return { rest: content };
  for (const id2 of Object.keys(parts)) {
    if (!idForm.test(id2) || !hasPartForm(valueAt(parts, id2)))
      return { rest: content };
  }
  return { rest, parts: { parts } };
}
function prototypeKeys(content, file) {
  if (typeof content !== "object" || content === null)
    return [];
  return Object.entries(content).filter(([, section]) => typeof section === "object" && section !== null && Object.hasOwn(section, "__proto__")).map(([section]) => ({
    code: "wrong-form",
    severity: "error",
    place: { file, pointer: pointerTo(section, "__proto__") },
    because: '"__proto__" is not an id.',
    fixes: [{ say: 'Write an id in lower-case words joined by hyphens, like "storm-hat".' }]
  }));
}
var depthLimit = 64;
function isDeeperThan(content, limit) {
  if (typeof content !== "object" || content === null)
    return false;
  if (limit === 0)
    return true;
  for (const key in content)
    if (isDeeperThan(content[key], limit - 1))
      return true;
  return false;
}
function tooDeep(file) {
  const because = `Something in this file is nested more than ${depthLimit} levels deep.`;
  return {
    code: "too-deep",
    severity: "error",
    place: { file, pointer: "" },
    because,
    fixes: [{ say: "Write its conditions flatter." }]
  };
}

// dist/core/character/fits-body.js
function fitsBody(part, body2) {
  return part.fits === void 0 || part.fits.has(body2);
}

// dist/core/character/condition.js
function matches(pattern2, worn) {
  switch (pattern2.kind) {
    case "part":
      return worn.part.id === pattern2.id;
    case "tag":
      return worn.part.tags.has(pattern2.id);
    case "slot":
      return worn.slot === pattern2.id || worn.part.occupies.includes(pattern2.id);
  }
}
function partsIn(condition2, dressed) {
  switch (condition2.kind) {
    case "part":
    case "tag":
    case "slot":
      return dressed.worn.filter((worn) => matches(condition2, worn));
    case "outfit": {
      const parts = dressed.catalog.outfits.get(condition2.id)?.parts ?? [];
      return dressed.worn.filter(({ part }) => parts.includes(part.id));
    }
    case "any":
    case "all":
      return [...new Set(condition2.of.flatMap((each) => partsIn(each, dressed)))];
    case "body":
    case "fact":
    case "signal":
    case "not":
      return [];
  }
}
function factsIn(condition2, dressed) {
  switch (condition2.kind) {
    case "part":
    case "tag":
    case "slot":
    case "outfit":
      return partsIn(condition2, dressed).map(wornFact);
    case "body":
      return [{ kind: "body", id: dressed.character.body }];
    case "fact":
      return [{ kind: "fact", id: condition2.id, value: valueAt(dressed.character.facts, condition2.id) }];
    case "signal":
      return [{ kind: "signal", id: condition2.id, value: valueAt(dressed.context.signals ?? {}, condition2.id) }];
    case "any":
    case "all":
      return condition2.of.flatMap((each) => factsIn(each, dressed));
    case "not":
      return factsIn(condition2.of, dressed);
  }
}
function wornFact({ slot: slot2, part, issued }) {
  return { kind: "worn", part: part.id, slot: slot2, issued };
}

// dist/core/character/wording.js
var englishTexts = {
  "unknown-body": 'The catalog has no body "{id}".',
  "unknown-slot": 'The catalog has no slot "{id}".',
  "unknown-part": 'The catalog has no part "{id}".',
  "unknown-outfit": 'The catalog has no outfit "{id}".',
  "unknown-channel": 'The catalog has no channel "{id}".',
  "wrong-slot": '"{part}" does not go in slot "{slot}".',
  "does-not-fit": '"{part}" was not made for body "{body}".',
  "slot-taken-twice": '"{part}" and "{other}" both take slot "{slot}".',
  "required-slot": 'Slot "{slot}" must not be empty.',
  "default-stays": '"{part}" is what slot "{slot}" shows when nothing else is worn there, so it cannot be taken off.',
  "never-together": '"{part}" and "{other}" are never worn together.',
  "need-unmet": '"{part}" needs {least} {stat}, and there is {value} without it.',
  "needs-missing": "With {when} there must be {needs}.",
  "total-too-high": "The {stat} of everything worn is {value}, and {bound} is the most.",
  "total-too-low": "The {stat} of everything worn is {value}, and {bound} is the least.",
  "count-too-high": "The number of {pattern} worn is {value}, and {bound} is the most.",
  "count-too-low": "The number of {pattern} worn is {value}, and {bound} is the least.",
  "ramp-not-offered": 'Channel "{channel}" does not offer ramp "{ramp}".',
  "outfit-clash": 'Outfit "{outfit}" cannot be worn whole: "{part}" finds no place beside the rest.',
  "not-carried": 'There is no "{part}" in the bag.',
  "not-owned": '"{part}" is not owned.',
  "not-known": '"{part}" is not known to this player.',
  "already-owned": '"{part}" is owned already.',
  "not-for-sale": '"{part}" has no price, so it cannot be bought.',
  "too-dear": '"{part}" costs {price}, and there is {balance}.',
  "bag-full": 'The bag has {places} places, and there is none left for "{part}".',
  "cannot-split": 'The largest stack of "{part}" has {count}, so {take} cannot be split off.',
  "name-too-long": 'The name "{name}" has {count} letters; {most} is the most.',
  // Of a whole catalog
  "never-worn": '"{part}" can never be worn.',
  "never-fires": "This rule can never fire: whatever breaks it breaks something else as well, or cannot be worn at all.",
  "rule-never": "Never together: {patterns}.",
  "rule-total-most": "The {stat} of everything worn is at most {bound}.",
  "rule-total-least": "The {stat} of everything worn is at least {bound}.",
  "rule-count-most": "The number of {pattern} worn is at most {bound}.",
  "rule-count-least": "The number of {pattern} worn is at least {bound}.",
  "rule-of-need": '"{part}" needs {least} {stat}.',
  "loosen-one": "Loosen one of these, or remove the part.",
  "remove-rule": "Remove it, or name what it is meant for.",
  // What follows a finding
  "kept-aside": "It is kept, and not shown.",
  "default-shown": '"{ramp}" is shown.',
  "slot-is-taken": '"{part}" takes slot "{slot}".',
  "was-taken-off": "It was taken off.",
  "outfit-without": 'Outfit "{outfit}" is worn without it.',
  // What to do
  "take-off": 'Take "{part}" off.',
  "take-off-first": "Take {parts} off first.",
  "put-on-too": "Put {parts} on as well.",
  "change-first": "Change {slots} first.",
  "see-to": "See to it that there is {needs}.",
  "put-on-more": "Put on more of {pattern}.",
  "put-something-on": "Put something on there.",
  "put-another-on": "Put something else on in its place.",
  "put-in-bag": "Put one in the bag first.",
  "goes-in": "It goes in {slots}.",
  "fits-bodies": "It fits {bodies}.",
  "offers-ramps": "It offers {ramps}.",
  "paint-default": 'Paint it "{ramp}".',
  "acquire-for": "It can be had for {price}.",
  "acquire-first": "It has to be acquired first.",
  "earn-more": "Come back with {amount} more.",
  "make-room": "Make room in the bag first.",
  "meant-id": 'Say "{id}" if that is meant.',
  "name-known": "Name a {noun} that is in the catalog.",
  "leave-out": "Leave out {count}.",
  // Pieces
  "a-stat": "the {stat}",
  "a-part": '"{id}"',
  "a-tag": 'something "{id}"',
  "a-slot": 'something in slot "{id}"',
  "a-body": 'body "{id}"',
  "an-outfit": 'the whole outfit "{id}"',
  "a-fact": '{id} "{value}"',
  "a-signal": '"{id}"',
  "a-signal-of": '{id} "{value}"',
  "not-so": "not {condition}",
  or: " or ",
  and: " and "
};
function sayText(voice, code, words = {}) {
  const template = voice.context.texts?.[code] ?? englishTexts[code];
  let said = "";
  for (const piece of recall(templates, template, () => readTemplate(template))) {
    const word = typeof piece === "string" ? void 0 : valueAt(words, piece.name);
    if (typeof piece === "string")
      said += piece;
    else if (word === void 0)
      said += piece.whole;
    else
      said += piece.title ? sayTitle(voice, piece.name, String(word)) : sayWord(voice, word);
  }
  return said;
}
var templates = /* @__PURE__ */ new Map();
function readTemplate(template) {
  return template.split(/(\{[a-z]+(?::title)?\})/).filter((piece) => piece !== "").map((piece) => {
    const [, name, title] = /^\{([a-z]+)(:title)?\}$/.exec(piece) ?? [];
    return name === void 0 ? piece : { whole: piece, name, title: title !== void 0 };
  });
}
function sayAuthored(voice, text2) {
  return text2 === void 0 ? [] : [textIn(text2, voice.context.language)];
}
function sayWord(voice, word) {
  if (typeof word === "string" || typeof word === "number")
    return String(word);
  if ("kind" in word)
    return sayCondition(voice, word);
  return word.map((id2) => `"${id2}"`).join(sayText(voice, "and"));
}
function sayCondition(voice, condition2) {
  switch (condition2.kind) {
    case "part":
    case "tag":
    case "slot":
    case "body":
      return sayText(voice, `a-${condition2.kind}`, namedBy(condition2.kind, condition2.id));
    case "outfit":
      return sayText(voice, "an-outfit", namedBy("outfit", condition2.id));
    case "fact":
      return sayText(voice, "a-fact", { id: condition2.id, value: condition2.value });
    case "signal":
      return condition2.value === void 0 ? sayText(voice, "a-signal", { id: condition2.id }) : sayText(voice, "a-signal-of", { id: condition2.id, value: condition2.value });
    case "any":
      return condition2.of.map((each) => sayCondition(voice, each)).join(sayText(voice, "or"));
    case "all":
      return condition2.of.map((each) => sayCondition(voice, each)).join(sayText(voice, "and"));
    case "not":
      return sayText(voice, "not-so", { condition: sayCondition(voice, condition2.of) });
  }
}
function namedBy(kind, id2) {
  return { id: id2, [kind]: id2 };
}
function sayTitle({ catalog: catalog2, context }, name, id2) {
  const known = {
    part: catalog2.parts,
    other: catalog2.parts,
    slot: catalog2.slots,
    body: catalog2.bodies,
    outfit: catalog2.outfits,
    channel: catalog2.channels,
    ramp: catalog2.ramps,
    stat: catalog2.stats
  };
  const titled = valueAt(known, name)?.get(id2);
  return titled === void 0 ? id2 : textIn(titled.title, context.language);
}

// dist/core/character/tally.js
var Tally = class {
  catalog;
  /** In the order of the catalog. */
  slots;
  /** The numbers of the slots that must not be empty. */
  required;
  /** What is worn, by slot number. */
  worn;
  /** 1 where what is worn is issued, by slot number. */
  issued;
  /** How many of what is worn, and of the character's answers, have each mark. */
  counts;
  /** How many worn parts take each slot. */
  covered;
  body;
  /** Whether the character loaded last has slots or parts that the catalog does not know. */
  passedOver = false;
  #chosenCover;
  /** All of the counts above in one piece, so that they are cleared in one go. */
  #allCounts;
  #base;
  #changes;
  #touched = [];
  /** 1 for each rule whose `if` held when the trials began. */
  #leadBefore;
  /** By mark, those that one more of it can make fail, or one fewer, as far as they were asked for. */
  #activeMore = [];
  #activeFewer = [];
  #trial;
  /** `add` and `times` of what is worn, by stat and then slot. */
  #adds;
  #products;
  /** Whether anything multiplies a stat now. */
  #multiplied = false;
  /** What each body has of each weighed stat. */
  #bodyStats = /* @__PURE__ */ new Map();
  /** By rule, the round in which it was looked at last: a number that grows, so that nothing has to be cleared. */
  #seen;
  #round = 0;
  #slotMarks;
  #withDefault;
  constructor(catalog2) {
    const { compiled } = catalog2;
    this.catalog = catalog2;
    this.slots = [...catalog2.slots.values()];
    this.required = this.slots.filter(({ required }) => required).map(({ number: number2 }) => number2);
    this.worn = new Array(this.slots.length).fill(void 0);
    const places = this.slots.length;
    const markCount = compiled.marks.size;
    this.#allCounts = new Int32Array(markCount + 3 * places);
    this.counts = this.#allCounts.subarray(0, markCount);
    this.issued = this.#allCounts.subarray(markCount, markCount + places);
    this.covered = this.#allCounts.subarray(markCount + places, markCount + 2 * places);
    this.#chosenCover = this.#allCounts.subarray(markCount + 2 * places);
    this.#changes = new Int32Array(markCount);
    this.#seen = new Uint32Array(compiled.rules.length);
    this.#base = new Float64Array(compiled.stats.length);
    this.#adds = new Float64Array(compiled.stats.length * this.slots.length);
    this.#products = new Float64Array(compiled.stats.length * this.slots.length).fill(1);
    this.#slotMarks = compiled.slotMarks;
    this.#withDefault = this.slots.flatMap((slot2) => {
      const part = slot2.required && slot2.default !== void 0 ? catalog2.parts.get(slot2.default) : void 0;
      return part === void 0 ? [] : [{ slot: slot2, part }];
    });
  }
  /** Takes everything off and puts on what a character wears; slots and parts the catalog does not know are passed over. */
  load(character2, context) {
    this.stand(character2, context);
    this.passedOver = false;
    for (const id2 in character2.loadout) {
      const part = this.catalog.parts.get(character2.loadout[id2] ?? "");
      const slot2 = part?.slots[0] === id2 ? part.compiled.places[0] : this.catalog.compiled.slotNumbers.get(id2);
      if (slot2 !== void 0 && part !== void 0)
        this.#put(slot2, part, 0);
      else
        this.passedOver = true;
    }
    this.issue();
  }
  /** The numbers of the rules that do not hold, each once, in no order; only rules that what is worn can break are looked at. */
  brokenRules() {
    const { rules, triggers, always, slotMarks } = this.catalog.compiled;
    const broken2 = [];
    this.#startRound();
    this.#look(rules, always, broken2);
    for (let slot2 = 0; slot2 < this.worn.length; slot2 += 1) {
      const part = this.worn[slot2];
      if (part === void 0)
        continue;
      this.#look(rules, part.compiled.rules, broken2);
      if (part.compiled.places.length === 1 && part.compiled.places[0] === slot2)
        continue;
      this.#look(rules, triggers[slotMarks[slot2] ?? -1] ?? none, broken2);
    }
    return broken2;
  }
  #startRound() {
    this.#round = this.#round + 1 >>> 0;
    if (this.#round !== 0)
      return;
    this.#seen.fill(0);
    this.#round = 1;
  }
  #look(rules, numbers, broken2) {
    const seen = this.#seen;
    const round = this.#round;
    for (let at = 0; at < numbers.length; at += 1) {
      const number2 = numbers[at] ?? 0;
      if (seen[number2] === round)
        continue;
      seen[number2] = round;
      const rule2 = rules[number2];
      if (rule2 !== void 0 && this.breaks(rule2))
        broken2.push(number2);
    }
  }
  /** Takes everything off and takes on a body, the character's answers and the game's signals. */
  stand(character2, context) {
    const { catalog: catalog2 } = this;
    const { compiled } = catalog2;
    this.#leadBefore = void 0;
    this.worn.fill(void 0);
    this.#allCounts.fill(0);
    this.#adds.fill(0);
    if (this.#multiplied)
      this.#products.fill(1);
    this.#multiplied = false;
    this.body = catalog2.bodies.get(character2.body);
    this.#answer(compiled.marks.get(`body:${character2.body}`));
    for (const { source, id: id2, value, mark: mark2 } of compiled.answers) {
      const said = source === "facts" ? valueAt(character2.facts, id2) : valueAt(context.signals ?? {}, id2);
      const there = value === void 0 ? said !== void 0 && said !== false && said !== 0 : String(said) === value;
      if (said !== void 0 && there)
        this.#answer(mark2);
    }
    this.#base.set(recall(this.#bodyStats, character2.body, () => this.#statsOf(this.body?.stats ?? {})));
    if (context.stats !== void 0) {
      for (const [number2, add2] of this.#statsOf(context.stats).entries()) {
        this.#base[number2] = (this.#base[number2] ?? 0) + add2;
      }
    }
  }
  /** Starts to remember what is put on and taken off, so that it can be judged and undone. */
  startTrial() {
    if (this.#leadBefore === void 0) {
      this.#leadBefore = Uint8Array.from(this.catalog.compiled.rules, (rule2) => this.holds(rule2.when) ? 1 : 0);
      this.#activeMore = new Array(this.counts.length).fill(void 0);
      this.#activeFewer = new Array(this.counts.length).fill(void 0);
    }
    this.#trial = [];
  }
  /** Undoes everything since the trial was started. */
  endTrial() {
    const steps = this.#trial ?? [];
    this.#trial = void 0;
    for (const mark2 of this.#touched)
      this.#changes[mark2] = 0;
    this.#touched.length = 0;
    for (let at = steps.length - 1; at >= 0; at -= 1) {
      const step = steps[at];
      if (step === void 0)
        continue;
      if (step.put)
        this.#take(step.slot);
      else
        this.#put(step.slot, step.part, step.issued);
    }
  }
  /**
   * Whether anything that the trial touched does not hold: rules, slots, needs. What it did not touch is not looked at, and
   * whether a chosen part may be beside the others is for the caller to know.
   */
  trialBreaks() {
    const { rules, apart: apart2, more, fewer, totals } = this.catalog.compiled;
    const broken2 = [];
    const stats = [];
    this.#startRound();
    for (const mark2 of this.#touched) {
      const change = this.#changes[mark2] ?? 0;
      if (change === 0)
        continue;
      const { leading, failing } = change > 0 ? more : fewer;
      this.#look(rules, leading[mark2] ?? none, broken2);
      const active = change > 0 ? this.#activeMore : this.#activeFewer;
      this.#look(rules, this.#active(active, mark2, failing[mark2]), broken2);
    }
    for (const { slot: slot2, part, put, issued } of this.#trial ?? []) {
      if (put && issued === 1) {
        this.#look(rules, apart2[this.#slotMarks[slot2] ?? -1] ?? none, broken2);
        for (const mark2 of part.compiled.marks)
          this.#look(rules, apart2[mark2] ?? none, broken2);
      }
      for (const { stat: stat2 } of part.compiled.gives) {
        stats.push(stat2);
        this.#look(rules, totals[stat2] ?? none, broken2);
      }
      if (broken2.length > 0 || this.#isIllTaken(slot2))
        return true;
      for (const each of part.compiled.covers)
        if (this.#isIllTaken(each))
          return true;
    }
    return this.#hasUnmetNeed(stats);
  }
  /** The rules whose `if` held when the trials began; where a trial makes one hold, its marks lead to the rule. */
  #active(active, mark2, numbers) {
    if (numbers === void 0 || numbers.length === 0)
      return none;
    const known = active[mark2];
    if (known !== void 0)
      return known;
    const found = numbers.filter((number2) => this.#leadBefore?.[number2] === 1);
    active[mark2] = found;
    return found;
  }
  #isIllTaken(slot2) {
    const takers = this.covered[slot2] ?? 0;
    return takers > 1 || takers === 0 && this.slots[slot2]?.required === true;
  }
  /** Whether a part that came with the trial, or one whose stats it changed, has a need that is not met. */
  #hasUnmetNeed(changed) {
    for (let slot2 = 0; slot2 < this.worn.length; slot2 += 1) {
      const needs = this.worn[slot2]?.compiled.needs;
      if (needs === void 0 || needs.length === 0)
        continue;
      const isNew = this.#trial?.some((step) => step.put && step.slot === slot2) === true;
      for (const { stat: stat2, atLeast } of needs) {
        if ((isNew || changed.includes(stat2)) && this.stat(stat2, slot2) < atLeast)
          return true;
      }
    }
    return false;
  }
  #statsOf(stats) {
    return Float64Array.from(this.catalog.compiled.stats, ({ id: id2 }) => valueAt(stats, id2) ?? 0);
  }
  /** Puts a chosen part on; what was in the slot is taken off. Defaults are not looked after: `issue` does that. */
  put(slot2, part) {
    this.#take(slot2);
    this.#put(slot2, part, 0);
  }
  /** Takes off whatever is in a slot. */
  take(slot2) {
    this.#take(slot2);
  }
  /** Puts on the defaults of required slots that nothing chosen takes, and takes off those that are in the way of a choice. */
  issue() {
    for (const { slot: slot2, part } of this.#withDefault) {
      const number2 = slot2.number;
      const wanted = this.#chosenCover[number2] === 0;
      if (wanted && this.worn[number2] === void 0)
        this.#put(number2, part, 1);
      else if (!wanted && this.issued[number2] === 1)
        this.#take(number2);
    }
  }
  /** The value of a weighed stat: `(base + Σ add) × Π times`, bounded; what is in one slot can be left out. */
  stat(number2, without2 = -1) {
    const slots = this.worn.length;
    const adds = this.#adds;
    const start = number2 * slots;
    const left = without2 < 0 ? -1 : start + without2;
    let sum = this.#base[number2] ?? 0;
    for (let at = start; at < start + slots; at += 1)
      if (at !== left)
        sum += adds[at] ?? 0;
    let product = 1;
    if (this.#multiplied) {
      const products = this.#products;
      for (let at = start; at < start + slots; at += 1)
        if (at !== left)
          product *= products[at] ?? 1;
    }
    const { least, most } = this.catalog.compiled.stats[number2] ?? unbounded;
    return Math.min(most, Math.max(least, sum * product));
  }
  /** What there is of a weighed stat without any part. */
  baseOf(number2) {
    return this.#base[number2] ?? 0;
  }
  /** Whether what is in a slot has a mark. */
  has(slot2, mark2) {
    const part = this.worn[slot2];
    if (part === void 0)
      return false;
    return this.catalog.compiled.slotMarks[slot2] === mark2 || part.compiled.marks.includes(mark2);
  }
  holds(condition2) {
    switch (condition2.kind) {
      case "mark":
        return (this.counts[condition2.mark] ?? 0) > 0;
      case "any":
        for (let at = 0; at < condition2.of.length; at += 1)
          if (this.#holdsAt(condition2.of, at))
            return true;
        return false;
      case "all":
        for (let at = 0; at < condition2.of.length; at += 1)
          if (!this.#holdsAt(condition2.of, at))
            return false;
        return true;
      case "not":
        return !this.#holdsAt(condition2.of, 0);
    }
  }
  #holdsAt(conditions, at) {
    const condition2 = conditions[at];
    if (condition2?.kind === "mark")
      return (this.counts[condition2.mark] ?? 0) > 0;
    return condition2 !== void 0 && this.holds(condition2);
  }
  /** Whether a rule does not hold. */
  breaks(rule2) {
    switch (rule2.kind) {
      case "needs":
        return this.holds(rule2.when) && !this.holds(rule2.needs);
      case "count":
        return this.#isMiscounted(this.counts[rule2.marks[0] ?? 0] ?? 0, rule2.atLeast, rule2.atMost);
      case "total":
        return outside(this.stat(rule2.stat), this.#bound(rule2.atLeast), this.#bound(rule2.atMost));
      case "never":
        return this.#meet(rule2.marks);
    }
  }
  #isMiscounted(count, atLeast, atMost) {
    return typeof atMost === "number" && count > atMost || typeof atLeast === "number" && count < atLeast;
  }
  #bound(bound2) {
    return typeof bound2 === "object" ? this.stat(bound2.stat) : bound2;
  }
  /** Whether two worn parts have two of these marks. */
  #meet(marks) {
    const { counts } = this;
    if (marks.length === 2 && (counts[marks[0] ?? 0] === 0 || counts[marks[1] ?? 0] === 0))
      return false;
    let there = 0;
    let twice = false;
    let first = -1;
    for (let at = 0; at < marks.length; at += 1) {
      const mark2 = marks[at] ?? 0;
      const count = counts[mark2] ?? 0;
      if (count === 0)
        continue;
      there += 1;
      if (count > 1)
        twice = true;
      if (first < 0)
        first = mark2;
    }
    if (there < 2 || twice)
      return there >= 2;
    const slot2 = this.worn.findIndex((_, number2) => this.has(number2, first));
    return marks.some((mark2) => (this.counts[mark2] ?? 0) > 0 && !this.has(slot2, mark2));
  }
  /** Remembers by how much a trial changes the counts of marks. */
  #touch(marks, own, by) {
    for (const mark2 of marks) {
      this.#changes[mark2] = (this.#changes[mark2] ?? 0) + by;
      this.#touched.push(mark2);
    }
    if (own < 0 || marks.includes(own))
      return;
    this.#changes[own] = (this.#changes[own] ?? 0) + by;
    this.#touched.push(own);
  }
  #answer(mark2) {
    if (mark2 !== void 0)
      this.counts[mark2] = 1;
  }
  #put(slot2, part, issued) {
    this.#trial?.push({ slot: slot2, part, issued, put: true });
    this.worn[slot2] = part;
    this.issued[slot2] = issued;
    this.#count(slot2, part, 1);
    const { gives } = part.compiled;
    for (let number2 = 0; number2 < gives.length; number2 += 1) {
      const gift2 = gives[number2];
      if (gift2 === void 0)
        continue;
      const at = gift2.stat * this.worn.length + slot2;
      this.#adds[at] = gift2.add;
      if (gift2.times === 1)
        continue;
      this.#products[at] = gift2.times;
      this.#multiplied = true;
    }
  }
  #take(slot2) {
    const part = this.worn[slot2];
    if (part === void 0)
      return;
    this.#trial?.push({ slot: slot2, part, issued: this.issued[slot2] === 1 ? 1 : 0, put: false });
    this.#count(slot2, part, -1);
    for (const { stat: stat2 } of part.compiled.gives) {
      const at = stat2 * this.worn.length + slot2;
      this.#adds[at] = 0;
      this.#products[at] = 1;
    }
    this.worn[slot2] = void 0;
    this.issued[slot2] = 0;
  }
  #count(slot2, part, by) {
    const { marks, covers } = part.compiled;
    const { counts, covered } = this;
    const chosen2 = this.issued[slot2] === 0 ? by : 0;
    const own = this.#slotMarks[slot2] ?? -1;
    for (let at = 0; at < marks.length; at += 1) {
      const mark2 = marks[at] ?? 0;
      counts[mark2] = (counts[mark2] ?? 0) + by;
    }
    if (this.#trial !== void 0)
      this.#touch(marks, own, by);
    const chosenCover = this.#chosenCover;
    const alone = covers.length === 0;
    if (alone || !covers.includes(slot2)) {
      if (own >= 0)
        counts[own] = (counts[own] ?? 0) + by;
      covered[slot2] = (covered[slot2] ?? 0) + by;
      chosenCover[slot2] = (chosenCover[slot2] ?? 0) + chosen2;
    }
    if (alone)
      return;
    for (const each of covers) {
      covered[each] = (covered[each] ?? 0) + by;
      chosenCover[each] = (chosenCover[each] ?? 0) + chosen2;
    }
  }
};
var none = [];
var unbounded = { least: Number.NEGATIVE_INFINITY, most: Number.POSITIVE_INFINITY };
function outside(value, atLeast, atMost) {
  return atMost !== void 0 && value > atMost || atLeast !== void 0 && value < atLeast;
}

// dist/core/character/worn.js
function wornParts(catalog2, character2) {
  return wornIn(tallyOf(catalog2, character2));
}
function wornIn(tally) {
  return tally.slots.flatMap(({ id: id2, number: number2 }) => {
    const part = tally.worn[number2];
    return part === void 0 ? [] : [{ slot: id2, part, issued: tally.issued[number2] === 1 }];
  });
}
var tallies = /* @__PURE__ */ new WeakMap();
function tallyOf(catalog2, character2, context = {}) {
  const tally = recall(tallies, catalog2, () => new Tally(catalog2));
  tally.load(character2, context);
  return tally;
}

// dist/core/character/explain-broken.js
function explainAll(tally, character2, context, found) {
  if (found.length === 0)
    return [];
  const dressed = { catalog: tally.catalog, character: character2, context, worn: wornIn(tally) };
  return found.map((broken2) => explainBroken(tally, dressed, broken2));
}
function explainBroken(tally, dressed, broken2) {
  const { character: character2, context } = dressed;
  const voice = { catalog: tally.catalog, context };
  const at = (slot2) => dressed.worn.find((worn) => worn.slot === tally.slots[slot2]?.id);
  const slotId = "slot" in broken2 ? tally.slots[broken2.slot]?.id ?? "" : "";
  switch (broken2.kind) {
    case "misplaced":
      return aboutPart("wrong-slot", at(broken2.slot), { slot: slotId });
    case "misfit":
      return aboutPart("does-not-fit", at(broken2.slot), { body: character2.body }, [
        { kind: "body", id: character2.body }
      ]);
    case "need":
      return explainNeed(tally, at(broken2.slot), broken2);
    case "taken-twice": {
      const takers = dressed.worn.filter(({ slot: slot2, part }) => slot2 === slotId || part.occupies.includes(slotId));
      const [first, second] = takers;
      const words = { part: first?.part.id ?? "", other: second?.part.id ?? "", slot: slotId };
      return { ...aboutSlot("slot-taken-twice", slotId, words), chain: takers.map(wornFact), culprits: chosen(takers) };
    }
    case "empty":
      return { ...aboutSlot("required-slot", slotId, { slot: slotId }), advice: { code: "put-something-on" } };
    case "never": {
      const [one, other] = [at(broken2.one), at(broken2.other)];
      return explainNever(voice, tally.catalog.rules[broken2.rule], [one, other].filter(isWorn));
    }
    case "rule":
      return explainRule(voice, tally, dressed, tally.catalog.rules[broken2.rule], broken2.rule);
  }
}
function explainNeed(tally, worn, need) {
  const stat2 = tally.catalog.compiled.stats[need.stat]?.id ?? "";
  const value = tally.stat(need.stat, need.slot);
  return aboutPart("need-unmet", worn, { least: need.atLeast, stat: stat2, value }, [{ kind: "stat", id: stat2, value }]);
}
function explainNever(voice, rule2, [one, other]) {
  const pair = [one, other].filter(isWorn);
  return {
    code: "never-together",
    subject: { kind: "part", id: one?.part.id ?? "" },
    slot: other?.slot,
    words: { part: one?.part.id ?? "", other: other?.part.id ?? "" },
    authored: sayAuthored(voice, rule2?.say),
    chain: [...pair.map(wornFact), ...ruleFact(voice, rule2)],
    culprits: chosen(pair),
    advice: void 0
  };
}
function explainRule(voice, tally, dressed, rule2, number2) {
  const said = explainWhole(tally, dressed, rule2);
  return {
    ...said,
    subject: { kind: "rule", id: String(number2) },
    slot: void 0,
    authored: sayAuthored(voice, rule2?.say),
    chain: [...said.chain, ...ruleFact(voice, rule2)]
  };
}
function explainWhole(tally, dressed, rule2) {
  switch (rule2?.kind) {
    case "needs":
      return explainMissing(dressed, rule2);
    case "total":
      return explainTotal(tally, dressed, rule2);
    case "count":
      return explainCount(dressed, rule2);
    default:
      throw new TypeError(`Rule ${rule2?.number} is about pairs, not about the whole loadout`);
  }
}
function explainMissing(dressed, { when, needs }) {
  return {
    code: "needs-missing",
    words: { when, needs },
    chain: [...factsIn(when, dressed), { kind: "missing", condition: needs }],
    culprits: chosen(partsIn(when, dressed)),
    advice: { code: "see-to", words: { needs } }
  };
}
function explainTotal(tally, dressed, rule2) {
  const value = statIn(tally, rule2.stat);
  const limit = (bound3) => typeof bound3 === "object" ? statIn(tally, bound3.stat) : bound3;
  const most = limit(rule2.atMost);
  const high = most !== void 0 && value > most;
  const bound2 = (high ? most : limit(rule2.atLeast)) ?? 0;
  const bounding = high ? rule2.atMost : rule2.atLeast;
  const givers2 = dressed.worn.filter(({ part }) => {
    const gift2 = valueAt(part.gives, rule2.stat);
    return gift2 !== void 0 && gift2.add > 0 === high;
  });
  return {
    code: high ? "total-too-high" : "total-too-low",
    words: { stat: rule2.stat, value, bound: bound2 },
    chain: [
      ...givers2.map(wornFact),
      { kind: "stat", id: rule2.stat, value },
      ...typeof bounding === "object" ? [{ kind: "stat", id: bounding.stat, value: bound2 }] : []
    ],
    culprits: chosen(givers2),
    advice: void 0
  };
}
function statIn(tally, stat2) {
  return tally.stat(tally.catalog.compiled.statNumbers.get(stat2) ?? -1);
}
function explainCount(dressed, rule2) {
  const counted2 = dressed.worn.filter((worn) => matches(rule2.of, worn));
  const value = counted2.length;
  const high = rule2.atMost !== void 0 && value > rule2.atMost;
  const bound2 = (high ? rule2.atMost : rule2.atLeast) ?? 0;
  return {
    code: high ? "count-too-high" : "count-too-low",
    words: { pattern: rule2.of, value, bound: bound2 },
    chain: high ? counted2.map(wornFact) : [{ kind: "missing", condition: rule2.of }],
    culprits: high ? chosen(counted2) : [],
    advice: high ? void 0 : { code: "put-on-more", words: { pattern: rule2.of } }
  };
}
function aboutPart(code, worn, words, facts = []) {
  return {
    code,
    subject: { kind: "part", id: worn?.part.id ?? "" },
    slot: worn?.slot,
    words: { part: worn?.part.id ?? "", ...words },
    authored: [],
    chain: [...worn === void 0 ? [] : [wornFact(worn)], ...facts],
    culprits: chosen(worn === void 0 ? [] : [worn]),
    advice: void 0
  };
}
function aboutSlot(code, slot2, words) {
  const subject = { kind: "slot", id: slot2 };
  return { code, subject, slot: slot2, words, authored: [], chain: [], culprits: [], advice: void 0 };
}
function ruleFact(voice, rule2) {
  if (rule2 === void 0)
    return [];
  return [{ kind: "rule", number: rule2.number, say: sayAuthored(voice, rule2.say)[0] }];
}
function chosen(worn) {
  return worn.filter(({ issued }) => !issued);
}
function isWorn(worn) {
  return worn !== void 0;
}

// dist/core/character/find-broken.js
var nothing4 = [];
function findBroken(tally) {
  const slotwise = brokenSlots(tally);
  const rules = brokenRules(tally);
  if (slotwise === nothing4 && rules === nothing4)
    return nothing4;
  const order = (broken2) => kinds2.indexOf(broken2.kind);
  return [...slotwise, ...rules].sort((one, other) => order(one) - order(other));
}
var kinds2 = ["misplaced", "misfit", "taken-twice", "never", "need", "rule", "empty"];
function brokenKey(broken2, tally) {
  const partIn = (slot2) => tally.worn[slot2]?.id ?? "";
  switch (broken2.kind) {
    case "need":
      return `need ${broken2.stat} ${partIn(broken2.slot)}`;
    case "never":
      return `never ${broken2.rule} ${partIn(broken2.one)} ${partIn(broken2.other)}`;
    case "rule":
      return `rule ${broken2.rule}`;
    case "empty":
      return `empty ${broken2.slot}`;
    case "misplaced":
    case "misfit":
    case "taken-twice":
      return `${broken2.kind} ${broken2.slot} ${partIn(broken2.slot)}`;
  }
}
function brokenSlots(tally) {
  const { worn, covered, required } = tally;
  let found;
  const report = (broken2) => {
    if (found === void 0)
      found = [broken2];
    else
      found.push(broken2);
  };
  for (const slot2 of required)
    if (covered[slot2] === 0)
      report({ kind: "empty", slot: slot2 });
  const body2 = tally.body?.id ?? "";
  for (let slot2 = 0; slot2 < worn.length; slot2 += 1) {
    if ((covered[slot2] ?? 0) > 1)
      report({ kind: "taken-twice", slot: slot2 });
    const part = worn[slot2];
    if (part === void 0)
      continue;
    const { places, needs } = part.compiled;
    if (places[0] !== slot2 && !places.includes(slot2))
      report({ kind: "misplaced", slot: slot2 });
    if (part.fits !== void 0 && tally.issued[slot2] === 0 && !fitsBody(part, body2))
      report({ kind: "misfit", slot: slot2 });
    for (let at = 0; at < needs.length; at += 1) {
      const { stat: stat2 = 0, atLeast = 0 } = needs[at] ?? {};
      if (tally.stat(stat2, slot2) < atLeast)
        report({ kind: "need", slot: slot2, stat: stat2, atLeast });
    }
  }
  return found ?? nothing4;
}
function brokenRules(tally) {
  const { rules } = tally.catalog.compiled;
  const broken2 = tally.brokenRules();
  if (broken2.length === 0)
    return nothing4;
  return [...broken2].sort((one, other) => one - other).flatMap((number2) => {
    const rule2 = rules[number2];
    return rule2?.kind === "never" ? pairsOf(number2, rule2.marks, tally) : [{ kind: "rule", rule: number2 }];
  });
}
function pairsOf(rule2, marks, tally) {
  const concerned = [...tally.worn.keys()].filter((slot2) => marks.some((mark2) => tally.has(slot2, mark2)));
  return concerned.flatMap((one, at) => concerned.slice(at + 1).filter((other) => meet(marks, one, other, tally)).map((other) => ({ kind: "never", rule: rule2, one, other })));
}
function meet(marks, one, other, tally) {
  return marks.some((mark2, at) => tally.has(one, mark2) && marks.some((another, number2) => number2 !== at && tally.has(other, another)));
}

// dist/core/character/refuse.js
function refuse(character2, ...problems) {
  return { ok: false, character: character2, problems };
}
function loadoutProblem(voice, code, details) {
  const { subject, at, words = {}, more = [], chain = [], fixes = [] } = details;
  const because = [sayText(voice, code, words), ...more].join(" ");
  return { code, severity: "error", subject, place: { pointer: pointerTo(...at) }, because, chain, fixes };
}
function fixOf(voice, code, words = {}, edits) {
  const say = sayText(voice, code, words);
  return edits === void 0 ? { say } : { say, edits };
}
function unknownId(voice, noun, id2, at) {
  const { bodies, slots, parts, outfits, channels } = voice.catalog;
  const known = { body: bodies, slot: slots, part: parts, outfit: outfits, channel: channels }[noun];
  const fixes = suggest(id2, [...known.keys()], (meant) => sayText(voice, "meant-id", { id: meant }), sayText(voice, "name-known", { noun }));
  return loadoutProblem(voice, `unknown-${noun}`, { subject: { kind: noun, id: id2 }, at, words: { id: id2 }, fixes });
}

// dist/core/character/newly-broken.js
function newlyBroken(catalog2, before, after, context) {
  const earlier = brokenKeys(catalog2, before, context);
  const tally = tallyOf(catalog2, after, context);
  const later = findBroken(tally).filter((broken2) => !earlier.has(brokenKey(broken2, tally)));
  return explainAll(tally, after, context, later);
}
function brokenKeys(catalog2, character2, context) {
  const tally = tallyOf(catalog2, character2, context);
  return new Set(findBroken(tally).map((broken2) => brokenKey(broken2, tally)));
}
function wouldBreak(voice, before, after, context, edit, slot2) {
  return newlyBroken(voice.catalog, before, after, context).map(({ code, subject, words, authored, chain, culprits, advice }) => {
    const others = culprits.filter((worn) => worn.slot !== slot2 && valueAt(before.loadout, worn.slot) === worn.part.id);
    const fixes = [];
    if (others.length > 0) {
      const parts = others.map(({ part }) => part.id);
      const removals = others.map((worn) => ({ remove: worn.slot }));
      fixes.push(fixOf(voice, "take-off-first", { parts: [...new Set(parts)] }, [...removals, edit]));
    } else if (advice !== void 0)
      fixes.push(fixOf(voice, advice.code, advice.words));
    const at = slot2 === void 0 ? ["loadout"] : ["loadout", slot2];
    return loadoutProblem(voice, code, { subject, at, words, more: authored, chain, fixes });
  });
}

// dist/core/character/bag.js
function countInBag(bag, part) {
  return (valueAt(bag, part) ?? []).reduce((sum, count) => sum + count, 0);
}
function stacksIn(bag) {
  return Object.values(bag).reduce((sum, stacks) => sum + stacks.length, 0);
}
function stackSize(catalog2, part) {
  return catalog2.parts.get(part)?.stack ?? 1;
}
function addToBag(catalog2, bag, part) {
  const stacks = valueAt(bag, part) ?? [];
  const size2 = stackSize(catalog2, part);
  const room = stacks.findIndex((count) => count < size2);
  const grown = room < 0 ? [...stacks, 1] : stacks.map((count, at) => at === room ? count + 1 : count);
  return { ...bag, [part]: grown };
}
function takeFromBag(bag, part) {
  const stacks = valueAt(bag, part) ?? [];
  if (stacks.length === 0)
    return bag;
  const least = stacks.indexOf(Math.min(...stacks));
  const left = stacks.map((count, at) => at === least ? count - 1 : count).filter((count) => count > 0);
  return left.length === 0 ? without(bag, part) : { ...bag, [part]: left };
}
function stacked(count, size2) {
  const full = new Array(Math.floor(count / size2)).fill(size2);
  return count % size2 === 0 ? full : [...full, count % size2];
}

// dist/core/character/take-off.js
function takeOff({ catalog: catalog2 }, character2, leaving) {
  let { loadout, bag } = character2;
  const displaced = [];
  for (const { worn, because } of leaving) {
    const owned = catalog2.slots.get(worn.slot)?.kind === "gear";
    loadout = without(loadout, worn.slot);
    if (owned)
      bag = addToBag(catalog2, bag, worn.part.id);
    displaced.push({ part: worn.part.id, slot: worn.slot, to: owned ? "bag" : "nowhere", because });
  }
  return { character: { ...character2, loadout, bag }, displaced };
}

// dist/core/character/change-body.js
function changeBody(voice, character2, edit, context) {
  const body2 = voice.catalog.bodies.get(edit.body);
  if (body2 === void 0)
    return refuse(character2, unknownId(voice, "body", edit.body, ["body"]));
  let current = { ...character2, body: body2.id };
  const displaced = [];
  for (; ; ) {
    const broken2 = newlyBroken(voice.catalog, character2, current, context).find(({ culprits }) => culprits.length > 0);
    const worn = broken2?.culprits.at(-1);
    if (broken2 === void 0 || worn === void 0)
      return { ok: true, character: current, displaced };
    const because = [sayText(voice, broken2.code, broken2.words), ...broken2.authored].join(" ");
    const lighter = takeOff(voice, current, [{ worn, because }]);
    current = lighter.character;
    displaced.push(...lighter.displaced);
  }
}

// dist/core/character/cycle.js
function cycle(voice, character2, edit, attempt) {
  const slot2 = voice.catalog.slots.get(edit.cycle);
  if (slot2 === void 0)
    return refuse(character2, unknownId(voice, "slot", edit.cycle, ["loadout"]));
  const current = wornParts(voice.catalog, character2).find((worn) => worn.slot === slot2.id)?.part.id;
  const choices = [...slot2.required ? [] : [void 0], ...slot2.parts.map(({ id: id2 }) => id2)];
  const start = choices.indexOf(current);
  for (let distance2 = 1; distance2 < choices.length; distance2 += 1) {
    const at = start + edit.step * distance2 + (start < 0 && edit.step < 0 ? 1 : 0);
    const choice = choices[(at % choices.length + choices.length) % choices.length];
    const result = attempt(choice === void 0 ? { remove: slot2.id } : { wear: choice, in: slot2.id });
    if (result.ok)
      return result;
  }
  return { ok: true, character: character2, displaced: [] };
}

// dist/core/character/paint.js
function paint(voice, character2, edit) {
  const channel2 = voice.catalog.channels.get(edit.paint);
  if (channel2 === void 0)
    return refuse(character2, unknownId(voice, "channel", edit.paint, ["colors"]));
  if (!channel2.ramps.includes(edit.ramp)) {
    const problem = loadoutProblem(voice, "ramp-not-offered", {
      subject: { kind: "channel", id: channel2.id },
      at: ["colors", channel2.id],
      words: { channel: channel2.id, ramp: edit.ramp },
      fixes: [fixOf(voice, "offers-ramps", { ramps: channel2.ramps })]
    });
    return refuse(character2, problem);
  }
  const colors = { ...character2.colors, [channel2.id]: edit.ramp };
  return { ok: true, character: { ...character2, colors }, displaced: [] };
}

// dist/core/character/access.js
function accessTo(part, holdings) {
  return holdings === void 0 ? "owned" : valueAt(holdings, part.id) ?? part.access;
}
function withheld(voice, part, holdings, at) {
  const access = accessTo(part, holdings);
  if (access === "owned")
    return [];
  const about = {
    subject: { kind: "part", id: part.id },
    at,
    words: { part: part.id },
    chain: [{ kind: "access", part: part.id, access }]
  };
  if (access === "secret")
    return [loadoutProblem(voice, "not-known", about)];
  const fix = part.price === void 0 ? fixOf(voice, "acquire-first") : fixOf(voice, "acquire-for", { price: part.price });
  return [loadoutProblem(voice, "not-owned", { ...about, fixes: [fix] })];
}

// dist/core/character/wear.js
function wear(voice, character2, edit, context) {
  const { catalog: catalog2 } = voice;
  const part = catalog2.parts.get(edit.wear);
  if (part === void 0)
    return refuse(character2, unknownId(voice, "part", edit.wear, ["loadout"]));
  const slot2 = slotFor(part, character2, edit);
  const unfit = reasonsAgainst(voice, character2, part, slot2, context);
  if (unfit.length > 0)
    return refuse(character2, ...unfit);
  if (valueAt(character2.loadout, slot2) === part.id)
    return { ok: true, character: character2, displaced: [] };
  const leaving = makeRoom(voice, wornParts(catalog2, character2), { slot: slot2, part, issued: false });
  const cleared = takeOff(voice, character2, leaving);
  return { ok: true, character: putOn(catalog2, cleared.character, part, slot2), displaced: cleared.displaced };
}
function slotFor(part, character2, edit) {
  if (edit.in !== void 0)
    return edit.in;
  const worn = part.slots.find((slot2) => valueAt(character2.loadout, slot2) === part.id);
  const free = part.slots.find((slot2) => valueAt(character2.loadout, slot2) === void 0);
  return worn ?? free ?? part.slots[0] ?? "";
}
function isIssued(catalog2, part, slot2) {
  const place = catalog2.slots.get(slot2);
  return place?.required === true && place.default === part.id;
}
function reasonsAgainst(voice, character2, part, slot2, context) {
  const { catalog: catalog2 } = voice;
  const at = ["loadout", slot2];
  const subject = { kind: "part", id: part.id };
  if (!catalog2.slots.has(slot2))
    return [unknownId(voice, "slot", slot2, at)];
  if (!part.slots.includes(slot2)) {
    const fix = fixOf(voice, "goes-in", { slots: part.slots }, [{ wear: part.id }]);
    return [loadoutProblem(voice, "wrong-slot", { subject, at, words: { part: part.id, slot: slot2 }, fixes: [fix] })];
  }
  const problems = [];
  if (!fitsBody(part, character2.body)) {
    problems.push(loadoutProblem(voice, "does-not-fit", {
      subject,
      at,
      words: { part: part.id, body: character2.body },
      chain: [{ kind: "body", id: character2.body }],
      fixes: [fixOf(voice, "fits-bodies", { bodies: [...part.fits ?? []] })]
    }));
  }
  if (isAtHand(catalog2, character2, part, slot2))
    return problems;
  problems.push(...withheld(voice, part, context.holdings, at));
  if (context.wardrobe === "bag" && catalog2.slots.get(slot2)?.kind === "gear" && countInBag(character2.bag, part.id) === 0) {
    problems.push(loadoutProblem(voice, "not-carried", {
      subject,
      at: ["bag", part.id],
      words: { part: part.id },
      chain: [{ kind: "carried", part: part.id, count: 0 }],
      fixes: [fixOf(voice, "put-in-bag")]
    }));
  }
  return problems;
}
function isAtHand(catalog2, character2, part, slot2) {
  return valueAt(character2.loadout, slot2) === part.id || isIssued(catalog2, part, slot2);
}
function makeRoom(voice, worn, coming) {
  const taken = /* @__PURE__ */ new Set([coming.slot, ...coming.part.occupies]);
  const rules = neverRules(voice.catalog, coming);
  return worn.flatMap((each) => {
    if (each.issued)
      return [];
    const overlap = [each.slot, ...each.part.occupies].find((slot2) => taken.has(slot2));
    if (overlap !== void 0) {
      const because2 = sayText(voice, "slot-is-taken", { part: coming.part.id, slot: overlap });
      return [{ worn: each, because: because2 }];
    }
    const apart2 = rules.filter(({ patterns }) => keepsApart(patterns, coming, each));
    if (apart2.length === 0 || apart2.some(({ then }) => then === "refuse"))
      return [];
    const words = { part: coming.part.id, other: each.part.id };
    const because = [sayText(voice, "never-together", words), ...sayAuthored(voice, apart2[0]?.say)].join(" ");
    return [{ worn: each, because }];
  });
}
function neverRules(catalog2, { slot: slot2, part }) {
  const { apart: apart2, slotMarks } = catalog2.compiled;
  const own = slotMarks[catalog2.slots.get(slot2)?.number ?? -1] ?? -1;
  const marks = own < 0 ? part.compiled.marks : [...part.compiled.marks, own];
  const numbers = new Set(marks.flatMap((mark2) => apart2[mark2] ?? []));
  const rules = [...numbers].sort((one, other) => one - other).map((number2) => catalog2.rules[number2]);
  return rules.filter((rule2) => rule2?.kind === "never");
}
function keepsApart(patterns, one, other) {
  return patterns.some((pattern2, number2) => matches(pattern2, one) && patterns.some((another, at) => at !== number2 && matches(another, other)));
}
function putOn(catalog2, character2, part, slot2) {
  if (isIssued(catalog2, part, slot2))
    return character2;
  const gear = catalog2.slots.get(slot2)?.kind === "gear";
  const unknown = valueAt(character2.loadout, slot2);
  const bag = unknown === void 0 ? character2.bag : addToBag(catalog2, character2.bag, unknown);
  return {
    ...character2,
    loadout: { ...character2.loadout, [slot2]: part.id },
    bag: gear ? takeFromBag(bag, part.id) : bag
  };
}

// dist/core/character/dress.js
function dress(voice, character2, edit, context) {
  const { catalog: catalog2 } = voice;
  const outfit2 = catalog2.outfits.get(edit.dress);
  if (outfit2 === void 0)
    return refuse(character2, unknownId(voice, "outfit", edit.dress, ["loadout"]));
  const named = new Set(outfit2.parts);
  const others = wornParts(catalog2, character2).filter(({ slot: slot2, part, issued }) => outfit2.others === "clear" && !issued && !named.has(part.id) && catalog2.slots.get(slot2)?.kind === "gear");
  const because = sayText(voice, "outfit-without", { outfit: outfit2.id });
  const cleared = takeOff(voice, character2, others.map((worn) => ({ worn, because })));
  let current = cleared.character;
  const displaced = [...cleared.displaced];
  const problems = [];
  const take = (result) => {
    if (!result.ok)
      problems.push(...result.problems);
    else
      displaced.push(...result.displaced);
    current = result.character;
  };
  for (const part of outfit2.parts)
    take(wear(voice, current, { wear: part }, context));
  for (const [channel2, ramp2] of Object.entries(outfit2.colors))
    take(paint(voice, current, { paint: channel2, ramp: ramp2 }));
  if (problems.length === 0)
    problems.push(...notWorn(voice, outfit2, current));
  if (problems.length > 0)
    return refuse(character2, ...problems);
  return { ok: true, character: current, displaced };
}
function notWorn(voice, outfit2, character2) {
  const worn = new Set(wornParts(voice.catalog, character2).map(({ part }) => part.id));
  return outfit2.parts.filter((part) => !worn.has(part)).map((part) => loadoutProblem(voice, "outfit-clash", {
    subject: { kind: "outfit", id: outfit2.id },
    at: ["loadout"],
    words: { outfit: outfit2.id, part }
  }));
}

// dist/core/character/overfull.js
function overfull(voice, before, after, { bagPlaces }) {
  const stacks = stacksIn(after.bag);
  if (bagPlaces === void 0 || stacks <= bagPlaces || stacks <= stacksIn(before.bag))
    return [];
  const part = Object.keys(after.bag).find((id2) => (after.bag[id2]?.length ?? 0) > (before.bag[id2]?.length ?? 0)) ?? "";
  return [
    loadoutProblem(voice, "bag-full", {
      subject: { kind: "part", id: part },
      at: ["bag", part],
      words: { part, places: bagPlaces },
      fixes: [fixOf(voice, "make-room")]
    })
  ];
}

// dist/core/character/remove.js
function remove(voice, character2, edit) {
  const slot2 = voice.catalog.slots.get(edit.remove);
  if (slot2 === void 0)
    return refuse(character2, unknownId(voice, "slot", edit.remove, ["loadout"]));
  const worn = wornParts(voice.catalog, character2).find((each) => each.slot === slot2.id);
  if (worn === void 0)
    return { ok: true, character: character2, displaced: [] };
  if (worn.issued) {
    const problem = loadoutProblem(voice, "default-stays", {
      subject: { kind: "slot", id: slot2.id },
      at: ["loadout", slot2.id],
      words: { part: worn.part.id, slot: slot2.id },
      fixes: [fixOf(voice, "put-another-on")]
    });
    return refuse(character2, problem);
  }
  return { ok: true, ...takeOff(voice, character2, [{ worn, because: sayText(voice, "was-taken-off") }]) };
}

// dist/core/character/name.js
var nameLimit = 16;
function tidyName(typed) {
  return typed.normalize("NFC").replace(/\s+/gu, " ").replace(/\p{Cc}/gu, "").trim();
}
function countGraphemes(text2) {
  let count = 0;
  for (const _ of new Intl.Segmenter(void 0, { granularity: "grapheme" }).segment(text2))
    count += 1;
  return count;
}

// dist/core/character/rename.js
function rename(voice, character2, edit) {
  const name = tidyName(edit.rename);
  const count = countGraphemes(name);
  if (count <= nameLimit)
    return { ok: true, character: { ...character2, name }, displaced: [] };
  const problem = loadoutProblem(voice, "name-too-long", {
    subject: { kind: "name", id: name },
    at: ["name"],
    words: { name, count, most: nameLimit },
    fixes: [fixOf(voice, "leave-out", { count: count - nameLimit })]
  });
  return refuse(character2, problem);
}

// dist/core/character/stack-edits.js
function splitStack(voice, character2, edit) {
  const { split: part, count: take } = edit;
  const stacks = valueAt(character2.bag, part) ?? [];
  const largest = Math.max(0, ...stacks);
  const about = { subject: { kind: "part", id: part }, at: ["bag", part] };
  const carried = { kind: "carried", part, count: countInBag(character2.bag, part) };
  if (stacks.length === 0)
    return refuse(character2, loadoutProblem(voice, "not-carried", { ...about, words: { part }, chain: [carried] }));
  if (!Number.isInteger(take) || take < 1 || take >= largest) {
    const words = { part, count: largest, take };
    return refuse(character2, loadoutProblem(voice, "cannot-split", { ...about, words, chain: [carried] }));
  }
  const at = stacks.indexOf(largest);
  const left = stacks.flatMap((count, number2) => number2 === at ? [count - take, take] : [count]);
  return { ok: true, character: { ...character2, bag: { ...character2.bag, [part]: left } }, displaced: [] };
}
function mergeStacks(voice, character2, edit) {
  const part = edit.merge;
  const count = countInBag(character2.bag, part);
  if (count === 0) {
    const about = { subject: { kind: "part", id: part }, at: ["bag", part], words: { part } };
    return refuse(character2, loadoutProblem(voice, "not-carried", { ...about, chain: [{ kind: "carried", part, count }] }));
  }
  const merged = stacked(count, stackSize(voice.catalog, part));
  return { ok: true, character: { ...character2, bag: { ...character2.bag, [part]: merged } }, displaced: [] };
}

// dist/core/character/apply-edit.js
function applyEdit(catalog2, character2, edit, context = {}) {
  const voice = { catalog: catalog2, context };
  const result = move(voice, character2, edit, context);
  if (!result.ok || result.character === character2)
    return result;
  const problems = [
    ...broken(voice, character2, result.character, edit, context),
    ...overfull(voice, character2, result.character, context)
  ];
  return problems.length === 0 ? result : refuse(character2, ...problems);
}
function move(voice, character2, edit, context) {
  if ("wear" in edit)
    return wear(voice, character2, edit, context);
  if ("remove" in edit)
    return remove(voice, character2, edit);
  if ("cycle" in edit)
    return cycle(voice, character2, edit, (choice) => applyEdit(voice.catalog, character2, choice, context));
  if ("paint" in edit)
    return paint(voice, character2, edit);
  if ("dress" in edit)
    return dress(voice, character2, edit, context);
  if ("body" in edit)
    return changeBody(voice, character2, edit, context);
  if ("rename" in edit)
    return rename(voice, character2, edit);
  if ("split" in edit)
    return splitStack(voice, character2, edit);
  if ("merge" in edit)
    return mergeStacks(voice, character2, edit);
  return together(voice, character2, edit.together, context);
}
function together(voice, character2, edits, context) {
  let current = character2;
  const displaced = [];
  for (const edit of edits) {
    const result = move(voice, current, edit, context);
    if (!result.ok)
      return refuse(character2, ...result.problems);
    current = result.character;
    displaced.push(...result.displaced);
  }
  return { ok: true, character: current, displaced };
}
function broken(voice, before, after, edit, context) {
  if (before.loadout === after.loadout || "body" in edit)
    return [];
  return wouldBreak(voice, before, after, context, ...namedSlot(voice, before, edit));
}
function namedSlot({ catalog: catalog2 }, before, edit) {
  if ("remove" in edit)
    return [edit, edit.remove];
  const part = "wear" in edit ? catalog2.parts.get(edit.wear) : void 0;
  if (part === void 0 || !("wear" in edit))
    return [edit];
  const slot2 = slotFor(part, before, edit);
  return [{ wear: part.id, in: slot2 }, slot2];
}

// dist/core/character/create-character.js
var characterIdForm = /^[a-z0-9]+(-[a-z0-9]+)*$/;
function createCharacter(catalog2, options) {
  if (!catalog2.bodies.has(options.body)) {
    const problem = unknownId({ catalog: catalog2, context: {} }, "body", options.body, ["body"]);
    throw new MantleError(problem.code, [problem.because, ...problem.fixes.map(({ say }) => say)].join(" "), [problem]);
  }
  const id2 = options.id ?? idFromName(options.name ?? "");
  if (!characterIdForm.test(id2)) {
    throw new MantleError("bad-id", `"${id2}" cannot be the id of a character. Use lower-case letters, digits and single hyphens.`);
  }
  let character2 = {
    mantle: "character/1",
    id: id2,
    name: "",
    catalog: { id: catalog2.id, version: catalog2.version },
    body: options.body,
    loadout: {},
    colors: {},
    bag: {},
    facts: options.facts ?? {}
  };
  if (options.name !== void 0) {
    const named = applyEdit(catalog2, character2, { rename: options.name });
    if (!named.ok)
      throw new MantleError("bad-name", named.problems.map(({ because }) => because).join(" "), named.problems);
    character2 = named.character;
  }
  for (const slot2 of catalog2.slots.values()) {
    if (slot2.default === void 0 || slot2.required)
      continue;
    const started = applyEdit(catalog2, character2, { wear: slot2.default, in: slot2.id });
    if (started.ok && started.displaced.length === 0)
      character2 = started.character;
  }
  return character2;
}
function idFromName(name) {
  const words = name.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase().split(/[^a-z0-9]+/).filter((word) => word !== "");
  return words.join("-") || "character";
}

// dist/core/loadout/solve/domains.js
var Domains = class {
  offsets;
  words;
  failed = false;
  /** Variables that changed since they were last taken from here. */
  changed = [];
  #isChanged;
  constructor(sizes) {
    let offset = 0;
    const offsets = [0];
    for (const size2 of sizes) {
      offset += wordsFor(size2);
      offsets.push(offset);
    }
    this.offsets = offsets;
    this.words = new Uint32Array(offset);
    this.#isChanged = new Uint8Array(sizes.length);
    for (const [variable, size2] of sizes.entries())
      this.words.set(allBits(size2), offsets[variable] ?? 0);
  }
  /** How many values a variable has left. */
  size(variable) {
    let size2 = 0;
    for (let at = this.#start(variable); at < this.#end(variable); at += 1)
      size2 += countBits(this.words[at] ?? 0);
    return size2;
  }
  isFixed(variable) {
    let single = false;
    for (let at = this.#start(variable); at < this.#end(variable); at += 1) {
      const word = this.words[at] ?? 0;
      if (word === 0)
        continue;
      if (single || (word & word - 1) !== 0)
        return false;
      single = true;
    }
    return single;
  }
  has(variable, value) {
    return ((this.words[this.#start(variable) + (value >>> 5)] ?? 0) >>> (value & 31) & 1) === 1;
  }
  /** The values left, in order. */
  values(variable) {
    const values = [];
    const start = this.#start(variable);
    for (let at = start; at < this.#end(variable); at += 1) {
      let word = this.words[at] ?? 0;
      while (word !== 0) {
        values.push((at - start << 5) + 31 - Math.clz32(word & -word));
        word &= word - 1;
      }
    }
    return values;
  }
  /** The first value left. */
  first(variable) {
    const start = this.#start(variable);
    for (let at = start; at < this.#end(variable); at += 1) {
      const word = this.words[at] ?? 0;
      if (word !== 0)
        return (at - start << 5) + 31 - Math.clz32(word & -word);
    }
    return -1;
  }
  /** The least number that any value left has. */
  least(variable, numbers) {
    let least = Number.POSITIVE_INFINITY;
    const start = this.#start(variable);
    for (let at = start; at < this.#end(variable); at += 1) {
      for (let word = this.words[at] ?? 0; word !== 0; word &= word - 1) {
        const number2 = numbers[(at - start << 5) + 31 - Math.clz32(word & -word)] ?? 0;
        if (number2 < least)
          least = number2;
      }
    }
    return least;
  }
  /** The greatest number that any value left has. */
  greatest(variable, numbers) {
    let greatest = Number.NEGATIVE_INFINITY;
    const start = this.#start(variable);
    for (let at = start; at < this.#end(variable); at += 1) {
      for (let word = this.words[at] ?? 0; word !== 0; word &= word - 1) {
        const number2 = numbers[(at - start << 5) + 31 - Math.clz32(word & -word)] ?? 0;
        if (number2 > greatest)
          greatest = number2;
      }
    }
    return greatest;
  }
  /** Leaves out the values that have more than a limit. */
  dropAbove(variable, numbers, limit) {
    const start = this.#start(variable);
    for (let at = start; at < this.#end(variable); at += 1) {
      for (let word = this.words[at] ?? 0; word !== 0; word &= word - 1) {
        const value = (at - start << 5) + 31 - Math.clz32(word & -word);
        if ((numbers[value] ?? 0) > limit)
          this.dropValue(variable, value);
      }
    }
  }
  /** Whether any value left is in a mask. */
  meets(variable, mask) {
    const start = this.#start(variable);
    for (let at = 0; at < mask.length; at += 1) {
      if (((this.words[start + at] ?? 0) & (mask[at] ?? 0)) !== 0)
        return true;
    }
    return false;
  }
  /** Whether every value left is in a mask. */
  isWithin(variable, mask) {
    const start = this.#start(variable);
    for (let at = 0; at < mask.length; at += 1) {
      if (((this.words[start + at] ?? 0) & ~(mask[at] ?? 0)) !== 0)
        return false;
    }
    return true;
  }
  /** Leaves only the values in a mask. */
  keep(variable, mask) {
    this.#mask(variable, mask, 0);
  }
  /** Leaves only the values that are not in a mask. */
  drop(variable, mask) {
    this.#mask(variable, mask, -1);
  }
  fix(variable, value) {
    const start = this.#start(variable);
    let changed = false;
    for (let at = start; at < this.#end(variable); at += 1) {
      const was = this.words[at] ?? 0;
      const now = at - start === value >>> 5 ? (was & 1 << (value & 31)) >>> 0 : 0;
      changed ||= was !== now;
      this.words[at] = now;
    }
    if (changed)
      this.#touch(variable);
  }
  dropValue(variable, value) {
    const at = this.#start(variable) + (value >>> 5);
    const was = this.words[at] ?? 0;
    const now = (was & ~(1 << (value & 31))) >>> 0;
    if (was === now)
      return;
    this.words[at] = now;
    this.#touch(variable);
  }
  /** A copy of the words, to come back to. */
  save() {
    return this.words.slice();
  }
  restore(words) {
    this.words.set(words);
    this.failed = false;
    for (const variable of this.changed)
      this.#isChanged[variable] = 0;
    this.changed.length = 0;
  }
  /** Takes a variable that changed; `undefined` when there is none. */
  nextChanged() {
    const variable = this.changed.pop();
    if (variable !== void 0)
      this.#isChanged[variable] = 0;
    return variable;
  }
  #mask(variable, mask, flip) {
    const start = this.#start(variable);
    let changed = false;
    for (let at = 0; at < mask.length; at += 1) {
      const was = this.words[start + at] ?? 0;
      const now = (was & ((mask[at] ?? 0) ^ flip)) >>> 0;
      changed ||= was !== now;
      this.words[start + at] = now;
    }
    if (changed)
      this.#touch(variable);
  }
  #touch(variable) {
    if (this.first(variable) < 0)
      this.failed = true;
    if (this.#isChanged[variable] === 1)
      return;
    this.#isChanged[variable] = 1;
    this.changed.push(variable);
  }
  #start(variable) {
    return this.offsets[variable] ?? 0;
  }
  #end(variable) {
    return this.offsets[variable + 1] ?? 0;
  }
};
function maskOf(size2, values) {
  const mask = new Uint32Array(wordsFor(size2));
  for (const value of values)
    mask[value >>> 5] = ((mask[value >>> 5] ?? 0) | 1 << (value & 31)) >>> 0;
  return mask;
}
function allBits(size2) {
  const words = new Uint32Array(wordsFor(size2)).fill(4294967295);
  if (size2 % 32 !== 0)
    words[words.length - 1] = (1 << size2 % 32) - 1;
  return words;
}
function wordsFor(size2) {
  return Math.max(1, Math.ceil(size2 / 32));
}
function countBits(word) {
  let bits = word - (word >>> 1 & 1431655765);
  bits = (bits & 858993459) + (bits >>> 2 & 858993459);
  return Math.imul(bits + (bits >>> 4) & 252645135, 16843009) >>> 24;
}

// dist/core/loadout/solve/model.js
var everything = {};
var models = /* @__PURE__ */ new WeakMap();
function modelFor(catalog2, body2, character2, context) {
  const { holdings } = context;
  if (context.wardrobe === "bag" && character2 !== void 0) {
    return buildModel({
      catalog: catalog2,
      body: body2,
      character: character2,
      copiesOf: (part, slot2) => carriedCopies(catalog2, character2, part, slot2, holdings)
    });
  }
  const copiesOf = (part) => ownedCopies(part, holdings);
  if (character2 !== void 0 && choosesDefault(catalog2, character2))
    return buildModel({ catalog: catalog2, body: body2, character: character2, copiesOf });
  const byCatalog = recall(models, holdings ?? everything, () => /* @__PURE__ */ new WeakMap());
  const byBody = recall(byCatalog, catalog2, () => /* @__PURE__ */ new Map());
  return recall(byBody, body2.id, () => buildModel({ catalog: catalog2, body: body2, copiesOf }));
}
function choosesDefault(catalog2, { loadout }) {
  return [...catalog2.slots.values()].some((slot2) => slot2.required && valueAt(loadout, slot2.id) === slot2.default);
}
function ownedCopies(part, holdings) {
  return accessTo(part, holdings) === "owned" ? Number.POSITIVE_INFINITY : 0;
}
function carriedCopies(catalog2, character2, part, slot2, holdings) {
  const owned = ownedCopies(part, holdings);
  if (slot2.kind !== "gear" || owned === 0)
    return owned;
  const worn = part.slots.filter((id2) => catalog2.slots.get(id2)?.kind === "gear" && character2.loadout[id2] === part.id);
  return countInBag(character2.bag, part.id) + worn.length;
}
function buildModel({ catalog: catalog2, body: body2, copiesOf, character: character2, openAnswers = false }) {
  const { compiled } = catalog2;
  const copies = /* @__PURE__ */ new Map();
  const limit = (part, count) => {
    if (count >= part.slots.length)
      return void 0;
    return recall(copies, part, () => ({ mark: compiled.marks.size + copies.size, count })).mark;
  };
  const variables = [];
  for (const slot2 of catalog2.slots.values()) {
    const classes = /* @__PURE__ */ new Map();
    for (const part of slot2.parts) {
      const byItself = slot2.required && slot2.default === part.id && character2?.loadout[slot2.id] !== part.id;
      if (!fitsBody(part, body2.id) || byItself)
        continue;
      const count = copiesOf(part, slot2);
      if (count === 0)
        continue;
      const extra = limit(part, count);
      recall(classes, signature(part, extra), () => ({ first: part, parts: [], extra })).parts.push(part);
    }
    const worn = [...classes.values()].map(({ first, parts, extra }) => wearingValue("worn", first, parts, slot2, compiled.slotMarks, extra));
    variables.push({ slot: slot2, answer: void 0, values: [...unchosen(catalog2, slot2), ...worn] });
  }
  if (openAnswers)
    variables.push(...answerVariables(catalog2));
  const markCount = compiled.marks.size + copies.size;
  const slotCount = catalog2.slots.size;
  return {
    catalog: catalog2,
    body: body2,
    variables,
    holders: holdersOf(variables, markCount, ({ marks }) => marks),
    takers: holdersOf(variables, slotCount, ({ covers }) => covers),
    choosers: holdersOf(variables, slotCount, ({ kind, covers }) => kind === "worn" ? covers : []),
    copies: [...copies.values()]
  };
}
function signature({ compiled }, extra) {
  const { marks, covers, gives, needs } = compiled;
  let key = `${extra ?? ""};${marks.join(" ")};${covers.join(" ")}`;
  for (const { stat: stat2, add: add2, times } of gives)
    key += `;${stat2} ${add2} ${times}`;
  for (const { stat: stat2, atLeast } of needs)
    key += `;n${stat2} ${atLeast}`;
  return key;
}
function wearingValue(kind, part, parts, slot2, slotMarks, extra) {
  const { marks, covers, gives, needs } = part.compiled;
  const all = new Set(marks);
  const own = slotMarks[slot2.number] ?? -1;
  if (own >= 0)
    all.add(own);
  if (extra !== void 0)
    all.add(extra);
  return { kind, parts, marks: [...all], covers: [.../* @__PURE__ */ new Set([slot2.number, ...covers])], gives, needs };
}
var nothing5 = { parts: [], marks: [], covers: [], gives: [], needs: [] };
function unchosen(catalog2, slot2) {
  if (!slot2.required)
    return [{ kind: "none", ...nothing5 }];
  const covered = { kind: "covered", ...nothing5 };
  const initial = slot2.default === void 0 ? void 0 : catalog2.parts.get(slot2.default);
  if (initial === void 0)
    return [covered];
  return [wearingValue("issued", initial, [initial], slot2, catalog2.compiled.slotMarks), covered];
}
function answerVariables(catalog2) {
  const asked = /* @__PURE__ */ new Map();
  for (const { source, id: id2, value, mark: mark2 } of catalog2.compiled.answers) {
    recall(asked, `${source} ${id2}`, () => ({ source, id: id2, values: /* @__PURE__ */ new Map() })).values.set(value, mark2);
  }
  return [...asked.values()].map(({ source, id: id2, values }) => {
    const there = values.get(void 0);
    const answer = (says, mark2) => ({
      ...nothing5,
      kind: "answer",
      says,
      marks: [mark2, there].flatMap((each) => each === void 0 || says === void 0 ? [] : [each])
    });
    const named = [...values].flatMap(([value, mark2]) => value === void 0 ? [] : [answer(value, mark2)]);
    return {
      slot: void 0,
      answer: { source, id: id2 },
      values: [answer(void 0), ...there === void 0 ? [] : [answer(true)], ...named]
    };
  });
}
function holdersOf(variables, count, numbersOf) {
  const holders = Array.from({ length: count }, () => []);
  for (const [variable, { values }] of variables.entries()) {
    const byNumber = /* @__PURE__ */ new Map();
    for (const [value, each] of values.entries()) {
      for (const number2 of numbersOf(each))
        recall(byNumber, number2, () => []).push(value);
    }
    for (const [number2, having] of byNumber)
      holders[number2]?.push({ variable, mask: maskOf(values.length, having) });
  }
  return holders;
}

// dist/core/loadout/solve/conditions.js
function isPossible(condition2, outcome, domains, ground) {
  return !isCertain(condition2, !outcome, domains, ground);
}
function isCertain(condition2, outcome, domains, ground) {
  switch (condition2.kind) {
    case "mark": {
      if (ground.marks[condition2.mark] === 1)
        return outcome;
      const holders = ground.holders[condition2.mark] ?? [];
      return outcome ? holders.some(({ variable, mask }) => domains.isWithin(variable, mask)) : holders.every(({ variable, mask }) => !domains.meets(variable, mask));
    }
    case "any":
    case "all": {
      const each = (part) => isCertain(part, outcome, domains, ground);
      return condition2.kind === "any" === outcome ? condition2.of.some(each) : condition2.of.every(each);
    }
    case "not":
      return condition2.of.every((inner) => isCertain(inner, !outcome, domains, ground));
  }
}
function forceCondition(condition2, outcome, domains, ground) {
  switch (condition2.kind) {
    case "mark":
      forceMark(condition2.mark, outcome, domains, ground);
      return;
    case "any":
    case "all": {
      if (condition2.kind === "any" !== outcome) {
        for (const each of condition2.of)
          forceCondition(each, outcome, domains, ground);
        return;
      }
      const open = condition2.of.filter((each) => isPossible(each, outcome, domains, ground));
      const [only] = open;
      if (only === void 0)
        domains.failed = true;
      else if (open.length === 1)
        forceCondition(only, outcome, domains, ground);
      return;
    }
    case "not":
      for (const inner of condition2.of)
        forceCondition(inner, !outcome, domains, ground);
  }
}
function forceMark(mark2, outcome, domains, ground) {
  const stands = ground.marks[mark2] === 1;
  if (stands && !outcome)
    domains.failed = true;
  if (stands)
    return;
  const able = (ground.holders[mark2] ?? []).filter(({ variable, mask }) => domains.meets(variable, mask));
  if (!outcome)
    for (const { variable, mask } of able)
      domains.drop(variable, mask);
  else {
    const [only] = able;
    if (only === void 0)
      domains.failed = true;
    else if (able.length === 1)
      domains.keep(only.variable, only.mask);
  }
}

// dist/core/loadout/solve/gap.js
var Gap = class {
  variables;
  #pair;
  /** By the place of the variable, and then by value: what it adds to the gap. */
  #shares;
  #best;
  constructor(model, pair) {
    const ranges = [pair.lesser, pair.greater].filter((side) => typeof side !== "number");
    this.#pair = pair;
    this.variables = [...new Set(ranges.flatMap(({ variables }) => variables))];
    this.#shares = this.variables.map((variable) => Float64Array.from(model.variables[variable]?.values ?? [], (_, value) => giftOf(pair.lesser, variable, value) - giftOf(pair.greater, variable, value)));
    this.#best = new Float64Array(this.variables.length);
  }
  /** Leaves out values with which the lesser would be above the greater at its best, by more than `slack`. */
  close(domains, ground, slack) {
    const { lesser, greater } = this.#pair;
    if (!this.#isOpen(domains, ground)) {
      if (lowOf(lesser, domains, ground) - highOf(greater, domains, ground) > slack)
        domains.failed = true;
      return;
    }
    const best = this.#best;
    let least = baseOf(lesser, ground) - baseOf(greater, ground);
    for (let at = 0; at < best.length; at += 1) {
      best[at] = domains.least(this.variables[at] ?? 0, this.#shares[at] ?? nothing6);
      least += best[at] ?? 0;
    }
    if (least > slack) {
      domains.failed = true;
      return;
    }
    for (let at = 0; at < best.length; at += 1) {
      const room = slack - least + (best[at] ?? 0);
      domains.dropAbove(this.variables[at] ?? 0, this.#shares[at] ?? nothing6, room);
    }
  }
  /** Whether the lesser is no greater, whatever becomes of the variables. */
  isClosed(domains, ground, slack) {
    return highOf(this.#pair.lesser, domains, ground) + slack <= lowOf(this.#pair.greater, domains, ground);
  }
  /** Sums nearer than this may be equal but for the order of summing. */
  slack(ground) {
    const slackOf = (side) => typeof side === "number" ? 0 : side.slack(ground);
    return slackOf(this.#pair.lesser) + slackOf(this.#pair.greater);
  }
  #isOpen(domains, ground) {
    const { lesser, greater } = this.#pair;
    return (typeof lesser === "number" || lesser.isOpenBelow(greater, domains, ground)) && (typeof greater === "number" || greater.isOpenAbove(lesser, domains, ground));
  }
};
var nothing6 = new Float64Array();
function giftOf(side, variable, value) {
  return typeof side === "number" ? 0 : side.gift(variable, value);
}
function baseOf(side, ground) {
  return typeof side === "number" ? side : side.base(ground);
}
function lowOf(side, domains, ground) {
  return typeof side === "number" ? side : side.measure(domains, ground).low;
}
function highOf(side, domains, ground) {
  return typeof side === "number" ? side : side.measure(domains, ground).high;
}

// dist/core/loadout/solve/ranges.js
var Ranges = class {
  variables;
  #stat;
  #least;
  #most;
  /** By the place of the variable in `variables`, then by value. */
  #adds;
  #times;
  #place;
  #scale;
  /** Whether nothing multiplies, so that bounds can be moved value by value. */
  #isSum;
  constructor(model, stat2) {
    const gifts = model.variables.map(({ values }) => values.map(({ gives }) => gives.find((gift2) => gift2.stat === stat2) ?? { add: 0, times: 1 }));
    const giving = [...gifts.keys()].filter((variable) => gifts[variable]?.some(({ add: add2, times }) => add2 !== 0 || times !== 1));
    const { least, most } = model.catalog.compiled.stats[stat2] ?? {
      least: Number.NEGATIVE_INFINITY,
      most: Number.POSITIVE_INFINITY
    };
    this.#stat = stat2;
    this.#least = least;
    this.#most = most;
    this.variables = giving;
    this.#place = new Map(giving.map((variable, at) => [variable, at]));
    this.#adds = giving.map((variable) => Float64Array.from(gifts[variable] ?? [], ({ add: add2 }) => add2));
    this.#times = giving.map((variable) => Float64Array.from(gifts[variable] ?? [], ({ times }) => times));
    const greatest = (of) => of.reduce((most2, each) => Math.max(most2, Math.abs(each)), 0);
    this.#scale = (1 + this.#adds.reduce((sum, adds) => sum + greatest(adds), 0)) * this.#times.reduce((product, times) => product * Math.max(1, greatest(times)), 1);
    this.#isSum = this.#times.every((times) => times.every((factor) => factor === 1));
  }
  /** How low and how high the stat can come out, with one variable left out where one is named. */
  measure(domains, ground, without2 = -1) {
    const sum = this.#sums(domains, ground, without2);
    if (this.#isSum)
      return this.#bounded(sum);
    let fewest = 1;
    let most = 1;
    for (const [at, variable] of this.variables.entries()) {
      if (variable === without2)
        continue;
      const times = this.#times[at];
      if (times === void 0)
        continue;
      fewest *= domains.least(variable, times);
      most *= domains.greatest(variable, times);
    }
    return this.#bounded({
      low: Math.min(sum.low * fewest, sum.low * most),
      high: Math.max(sum.high * fewest, sum.high * most)
    });
  }
  /** What a value of a variable gives. */
  gift(variable, value) {
    return this.#adds[this.#place.get(variable) ?? -1]?.[value] ?? 0;
  }
  /** What there is without any part. */
  base(ground) {
    return ground.base[this.#stat] ?? 0;
  }
  #sums(domains, ground, without2) {
    let low = ground.base[this.#stat] ?? 0;
    let high = low;
    for (const [at, variable] of this.variables.entries()) {
      if (variable === without2)
        continue;
      const adds = this.#adds[at];
      if (adds === void 0)
        continue;
      low += domains.least(variable, adds);
      high += domains.greatest(variable, adds);
    }
    return { low, high };
  }
  #bounded({ low, high }) {
    const keep = (value) => Math.min(this.#most, Math.max(this.#least, value));
    return { low: keep(low), high: keep(high) };
  }
  /** Sums nearer than this may be equal but for the order of summing; whoever finds an answer judges it exactly. */
  slack(ground) {
    return 1e-9 * (this.#scale + Math.abs(ground.base[this.#stat] ?? 0));
  }
  /** Whether, held against this, the sum counts as it is: its own bounds make no difference. */
  isOpenBelow(greater, domains, ground) {
    if (typeof greater !== "number")
      return this.#isFree(domains, ground);
    return this.#isSum && greater >= this.#least && greater < this.#most;
  }
  isOpenAbove(lesser, domains, ground) {
    if (typeof lesser !== "number")
      return this.#isFree(domains, ground);
    return this.#isSum && lesser > this.#least && lesser <= this.#most;
  }
  /** Whether this is a sum that cannot reach its bounds. */
  #isFree(domains, ground) {
    if (!this.#isSum)
      return false;
    const { low, high } = this.#sums(domains, ground, -1);
    return low >= this.#least && high <= this.#most;
  }
};

// dist/core/loadout/solve/constraints.js
function constraintsOf(model) {
  const { rules } = model.catalog.compiled;
  const known = /* @__PURE__ */ new Map();
  const rangesOf = (stat2) => recall(known, stat2, () => new Ranges(model, stat2));
  const slots = [...model.catalog.slots.values()];
  return [
    ...slots.flatMap(({ number: number2 }) => atMostOne(model.takers[number2] ?? [])),
    ...model.copies.map(({ mark: mark2, count }) => counted({ kind: "place" }, model.holders[mark2] ?? [], void 0, count)),
    ...slots.filter(({ required }) => required).map(({ number: number2 }) => filled(model, number2)),
    ...model.variables.flatMap((variable, number2) => needsOf(variable, number2, rangesOf)),
    ...rules.map((rule2, number2) => ruleConstraint(model, rule2, number2, rangesOf))
  ];
}
function ruleConstraint(model, rule2, number2, rangesOf) {
  const standing = { kind: "rule", rule: number2 };
  switch (rule2.kind) {
    case "never":
      return apart(standing, model, rule2.marks);
    case "needs":
      return implied(standing, model, rule2.when, rule2.needs);
    case "count":
      return counted(standing, rule2.marks.flatMap((mark2) => model.holders[mark2] ?? []), plain2(rule2.atLeast), plain2(rule2.atMost));
    case "total":
      return bounded(standing, model, rule2.stat, rule2.atLeast, rule2.atMost, rangesOf);
  }
}
function plain2(bound2) {
  return typeof bound2 === "object" ? void 0 : bound2;
}
function atMostOne(takers) {
  return takers.length < 2 ? [] : [counted({ kind: "place" }, takers, void 0, 1)];
}
function filled(model, slot2) {
  const values = model.variables[slot2]?.values ?? [];
  const covered = values.findIndex(({ kind }) => kind === "covered");
  const issuing = values.some(({ kind }) => kind === "issued");
  const others = ((issuing ? model.choosers : model.takers)[slot2] ?? []).filter(({ variable }) => variable !== slot2);
  return {
    standing: { kind: "required", slot: slot2 },
    variables: [slot2, ...others.map(({ variable }) => variable)],
    propagate(domains) {
      if (!domains.has(slot2, covered))
        return;
      const able = others.filter(({ variable, mask }) => domains.meets(variable, mask));
      if (able.length === 0)
        domains.dropValue(slot2, covered);
      const [only] = able;
      if (able.length === 1 && only !== void 0 && domains.isFixed(slot2))
        domains.keep(only.variable, only.mask);
    },
    isSettled: (domains) => !domains.has(slot2, covered) || others.some(({ variable, mask }) => domains.isWithin(variable, mask))
  };
}
function needsOf({ values }, variable, rangesOf) {
  return values.flatMap(({ needs }, value) => needs.map(({ stat: stat2, atLeast }) => {
    const ranges = rangesOf(stat2);
    const others = (domains, ground) => ranges.measure(domains, ground, variable);
    return {
      standing: { kind: "need", slot: variable, value, stat: stat2 },
      variables: [.../* @__PURE__ */ new Set([variable, ...ranges.variables])],
      propagate(domains, ground) {
        if (!domains.has(variable, value))
          return;
        if (others(domains, ground).high < atLeast - ranges.slack(ground))
          domains.dropValue(variable, value);
      },
      isSettled: (domains, ground) => !domains.has(variable, value) || others(domains, ground).low >= atLeast + ranges.slack(ground)
    };
  }));
}
function apart(standing, model, marks) {
  const holders = marks.map((mark2) => model.holders[mark2] ?? []);
  return {
    standing,
    variables: variablesIn(holders.flat()),
    propagate(domains) {
      for (const [number2, having] of holders.entries()) {
        for (const { variable, mask } of having) {
          if (!domains.isWithin(variable, mask))
            continue;
          for (const [another, others] of holders.entries()) {
            if (another === number2)
              continue;
            for (const other of others)
              if (other.variable !== variable)
                domains.drop(other.variable, other.mask);
          }
          if (domains.failed)
            return;
        }
      }
    },
    isSettled(domains) {
      const possible = holders.map((having) => having.filter(({ variable, mask }) => domains.meets(variable, mask)));
      return possible.every((ones, number2) => possible.every((others, another) => another === number2 || ones.every(({ variable }) => others.every((other) => other.variable === variable))));
    }
  };
}
function implied(standing, model, when, needs) {
  const marks = [.../* @__PURE__ */ new Set([...marksIn(when), ...marksIn(needs)])];
  return {
    standing,
    variables: variablesIn(marks.flatMap((mark2) => model.holders[mark2] ?? [])),
    propagate(domains, ground) {
      if (isCertain(when, true, domains, ground))
        forceCondition(needs, true, domains, ground);
      else if (isCertain(needs, false, domains, ground))
        forceCondition(when, false, domains, ground);
    },
    isSettled: (domains, ground) => !isPossible(when, true, domains, ground) || isCertain(needs, true, domains, ground)
  };
}
function counted(standing, holders, atLeast, atMost) {
  const tally = (domains) => {
    let certain = 0;
    let possible = 0;
    for (const { variable, mask } of holders) {
      if (!domains.meets(variable, mask))
        continue;
      possible += 1;
      if (domains.isWithin(variable, mask))
        certain += 1;
    }
    return { certain, possible };
  };
  return {
    standing,
    variables: variablesIn(holders),
    propagate(domains) {
      const { certain, possible } = tally(domains);
      if (atMost !== void 0 && certain > atMost || atLeast !== void 0 && possible < atLeast) {
        domains.failed = true;
        return;
      }
      const full = atMost !== void 0 && certain === Math.floor(atMost) && possible > certain;
      const scarce = atLeast !== void 0 && possible === Math.ceil(atLeast) && possible > certain;
      if (!full && !scarce)
        return;
      for (const { variable, mask } of holders) {
        if (!domains.meets(variable, mask) || domains.isWithin(variable, mask))
          continue;
        if (full)
          domains.drop(variable, mask);
        else
          domains.keep(variable, mask);
      }
    },
    isSettled(domains) {
      const { certain, possible } = tally(domains);
      return (atMost === void 0 || possible <= atMost) && (atLeast === void 0 || certain >= atLeast);
    }
  };
}
function bounded(standing, model, stat2, atLeast, atMost, rangesOf = (each) => new Ranges(model, each), apart2 = "or-equal") {
  const value = rangesOf(stat2);
  const boundOf = (bound2) => typeof bound2 === "number" ? bound2 : rangesOf(bound2.stat);
  const gaps = [
    ...atMost === void 0 ? [] : [new Gap(model, { lesser: value, greater: boundOf(atMost) })],
    ...atLeast === void 0 ? [] : [new Gap(model, { lesser: boundOf(atLeast), greater: value })]
  ];
  const sign = apart2 === "strictly" ? -1 : 1;
  return {
    standing,
    variables: [...new Set(gaps.flatMap(({ variables }) => variables))],
    propagate(domains, ground) {
      for (const gap of gaps)
        gap.close(domains, ground, sign * gap.slack(ground));
    },
    isSettled: (domains, ground) => gaps.every((gap) => gap.isClosed(domains, ground, gap.slack(ground)))
  };
}
function variablesIn(holders) {
  return [...new Set(holders.map(({ variable }) => variable))];
}

// dist/core/loadout/solve/ground.js
function groundOf(model, facts, context) {
  const tally = new Tally(model.catalog);
  tally.stand({ body: model.body.id, facts }, context);
  const { stats } = model.catalog.compiled;
  return {
    facts,
    context,
    marks: Uint8Array.from(tally.counts, (count) => count > 0 ? 1 : 0),
    base: Float64Array.from(stats, (_, number2) => tally.baseOf(number2)),
    holders: model.holders
  };
}

// dist/core/loadout/solve/solver.js
function standsFor(standing, broken2, domains) {
  switch (broken2.kind) {
    case "rule":
    case "never":
      return standing.kind === "rule" && standing.rule === broken2.rule;
    case "need":
      return standing.kind === "need" && standing.slot === broken2.slot && standing.stat === broken2.stat && domains.has(broken2.slot, standing.value);
    case "empty":
      return standing.kind === "required" && standing.slot === broken2.slot;
    case "misplaced":
    case "misfit":
    case "taken-twice":
      return false;
  }
}
var nets = /* @__PURE__ */ new WeakMap();
function netOf(model, constraints) {
  const watchers = model.variables.map(() => []);
  for (const [number2, { variables }] of constraints.entries()) {
    for (const variable of variables)
      watchers[variable]?.push(number2);
  }
  return { constraints, watchers };
}
var Solver = class {
  model;
  constraints;
  domains;
  ground;
  /** By variable, the weight of its constraints: 1 each at first. */
  #weightOn;
  /** 1 for each constraint that is not looked at. */
  waived;
  /** The constraints that took part in leaving values out, in the order in which they first did, when it is asked for. */
  trace;
  #watchers;
  #tally;
  #isQueued;
  constructor(model, facts, context, extra = []) {
    this.model = model;
    const net = recall(nets, model, () => netOf(model, constraintsOf(model)));
    const { constraints, watchers } = extra.length === 0 ? net : netOf(model, [...net.constraints, ...extra]);
    this.constraints = constraints;
    this.#watchers = watchers;
    this.domains = new Domains(model.variables.map(({ values }) => values.length));
    this.ground = groundOf(model, facts, context);
    this.#weightOn = Float64Array.from(watchers, ({ length }) => length);
    this.waived = new Uint8Array(this.constraints.length);
    this.#isQueued = new Uint8Array(this.constraints.length);
    this.#tally = new Tally(model.catalog);
  }
  /** Looks at every constraint once, and then at those whose variables change. Whether anything can still be found. */
  start() {
    const all = this.constraints.map((_, number2) => number2);
    for (const number2 of all)
      this.#isQueued[number2] = 1;
    return this.#run(all);
  }
  /** Looks at the constraints of variables that changed, until nothing changes any more. */
  propagate() {
    return this.#run([]);
  }
  #run(queue) {
    const { domains } = this;
    let failing = -1;
    for (let at = 0; ; at += 1) {
      for (let variable = domains.nextChanged(); variable !== void 0; variable = domains.nextChanged()) {
        for (const number3 of this.#watchers[variable] ?? []) {
          if (this.#isQueued[number3] === 1)
            continue;
          this.#isQueued[number3] = 1;
          queue.push(number3);
        }
      }
      const number2 = queue[at];
      if (domains.failed || number2 === void 0)
        break;
      this.#isQueued[number2] = 0;
      if (this.waived[number2] === 1)
        continue;
      failing = number2;
      this.constraints[number2]?.propagate(domains, this.ground);
      if (this.trace !== void 0 && (domains.failed || domains.changed.length > 0))
        this.trace.add(number2);
    }
    for (const number2 of queue)
      this.#isQueued[number2] = 0;
    if (!domains.failed)
      return true;
    if (failing >= 0)
      this.#weigh(failing);
    return false;
  }
  /** A constraint that failed gains weight. */
  #weigh(constraint) {
    for (const variable of this.constraints[constraint]?.variables ?? []) {
      this.#weightOn[variable] = (this.#weightOn[variable] ?? 0) + 1;
    }
  }
  /** The open variable to search on next, if there is one: few values, much trouble. */
  nextVariable(tieBreak) {
    let best;
    let bestRank = Number.POSITIVE_INFINITY;
    for (let variable = 0; variable < this.model.variables.length; variable += 1) {
      const size2 = this.domains.size(variable);
      if (size2 < 2)
        continue;
      const rank = size2 / (1 + (this.#weightOn[variable] ?? 0)) * (tieBreak === void 0 ? 1 : 1 + tieBreak());
      if (rank >= bestRank)
        continue;
      best = variable;
      bestRank = rank;
    }
    return best;
  }
  /** The constraints that speak of a variable, by number. */
  constraintsOn(variable) {
    return this.#watchers[variable] ?? [];
  }
  /** What does not hold with these values, by variable, judged as `checkLoadout` judges, except what is waived. */
  judge(values) {
    const found = findBroken(this.tally(values));
    return found.length === 0 ? found : found.filter((broken2) => !this.#isWaived(broken2));
  }
  /** What is worn with these values. It is the caller's only until the next call. */
  tally(values) {
    const { variables, body: body2 } = this.model;
    const tally = this.#tally;
    tally.stand({ body: body2.id, facts: this.ground.facts }, this.ground.context);
    for (const [variable, { slot: slot2, values: choices }] of variables.entries()) {
      const value = choices[values[variable] ?? -1];
      const part = value?.parts[0];
      if (slot2 !== void 0 && value?.kind === "worn" && part !== void 0)
        tally.put(slot2.number, part);
      else if (value?.kind === "answer")
        for (const mark2 of value.marks)
          tally.counts[mark2] = 1;
    }
    tally.issue();
    return tally;
  }
  /** Counts what was found broken in a complete assignment as a constraint that failed. */
  blameFor(broken2) {
    for (const number2 of this.#constraintsFor(broken2)) {
      this.#weigh(number2);
      this.trace?.add(number2);
    }
  }
  /** Whether a constraint whose variables are all fixed holds, to the last bit. */
  holdsExactly(number2) {
    const values = this.model.variables.map((_, variable) => this.domains.first(variable));
    return !findBroken(this.tally(values)).some((broken2) => this.#constraintsFor(broken2).includes(number2));
  }
  #constraintsFor(broken2) {
    return [...this.constraints.keys()].filter((number2) => {
      const standing = this.constraints[number2]?.standing;
      return standing !== void 0 && standsFor(standing, broken2, this.domains);
    });
  }
  #isWaived(broken2) {
    return this.#constraintsFor(broken2).some((number2) => this.waived[number2] === 1);
  }
};

// dist/core/loadout/check-loadout.js
function checkLoadout(catalog2, character2, context = {}) {
  const voice = { catalog: catalog2, context };
  if (!catalog2.bodies.has(character2.body))
    return [unknownId(voice, "body", character2.body, ["body"])];
  const tally = tallyOf(catalog2, character2, context);
  const problems = unknownContent(voice, character2, tally.passedOver);
  if (context.holdings !== void 0)
    problems.push(...unowned(voice, character2, context));
  for (const said of explainAll(tally, character2, context, findBroken(tally)))
    problems.push(sayBroken(voice, said));
  wrongColors(voice, character2, problems);
  return problems;
}
function sayBroken(voice, explanation) {
  const { code, subject, slot: slot2, words, authored, chain, culprits, advice } = explanation;
  const fixes = culprits.map((worn) => fixOf(voice, "take-off", { part: worn.part.id }, [{ remove: worn.slot }]));
  if (advice !== void 0)
    fixes.push(fixOf(voice, advice.code, advice.words));
  const at = slot2 === void 0 ? ["loadout"] : ["loadout", slot2];
  return loadoutProblem(voice, code, { subject, at, words, more: authored, chain, fixes });
}
function unknownContent(voice, character2, passedOver) {
  const { slots, parts } = voice.catalog;
  const problems = [];
  for (const slot2 of passedOver ? Object.keys(character2.loadout) : []) {
    const part = character2.loadout[slot2] ?? "";
    if (!slots.has(slot2))
      problems.push(kept(voice, unknownId(voice, "slot", slot2, ["loadout", slot2])));
    else if (!parts.has(part))
      problems.push(kept(voice, unknownId(voice, "part", part, ["loadout", slot2])));
  }
  for (const part of Object.keys(character2.bag)) {
    if (!parts.has(part))
      problems.push(kept(voice, unknownId(voice, "part", part, ["bag", part])));
  }
  return problems;
}
function kept(voice, problem) {
  return { ...problem, severity: "warning", because: `${problem.because} ${sayText(voice, "kept-aside")}` };
}
function unowned(voice, character2, { holdings }) {
  const { parts } = voice.catalog;
  const worn = Object.entries(character2.loadout).flatMap(([slot2, id2]) => {
    const part = parts.get(id2);
    if (part === void 0)
      return [];
    const fix = fixOf(voice, "take-off", { part: id2 }, [{ remove: slot2 }]);
    return withheld(voice, part, holdings, ["loadout", slot2]).map((problem) => ({
      ...problem,
      fixes: [fix, ...problem.fixes]
    }));
  });
  const carried = Object.keys(character2.bag).flatMap((id2) => {
    const part = parts.get(id2);
    return part === void 0 ? [] : withheld(voice, part, holdings, ["bag", id2]);
  });
  return [...worn, ...carried];
}
function wrongColors(voice, character2, problems) {
  for (const id2 of Object.keys(character2.colors)) {
    const ramp2 = character2.colors[id2] ?? "";
    const channel2 = voice.catalog.channels.get(id2);
    if (channel2 === void 0)
      problems.push(kept(voice, unknownId(voice, "channel", id2, ["colors", id2])));
    else if (!channel2.ramps.includes(ramp2)) {
      const shown = { ramp: channel2.default };
      problems.push(loadoutProblem(voice, "ramp-not-offered", {
        subject: { kind: "channel", id: id2 },
        at: ["colors", id2],
        words: { channel: id2, ramp: ramp2 },
        more: [sayText(voice, "default-shown", shown)],
        fixes: [fixOf(voice, "paint-default", shown, [{ paint: id2, ramp: channel2.default }])]
      }));
    }
  }
}

// dist/core/character/stats.js
function statsOf2(catalog2, character2, context = {}) {
  const body2 = catalog2.bodies.get(character2.body);
  if (body2 === void 0)
    return {};
  const sums = new Map(Object.entries(body2.stats));
  for (const [stat2, add2] of Object.entries(context.stats ?? {}))
    sums.set(stat2, (sums.get(stat2) ?? 0) + add2);
  const products = /* @__PURE__ */ new Map();
  for (const { part } of wornParts(catalog2, character2)) {
    for (const [stat2, { add: add2, times }] of Object.entries(part.gives)) {
      sums.set(stat2, (sums.get(stat2) ?? 0) + add2);
      products.set(stat2, (products.get(stat2) ?? 1) * times);
    }
  }
  return Object.fromEntries([...sums].map(([stat2, sum]) => [stat2, bounded2(catalog2, stat2, sum * (products.get(stat2) ?? 1))]));
}
function bounded2(catalog2, stat2, value) {
  const { least, most } = catalog2.stats.get(stat2) ?? {
    least: Number.NEGATIVE_INFINITY,
    most: Number.POSITIVE_INFINITY
  };
  return Math.min(most, Math.max(least, value));
}

// dist/core/loadout/solve/blame.js
function blame(broken2, at) {
  const { model } = at;
  switch (broken2.kind) {
    case "misplaced":
    case "misfit":
      return [broken2.slot];
    case "never":
      return spread(model, [broken2.one, broken2.other]);
    case "taken-twice": {
      const [one, other] = (model.takers[broken2.slot] ?? []).filter((holder) => isIn(holder, at));
      return spread(model, [one, other].flatMap((holder) => holder === void 0 ? [] : [holder.variable]));
    }
    case "empty":
      return spread(model, [broken2.slot, ...(model.takers[broken2.slot] ?? []).map(({ variable }) => variable)]);
    case "need":
      return spread(model, [broken2.slot, ...givers(model, broken2.stat)]);
    case "rule": {
      const rule2 = model.catalog.compiled.rules[broken2.rule];
      return rule2 === void 0 ? [] : spread(model, blameRule(rule2, at));
    }
  }
}
function blameRule(rule2, at) {
  const { model } = at;
  switch (rule2.kind) {
    case "needs":
      return [...toMake(rule2.when, false, at), ...toMake(rule2.needs, true, at)];
    case "count": {
      const holders = rule2.marks.flatMap((mark2) => model.holders[mark2] ?? []);
      const having = holders.filter((holder) => isIn(holder, at)).map(({ variable }) => variable);
      const most = Number(rule2.atMost ?? Number.POSITIVE_INFINITY);
      if (having.length > most)
        return having.slice(0, Math.floor(most) + 1);
      return holders.filter((holder) => !isIn(holder, at)).map(({ variable }) => variable);
    }
    case "total":
      return [rule2.stat, ...statsIn(rule2.atLeast), ...statsIn(rule2.atMost)].flatMap((stat2) => givers(model, stat2));
    case "never":
      return rule2.marks.flatMap((mark2) => (model.holders[mark2] ?? []).map(({ variable }) => variable));
  }
}
function toMake(condition2, outcome, at) {
  switch (condition2.kind) {
    case "mark": {
      const holders = at.model.holders[condition2.mark] ?? [];
      if (outcome)
        return holders.map(({ variable }) => variable);
      return holders.filter((holder) => isIn(holder, at)).slice(0, 1).map(({ variable }) => variable);
    }
    case "any":
    case "all": {
      const wrong = condition2.of.filter((each2) => at.tally.holds(each2) !== outcome);
      const each = wrong.map((part) => toMake(part, outcome, at));
      if (condition2.kind === "any" === outcome)
        return each.flat();
      return each.reduce((fewest, next) => next.length < fewest.length ? next : fewest, each[0] ?? []);
    }
    case "not":
      return condition2.of.flatMap((inner) => toMake(inner, !outcome, at));
  }
}
function isIn({ variable, mask }, { values }) {
  const value = values[variable] ?? 0;
  return ((mask[value >>> 5] ?? 0) >>> (value & 31) & 1) === 1;
}
function givers(model, stat2) {
  return [...model.variables.keys()].filter((variable) => model.variables[variable]?.values.some(({ gives }) => gives.some((gift2) => gift2.stat === stat2)));
}
function statsIn(bound2) {
  return typeof bound2 === "object" ? [bound2.stat] : [];
}
function spread(model, variables) {
  const all = new Set(variables);
  for (const variable of variables) {
    if (!model.variables[variable]?.values.some(({ kind }) => kind === "issued"))
      continue;
    for (const chooser of model.choosers[variable] ?? [])
      all.add(chooser.variable);
  }
  return [...all];
}

// dist/core/loadout/solve/nearest.js
function findNearest(solver, stay, budget) {
  if (!solver.propagate())
    return { values: void 0, complete: true };
  const root = solver.domains.save();
  const { length } = solver.model.variables;
  for (let limit = moved(solver, stay).length; limit <= length; limit += 1) {
    const search = new Search(solver, stay, limit, budget);
    const values = search.run();
    solver.domains.restore(root);
    if (values !== void 0)
      return { values, complete: true };
    if (search.gaveUp)
      return { values: void 0, complete: false };
    if (!search.wasLimited)
      return { values: void 0, complete: true };
  }
  return { values: void 0, complete: true };
}
function moved({ domains }, stay) {
  return stay.flatMap((mask, variable) => domains.meets(variable, mask) ? [] : [variable]);
}
var Search = class {
  gaveUp = false;
  wasLimited = false;
  #solver;
  #stay;
  #limit;
  #budget;
  constructor(solver, stay, limit, budget) {
    this.#solver = solver;
    this.#stay = stay;
    this.#limit = limit;
    this.#budget = budget;
  }
  run() {
    if (this.#budget.steps <= 0) {
      this.gaveUp = true;
      return void 0;
    }
    this.#budget.steps -= 1;
    const changed = this.#settle();
    if (changed === void 0)
      return void 0;
    const open = this.#openOf(changed);
    return open === void 0 ? this.#mend(changed.length) : this.#tryValues(open);
  }
  /** Propagates; when as many variables have moved as may, the others stay. Those that have moved, or nothing after a failure. */
  #settle() {
    const { domains } = this.#solver;
    for (; ; ) {
      if (!this.#solver.propagate())
        return void 0;
      const changed = moved(this.#solver, this.#stay);
      if (changed.length > this.#limit) {
        this.wasLimited = true;
        return void 0;
      }
      if (changed.length < this.#limit)
        return changed;
      for (const [variable, mask] of this.#stay.entries()) {
        if (!domains.meets(variable, mask) || domains.isWithin(variable, mask))
          continue;
        this.wasLimited = true;
        domains.keep(variable, mask);
      }
      if (domains.changed.length === 0)
        return changed;
    }
  }
  /** A variable that has moved and is still open, the one with the fewest values first. */
  #openOf(changed) {
    const { domains } = this.#solver;
    let best;
    for (const variable of changed) {
      if (domains.isFixed(variable))
        continue;
      if (best === void 0 || domains.size(variable) < domains.size(best))
        best = variable;
    }
    return best;
  }
  #tryValues(variable) {
    const { domains } = this.#solver;
    const before = domains.save();
    for (const value of domains.values(variable)) {
      domains.fix(variable, value);
      const found = this.run();
      if (found !== void 0 || this.gaveUp)
        return found;
      domains.restore(before);
    }
    return void 0;
  }
  /** Lets all stay that may, and changes one of those to blame for what is broken then. */
  #mend(changes) {
    const { domains } = this.#solver;
    const candidate = this.#candidate();
    const broken2 = this.#solver.judge(candidate.values);
    if (broken2.length === 0)
      return candidate.values;
    const sets = broken2.map((each) => [...new Set(blame(each, candidate))].filter((variable) => this.#canMove(variable)));
    sets.sort((one, other) => one.length - other.length);
    if (sets[0]?.length === 0)
      return void 0;
    if (changes + countApart(sets) > this.#limit) {
      this.wasLimited = true;
      return void 0;
    }
    const before = domains.save();
    const stays = [];
    for (const variable of sets[0] ?? []) {
      const mask = this.#stay[variable];
      if (mask === void 0)
        continue;
      for (const other of stays)
        domains.keep(other, this.#stay[other] ?? mask);
      domains.drop(variable, mask);
      const found = this.run();
      if (found !== void 0 || this.gaveUp)
        return found;
      domains.restore(before);
      stays.push(variable);
    }
    return void 0;
  }
  /** Whether a variable that stays so far may still move. */
  #canMove(variable) {
    const { domains } = this.#solver;
    const mask = this.#stay[variable];
    return mask !== void 0 && domains.meets(variable, mask) && !domains.isWithin(variable, mask);
  }
  /** All that may stay stay. What is not chosen is issued or covered, as the choices have it. */
  #candidate() {
    const { domains, model } = this.#solver;
    const chosen2 = this.#stay.map((mask, variable) => {
      const staying = domains.values(variable).find((value) => ((mask[value >>> 5] ?? 0) >>> (value & 31) & 1) === 1);
      return staying ?? domains.first(variable);
    });
    const tally = this.#solver.tally(chosen2);
    const values = chosen2.map((value, variable) => {
      const choices = model.variables[variable]?.values ?? [];
      const { kind } = choices[value] ?? {};
      if (kind !== "issued" && kind !== "covered")
        return value;
      const actual = tally.issued[variable] === 1 ? "issued" : "covered";
      return choices.findIndex((each) => each.kind === actual);
    });
    return { model, values, tally };
  }
};
function countApart(sets) {
  const taken = /* @__PURE__ */ new Set();
  let count = 0;
  for (const set of sets) {
    if (set.some((member) => taken.has(member)))
      continue;
    count += 1;
    for (const member of set)
      taken.add(member);
  }
  return count;
}

// dist/core/loadout/repair-loadout.js
function waysToWear(catalog2, character2, part, slot2, options = {}) {
  return repair(catalog2, character2, options, (each) => each === slot2 ? { part } : void 0);
}
function repair(catalog2, character2, options, bindOf) {
  const body2 = catalog2.bodies.get(character2.body);
  if (body2 === void 0) {
    throw new MantleError("unknown-body", `The catalog has no body "${character2.body}". Change the body first.`);
  }
  const model = modelFor(catalog2, body2, character2, options);
  const solver = new Solver(model, character2.facts, options);
  const stay = model.variables.map(({ slot: slot2, values: values2 }) => maskOf(values2.length, slot2 === void 0 ? values2.keys() : stayingValues(values2, chosenIn(catalog2, character2, slot2.id))));
  const paints = wrongPaints(catalog2, character2);
  if (!bind(solver, stay, bindOf) || !solver.start())
    return { edits: void 0, changes: 0, complete: true };
  const budget = { steps: options.budget ?? 5e4 };
  const first = findNearest(solver, stay, budget);
  if (first.values === void 0)
    return { edits: void 0, changes: 0, complete: first.complete };
  const values = preferred(catalog2, character2, solver, stay, first, options.recent ?? [], budget);
  const target = loadoutOf(model, values, stay, character2, bindOf);
  const changes = model.variables.filter(({ slot: slot2 }) => slot2 !== void 0 && valueAt(target, slot2.id) !== valueAt(character2.loadout, slot2.id)).length;
  return { edits: [...editsTo(catalog2, character2, target, options), ...paints], changes, complete: true };
}
function chosenIn(catalog2, character2, slot2) {
  const part = valueAt(character2.loadout, slot2);
  if (part === void 0 || !catalog2.parts.has(part))
    return void 0;
  return part;
}
function stayingValues(values, part) {
  const isStaying = ({ kind, parts }) => part === void 0 ? kind !== "worn" : kind === "worn" && parts.some(({ id: id2 }) => id2 === part);
  return [...values.keys()].filter((value) => {
    const each = values[value];
    return each !== void 0 && isStaying(each);
  });
}
function bind(solver, stay, bindOf) {
  for (const [variable, { slot: slot2, values }] of solver.model.variables.entries()) {
    const bound2 = slot2 === void 0 ? void 0 : bindOf(slot2.id);
    const mask = stay[variable];
    if (slot2 === void 0 || bound2 === void 0 || mask === void 0)
      continue;
    if (bound2 === "keep")
      solver.domains.keep(variable, mask);
    else {
      const wanted = [...values.keys()].filter((value) => values[value]?.parts.some(({ id: id2 }) => id2 === bound2.part));
      solver.domains.keep(variable, maskOf(values.length, wanted));
    }
  }
  return !solver.domains.failed;
}
function preferred(catalog2, character2, solver, stay, first, recent, budget) {
  let values = first.values ?? [];
  const size2 = movedIn(values, stay).length;
  const rank = (slot2) => {
    const place = catalog2.slots.get(slot2);
    if (recent.includes(slot2))
      return recent.length - recent.lastIndexOf(slot2);
    if (place?.kind === "appearance")
      return recent.length + 1;
    return recent.length + (chosenIn(catalog2, character2, slot2) === void 0 ? 3 : 2);
  };
  const order = solver.model.variables.flatMap(({ slot: slot2 }, variable) => slot2 === void 0 ? [] : [{ variable, rank: rank(slot2.id) }]).sort((one, other) => one.rank - other.rank);
  for (const { variable } of order) {
    const mask = stay[variable];
    if (mask === void 0)
      continue;
    const before = solver.domains.save();
    solver.domains.keep(variable, mask);
    if (!movedIn(values, stay).includes(variable))
      continue;
    const other = solver.domains.failed ? void 0 : findNearest(solver, stay, budget).values;
    if (other !== void 0 && movedIn(other, stay).length === size2)
      values = other;
    else
      solver.domains.restore(before);
  }
  return values;
}
function movedIn(values, stay) {
  return [...values.keys()].filter((variable) => {
    const value = values[variable] ?? 0;
    return ((stay[variable]?.[value >>> 5] ?? 0) >>> (value & 31) & 1) === 0;
  });
}
function loadoutOf(model, values, stay, character2, bindOf) {
  const changed = new Set(movedIn(values, stay));
  const loadout = { ...character2.loadout };
  for (const [variable, { slot: slot2, values: choices }] of model.variables.entries()) {
    if (slot2 === void 0)
      continue;
    const bound2 = bindOf(slot2.id);
    const value = choices[values[variable] ?? -1];
    const wanted = typeof bound2 === "object" ? bound2.part : value?.parts[0]?.id;
    if (typeof bound2 !== "object" && !changed.has(variable))
      continue;
    if (value?.kind === "worn" && wanted !== void 0)
      loadout[slot2.id] = wanted;
    else
      delete loadout[slot2.id];
  }
  return loadout;
}
function editsTo(catalog2, character2, target, context) {
  const edits = [];
  let current = character2;
  const pending = () => [...catalog2.slots.keys()].flatMap((slot2) => {
    const wanted = valueAt(target, slot2);
    if (valueAt(current.loadout, slot2) === wanted)
      return [];
    return [wanted === void 0 ? { remove: slot2 } : { wear: wanted, in: slot2 }];
  });
  for (let left = pending(); left.length > 0; left = pending()) {
    const next = left.find((edit) => {
      const result = applyEdit(catalog2, current, edit, context);
      const strays = result.ok && result.displaced.some(({ slot: slot2, part }) => valueAt(target, slot2) === part);
      if (!result.ok || strays || result.character === current)
        return false;
      current = result.character;
      return true;
    });
    if (next === void 0) {
      const removals = left.filter((edit) => "remove" in edit);
      edits.push({ together: [...removals, ...left.filter((edit) => !("remove" in edit))] });
      break;
    }
    edits.push(next);
  }
  return edits;
}
function wrongPaints(catalog2, character2) {
  return Object.entries(character2.colors).flatMap(([id2, ramp2]) => {
    const channel2 = catalog2.channels.get(id2);
    return channel2 === void 0 || channel2.ramps.includes(ramp2) ? [] : [{ paint: id2, ramp: channel2.default }];
  });
}

// dist/core/loadout/anchors.js
var loose = -2;
var firm = -1;
function anchorsOf(tally) {
  const { rules, slotMarks } = tally.catalog.compiled;
  const holders = new Int32Array(tally.counts.length).fill(loose);
  const hold = (mark2, slot2) => {
    if (mark2 >= 0)
      holders[mark2] = holders[mark2] === loose || holders[mark2] === slot2 ? slot2 : firm;
  };
  for (const [slot2, part] of tally.worn.entries()) {
    if (part === void 0)
      continue;
    hold(slotMarks[slot2] ?? -1, slot2);
    for (const mark2 of part.compiled.marks)
      hold(mark2, slot2);
  }
  return Int32Array.from(rules, ({ kind, needs }) => kind === "needs" ? anchorOf(needs, holders) : loose);
}
function anchorOf(needs, holders) {
  if (needs.kind === "mark")
    return holders[needs.mark] ?? loose;
  if (needs.kind !== "any" || needs.of.some(({ kind }) => kind !== "mark"))
    return loose;
  let anchor = loose;
  for (const { mark: mark2 } of needs.of) {
    const holder = holders[mark2] ?? loose;
    if (holder === firm || holder >= 0 && anchor >= 0 && holder !== anchor)
      return firm;
    if (holder >= 0)
      anchor = holder;
  }
  return anchor;
}

// dist/core/loadout/bare-slot.js
var none2 = [];
var BareSlot = class _BareSlot {
  #tally;
  #slot;
  #rules;
  #anchors;
  /** Rules that the bare slot breaks, which a part has to mend, and those that filling it can break. */
  #always;
  /** What the old part gave. */
  #lost;
  /** Slots of other parts that need some stat. */
  #needy;
  /** @returns `undefined` where the slot is not the only one that what is in it takes, or where another part takes it. */
  static lay(tally, slot2, character2, context, anchors) {
    tally.load(character2, context);
    const old = tally.worn[slot2.number];
    const takers = tally.covered[slot2.number] ?? 0;
    if (takers > (old === void 0 ? 0 : 1) || (old?.compiled.covers.length ?? 0) > 0)
      return void 0;
    tally.take(slot2.number);
    return new _BareSlot(tally, slot2, old, anchors);
  }
  constructor(tally, slot2, old, anchors) {
    this.#anchors = anchors;
    this.#tally = tally;
    this.#slot = slot2.number;
    this.#rules = tally.catalog.compiled;
    const { slotMarks, more } = this.#rules;
    const own = slotMarks[slot2.number] ?? -1;
    this.#always = [...tally.brokenRules(), ...more.leading[own] ?? none2, ...more.failing[own] ?? none2];
    this.#lost = old?.compiled.gives ?? [];
    this.#needy = [...tally.worn.keys()].filter((at) => (tally.worn[at]?.compiled.needs.length ?? 0) > 0);
  }
  /** Whether a part that takes only this slot can be worn in it. Whether it may be beside the others is not asked. */
  accepts(part) {
    const tally = this.#tally;
    tally.put(this.#slot, part);
    const holds = this.#holds(part);
    tally.take(this.#slot);
    return holds;
  }
  #holds({ compiled: { marks, gives, needs } }) {
    const tally = this.#tally;
    const { totals } = this.#rules;
    const { leading, failing } = this.#rules.more;
    if (this.#always.length > 0 && this.#anyBreaks(this.#always))
      return false;
    for (let at = 0; at < marks.length; at += 1) {
      const mark2 = marks[at] ?? 0;
      const leads = leading[mark2] ?? none2;
      if (leads.length > 0 && this.#anyLeadBreaks(leads))
        return false;
      const fails = failing[mark2] ?? none2;
      if (fails.length > 0 && this.#anyBreaks(fails))
        return false;
    }
    for (let at = 0; at < gives.length; at += 1) {
      const gift2 = gives[at];
      if (gift2 === void 0 || this.#isTheSame(gift2))
        continue;
      if (this.#anyBreaks(totals[gift2.stat]))
        return false;
    }
    for (let at = 0; at < this.#lost.length; at += 1) {
      const stat2 = this.#lost[at]?.stat ?? -1;
      if (!gives.some((gift2) => gift2.stat === stat2) && this.#anyBreaks(totals[stat2]))
        return false;
    }
    for (let at = 0; at < needs.length; at += 1) {
      const { stat: stat2 = 0, atLeast = 0 } = needs[at] ?? {};
      if (tally.stat(stat2, this.#slot) < atLeast)
        return false;
    }
    return this.#needy.length === 0 || this.#needy.every((slot2) => this.#isMet(slot2));
  }
  /** Whether any rule breaks that one more of a mark leads to; those whose `needs` hang on other slots cannot. */
  #anyLeadBreaks(numbers) {
    const tally = this.#tally;
    const { rules } = this.#rules;
    for (let at = 0; at < numbers.length; at += 1) {
      const number2 = numbers[at] ?? 0;
      const anchor = this.#anchors[number2] ?? -2;
      if (anchor === -1 || anchor >= 0 && anchor !== this.#slot)
        continue;
      const rule2 = rules[number2];
      if (rule2 !== void 0 && tally.breaks(rule2))
        return true;
    }
    return false;
  }
  /** Whether a part gives of a stat just what the old one gave, so that nothing about it changes. */
  #isTheSame({ stat: stat2, add: add2, times }) {
    return this.#lost.some((gift2) => gift2.stat === stat2 && gift2.add === add2 && gift2.times === times);
  }
  #anyBreaks(numbers) {
    if (numbers === void 0)
      return false;
    const tally = this.#tally;
    const { rules } = this.#rules;
    for (let at = 0; at < numbers.length; at += 1) {
      const rule2 = rules[numbers[at] ?? 0];
      if (rule2 !== void 0 && tally.breaks(rule2))
        return true;
    }
    return false;
  }
  #isMet(slot2) {
    const needs = this.#tally.worn[slot2]?.compiled.needs ?? [];
    return needs.every(({ stat: stat2, atLeast }) => this.#tally.stat(stat2, slot2) >= atLeast);
  }
};

// dist/core/loadout/trials.js
var Trials = class {
  catalog;
  character;
  context;
  #tally;
  /** Whether nothing is broken now, so that whatever a trial finds broken is its own doing. */
  #isSound;
  #bound;
  #bareTally;
  #anchors;
  #bareAt;
  #bare;
  /** By mark, the worn parts that a rule keeps from what has the mark. */
  #apart;
  constructor(catalog2, character2, context) {
    this.catalog = catalog2;
    this.character = character2;
    this.context = context;
    this.#tally = new Tally(catalog2);
    this.#bareTally = new Tally(catalog2);
    this.#tally.load(character2, context);
    this.#apart = this.#findFoes();
    this.#anchors = anchorsOf(this.#tally);
    this.#isSound = findBroken(this.#tally).length === 0 && context.bagPlaces === void 0;
    this.#bound = context.wardrobe === "bag";
  }
  /** What is worn in a slot. */
  wornIn(slot2) {
    return this.#tally.worn[slot2.number];
  }
  /** What putting a part on would come to; who owns it is not looked at. */
  tryOn(part, slot2) {
    if (!this.#isSound)
      return this.#tryWhole(part, slot2);
    if (!fitsBody(part, this.character.body))
      return "blocked";
    const isDefault = slot2.required && slot2.default === part.id;
    if (this.#bound && !isDefault && slot2.kind === "gear" && countInBag(this.character.bag, part.id) === 0)
      return "blocked";
    if (isDefault)
      return this.#judge(part, slot2, true);
    return this.#tryBare(part, slot2) ?? this.#judge(part, slot2, false);
  }
  /** The verdict on a part that sends nothing away; `undefined` when it may. */
  #tryBare(part, slot2) {
    if (part.compiled.covers.length > 0)
      return void 0;
    if (this.#bareAt !== slot2) {
      this.#bareAt = slot2;
      this.#bare = BareSlot.lay(this.#bareTally, slot2, this.character, this.context, this.#anchors);
    }
    if (this.#bare === void 0)
      return void 0;
    const foes = this.#foes(part, slot2);
    if (foes.length > 0) {
      const beside = foes.find(({ slot: at }) => at !== slot2.number);
      if (beside !== void 0)
        return beside.displaces ? void 0 : "blocked";
    }
    return this.#bare.accepts(part) ? "ready" : "blocked";
  }
  /** Does the edit in full, as it is where something is broken already. */
  #tryWhole(part, slot2) {
    const result = applyEdit(this.catalog, this.character, { wear: part.id, in: slot2.id }, this.context);
    if (!result.ok)
      return "blocked";
    return result.displaced.some((each) => each.slot !== slot2.id) ? "displaces" : "ready";
  }
  #judge(part, slot2, isDefault) {
    const tally = this.#tally;
    const foes = this.#foes(part, slot2);
    let displaces = false;
    tally.startTrial();
    const send = (number2) => {
      tally.take(number2);
      if (number2 !== slot2.number)
        displaces = true;
    };
    this.#clear(slot2.number, send);
    for (const covered of part.compiled.covers)
      this.#clear(covered, send);
    for (const { slot: foe, displaces: yields } of foes) {
      if (yields && tally.worn[foe] !== void 0)
        send(foe);
    }
    if (!isDefault)
      tally.put(slot2.number, part);
    tally.issue();
    const refused = foes.some(({ slot: foe, part: kept2, displaces: yields }) => !yields && tally.worn[foe] === kept2);
    const breaks = refused || tally.trialBreaks();
    tally.endTrial();
    if (breaks)
      return "blocked";
    return displaces ? "displaces" : "ready";
  }
  /** Sends away the chosen parts that take a slot. */
  #clear(slot2, send) {
    const tally = this.#tally;
    if ((tally.covered[slot2] ?? 0) === 0)
      return;
    for (let number2 = 0; number2 < tally.worn.length; number2 += 1) {
      const worn = tally.worn[number2];
      if (worn === void 0 || tally.issued[number2] === 1)
        continue;
      if (number2 === slot2 || worn.compiled.covers.includes(slot2))
        send(number2);
    }
  }
  /** The parts that rules keep from a part: those that refuse, and of the others those that nothing refuses. */
  #foes(part, slot2) {
    const { marks } = part.compiled;
    let found = this.#apart[this.catalog.compiled.slotMarks[slot2.number] ?? -1] ?? nobody;
    for (let at = 0; at < marks.length; at += 1) {
      const more = this.#apart[marks[at] ?? -1];
      if (more !== void 0)
        found = found.length === 0 ? more : [...found, ...more];
    }
    if (found.length < 2 || found.every(({ displaces }) => displaces))
      return found;
    const refusing = found.filter(({ displaces }) => !displaces);
    return [...refusing, ...found.filter(({ slot: at }) => refusing.every((foe) => foe.slot !== at))];
  }
  /** By mark, the worn parts that a rule keeps from what has the mark. */
  #findFoes() {
    const { rules, compiled } = this.catalog;
    const found = new Array(compiled.marks.size).fill(void 0);
    for (const [slot2, part] of this.#tally.worn.entries()) {
      if (part === void 0)
        continue;
      for (const mark2 of /* @__PURE__ */ new Set([...part.compiled.marks, compiled.slotMarks[slot2] ?? -1])) {
        for (const number2 of compiled.apart[mark2] ?? []) {
          const source = rules[number2];
          const displaces = source?.kind === "never" && source.then === "displace" && this.#tally.issued[slot2] === 0;
          const { marks = [] } = compiled.rules[number2] ?? {};
          for (const [at, other] of marks.entries()) {
            if (!marks.some((one, place) => place !== at && one === mark2))
              continue;
            const list = found[other];
            if (list === void 0)
              found[other] = [{ slot: slot2, part, displaces }];
            else
              list.push({ slot: slot2, part, displaces });
          }
        }
      }
    }
    return found;
  }
};
var nobody = [];

// dist/core/loadout/options-for.js
function allOptions(catalog2, character2, context = {}) {
  const trials = new Trials(catalog2, character2, context);
  return new Map([...catalog2.slots.values()].map((slot2) => [slot2.id, optionsIn(slot2, trials, character2)]));
}
function optionsIn(slot2, trials, character2) {
  const current = trials.wornIn(slot2);
  const options = new Array(slot2.parts.length);
  for (let at = 0; at < slot2.parts.length; at += 1) {
    const part = slot2.parts[at];
    if (part === void 0)
      continue;
    const state = part === current ? "worn" : withheldAs(part, slot2, trials, character2) ?? trials.tryOn(part, slot2);
    options[at] = new LazyOption(part, slot2.id, state, trials);
  }
  return options;
}
function withheldAs(part, slot2, { context }, character2) {
  if (context.holdings === void 0)
    return void 0;
  const states = {
    owned: void 0,
    listed: "locked",
    secret: "secret"
  };
  const isOwn = slot2.required && slot2.default === part.id || valueAt(character2.loadout, slot2.id) === part.id;
  return isOwn ? void 0 : states[accessTo(part, context.holdings)];
}
var LazyOption = class {
  part;
  slot;
  state;
  #trials;
  #known;
  constructor(part, slot2, state, trials) {
    this.part = part;
    this.slot = slot2;
    this.state = state;
    this.#trials = trials;
  }
  get displaced() {
    const result = this.#attempt();
    return result.ok ? result.displaced.filter(({ slot: slot2 }) => slot2 !== this.slot) : [];
  }
  get problems() {
    const result = this.#attempt();
    return result.ok ? [] : result.problems;
  }
  get ways() {
    const { catalog: catalog2, character: character2, context } = this.#trials;
    const known = this.#details();
    known.ways ??= { edits: waysToWear(catalog2, character2, this.part.id, this.slot, context).edits };
    return known.ways.edits;
  }
  get stats() {
    const { catalog: catalog2, character: character2, context } = this.#trials;
    const result = this.#attempt();
    const known = this.#details();
    known.stats ??= changedStats(statsOf2(catalog2, character2, context), statsOf2(catalog2, result.character, context));
    return known.stats;
  }
  toJSON() {
    const { part, slot: slot2, state, displaced, problems, ways, stats } = this;
    return { part: part.id, slot: slot2, state, displaced, problems, ways, stats };
  }
  #attempt() {
    const { catalog: catalog2, character: character2, context } = this.#trials;
    const known = this.#details();
    known.result ??= applyEdit(catalog2, character2, { wear: this.part.id, in: this.slot }, context);
    return known.result;
  }
  #details() {
    this.#known ??= { result: void 0, ways: void 0, stats: void 0 };
    return this.#known;
  }
};
function changedStats(before, after) {
  return [.../* @__PURE__ */ new Set([...Object.keys(before), ...Object.keys(after)])].map((stat2) => ({ stat: stat2, before: valueAt(before, stat2) ?? 0, after: valueAt(after, stat2) ?? 0 })).filter((change) => change.before !== change.after);
}

// bench/catalogs.ts
import { uniformInt } from "pure-rand/distribution/uniformInt";
import { xoroshiro128plus } from "pure-rand/generator/xoroshiro128plus";
function randomBelow(seed) {
  const generator = xoroshiro128plus(seed);
  return (count) => uniformInt(generator, 0, count - 1);
}
function makeSource({ slots, parts, tags, rules, seed = 1 }) {
  const below = randomBelow(seed);
  const tag = () => `tag-${below(tags)}`;
  const partId = (number2) => `part-${number2}`;
  const madeParts = Array.from({ length: parts }, (_, number2) => {
    const image = `art/{body}/${partId(number2)}`;
    const layers = [
      { image: `${image}-back.png`, depth: 20, channel: "cloth" },
      { image: `${image}.png`, depth: 70, channel: "cloth" }
    ];
    const gives = { weight: below(4), warmth: below(3) };
    const own = [.../* @__PURE__ */ new Set([tag(), tag()])];
    return [
      partId(number2),
      { slot: `slot-${Math.floor(number2 * slots / parts)}`, tags: own, gives, layers, price: below(90) }
    ];
  });
  const ownTags = new Map(madeParts.map(([id2, { tags: own }]) => [`part:${id2}`, own]));
  const otherTag = (part) => {
    const found = tag();
    return ownTags.get(part)?.includes(found) ? otherTag(part) : found;
  };
  const makeRule = (number2) => {
    const part = `part:${partId(below(parts))}`;
    switch (number2 % 5) {
      case 0:
        return { never: [part, `part:${partId(below(parts))}`], then: below(2) === 0 ? "displace" : "refuse" };
      case 1:
        return { never: [part, `tag:${otherTag(part)}`], then: "displace" };
      case 2:
        return { if: part, needs: { any: [`tag:${tag()}`, `tag:${tag()}`, `slot:slot-${below(slots)}`] } };
      case 3:
        return { if: `tag:${tag()}`, needs: { any: Array.from({ length: 6 }, () => `slot:slot-${below(slots)}`) } };
      default:
        return { count: `tag:${tag()}`, atMost: 3 };
    }
  };
  return {
    slots: Object.fromEntries(Array.from({ length: slots }, (_, number2) => [`slot-${number2}`, { kind: "gear" }])),
    parts: Object.fromEntries(madeParts),
    rules: [...Array.from({ length: rules - 1 }, (_, number2) => makeRule(number2)), { total: "weight", atMost: 60 }]
  };
}
function catalogJson(source) {
  return {
    mantle: "catalog/1",
    id: "bench",
    version: "1",
    rigs: {
      rig: {
        frame: { width: 64, height: 80 },
        origin: [32, 76],
        facings: ["south", "west", "north", { id: "east", mirror: "west" }],
        animations: { idle: { frames: 4, fps: 4 }, walk: { frames: 8, fps: 10 } }
      }
    },
    bodies: { plain: { rig: "rig", art: [{ image: "art/{body}/body.png", depth: 50 }] } },
    ramps: { plain: ["#101010", "#808080", "#f0f0f0"] },
    channels: { cloth: { ramps: ["plain"], default: "plain", key: ["#202020", "#707070", "#d0d0d0"] } },
    ...source
  };
}
function readSource(source) {
  const { catalog: catalog2, problems } = readCatalog(catalogJson(source));
  if (catalog2 === void 0) throw new Error(problems.slice(0, 3).map(describeProblem).join("\n"));
  return catalog2;
}
function wearing(catalog2, loadout) {
  return { ...createCharacter(catalog2, { body: "plain" }), loadout };
}

// bench/rows/check.ts
import { Engine } from "json-rules-engine";
function charactersOf20(catalog2, count) {
  const below = randomBelow(count);
  const slots = [...catalog2.slots.values()];
  return Array.from({ length: count }, () => {
    let character2 = wearing(catalog2, {});
    for (let tries = 0; Object.keys(character2.loadout).length < 20; tries += 1) {
      if (tries > 1e4) throw new Error("No character of 20 parts was found");
      const slot2 = slots[below(slots.length)];
      const part = slot2?.parts[below(slot2.parts.length)];
      if (slot2 === void 0 || part === void 0) continue;
      const dressed = wearing(catalog2, { ...character2.loadout, [slot2.id]: part.id });
      if (checkLoadout(catalog2, dressed).length === 0) character2 = dressed;
    }
    return character2;
  });
}

// bt5.ts
var catalog = readSource(makeSource({ slots: 40, parts: 1e4, tags: 400, rules: 2e3 }));
var [character] = charactersOf20(catalog, 1);
var n = 0;
for (let i = 0; i < 300; i++) {
  const t = performance.now();
  const o = allOptions(catalog, character);
  for (const l of o.values()) n += l.length;
  if (i % 60 == 59) console.log(performance.now() - t);
}
var c = {};
for (const l of allOptions(catalog, character).values()) for (const x of l) c[x.state] = (c[x.state] ?? 0) + 1;
console.log(c);
