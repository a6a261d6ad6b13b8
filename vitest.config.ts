import { fileURLToPath } from 'node:url'
import { defineConfig } from 'vitest/config'

const here = (path: string): string => fileURLToPath(new URL(path, import.meta.url))
const alias = {
  '@core': here('./core'),
  '@contracts': here('./contracts'),
  '@render': here('./render'),
  '@server': here('./server'),
  '~': here('./app'),
}

export default defineConfig({
  test: {
    projects: [
      { resolve: { alias }, test: { name: 'unit', testTimeout: 60_000, include: ['{core,contracts,render,server,app,scripts}/**/*.test.ts'] } },
      {
        resolve: { alias },
        test: { name: 'server', include: ['tests/server/**/*.test.ts'], globalSetup: 'tests/harness/global.ts', testTimeout: 240_000, hookTimeout: 300_000, fileParallelism: false },
      },
      {
        resolve: { alias },
        test: { name: 'browser', include: ['tests/browser/**/*.test.ts'], globalSetup: 'tests/harness/global.ts', testTimeout: 600_000, hookTimeout: 300_000, fileParallelism: false },
      },
    ],
  },
})
