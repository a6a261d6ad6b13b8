import { execFileSync, spawn } from 'node:child_process'
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { freePort, until } from './run-product'
import type { Product } from './run-product'

/** The proxy that ships, before two servers, with TLS. */
export interface Proxy {
  readonly url: string
  readonly before: (product: Product) => Promise<void>
  readonly close: () => Promise<void>
}

/** The configuration that ships, on this machine: its own ports, certificate and cache. */
async function configured(folder: string, port: number, { url, secondUrl }: Product): Promise<string> {
  const shipped = await readFile('deploy/nginx.conf', 'utf8')
  const here = shipped
    .replace(/server \{\s+listen 80;[^}]*\}/, '')
    .replace('listen 443 ssl', `listen 127.0.0.1:${String(port)} ssl`)
    .replace('127.0.0.1:4310', new URL(url).host)
    .replace('127.0.0.1:4311', new URL(secondUrl).host)
    .replace('/var/cache/nginx/aisle', join(folder, 'cache'))
    .replaceAll('/etc/aisle-talk/tls', folder)
  const temporary = ['client_body', 'proxy', 'fastcgi', 'uwsgi', 'scgi'].map((kind) => `${kind}_temp_path ${folder}/${kind};`)
  return `daemon off; master_process off; pid ${folder}/nginx.pid; error_log stderr crit;
    events { worker_connections 512; } http { access_log off; ${temporary.join(' ')} ${here} }`
}

/** Asks until an answer comes, as pages do: what is under way on a server that ends is lost, and asked for again. */
export async function stubborn<Answer>(ask: () => Promise<Answer>): Promise<Answer> {
  return await until('an answer', () => ask().catch(() => undefined))
}

/** Has an address ready for nginx with a certificate of its own, which this process takes as it is until it is closed. */
export async function openProxy(): Promise<Proxy> {
  const folder = await mkdtemp(join(tmpdir(), 'aisle-two-'))
  const port = await freePort()
  const url = `https://127.0.0.1:${String(port)}`
  // Nobody vouches for the certificate of a test.
  process.env['NODE_TLS_REJECT_UNAUTHORIZED'] = '0'
  const [key, certificate] = [join(folder, 'privkey.pem'), join(folder, 'fullchain.pem')]
  const asked = ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', '-subj', '/CN=talks.school.example']
  execFileSync('openssl', [...asked, '-keyout', key, '-out', certificate], { stdio: 'ignore' })
  let proxy: ReturnType<typeof spawn> | null = null
  return {
    url,
    before: async (product) => {
      await writeFile(join(folder, 'nginx.conf'), await configured(folder, port, product))
      proxy = spawn('nginx', ['-c', join(folder, 'nginx.conf')], { stdio: ['ignore', 'ignore', 'inherit'] })
      await stubborn(async () => (await fetch(`${url}/api/health`)).ok)
    },
    close: async () => {
      delete process.env['NODE_TLS_REJECT_UNAUTHORIZED']
      if (proxy !== null) {
        const gone = new Promise((resolve) => proxy?.once('exit', resolve))
        proxy.kill('SIGTERM')
        await gone
      }
      await rm(folder, { recursive: true, force: true })
    },
  }
}
