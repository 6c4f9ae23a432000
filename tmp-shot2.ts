import { openBrowser } from "./scripts/browser.ts";
const b = await openBrowser();
const p = await b.newPage({viewport:{width:1280,height:800}});
await p.goto("file:///work/main/out/survey/survey.html");
await p.fill("input[type=search]","storm hat oilskin"); await p.click(".figure:not([hidden]) button"); await p.screenshot({path:"/tmp/t1.png"});
await p.fill("input[type=search]",""); await p.evaluate(()=>document.getElementById("outfits")!.scrollIntoView()); await p.screenshot({path:"/tmp/t2.png"});
await p.emulateMedia({media:"print"}); await p.evaluate(()=>scrollTo(0,0)); await p.screenshot({path:"/tmp/t3.png"});
await b.close();
