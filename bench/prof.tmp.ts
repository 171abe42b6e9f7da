import { constantField, curvesFromLists, tube, makeMesh } from '/work/main/packages/core/src/index.js';
const place=(u:number)=>{const t=u*60;return [t,Math.sin(t)*1.5,Math.cos(t*.7)*1.2]};
const points=62500;
const path=curvesFromLists([Array.from({length:points},(_,i)=>place(i/(points-1)))]);
const list=Array.from({length:100000},(_,c)=>Array.from({length:8},(_,i)=>[c*.01,i*.1,Math.sin(i+c)]));
const many=curvesFromLists(list);
const o={radius:constantField(.02),caps:'open',corners:'asIs',uvScale:0,ringStep:1} as const;
for(let k=0;k<14;k++){ let s=performance.now(); const m=tube({...path},{...o,sides:16}).mesh; const a=performance.now()-s; s=performance.now(); makeMesh(m as never); const b=performance.now()-s; s=performance.now(); tube({...many},{...o,sides:4}); console.log(a.toFixed(1), 'makeMesh', b.toFixed(1), 'many', (performance.now()-s).toFixed(0)); }
