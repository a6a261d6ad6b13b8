import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { buildSync } from 'esbuild'
import type { BuildOptions } from 'esbuild'

/** Programs that run beside the server, and where each begins. */
const ENTRIES = {
  worker: 'server/worker/main.ts',
  'stand-ins': 'stand-ins/main.ts',
  'read-deck': 'render/bin/read-deck.ts',
  'help-read-deck': 'render/bin/help-read-deck.ts',
  'draw-pages': 'render/bin/draw-pages.ts',
  'make-handout': 'render/bin/make-handout.ts',
  'hear-parts': 'render/bin/hear-parts.ts',
  'unpack-archive': 'render/bin/unpack-archive.ts',
  denoise: 'render/bin/denoise.ts',
  'find-outline': 'render/bin/find-outline.ts',
  deliver: 'scripts/deliver.ts',
  archives: 'scripts/archives.ts',
  bench: 'bench/run.ts',
  'draw-bare': 'bench/draw-bare.ts',
} as const
export type Program = keyof typeof ENTRIES

/** Those that open what people bring, each in a process of its own. */
export const APART: readonly Program[] = [
  'read-deck',
  'help-read-deck',
  'draw-pages',
  'make-handout',
  'hear-parts',
  'unpack-archive',
  'denoise',
  'find-outline',
]

/** Where programs are once they are bundled. */
export const PROGRAMS_FOLDER = '.output/bin'

export const isProgram = (name: string): name is Program => Object.hasOwn(ENTRIES, name)

/** Where a program is once it is bundled. */
export const programFile = (program: Program): string => `${PROGRAMS_FOLDER}/${program}.mjs`

const CODE = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  tsconfig: 'tsconfig.node.json',
  logLevel: 'error',
} as const

/** Where all that decides on the pixels of a segment begins: what draws and encodes it, and what draws pages of decks. */
const SEGMENT_MAKERS = ['render/video/index.ts', 'render/bin/draw-pages.ts']

let digest: string | undefined
/** Digest of the code that makes segments, without its comments, and of the packages it may use. */
const segmentCodeDigest = (): string => (digest ??= digestOfMakers())
function digestOfMakers(): string {
  const built = buildSync({ ...CODE, entryPoints: SEGMENT_MAKERS, outdir: 'unwritten', write: false, minify: true })
  const hash = createHash('sha256').update(readFileSync('package-lock.json'))
  for (const { text } of built.outputFiles) hash.update(text)
  return hash.digest('hex')
}

/**
 * With their packages in the same file, since they are started for every deck and every film: reading hundreds of files of packages took
 * half of their start. Those that bring machine code or files of their own stay where they are.
 */
const WITH_PACKAGES: BuildOptions = {
  packages: 'bundle',
  external: ['@napi-rs/canvas', 'pdfjs-dist'],
  // Packages of the older kind ask for what is Node's own.
  banner: { js: "import { createRequire as requireFrom } from 'node:module'; const require = requireFrom(import.meta.url);" },
}

/**
 * Puts a program's own code together as JavaScript. So it starts in half the time, and holds 180 MB less than with a loader for
 * TypeScript, which keeps all that it has read.
 * @throws Error when it does not build
 */
export function bundle(program: Program): void {
  buildSync({
    ...CODE,
    ...(APART.includes(program) ? WITH_PACKAGES : {}),
    entryPoints: { [program]: ENTRIES[program] },
    outdir: PROGRAMS_FOLDER,
    outExtension: { '.js': '.mjs' },
    chunkNames: `${program}-[hash]`,
    splitting: true,
    define: { SEGMENTS_MADE_BY: JSON.stringify(segmentCodeDigest()) },
  })
}

/** Where script and style of the page of a bundle are, beside the programs. */
export const WATCH_PAGE = ['watch.js', 'watch.css'].map((name) => `${PROGRAMS_FOLDER}/${name}`)

/**
 * Puts script and style of the page of a bundle together: one file each, with the fonts in it, for browsers of some years ago too. A page
 * that is opened from a folder can load no modules.
 */
export function bundleWatchPage(): void {
  buildSync({
    bundle: true,
    minify: true,
    format: 'iife',
    platform: 'browser',
    target: 'es2019',
    tsconfig: 'tsconfig.node.json',
    logLevel: 'error',
    loader: { '.woff2': 'dataurl' },
    entryPoints: ['app/offline/watch.ts', 'app/offline/watch.css'],
    outdir: PROGRAMS_FOLDER,
  })
}

/** Bundles the programs that server and worker start to open what people bring. */
export const bundleApart = (): void => {
  APART.forEach(bundle)
  bundleWatchPage()
}
