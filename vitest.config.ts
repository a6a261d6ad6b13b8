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

/** What is waited for comes on a machine that is busy with something else too. */
const patient = { poll: { timeout: 60_000 } }

export default defineConfig({
  test: {
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'unit',
          // Nothing is kept in modules that one test could leave to the next: what they import is read once.
          isolate: false,
          pool: 'threads',
          maxWorkers: 2,
          testTimeout: 60_000,
          hookTimeout: 60_000,
          include: ['{core,contracts,render,server,app,scripts}/**/*.test.ts'],
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'server',
          expect: patient,
          include: ['tests/server/**/*.test.ts'],
          globalSetup: 'tests/harness/global.ts',
          isolate: false,
          testTimeout: 240_000,
          hookTimeout: 300_000,
          maxWorkers: 2,
        },
      },
      {
        // Journeys wait for most of their time: two at once are what two processors can do. They hold on a machine that is busy besides.
        resolve: { alias },
        test: {
          name: 'browser',
          expect: patient,
          include: ['tests/browser/**/*.test.ts'],
          globalSetup: 'tests/harness/global.ts',
          isolate: false,
          testTimeout: 600_000,
          hookTimeout: 300_000,
          maxWorkers: 2,
        },
      },
      {
        resolve: { alias },
        // Another decoder, what kills workers and servers, many broken files: after everything else, by a command of its own.
        test: {
          name: 'deep',
          expect: patient,
          include: ['tests/deep/*.test.ts'],
          globalSetup: 'tests/harness/global.ts',
          isolate: false,
          testTimeout: 600_000,
          hookTimeout: 300_000,
          maxWorkers: 2,
        },
      },
      {
        // What servers and workers keep and find again, once more: on an object store, with no folder in common.
        resolve: { alias },
        test: {
          name: 'objects',
          expect: patient,
          env: { AISLE_TEST_STORE: 'objects' },
          include: ['tests/server/{takes,archives,clips,exports}.test.ts'],
          globalSetup: 'tests/harness/global.ts',
          isolate: false,
          testTimeout: 240_000,
          hookTimeout: 300_000,
          maxWorkers: 2,
        },
      },
      {
        resolve: { alias },
        // Other browsers and what is held against a clock: each has the machine to itself.
        test: {
          name: 'alone',
          expect: patient,
          include: ['tests/deep/alone/*.test.ts'],
          globalSetup: 'tests/harness/global.ts',
          isolate: false,
          testTimeout: 600_000,
          hookTimeout: 300_000,
          fileParallelism: false,
        },
      },
    ],
  },
})
