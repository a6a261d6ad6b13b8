import { AS_RECORDED, sameRatio } from '@core/model'
import type { Film, Ms } from '@core/model'
import { HOLD_RANGE, applyProgrammeEdit, piecesOfVisit, playedPieces, programmeLength, visitsOf } from '@core/programme'
import type { ProgrammeEdit } from '@core/programme'
import { indexFilm, sceneAt } from '@core/scene'

/** A way to make a talk longer, with what it adds and how it is done. The gentlest come first. */
export interface PadStep {
  readonly kind: 'tempo' | 'linger'
  readonly added: Ms
  /** Tempo as a part of the recorded one, or how long the last picture stays, in ms. */
  readonly to: number
  readonly edit: ProgrammeEdit
}

export interface PadPlan {
  readonly steps: readonly PadStep[]
  readonly length: Ms
  readonly reaches: boolean
}

/** Nobody minds that the last picture stays for so long, in ms. */
const GENTLE: Ms = 3000
/** Slowest that a talk is played to fill its time: few notice. */
const SLOWEST = 0.95
const FINE = 1000

/** What keeps the last picture up for longer. */
function lingering(film: Film, length: Ms): ProgrammeEdit | null {
  const index = indexFilm(film)
  const last = playedPieces(film.programme).at(-1)
  const visit = visitsOf(film.programme).at(-1)
  const scene = sceneAt(index, index.length)
  if (last === undefined || visit === undefined || scene === null) return null
  return {
    kind: 'linger',
    visit: visit.id,
    length,
    step: scene.step,
    ...(last.kind === 'still' ? {} : { of: { stretch: last.show.stretch, at: last.show.to - 1 } }),
  }
}

/**
 * How a talk is brought to a least length: its last picture stays a moment longer; if that is not enough all of it is played a hair
 * slower, and then the last picture stays for the rest. Each only as far as is needed.
 * @param least ms; the talk is never shorter afterwards when the plan says that it reaches it
 */
export function padTo(film: Film, least: Ms): PadPlan {
  const steps: PadStep[] = []
  let now = film.programme
  const short = (): Ms => least - programmeLength(now)
  if (short() > GENTLE) {
    const asRecorded = visitsOf(now).filter((visit) =>
      piecesOfVisit(now, visit).some((piece) => piece.kind === 'recorded' && sameRatio(piece.show.rate, AS_RECORDED)),
    )
    for (let num = FINE - 1; num >= SLOWEST * FINE && asRecorded.length > 0; num -= 1) {
      const edit: ProgrammeEdit = { kind: 'tempo', visits: asRecorded.map((visit) => visit.id), rate: { num, den: FINE } }
      const slower = applyProgrammeEdit(film.programme, edit)
      const enough = programmeLength(slower) >= least - GENTLE
      if (!enough && num > SLOWEST * FINE) continue
      steps.push({ kind: 'tempo', added: programmeLength(slower) - programmeLength(now), to: num / FINE, edit })
      now = slower
      break
    }
  }
  if (short() > 0) {
    const length = Math.min(HOLD_RANGE.most, Math.max(HOLD_RANGE.least, Math.ceil(short())))
    const edit = lingering(film, length)
    if (edit !== null) {
      now = applyProgrammeEdit(now, edit)
      steps.push({ kind: 'linger', added: length, to: length, edit })
    }
  }
  return { steps, length: programmeLength(now), reaches: programmeLength(now) >= least }
}
