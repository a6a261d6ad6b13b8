import { asId } from '@core/model'
import type { Ms, SlideId, Snapshot } from '@core/model'
import type { FittedWindow } from './fit-window'
import { keepChunks, keepFace, keepLocally } from './local-takes'
import type { LocalStretch } from './local-takes'
import { recordingType, runRecording } from './recorder'
import type { StretchRun } from './recorder'
import { watchRest } from './watch-rest'

/** A window that is shown, and the slide that it is. */
export interface ShownWindow {
  readonly window: FittedWindow
  readonly slide: SlideId
}

/** The stretch during which a window is shown. */
export interface ShownIn {
  readonly take: string
  readonly stretch: string
  /** Number of the window's recording in the take. */
  readonly number: number
  readonly run: StretchRun
  /** When it came, in ms of the stretch. */
  readonly at: Ms
}

/** A window's recording under way. */
export interface WindowRun {
  /** Ends it. @param stamp when, on the page's clock; now when left out */
  readonly close: (stamp?: number) => Promise<void>
}

/** Nothing of a window is as late as a camera may be. */
const NOT_LATE = { camera: 0, mic: 0 } as const

/**
 * Records a window beside the stretch during which it is shown: kept here first and sent as it comes, like the stretch itself.
 * @param onTrouble hears what could not be kept
 */
export function recordWindow({ window, slide }: ShownWindow, shownIn: ShownIn, onTrouble: (error: unknown) => void): WindowRun {
  const id = crypto.randomUUID()
  let stored: Promise<void> = Promise.resolve()
  const stream = new MediaStream([window.recorded, ...(window.sound === null ? [] : [window.sound])])
  const run = runRecording(
    id,
    { stream, pictures: 'window', late: NOT_LATE },
    {
      onChunks: async (chunks) => {
        await stored
        await keepChunks(id, chunks)
      },
      onFace: (pictures) => keepFace(id, pictures).catch(onTrouble),
      onOffsets: (offsets) => {
        note({ offsets })
      },
      onFingerprint: () => undefined,
      onRate: () => undefined,
      onEnded: () => undefined,
      onTrouble,
    },
  )
  const endRest = watchRest(window.picture, run.began, (still) => keepLocally('stills', { stretch: id, ...still }).catch(onTrouble))
  const opening: Snapshot = { slide, step: 0, blank: false, inset: false, ink: [] }
  let local: LocalStretch = {
    id,
    take: shownIn.take,
    number: shownIn.number,
    camera: true,
    voice: false,
    mime: recordingType(true),
    opening,
    offsets: null,
    closing: null,
    kept: null,
    window: {
      of: shownIn.stretch,
      clip: asId<'clip'>(crypto.randomUUID()),
      slide,
      name: window.name,
      at: shownIn.at,
      began: shownIn.run.now(run.began),
    },
  }
  stored = keepLocally('stretches', local)
  function note(fields: Partial<LocalStretch>): void {
    local = { ...local, ...fields }
    stored = stored.then(() => keepLocally('stretches', local)).catch(onTrouble)
  }
  return {
    close: async (stamp) => {
      const [{ length, chunks }] = await Promise.all([run.stop(stamp), endRest()])
      note({ closing: { chunks, cues: 0, length } })
      await stored
    },
  }
}
