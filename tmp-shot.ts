import { openBrowser } from "./scripts/browser.ts";
const b = await openBrowser();
const [w,h]=(process.argv[2]??"1280x800").split("x").map(Number);
const p = await b.newPage({viewport:{width:w!,height:h!}});
p.on("pageerror",e=>console.log("ERR",e.message)); p.on("console",m=>console.log(m.text()));
await p.goto('file:///work/main/'+(process.argv[3]??"out/survey")+'/survey.html');
await p.screenshot({path:`/tmp/s1-${w}.png`});
const map=await p.$("#map"); await map!.scrollIntoViewIfNeeded(); const bx=(await map!.boundingBox())!; await p.mouse.move(bx.x+bx.width*0.3,bx.y+bx.height*0.6); await p.evaluate(()=>document.querySelector(".map")!.scrollIntoView({block:"start"})); await p.mouse.move(420,500); await p.screenshot({path:`/tmp/s2-${w}.png`});
for (const [i,id] of ["apart","coverage","parts","outfits"].entries()){ await p.evaluate(i=>document.getElementById(i)!.scrollIntoView(),id); await p.screenshot({path:`/tmp/s${i+3}-${w}.png`}); }
console.log(await p.evaluate(()=>[document.documentElement.scrollWidth,innerWidth]));
await b.close();
