import { spawn } from 'node:child_process'
import type { ChildProcess } from 'node:child_process'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Client } from '../harness/client'
import { freePort, startProduct, until } from '../harness/product'
import type { Product } from '../harness/product'
import { screeningOf, shareTalk } from '../harness/screening'
import { threeSlides } from '../harness/screening-page'

let product: Product
let folder: string
let cache: ChildProcess
let url: string

/** Debian's nginx in front of the product, as `docs/operating.md` has it, on this machine alone. */
const configFor = (port: number, behind: string, place: string): string => `
  daemon off; master_process off; pid ${place}/nginx.pid; error_log stderr error;
  events { worker_connections 512; }
  http {
    access_log off;
    ${['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map((kind) => `${kind}_temp_path ${place}/${kind};`).join(' ')}
    proxy_cache_path ${place}/cache levels=1:2 keys_zone=aisle:20m max_size=1g inactive=12h use_temp_path=off;
    server {
      listen 127.0.0.1:${String(port)};
      location /v/ {
        proxy_pass ${behind};
        proxy_cache aisle;
        proxy_cache_lock on;
        proxy_cache_lock_timeout 30s;
        proxy_cache_use_stale updating;
        add_header x-cache $upstream_cache_status;
      }
      location / { proxy_pass ${behind}; }
    }
  }`

beforeAll(async () => {
  product = await startProduct()
  folder = await mkdtemp(join(tmpdir(), 'aisle-cache-'))
  const port = await freePort()
  url = `http://127.0.0.1:${String(port)}`
  await writeFile(join(folder, 'nginx.conf'), configFor(port, product.url, folder))
  cache = spawn('nginx', ['-c', join(folder, 'nginx.conf')], { stdio: ['ignore', 'ignore', 'inherit'] })
  await until('the cache', () =>
    fetch(`${url}/api/health`).then(
      () => true,
      () => false,
    ),
  )
})
afterAll(async () => {
  const gone = new Promise((resolve) => cache.once('exit', resolve))
  cache.kill('SIGTERM')
  await gone
  await product.stop()
  await rm(folder, { recursive: true, force: true })
})

describe('a cache in front', () => {
  it('is asked for everything and asks for each file once, however many come at a time', async () => {
    const client = new Client(product.url)
    const { talk, path } = await threeSlides(client, 'Knots for many')
    const { media } = await screeningOf(url, path.split('/')[2] ?? '')
    const list = await (await fetch(`${url}${media}/sound.m3u8`)).text()
    const files = [...list.matchAll(/[0-9a-f]{64}\.m(?:4s|p4)/g)].map(([file]) => file)
    expect(files.length).toBeGreaterThanOrEqual(3)
    const asked = await Promise.all(
      Array.from({ length: 20 }, () => files).flatMap((some) =>
        some.map(async (file) => {
          const answer = await fetch(`${url}${media}/${file}`)
          return { file, status: answer.status, from: answer.headers.get('x-cache'), bytes: (await answer.arrayBuffer()).byteLength }
        }),
      ),
    )
    expect(new Set(asked.map(({ status }) => status))).toEqual(new Set([200]))
    for (const file of files) {
      const same = asked.filter((one) => one.file === file)
      expect([file, same.filter(({ from }) => from === 'MISS').length]).toEqual([file, 1])
      expect(new Set(same.map(({ bytes }) => bytes)).size).toBe(1)
    }
    // What is not for everybody is not kept.
    for (let n = 0; n < 2; n += 1) {
      const taken = await fetch(`${url}${media}/slides.pdf`)
      await taken.arrayBuffer()
      expect(taken.headers.get('x-cache')).not.toBe('HIT')
    }
    await shareTalk(client, talk, { level: 'closed' })
    await expect.poll(async () => (await fetch(`${url}${path}`)).status).toBe(404)
  })
})
