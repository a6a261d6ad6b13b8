import { parseArgs } from 'node:util'

export interface StartArguments {
  readonly dev: boolean
  readonly fresh: boolean
  readonly yes: boolean
  readonly port: string | undefined
  readonly data: string | undefined
}

/** Reads the start command's options. @throws Error naming one that is not known */
export function readArguments(argv: readonly string[]): StartArguments {
  const { values } = parseArgs({
    args: [...argv],
    options: {
      dev: { type: 'boolean', default: false },
      fresh: { type: 'boolean', default: false },
      yes: { type: 'boolean', default: false },
      port: { type: 'string' },
      data: { type: 'string' },
    },
  })
  return { dev: values.dev, fresh: values.fresh, yes: values.yes, port: values.port, data: values.data }
}
