import { chromium } from 'playwright-core'
import { createServer } from 'node:http'
const B='http://127.0.0.1:4399'
const put=async(p,b)=>(await fetch(B+'/api'+p,{method:'PUT',headers:{'content-type':'application/json'},body:JSON.stringify(b)})).json()
const b = await chromium.launch({executablePath:'/usr/bin/chromium',args:['--no-sandbox','--disable-gpu','--disable-background-networking']})
const p = await b.newPage({viewport:{width:1280,height:800}})
p.setDefaultTimeout(20000)
p.on('pageerror',e=>console.log('ERR',e.message))
const talks = await (await fetch(B+'/api/talks')).json()
const t=talks.find(x=>x.name.includes('twelfths')).id
const OPEN={level:'link',presenter:'Maren Holt',description:'How high the tide stands at any hour, with nothing but a pencil.',handout:true,viewerNotes:true,film:null,questions:true,until:null,group:null}
let html=''
const site=createServer((q,a)=>{a.setHeader('content-type','text/html');a.end(html)}); await new Promise(r=>site.listen(4395,'127.0.0.1',r))
const v=await put(`/talks/${t}/share`,{...OPEN,embedOn:['http://localhost:4395']})
html=`<h1>Class page</h1><iframe src="${v.address}?embed" width="700" height="520"></iframe>`
p.on('console',m=>console.log('CON',m.text()))
await p.goto('http://localhost:4395'); await p.waitForTimeout(3000)
console.log(p.frames().map(f=>f.url()))
await p.screenshot({path:'/tmp/e1.png'})
await p.goto(`${B}/talks/${t}/hand-over?leaf=show`); await p.waitForTimeout(2500); await p.screenshot({path:'/tmp/e2.png'})
await put(`/talks/${t}/share`,{...OPEN,level:'people',embedOn:[]})
await put(`/talks/${t}/share/people`,{people:Array.from({length:12},(_,n)=>({address:`pupil.${n}@harbour.example`,name:n%3?`Pupil ${n}`:''}))})
await p.goto(`${B}/talks/${t}/hand-over?leaf=show`); await p.waitForTimeout(2500)
await p.getByRole('textbox',{name:'Add people'}).fill('Maren Holt <maren@harbour.example>\nwrong one')
await p.waitForTimeout(500); await p.screenshot({path:'/tmp/e3.png'})
await p.goto(v.address); await p.waitForTimeout(1500); await p.screenshot({path:'/tmp/e4.png'})
await p.getByRole('textbox').fill('pupil.3@harbour.example'); await p.getByRole('button',{name:'Send me a link'}).click(); await p.waitForTimeout(1000)
await p.goto(B+'/outbox'); await p.waitForTimeout(1500); await p.screenshot({path:'/tmp/e5.png'})
await put(`/talks/${t}/share`,{...OPEN,level:'shelf',embedOn:[]})
const t2=talks.find(x=>x.name.includes('swifts')).id
await put(`/talks/${t2}/share`,{...OPEN,level:'shelf',presenter:'Ilse Brandt',description:'',embedOn:[]})
await p.goto(B+'/shelf'); await p.waitForTimeout(2500); await p.screenshot({path:'/tmp/e6.png'})
site.close(); await b.close()
