import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { outlinesIn } from '@render/backdrop'

await pipeline(Readable.from(outlinesIn(process.stdin)), process.stdout)
