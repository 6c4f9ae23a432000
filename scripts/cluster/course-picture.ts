/** The course of a cluster as a picture, second by second. */
import type { Request } from "./players.ts";
import type { Course } from "./run-cluster.ts";

interface Second {
  readonly answered: number;
  readonly failed: number;
  /** Milliseconds; `undefined` where nothing was answered. */
  readonly half: number | undefined;
  readonly most: number | undefined;
}

const width = 1_180;
const left = 64;
const right = 24;
const chart = { requests: { top: 96, height: 190 }, times: { top: 430, height: 190 } };
const height = 656;

/** What it came to, in lines. */
export function courseFigures(course: Course): readonly string[] {
  const answered = course.requests.filter(({ isAnswered }) => isAnswered);
  const outages = secondsOf(course).filter(({ answered: count }) => count === 0).length;
  const later = course.requests.length - answered.length;
  return [
    `${course.players} players, ${course.seconds} s: ${counted(course.confirmed)} acts confirmed, ${counted(answered.length)} requests answered, ${later} asked again.`,
    `Half of the answers within ${shown(quantile(answered, 0.5))} ms, 99 % within ${shown(quantile(answered, 0.99))} ms; ${outages} s without any answer.`,
  ];
}

/** The picture, as SVG. */
export function drawCourse(course: Course): string {
  const seconds = secondsOf(course);
  const step = (width - left - right) / course.seconds;
  const x = (at: number) => left + at * step;
  const most = Math.max(10, ...seconds.map(({ answered, failed }) => answered + failed));
  const bar = (count: number, top: number, number: number, color: string) => {
    const size = (count / most) * chart.requests.height;
    const y = chart.requests.top + chart.requests.height - (top / most) * chart.requests.height - size;
    return count === 0
      ? ""
      : `<rect x="${x(number) + 1}" y="${y.toFixed(1)}" width="${(step - 2).toFixed(1)}" height="${size.toFixed(1)}" fill="${color}"/>`;
  };
  const longest = 10_000;
  const time = (milliseconds: number) =>
    chart.times.top + chart.times.height * (1 - Math.log10(Math.max(1, milliseconds)) / Math.log10(longest));
  const line = (pick: (second: Second) => number | undefined, color: string) => {
    const pieces: string[] = [];
    for (const [number, second] of seconds.entries()) {
      const value = pick(second);
      if (value === undefined) pieces.push("");
      else pieces.push(`${pieces.at(-1) ? "L" : "M"}${(x(number) + step / 2).toFixed(1)} ${time(value).toFixed(1)}`);
    }
    return `<path d="${pieces.join(" ")}" fill="none" stroke="${color}" stroke-width="2.5" stroke-linejoin="round"/>`;
  };
  const colorOf = (what: string) => (what.endsWith("killed") ? "#b3382c" : "#3d7a4a");
  const blowLines = course.blows.map(
    ({ at, what }) =>
      `<line x1="${x(at)}" x2="${x(at)}" y1="${chart.requests.top}" y2="${chart.times.top + chart.times.height}" stroke="${colorOf(what)}" stroke-dasharray="3 3"/>`,
  );
  const blowNames = course.blows.map(({ at, what }, number) => {
    const y = chart.requests.top + chart.requests.height + 34 + (number % 6) * 15;
    return `<text x="${x(at) + 4}" y="${y}" fill="${colorOf(what)}" font-size="12" paint-order="stroke" stroke="#fbf8f1" stroke-width="5">${what}</text>`;
  });
  const ticks = [1, 10, 100, 1_000, 10_000].map(
    (each) =>
      `<line x1="${left}" x2="${width - right}" y1="${time(each)}" y2="${time(each)}" stroke="#e3ded2"/>` +
      `<text x="${left - 8}" y="${time(each) + 4}" text-anchor="end" font-size="12">${each.toLocaleString("en")}</text>`,
  );
  const counts = [0, 0.5, 1].map((share) => {
    const y = chart.requests.top + chart.requests.height * (1 - share);
    return (
      `<line x1="${left}" x2="${width - right}" y1="${y}" y2="${y}" stroke="#e3ded2"/>` +
      `<text x="${left - 8}" y="${y + 4}" text-anchor="end" font-size="12">${Math.round(most * share)}</text>`
    );
  });
  const marks = Array.from(
    { length: course.seconds / 10 + 1 },
    (_, number) =>
      `<text x="${x(number * 10)}" y="${chart.times.top + chart.times.height + 20}" text-anchor="middle" font-size="12">${number * 10} s</text>`,
  );
  const [first = "", second = ""] = courseFigures(course);
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}" width="${width}" height="${height}" font-family="system-ui, sans-serif" fill="#33302a">
<rect width="${width}" height="${height}" fill="#fbf8f1"/>
<text x="${left}" y="30" font-size="18" font-weight="600">Two servers, a pooler, a balancer, a primary and its standby, each killed in turn</text>
<text x="${left}" y="52" font-size="13">${first} ${second}</text>
<text x="${left}" y="84" font-size="13" font-weight="600">Requests a second <tspan fill="#4a7fb0">■ answered</tspan> <tspan fill="#d9892f">■ asked again</tspan></text>
${counts.join("\n")}
${seconds.map(({ answered, failed }, number) => bar(answered, 0, number, "#4a7fb0") + bar(failed, answered, number, "#d9892f")).join("\n")}
<text x="${left}" y="${chart.times.top - 10}" font-size="13" font-weight="600">Milliseconds to an answer <tspan fill="#4a7fb0">— half within</tspan> <tspan fill="#8a4f9e">— 99 % within</tspan></text>
${ticks.join("\n")}
${line(({ most: value }) => value, "#8a4f9e")}
${line(({ half }) => half, "#4a7fb0")}
${blowLines.join("\n")}
${blowNames.join("\n")}
${marks.join("\n")}
</svg>
`;
}

function secondsOf({ seconds, requests }: Course): readonly Second[] {
  return Array.from({ length: seconds }, (_, number) => {
    const ended = requests.filter(({ at, milliseconds }) => Math.floor(at + milliseconds / 1_000) === number);
    const answered = ended.filter(({ isAnswered }) => isAnswered);
    return {
      answered: answered.length,
      failed: ended.length - answered.length,
      half: quantile(answered, 0.5),
      most: quantile(answered, 0.99),
    };
  });
}

function quantile(requests: readonly Request[], share: number): number | undefined {
  const times = requests.map(({ milliseconds }) => milliseconds).sort((one, other) => one - other);
  return times[Math.min(times.length - 1, Math.floor(times.length * share))];
}

function counted(count: number): string {
  return count.toLocaleString("en");
}

function shown(milliseconds: number | undefined): string {
  return milliseconds === undefined ? "–" : milliseconds.toFixed(milliseconds < 10 ? 1 : 0);
}
