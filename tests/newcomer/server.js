import { createServer } from "node:http";
import { text } from "node:stream/consumers";
import { catalogTitles, describeProblem } from "zealous-mantle";
import { judgeCharacter } from "zealous-mantle/judge";
import { messages } from "zealous-mantle/locales/en";
import { loadCatalog } from "zealous-mantle/node";

// A server that believes nobody: a character is stored when it could have come about in the game.
const catalog = await loadCatalog("survey", { art: "none" });
const holdings = { "lamp-helmet": "owned" };
const server = createServer(async (request, response) => {
  const { accepted, problems } = judgeCharacter(catalog, await text(request), { holdings });
  response.statusCode = accepted ? 200 : 422;
  response.end(problems.map((problem) => describeProblem(problem, messages, catalogTitles(catalog))).join("\n"));
});
server.listen(0, "127.0.0.1", () => console.log(`http://127.0.0.1:${server.address().port}/`));
