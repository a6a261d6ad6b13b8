import Joi from 'joi'
import { Refusal } from '@core/model'
import type { Receipt } from '@contracts'
import type { ResumePoint } from '@server/database'
import { askOutside } from './ask-outside'
import type { OutsideAnswer } from './ask-outside'
import { tusUpload } from './tus-upload'

/** What a file of a package is: the talk itself, or what goes with it. */
export const ROLES = ['film', 'captions', 'transcript', 'cover'] as const
export type Role = (typeof ROLES)[number]

export interface PackageFile {
  readonly role: Role
  readonly name: string
  readonly path: string
  readonly bytes: number
  /** SHA-256 in hex. */
  readonly digest: string
  /** BCP 47 tag, of what is written. */
  readonly language?: string
}

/** Files that are handed in together, by the protocol of docs/formats.md. */
export interface PackageOrder {
  /** Of the desk or site. */
  readonly address: string
  /** What is said of them. */
  readonly notes: Readonly<Record<string, unknown>>
  readonly files: readonly PackageFile[]
  /** How far an earlier attempt came. */
  readonly resume: ResumePoint
  readonly signal: AbortSignal
  readonly onResume: (resume: ResumePoint) => void
  readonly onProgress: (sent: number) => void
}

/** What becomes of a package: it is taken, or refused in words. */
export type PackageAnswer =
  { readonly kind: 'taken'; readonly receipt: Receipt } | { readonly kind: 'refused'; readonly sentences: readonly string[] }

const madeAnswer = Joi.object<{ package: string }>({ package: Joi.string().max(200).required() }).unknown()

const takenAnswer = Joi.object<{ receipt: Receipt }>({
  receipt: Joi.object({
    number: Joi.string().max(200).required(),
    at: Joi.string().isoDate().required(),
    page: Joi.string()
      .uri({ scheme: ['http', 'https'] })
      .max(1000)
      .allow(null)
      .default(null),
  }).required(),
}).unknown()

const refusedAnswer = Joi.object<{ refused: readonly string[] }>({
  refused: Joi.array().items(Joi.string().max(1000)).min(1).max(100).required(),
}).unknown()

/** An answer that is not what was agreed. */
const notUnderstood = (address: string, { status }: OutsideAnswer): Refusal =>
  new Refusal('unavailable', `${new URL(address).hostname} answered in a way that is not understood (${String(status)}). Nothing was lost.`)

function refusedIn({ status, body }: OutsideAnswer): PackageAnswer | null {
  if (status < 400 || status >= 500) return null
  const { value, error } = refusedAnswer.validate(body)
  return error === undefined ? { kind: 'refused', sentences: value.refused } : null
}

/** Announces a package. @returns what it is called; or why it is refused */
async function announce({ address, notes, files }: PackageOrder): Promise<PackageAnswer | { readonly kind: 'made'; readonly id: string }> {
  const answer = await askOutside(`${address}/packages`, 'POST', {
    notes,
    files: files.map(({ role, name, bytes, digest, language }) => ({
      role,
      name,
      bytes,
      sha256: digest,
      ...(language === undefined ? {} : { language }),
    })),
  })
  const refused = refusedIn(answer)
  if (refused !== null) return refused
  const { value, error } = madeAnswer.validate(answer.body)
  if (answer.status !== 201 || error !== undefined) throw notUnderstood(address, answer)
  return { kind: 'made', id: value.package }
}

/** Says that all is there. */
async function close(address: string, id: string): Promise<PackageAnswer> {
  const answer = await askOutside(`${address}/packages/${encodeURIComponent(id)}/close`, 'POST', {})
  const refused = refusedIn(answer)
  if (refused !== null) return refused
  const { value, error } = takenAnswer.validate(answer.body)
  if (answer.status !== 200 || error !== undefined) throw notUnderstood(address, answer)
  return { kind: 'taken', receipt: value.receipt }
}

/** Sends files that belong together to a desk or site, from where an earlier attempt came to. */
export async function packageUpload(order: PackageOrder): Promise<PackageAnswer> {
  const { address, files, resume, signal, onResume, onProgress } = order
  const made = resume.package === undefined ? await announce(order) : { kind: 'made' as const, id: resume.package }
  if (made.kind !== 'made') return made
  let uploads = resume.uploads ?? {}
  onResume({ package: made.id, uploads })
  let before = 0
  for (const { role, name, path, bytes } of files) {
    const start = before
    await tusUpload({
      endpoint: `${address}/uploads`,
      begun: uploads[role] ?? null,
      path,
      bytes,
      metadata: { package: made.id, role, filename: name },
      headers: {},
      signal,
      onAddress: (upload) => {
        uploads = { ...uploads, [role]: upload }
        onResume({ package: made.id, uploads })
      },
      onProgress: (sent) => {
        onProgress(start + sent)
      },
    })
    before += bytes
    onProgress(before)
  }
  return await close(address, made.id)
}
