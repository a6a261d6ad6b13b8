import { cpus } from 'node:os'
import Joi from 'joi'
import { QUEUE_NAMES, SIGN_UPS } from '@contracts'
import type { SignUp } from '@contracts'

/** What is set from outside, as it is named there, with defaults filled in. */
export interface Environment {
  readonly AISLE_DATA: string
  readonly DATABASE_URL: string
  readonly AISLE_STORE: string
  readonly AISLE_STORE_FORMER?: string
  readonly AISLE_S3_ENDPOINT?: string
  readonly AISLE_S3_REGION: string
  readonly AISLE_S3_KEY?: string
  readonly AISLE_S3_SECRET?: string
  readonly AISLE_STORE_CACHE_MB: number
  readonly AISLE_HOST: string
  readonly AISLE_PORT: number
  readonly AISLE_PUBLIC_ADDRESS?: string
  readonly AISLE_ACCOUNTS: 'on' | 'off'
  readonly AISLE_TRUSTED_PROXIES: number
  readonly AISLE_FREE_FLOOR_MB: number
  readonly AISLE_TALK_QUOTA_GB: number
  readonly AISLE_PERSON_QUOTA_GB: number
  readonly AISLE_GUEST_QUOTA_GB: number
  readonly AISLE_PERSON_FILM_MINUTES: number
  readonly AISLE_PERSON_RECORDINGS: number
  readonly AISLE_SIGN_UP: SignUp
  readonly AISLE_SIGN_UP_DOMAINS: string
  readonly AISLE_OIDC_ISSUER?: string
  readonly AISLE_OIDC_CLIENT?: string
  readonly AISLE_OIDC_SECRET?: string
  readonly AISLE_OIDC_NAME: string
  readonly AISLE_OIDC_SIGN_UP: 'on' | 'off'
  readonly AISLE_UNTOUCHED_DAYS: number
  readonly AISLE_MAX_UPLOAD_MB: number
  readonly AISLE_MAX_PAGES: number
  readonly AISLE_IMPORT_SECONDS: number
  readonly AISLE_IMPORT_MEMORY_MB: number
  readonly AISLE_CLIP_SECONDS: number
  readonly AISLE_OFFICE: string
  readonly AISLE_PROGRAMS?: string
  readonly AISLE_WORKERS: number
  readonly AISLE_QUEUES: string
  readonly AISLE_ENCODER_THREADS: number
  readonly AISLE_YIELD: 'on' | 'off'
  readonly AISLE_WORKER_GRACE_MS: number
  readonly AISLE_GRACE_DAYS: number
  readonly AISLE_SEGMENT_CACHE_MB: number
  readonly AISLE_MAKE_AHEAD_SECONDS: number
  readonly AISLE_LISTEN_AFTER_SECONDS: number
  readonly AISLE_SPEECH_MODEL?: string
  readonly AISLE_DICTIONARIES: string | null
  readonly AISLE_SMTP_URL?: string
  readonly AISLE_MAIL_FROM?: string
  readonly AISLE_PRIVATE_PLACES: 'on' | 'off'
  readonly AISLE_STAND_INS?: string
  readonly AISLE_METRICS_WORD?: string
  readonly AISLE_SLOW_MS: number
  readonly AISLE_LOG: string
  readonly NUXT_SESSION_PASSWORD?: string
}

/** A folder of the data folder, or a bucket of an object store, with what all names in it begin with. */
const store = Joi.string()
  .pattern(/^(folder|s3:\/\/[a-z0-9][a-z0-9.-]{1,61}[a-z0-9](\/[\w.-]+)*)$/)
  .messages({ 'string.pattern.base': '{#label} is "folder" or the address of a bucket, as s3://talks or s3://school/talks' })

/** What lets in at an object store: without it there is none. */
const keyOfStore = Joi.string()
  .when('AISLE_STORE', { is: /^s3:/, then: Joi.required() })
  .when('AISLE_STORE_FORMER', { is: /^s3:/, then: Joi.required() })

/** How each is checked. */
export const schema = Joi.object<Environment>({
  AISLE_DATA: Joi.string().default('.data'),
  DATABASE_URL: Joi.string()
    .uri({ scheme: ['postgres', 'postgresql'] })
    .required(),
  AISLE_STORE: store.default('folder'),
  AISLE_STORE_FORMER: store,
  AISLE_S3_ENDPOINT: Joi.string().uri({ scheme: ['http', 'https'] }),
  AISLE_S3_REGION: Joi.string().max(100).default('us-east-1'),
  AISLE_S3_KEY: keyOfStore,
  AISLE_S3_SECRET: keyOfStore,
  AISLE_STORE_CACHE_MB: Joi.number().integer().min(0).max(100_000_000).default(20_480),
  AISLE_HOST: Joi.string().default('127.0.0.1'),
  AISLE_PORT: Joi.number().port().default(4310),
  AISLE_PUBLIC_ADDRESS: Joi.string().uri({ scheme: ['http', 'https'] }),
  AISLE_ACCOUNTS: Joi.valid('on', 'off').default('off'),
  AISLE_TRUSTED_PROXIES: Joi.number().integer().min(0).max(8).default(0),
  AISLE_FREE_FLOOR_MB: Joi.number().integer().min(0).max(1_000_000).default(256),
  AISLE_TALK_QUOTA_GB: Joi.number().min(0).max(1_000_000).default(64),
  AISLE_PERSON_QUOTA_GB: Joi.number().min(0).max(1_000_000).default(256),
  AISLE_GUEST_QUOTA_GB: Joi.number().min(0).max(1_000_000).default(8),
  AISLE_PERSON_FILM_MINUTES: Joi.number().integer().min(0).max(1_000_000).default(0),
  AISLE_PERSON_RECORDINGS: Joi.number().integer().min(0).max(1000).default(0),
  AISLE_SIGN_UP: Joi.valid(...SIGN_UPS).default('invitation'),
  AISLE_SIGN_UP_DOMAINS: Joi.string().lowercase().when('AISLE_SIGN_UP', { is: 'domain', then: Joi.required() }).default(''),
  AISLE_OIDC_ISSUER: Joi.string().uri({ scheme: ['http', 'https'] }),
  AISLE_OIDC_CLIENT: Joi.string().when('AISLE_OIDC_ISSUER', { is: Joi.exist(), then: Joi.required() }),
  AISLE_OIDC_SECRET: Joi.string().when('AISLE_OIDC_ISSUER', { is: Joi.exist(), then: Joi.required() }),
  AISLE_OIDC_NAME: Joi.string().max(40).default('your school'),
  AISLE_OIDC_SIGN_UP: Joi.valid('on', 'off').default('on'),
  AISLE_UNTOUCHED_DAYS: Joi.number().integer().min(0).max(36_500).default(0),
  AISLE_MAX_UPLOAD_MB: Joi.number().integer().min(1).max(4096).default(300),
  AISLE_MAX_PAGES: Joi.number().integer().min(1).max(5000).default(1000),
  AISLE_IMPORT_SECONDS: Joi.number().integer().min(5).max(3600).default(600),
  AISLE_IMPORT_MEMORY_MB: Joi.number().integer().min(256).max(16_384).default(1536),
  AISLE_CLIP_SECONDS: Joi.number().integer().min(5).max(14_400).default(2400),
  AISLE_OFFICE: Joi.string().default('/usr/lib/libreoffice/program/soffice.bin'),
  AISLE_PROGRAMS: Joi.string(),
  AISLE_WORKERS: Joi.number().integer().min(1).max(64).default(2),
  AISLE_QUEUES: Joi.string()
    .pattern(new RegExp(`^((${QUEUE_NAMES.join('|')})=\\d{1,2}(,|$))*$`))
    .allow('')
    .default('')
    .messages({
      'string.pattern.base':
        'AISLE_QUEUES says how many jobs are done at a time, as in films=1,decks=2; the queues are ' + QUEUE_NAMES.join(', '),
    }),
  AISLE_ENCODER_THREADS: Joi.number().integer().min(1).max(64).default(Math.max(1, cpus().length)),
  AISLE_YIELD: Joi.valid('on', 'off').default('on'),
  AISLE_WORKER_GRACE_MS: Joi.number().integer().min(1000).max(600_000).default(15_000),
  AISLE_GRACE_DAYS: Joi.number().min(0).max(3650).default(14),
  AISLE_SEGMENT_CACHE_MB: Joi.number().integer().min(0).max(10_000_000).default(10_240),
  AISLE_MAKE_AHEAD_SECONDS: Joi.number().integer().min(0).max(86_400).default(45),
  AISLE_LISTEN_AFTER_SECONDS: Joi.number().integer().min(0).max(86_400).default(15),
  AISLE_SPEECH_MODEL: Joi.string(),
  AISLE_DICTIONARIES: Joi.string().default(null),
  AISLE_SMTP_URL: Joi.string().uri({ scheme: ['smtp', 'smtps'] }),
  AISLE_MAIL_FROM: Joi.string().max(300),
  AISLE_PRIVATE_PLACES: Joi.valid('on', 'off').default('off'),
  AISLE_STAND_INS: Joi.alternatives(Joi.valid('off'), Joi.string().uri({ scheme: ['http'] })),
  AISLE_METRICS_WORD: Joi.string().min(16),
  AISLE_SLOW_MS: Joi.number().integer().min(1).max(600_000).default(1000),
  AISLE_LOG: Joi.valid('silent', 'error', 'warn', 'info', 'debug').default('info'),
  NUXT_SESSION_PASSWORD: Joi.string().min(32),
})
