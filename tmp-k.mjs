import { chromium } from '@playwright/test'
const b = await chromium.launch({executablePath:'/usr/bin/chromium',args:['--no-sandbox','--disable-gpu']})
const c = await b.newContext({viewport:{width:1280,height:800},serviceWorkers:'block'}); const page = await c.newPage()
await page.goto('http://localhost:3299/');await page.getByRole('link',{name:'Beacon loader'}).click()
await page.getByRole('list', { name: 'Layers, front to back' }).getByRole('button', { name:'Arc', exact: true }).click()
await page.waitForTimeout(1000)
const here=()=>page.evaluate(()=>document.activeElement.closest('section[aria-label], [role=toolbar], header nav')?.getAttribute('aria-label')+' | '+document.activeElement.outerHTML.slice(0,160))
for(let n=0;n<10;n++){await page.keyboard.press('F6');console.log(await here())}
for(let n=0;n<12&&!(await here()).startsWith('Properties');n++)await page.keyboard.press('F6')
for(let n=0;n<9;n++){await page.keyboard.press('PageDown');console.log('pd',await here())}
await b.close()
