import { build } from 'esbuild'
const entry=process.argv[2]
const r=await build({entryPoints:[entry],bundle:true,write:false,minify:true,metafile:true,format:'esm',alias:{'@':'./src'},outdir:'/tmp/o',loader:{'.css':'empty','.svg':'text'},external:['next/*','react','react-dom','react-dom/*','react/*'],splitting:true,conditions:['browser'],mainFields:['browser','module','main'],jsx:'automatic'})
const outs=r.metafile.outputs
const e=Object.entries(outs).find(([o,v])=>v.entryPoint===entry)[0]
const seen=new Set(),q=[e],g={}
while(q.length){const o=q.pop(); if(seen.has(o)||!outs[o])continue; seen.add(o)
for(const [f,x] of Object.entries(outs[o].inputs)){const k=f.includes('node_modules')?f.replace(/.*node_modules\/((?:@[^/]+\/)?[^/]+).*/,'$1'):f;g[k]=(g[k]||0)+x.bytesInOutput}
for(const i of outs[o].imports)if(i.kind==='import-statement')q.push(i.path)}
console.log('total',Object.values(g).reduce((a,b)=>a+b,0))
for(const [k,b] of Object.entries(g).sort((a,b)=>b[1]-a[1]).slice(0,+process.argv[3]||40))console.log('  ',b,k)
