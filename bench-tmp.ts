import { checkLoadout, createCharacter } from "zealous-mantle";
import { smallCatalog, gear, part } from "./tests/small-catalog.ts";
const slots:any={},parts:any={},rules:any[]=[];
for(let s=0;s<40;s++){slots[`s${s}`]=gear;for(let p=0;p<25;p++)parts[`p${s}-${p}`]={slot:`s${s}`,tags:[`t${(s*7+p)%60}`,`u${(p*3+s)%60}`],layers:[{image:"a.png",depth:1}],gives:{weight:p%4}}}
for(let r=0;r<200;r++){ if(r%4==0)rules.push({never:[`tag:t${r%60}`,`part:p${r%40}-${r%25}`]}); else if(r%4==1)rules.push({if:`part:p${r%40}-${(r*3)%25}`,needs:{any:[`tag:u${r%60}`,`slot:s${(r+3)%40}`]}}); else if(r%4==2)rules.push({count:`tag:u${r%60}`,atMost:3}); else rules.push({if:`tag:t${r%60}`,needs:`tag:u${(r+1)%60}`}); }
rules.push({total:"weight",atMost:60});
const c=smallCatalog({slots,parts,rules});
const ch={...createCharacter(c,{body:"plain"}),loadout:Object.fromEntries(Array.from({length:20},(_,i)=>[`s${i*2}`,`p${i*2}-${(i*5)%25}`]))};
console.log(checkLoadout(c,ch).length, ch.loadout);
const ok={...ch,loadout:Object.fromEntries(Object.entries(ch.loadout).filter(([s])=>!checkLoadout(c,ch).some(p=>p.chain.some(f=>f.kind==="worn"&&f.slot===s))))};
console.log(checkLoadout(c,ok).length, Object.keys(ok.loadout).length);
for(const x of [ch,ok]){for(let k=0;k<3;k++){const t=performance.now();for(let i=0;i<20000;i++)checkLoadout(c,x);console.log(((performance.now()-t)/20000*1000).toFixed(2),"µs");}}
