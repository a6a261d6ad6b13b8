import { chromium } from 'playwright-core'
const [,, path, out, w='1280', h='800', ...acts]=process.argv
const browser=await chromium.launch({executablePath:'/usr/bin/chromium',args:['--no-sandbox','--autoplay-policy=no-user-gesture-required']})
const page=await browser.newPage({viewport:{width:+w,height:+h}})
page.on('console',m=>{if(m.type()==='error'||m.type()==='warning')console.log('CONSOLE',m.text().slice(0,400))})
page.on('pageerror',e=>console.log('PAGEERROR',e.message.slice(0,400)))
const t=Date.now()
await page.goto('http://127.0.0.1:4399'+path,{timeout:180000})
console.log('loaded',Date.now()-t)
try { await page.locator('button.main:enabled').first().waitFor({timeout:60000}) } catch(e) { console.log('NOT READY') }
console.log('ready',Date.now()-t)
for (const a of acts) { const [k,...r]=a.split(':'); const v=r.join(':');
 if(k==='wait') await page.waitForTimeout(+v)
 if(k==='click') await page.getByRole('button',{name:v,exact:true}).first().click()
 if(k==='link') await page.getByRole('link',{name:new RegExp(v)}).first().click()
 if(k==='fill') await page.getByRole('searchbox').fill(v)
 if(k==='key') await page.keyboard.press(v)
 if(k==='eval') console.log(await page.evaluate(v))
}
await page.screenshot({path:out})
await browser.close()
