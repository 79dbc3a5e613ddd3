import { chromium } from 'playwright-core'
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu'] })
const c = await b.newContext({ viewport:{width:1280,height:800}, serviceWorkers:'block' })
const p = await c.newPage()
await p.goto('http://localhost:3299/file'); await p.locator('[data-testid=file-view][data-ready=true]').waitFor()
await p.getByRole('button',{name:'Awning and gulls'}).click()
await p.getByRole('button',{name:/^Morph over/}).waitFor({timeout:60000})
await p.waitForTimeout(2500)
const s = await c.newCDPSession(p)
async function traced(name, act){
  const events=[]; s.on('Tracing.dataCollected',e=>events.push(...e.value))
  await s.send('Tracing.start',{transferMode:'ReportEvents',traceConfig:{includedCategories:['devtools.timeline','toplevel','v8','blink.user_timing']}})
  await act()
  const done=new Promise(r=>s.once('Tracing.tracingComplete',r)); await s.send('Tracing.end'); await done
  s.removeAllListeners('Tracing.dataCollected')
  const main=events.find(e=>e.name==='thread_name'&&e.args.name==='CrRendererMain'&&events.filter(x=>x.tid===e.tid&&x.pid===e.pid).length>500)
  const m=events.filter(e=>e.pid===main.pid&&e.tid===main.tid&&e.ph==='X')
  const tasks=m.filter(e=>/RunTask/.test(e.name)&&e.dur>16000).sort((a,b)=>b.dur-a.dur).slice(0,8)
  console.log('==',name)
  for(const t of tasks){const kids=m.filter(e=>e!==t&&e.ts>=t.ts&&e.ts+e.dur<=t.ts+t.dur&&e.dur>3000&&!/RunTask|ThreadControllerImpl|SimpleWatcher|Receive/.test(e.name)).sort((a,b)=>b.dur-a.dur).slice(0,7)
    console.log((t.dur/1000).toFixed(1), kids.map(k=>k.name+' '+(k.dur/1000).toFixed(1)+(k.args?.data?.url?' '+k.args.data.url.split('/').pop().slice(0,18)+':'+(k.args.data.functionName||k.args.data.type||''):'')).join(' | '))}
}
await traced('morph',async()=>{ await p.getByRole('button',{name:/^Morph over/}).click(); await p.getByText(/morphed/).first().waitFor({timeout:60000}).catch(()=>{}); await p.waitForTimeout(3000)})
await traced('undo',async()=>{ await p.keyboard.press('Control+z'); await p.waitForTimeout(2000)})
await traced('redo',async()=>{ await p.keyboard.press('Control+Shift+z'); await p.waitForTimeout(2000)})
await b.close()
