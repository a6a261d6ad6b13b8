import { resolve } from 'node:path'
import { parseArgs } from 'node:util'
import { onData } from './start/on-data'

/**
 * Makes a backup that database and store agree in, while people go on: npm run backup -- --to FOLDER. Only what is new is copied. With
 * --keep N all but the last N backups of that folder go.
 */
const { values } = parseArgs({ options: { data: { type: 'string' }, to: { type: 'string' }, keep: { type: 'string' } } })
const command = await onData(values.data)
/** Ends with what is to be said. */
const end: (code: number, sentence: string) => never = command.end
if (values.to === undefined) end(1, 'Name a folder with --to.')
const root = resolve(values.to)
process.umask(0o077)
const { backUp, forgetOld } = await import('@server/backup')
const { made, missing } = await backUp(process.env['AISLE_DATA'] ?? '', process.env['DATABASE_URL'] ?? '', root).catch((fault: unknown) =>
  end(1, fault instanceof Error ? fault.message : String(fault)),
)
const gone = values.keep === undefined ? 0 : await forgetOld(root, Math.max(1, Number(values.keep)))
for (const { path, is } of missing) console.error(`${is}: ${path}`)
end(
  missing.length === 0 ? 0 : 1,
  `${made.name}: ${String(made.files)} files, ${(made.bytes / 1e6).toFixed(1)} MB, ${String(made.fresh)} of them new` +
    `${gone === 0 ? '' : `; ${String(gone)} files of older backups went`}` +
    (missing.length === 0 ? '.' : `; ${String(missing.length)} are not as they should be.`),
)
