import { buildSync } from 'esbuild'

/** Programs that run beside the server, and where each begins. */
const ENTRIES = {
  worker: 'server/worker/main.ts',
  'read-deck': 'render/bin/read-deck.ts',
  'help-read-deck': 'render/bin/help-read-deck.ts',
  'draw-pages': 'render/bin/draw-pages.ts',
  'make-handout': 'render/bin/make-handout.ts',
  deliver: 'scripts/deliver.ts',
  bench: 'bench/run.ts',
  'draw-bare': 'bench/draw-bare.ts',
} as const
export type Program = keyof typeof ENTRIES

/** Those that open what people bring, each in a process of its own. */
export const APART: readonly Program[] = ['read-deck', 'help-read-deck', 'draw-pages', 'make-handout']

/** Where programs are once they are bundled. */
export const PROGRAMS_FOLDER = '.output/bin'

export const isProgram = (name: string): name is Program => Object.hasOwn(ENTRIES, name)

/** Where a program is once it is bundled. */
export const programFile = (program: Program): string => `${PROGRAMS_FOLDER}/${program}.mjs`

/**
 * Puts a program's own code together as JavaScript; its packages stay where they are. So it starts in half the time, and holds 180 MB
 * less than with a loader for TypeScript, which keeps all that it has read.
 * @throws Error when it does not build
 */
export function bundle(program: Program): void {
  buildSync({
    entryPoints: { [program]: ENTRIES[program] },
    outdir: PROGRAMS_FOLDER,
    outExtension: { '.js': '.mjs' },
    chunkNames: `${program}-[hash]`,
    bundle: true,
    splitting: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    tsconfig: 'tsconfig.node.json',
    logLevel: 'error',
  })
}

/** Bundles the programs that server and worker start to open what people bring. */
export const bundleApart = (): void => {
  APART.forEach(bundle)
}
