import type { PaintContext } from '@core/paint'
import type { Size } from '@core/model'

const WALL = '#C9D6CE'
const BOARD = '#2F5D50'
const COAT = '#35507A'
const SKIN = '#E0AC84'
const HAIR = '#4A3427'
const DARK = '#2A211C'

function paintOval<Image>(ctx: PaintContext<Image>, cx: number, cy: number, rx: number, ry: number, colour: string): void {
  ctx.fillStyle = colour
  ctx.beginPath()
  ctx.ellipse(cx, cy, rx, ry, 0, 0, Math.PI * 2)
  ctx.fill()
}

/** Draws what is behind the practice camera's speaker. @param at ms since the camera was opened */
function paintRoom<Image>(ctx: PaintContext<Image>, { width, height }: Size, at: number): void {
  const unit = height / 100
  const oval = (cx: number, cy: number, rx: number, ry: number, colour: string): void => {
    paintOval(ctx, cx, cy, rx, ry, colour)
  }
  ctx.fillStyle = WALL
  ctx.fillRect(0, 0, width, height)
  ctx.fillStyle = BOARD
  ctx.fillRect(width / 2 - 75 * unit, 8 * unit, 52 * unit, 34 * unit)
  // A second hand on the wall: its place tells the time of a frame.
  const turn = ((at / 1000) * Math.PI * 2) / 10
  oval(width / 2 + 55 * unit, 22 * unit, 11 * unit, 11 * unit, '#F5F1E8')
  oval(width / 2 + 55 * unit + Math.sin(turn) * 8 * unit, 22 * unit - Math.cos(turn) * 8 * unit, 2 * unit, 2 * unit, '#B23A2B')
}

/**
 * Draws who is before the practice camera, and nothing of what is behind.
 * @param at ms since the camera was opened
 * @param loudness 0 to 1, how far the mouth is open
 */
export function paintPresenter<Image>(ctx: PaintContext<Image>, size: Size, at: number, loudness: number): void {
  const unit = size.height / 100
  const sway = Math.sin(at / 900) * 2.2 + Math.sin(at / 370) * 0.6
  const nod = Math.sin(at / 520) * 0.9
  const x = size.width / 2 + sway * unit
  const y = (44 + nod) * unit
  const oval = (cx: number, cy: number, rx: number, ry: number, colour: string): void => {
    paintOval(ctx, cx, cy, rx, ry, colour)
  }
  oval(x - sway * 0.4 * unit, 108 * unit, 34 * unit, 38 * unit, COAT)
  ctx.fillStyle = SKIN
  ctx.fillRect(x - 6 * unit, 56 * unit, 12 * unit, 18 * unit)
  oval(x, y - 4 * unit, 19.5 * unit, 23 * unit, HAIR)
  oval(x, y + 2 * unit, 16.5 * unit, 21 * unit, SKIN)
  const blink = at % 3400 < 130 ? 0.15 : 1
  oval(x - 6.5 * unit, y - 1 * unit, 1.9 * unit, 2.3 * unit * blink, DARK)
  oval(x + 6.5 * unit, y - 1 * unit, 1.9 * unit, 2.3 * unit * blink, DARK)
  oval(x, y + 12.5 * unit, 5.2 * unit, (0.7 + 4.2 * Math.max(0, Math.min(1, loudness))) * unit, '#7C2F2A')
}

/**
 * Draws the practice camera's speaker in their room. They sway, blink and move the mouth, so that the product can be tried without a
 * camera and so that tests see a picture that moves.
 * @param at ms since the camera was opened
 * @param loudness 0 to 1, how far the mouth is open
 */
export function paintSpeaker<Image>(ctx: PaintContext<Image>, size: Size, at: number, loudness: number): void {
  paintRoom(ctx, size, at)
  paintPresenter(ctx, size, at, loudness)
}
