import { getQuery, setResponseStatus } from 'h3'
import Joi from 'joi'
import { Refusal } from '@core/model'
import { embedMarkup } from '@core/screening'
import { database } from '@server/database'
import { addressOf, screeningView } from '@server/domain'
import { accessByKeyFrom, answer, parse } from '@server/http'
import { settings } from '@server/settings'

interface Wish {
  readonly url: string
  readonly format: string
  readonly maxwidth: number
  readonly maxheight: number
}

const wish = Joi.object<Wish>({
  url: Joi.string().max(500).required(),
  format: Joi.string().max(20).default('json'),
  maxwidth: Joi.number().integer().min(1).max(10_000).default(640),
  maxheight: Joi.number().integer().min(1).max(10_000).default(10_000),
}).unknown(true)

/** What stands below the picture in a page of ours that is shown within another, in CSS pixels. */
const BELOW = 110
const LEAST_WIDTH = 240

/** How a talk is shown within another page, as such pages ask (oEmbed 1.0). */
export default answer(async (event) => {
  const { url, format, maxwidth, maxheight } = parse<Wish>(wish, getQuery(event))
  if (format !== 'json') {
    setResponseStatus(event, 501)
    return { error: { code: 'malformed', sentence: 'This is told as JSON alone.', detail: {} } }
  }
  const { publicAddress } = settings()
  const key = url.startsWith(`${publicAddress}/s/`) ? (/^[\w-]{22}/.exec(url.slice(publicAddress.length + 3))?.[0] ?? '') : ''
  const access = await accessByKeyFrom(event, key)
  if (!access.open || access.embedOn.length === 0) throw new Refusal('not-found', 'Nothing is shown within other pages here.')
  const { title, presenter, shape } = await screeningView(database(), access)
  const ratio = shape.height / shape.width
  const width = Math.max(LEAST_WIDTH, Math.min(maxwidth, Math.floor((maxheight - BELOW) / ratio)))
  const height = Math.round(width * ratio) + BELOW
  const address = addressOf(key)
  return {
    version: '1.0',
    type: 'video',
    title,
    ...(presenter === '' ? {} : { author_name: presenter }),
    provider_name: 'Aisle Talk',
    provider_url: publicAddress,
    thumbnail_url: `${address}/slide.jpg`,
    thumbnail_width: 1200,
    thumbnail_height: Math.round(1200 * ratio),
    width,
    height,
    html: embedMarkup(address, width, height),
  }
})
