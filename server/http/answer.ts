import { defineEventHandler, getRouterParam, setResponseStatus } from 'h3'
import type { EventHandler, H3Event } from 'h3'
import type { Schema } from 'joi'
import { Refusal, asId } from '@core/model'
import { STATUS_OF } from '@contracts'
import * as schemas from '@contracts/schemas'
import type { FaultBody, PersonView } from '@contracts'
import { log } from '@server/log'
import { observed } from './observed'
import { REQUEST_BYTES, readCapped } from './read-capped'
import { readJson } from './read-json'
import { whoAsks } from './who-asks'

/** Refusals that whoever runs the server may want to see many of. */
const TOLD: readonly Refusal['code'][] = ['not-allowed', 'too-many', 'not-found']

function faultOf(event: H3Event, error: unknown): FaultBody {
  if (error instanceof Refusal) {
    if (TOLD.includes(error.code)) log.info({ code: error.code, path: event.path.split('?')[0] }, 'refused')
    setResponseStatus(event, STATUS_OF[error.code])
    return { error: { code: error.code, sentence: error.message, detail: error.detail } }
  }
  // ENOSPC is the file system's word for it, 53100 the database's.
  if (error instanceof Error && 'code' in error && (error.code === 'ENOSPC' || error.code === '53100')) {
    log.error({ err: error, path: event.path }, 'disk full')
    setResponseStatus(event, STATUS_OF.internal)
    return {
      error: {
        code: 'internal',
        sentence:
          "The server's disk is full. Nothing was lost: what is on this computer stays here and is sent once there is room. " +
          'Tell whoever runs the server.',
        detail: {},
      },
    }
  }
  const unreachable = error instanceof Error && /ECONNREFUSED|terminat|timeout exceeded|Connection/.test(error.message)
  log.error({ err: error, path: event.path }, 'request failed')
  setResponseStatus(event, unreachable ? 503 : 500)
  return {
    error: unreachable
      ? {
          code: 'unavailable',
          sentence: "The server's database is away for the moment. Nothing was lost; this is tried again.",
          detail: {},
        }
      : { code: 'internal', sentence: 'Something went wrong on the server. What was there before is unchanged; try again.', detail: {} },
  }
}

/** A route for everybody. Whatever it throws becomes the one error shape. */
export const answer = <Result>(work: (event: H3Event) => Promise<Result>): EventHandler =>
  defineEventHandler((event) =>
    observed(event, async () => {
      try {
        return await work(event)
      } catch (error) {
        return faultOf(event, error)
      }
    }),
  )

/** A route for those who are signed in; `work` is told who asks. */
export const answerTo = <Result>(work: (event: H3Event, person: PersonView) => Promise<Result>): EventHandler =>
  answer(async (event) => {
    const person = await whoAsks(event)
    if (person === null) throw new Refusal('not-signed-in', 'Sign in to go on.')
    return await work(event, person)
  })

/** A route for those who run the server. To others it is not there. */
export const answerToOperator = <Result>(work: (event: H3Event, person: PersonView) => Promise<Result>): EventHandler =>
  answerTo(async (event, person) => {
    if (!person.operator) throw new Refusal('not-found', 'There is nothing under this address.')
    return await work(event, person)
  })

/** Checks what came in. @throws Refusal `malformed` saying what is wrong */
export function parse<Value>(schema: Schema, value: unknown): Value {
  const { value: parsed, error } = schema.validate(value, { abortEarly: true, convert: true, errors: { wrap: { label: false } } }) as {
    value: Value
    error?: Error
  }
  if (error !== undefined) throw new Refusal('malformed', `This cannot be done: ${error.message}${error.message.endsWith('.') ? '' : '.'}`)
  return parsed
}

/** The checked body of a request. @param most bytes of it @throws Refusal `too-large`, `malformed` */
export const bodyOf = async <Value>(event: H3Event, schema: Schema, most = REQUEST_BYTES): Promise<Value> =>
  parse<Value>(schema, readJson(await readCapped(event, most)))

/** A checked id from the route. @throws Refusal `not-found` when it has not the form of one */
export function idOf<Kind extends string>(event: H3Event, name: string): ReturnType<typeof asId<Kind>> {
  const text = getRouterParam(event, name) ?? ''
  if (schemas.uuid.validate(text).error !== undefined) throw new Refusal('not-found', 'There is nothing under this address.')
  return asId<Kind>(text)
}
