import { build } from 'esbuild'
const entry=process.argv[2]
const r=await build({entryPoints:[entry],bundle:true,write:false,minify:true,metafile:true,format:'esm',alias:{'@':'./src'},outdir:'/tmp/o',loader:{'.css':'empty','.svg':'text'},external:['next/*','react','react-dom','react-dom/*','react/*'],splitting:true,conditions:['browser'],mainFields:['browser','module','main'],jsx:'automatic'})
const outs=Object.entries(r.metafile.outputs).sort((a,b)=>b[1].bytes-a[1].bytes)
for(const [o,v] of outs.filter(([o,v])=>v.entryPoint===entry)){console.log(o,v.bytes)
const g={}
for(const [f,x] of Object.entries(v.inputs)){const k=f.includes('node_modules')?f.replace(/.*node_modules\/((?:@[^/]+\/)?[^/]+).*/,'$1'):f;g[k]=(g[k]||0)+x.bytesInOutput}
for(const [k,b] of Object.entries(g).sort((a,b)=>b[1]-a[1]).slice(0,+process.argv[3]||40))console.log('  ',b,k)
const imp=v.imports.filter(i=>i.kind==='import-statement').map(i=>i.path);console.log('static imports',imp.length, imp.slice(0,50).map(p=>p.split('/').pop()+':'+r.metafile.outputs[p]?.bytes).join(' '))
}
