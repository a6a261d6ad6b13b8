import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { denoised } from '@render/sound'

await pipeline(Readable.from(denoised(process.stdin)), process.stdout)
