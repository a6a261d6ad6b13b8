import { createRequire } from 'node:module'
import { text } from 'node:stream/consumers'
import { hearParts } from '@render/speech'
import type { HearOrder, OnnxRecognisers } from '@render/speech'

// Our own worker wrote it; it is not a border.
const order = JSON.parse(await text(process.stdin)) as HearOrder
const recognisers = createRequire(import.meta.url)('sherpa-onnx-node') as OnnxRecognisers
for await (const result of hearParts(recognisers, order)) process.stdout.write(`${JSON.stringify(result)}\n`)
