import { fileURLToPath } from 'node:url'

const here = (path: string): string => fileURLToPath(new URL(path, import.meta.url))

export default defineNuxtConfig({
  compatibilityDate: '2026-01-01',
  // The workshop stands behind a person's own data and is drawn in the browser; what others watch is there before any script.
  routeRules: {
    '/**': { ssr: false },
    '/s/**': { ssr: true },
    // Who has the link of a call is not told to whom else it leads, and search engines keep out of it.
    '/c/**': { ssr: false, headers: { 'referrer-policy': 'no-referrer', 'x-robots-tag': 'noindex, nofollow' } },
  },
  telemetry: false,
  devtools: { enabled: false },
  modules: ['@pinia/nuxt', '@element-plus/nuxt', 'nuxt-auth-utils'],
  css: ['~/styles/fonts.css', '~/styles/tokens.css', '~/styles/base.css'],
  alias: {
    '@core': here('./core'),
    '@contracts': here('./contracts'),
    '@render': here('./render'),
    '@server': here('./server'),
  },
  components: [{ path: '~/components', pathPrefix: false, extensions: ['vue'] }],
  // Who is here is asked for by the workshop itself; those who watch are nobody.
  auth: { loadStrategy: 'none' },
  elementPlus: { importStyle: 'css', icon: false },
  // A page's scripts come when somebody reaches for its link: most links of a page are never followed.
  experimental: { defaults: { nuxtLink: { prefetchOn: { visibility: false, interaction: true } } } },
  app: {
    head: {
      title: 'Aisle Talk',
      htmlAttrs: { lang: 'en' },
      meta: [{ name: 'viewport', content: 'width=device-width, initial-scale=1' }],
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/mark.svg' }],
    },
  },
  runtimeConfig: {
    session: {
      name: '__Host-aisle',
      maxAge: 60 * 60 * 24 * 14,
      password: '',
      cookie: { sameSite: 'lax', httpOnly: true, secure: true, path: '/' },
    },
  },
  nitro: {
    ignore: ['**/*.test.ts'],
  },
  typescript: { strict: true, tsConfig: { compilerOptions: { noUncheckedIndexedAccess: true } } },
  // Nothing reads them: the server runs without, and its log names functions.
  sourcemap: false,
  vite: { build: { chunkSizeWarningLimit: 2000, reportCompressedSize: false } },
})
