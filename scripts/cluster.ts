/** Plays a cluster through, and draws its course: `npm run cluster`. */
import { writeFile } from "node:fs/promises";
import { courseFigures, drawCourse } from "./cluster/course-picture.ts";
import { runCluster } from "./cluster/run-cluster.ts";

const course = await runCluster((line) => console.log(line));
await writeFile("docs/cluster.svg", drawCourse(course));
console.log(courseFigures(course).join("\n"));
for (const each of course.wrong) console.error(each);
console.log(
  course.wrong.length === 0 ? "Everything confirmed is there, exactly once." : "Not everything is as it was confirmed.",
);
process.exit(course.wrong.length === 0 ? 0 : 1);
