import { access, mkdir, rm, writeFile } from 'node:fs/promises'
import { basename, join } from 'node:path'
import { Refusal } from '@core/model'
import { ProcessFailed, holdInside, run } from '@render/process'

/** What makes documents of office files, and what it is held to. */
export interface OfficeConverter {
  /** Its program. */
  readonly program: string
  /** Folder of a profile of its own, which no other worker has. */
  readonly profile: string
  /** ms */
  readonly time: number
  /** MB of memory it may ask for */
  readonly memory: number
}

/** It ends with this when it has made its profile and wants to be started anew. */
const STARTED_ANEW = 81
const MB = 1024 ** 2

/** Nothing that a file holds is run, and nothing that it names is fetched. */
const SETTINGS = `<?xml version="1.0" encoding="UTF-8"?>
<oor:items xmlns:oor="http://openoffice.org/2001/registry" xmlns:xs="http://www.w3.org/2001/XMLSchema">
${[
  ['DisableMacrosExecution', 'true'],
  ['BlockUntrustedRefererLinks', 'true'],
  ['MacroSecurityLevel', '3'],
]
  .map(
    ([name, value]) =>
      `<item oor:path="/org.openoffice.Office.Common/Security/Scripting"><prop oor:name="${name ?? ''}" oor:op="fuse">` +
      `<value>${value ?? ''}</value></prop></item>`,
  )
  .join('\n')}
</oor:items>
`

async function makeProfile(profile: string): Promise<void> {
  await mkdir(join(profile, 'user'), { recursive: true })
  await writeFile(join(profile, 'user', 'registrymodifications.xcu'), SETTINGS, { flag: 'wx' }).catch(() => undefined)
}

/** How a program is cut off from every network (unshare(1)), as far as this system lets us; empty where it does not. */
async function apartFromNetworks(): Promise<readonly string[]> {
  for (const way of [
    ['unshare', '--net', '--'],
    ['unshare', '--user', '--map-current-user', '--net', '--'],
  ]) {
    const [program = '', ...args] = way
    const works = await run(program, [...args, 'true'], { hold: holdInside(5000) }).catch(() => null)
    if (works !== null) return way
  }
  return []
}

/** What is made of an office file: how its name ends, and by what it is written. */
export interface OfficeFormat {
  readonly ending: string
  readonly filter: string
}

/** A document. Pages that a show leaves out are in it too; what is only for those who edit is not. */
export const AS_PDF: OfficeFormat = {
  ending: 'pdf',
  filter: `impress_pdf_Export:${JSON.stringify({
    ExportHiddenSlides: { type: 'boolean', value: 'true' },
    ExportBookmarks: { type: 'boolean', value: 'false' },
    ExportNotes: { type: 'boolean', value: 'false' },
    ExportNotesPages: { type: 'boolean', value: 'false' },
  })}`,
}
/** A deck in OpenDocument. */
export const AS_ODP: OfficeFormat = { ending: 'odp', filter: 'impress8' }

async function isThere(path: string): Promise<boolean> {
  return await access(path).then(
    () => true,
    () => false,
  )
}

/**
 * Makes another file of an office file. One at a time for each profile: others wait for their turn.
 * @param out folder for what is made, and for all that is only made meanwhile
 * @returns path of what was made: as the file is called, with another ending
 * @throws Refusal when there is no converter, it takes too long, or it cannot read the file
 */
export async function convertOffice(
  path: string,
  { ending, filter }: OfficeFormat,
  out: string,
  converter: OfficeConverter,
): Promise<string> {
  const { program, profile, time, memory } = converter
  if (!(await isThere(program)))
    throw new Refusal(
      'unavailable',
      'Office decks cannot be read on this server: what converts them is not installed. Tell whoever runs it, or export the deck as a PDF.',
    )
  await makeProfile(profile)
  const made = join(out, `${basename(path).replace(/\.[^.]+$/, '')}.${ending}`)
  const network = await apartFromNetworks()
  const args = [
    ...['--no-fork', join(profile, 'in-turn'), ...network, 'setpriv', '--pdeathsig', 'KILL', '--'],
    ...['env', `HOME=${profile}`, `TMPDIR=${out}`, program, '--headless', '--norestore', '--nologo', '--nodefault', '--nolockcheck'],
    ...[`-env:UserInstallation=file://${profile}`, '--convert-to', `${ending}:${filter}`, '--outdir', out, path],
  ]
  const hold = { time, memory: memory * MB, file: 2048 * MB }
  const began = performance.now()
  try {
    await run('flock', args, { hold }).catch(async (error: unknown) => {
      if (!(error instanceof ProcessFailed) || error.exitCode !== STARTED_ANEW) throw error
      await run('flock', args, { hold })
    })
  } catch (error) {
    // What it was killed in the middle of writing is not used again.
    await rm(join(profile, 'user'), { recursive: true, force: true })
    if (performance.now() - began >= time)
      throw new Refusal('too-large', 'Reading this office file took too long and was stopped. Bring it in parts, or export it as a PDF.')
    throw new Refusal('unreadable', 'This office file could not be read: converting it failed. Export the deck as a PDF and bring that.', {
      cause: String(error),
    })
  }
  if (!(await isThere(made)))
    throw new Refusal(
      'unreadable',
      'This office file is damaged or locked with a password. Save it again without one in the program it was made with, and bring that.',
    )
  return made
}
