import { readFileSync } from 'node:fs';
import { judgeLine, KINDS } from '../src/core/judge/kinds';
import { sheetsOf } from '../src/engine/files/sheets';
const D='bench/cases/files'; let ok=0,n=0;
for (const line of readFileSync(`${D}/expected.jsonl`,'utf8').trim().split('\n')) {
  const e=JSON.parse(line); n++;
  if (process.argv[2] && !e.file.includes(process.argv[2])) continue;
  const faults:string[]=[];
  try {
    const a:any=await judgeLine(KINDS.list, JSON.stringify({name:e.file,base64:readFileSync(`${D}/${e.file}`).toString('base64'),order:e.order,now:'2026-11-29T10:00:00Z'}),1,0,{sheetsOf} as any);
    for (const k of Object.keys(e.counts)) if (a.counts[k]!==e.counts[k]) faults.push(`${k} ${a.counts[k]} not ${e.counts[k]}`);
    e.rows.forEach((r:any,i:number)=>{ const g=a.rows[i]; if(!g){faults.push(`row ${i} missing`);return;} if(g.domain!==r.domain) faults.push(`row ${i} ${g.domain} not ${r.domain}`); for(const [k,v] of Object.entries(r)) if(k!=='domain'&&JSON.stringify(g.values[k])!==JSON.stringify(v)) faults.push(`${r.domain} ${k} ${JSON.stringify(g.values[k])} not ${JSON.stringify(v)}`); });
    if (e.notUnderstood) for (const c of Object.keys(e.notUnderstood)) if(!a.notUnderstood.some((x:any)=>x.column===c)) faults.push('not told: '+c);
    if (!e.notUnderstood && a.notUnderstood.length) faults.push('told: '+JSON.stringify(a.notUnderstood));
    if (faults.length) faults.push(JSON.stringify(a.columns.slice(0,12)));
  } catch (x) { faults.push('threw '+(x as Error).message); }
  if (faults.length) console.log(e.file, '\n   ', faults.slice(0,8).join('\n    ')); else ok++;
}
console.log(ok,'of',n);
