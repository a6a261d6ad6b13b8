import type { PixelBox } from '@core/model'
import type { Run } from '@core/plan'
import { cameraFrames } from './camera-frames'
import { changedBox } from './changed-box'
import type { FilmPainter } from './film-painter'
import type { SegmentOrder } from './segment-order'

/** Who draws a segment's pictures, and where each differs from the one before it. */
export interface Painting {
  readonly painter: FilmPainter
  readonly boxes: readonly (PixelBox | null)[]
}

/** Where each picture of a segment differs from the one before it; null for the first, which follows none of its own. */
export const changesIn = ({ runs, size }: SegmentOrder): readonly (PixelBox | null)[] =>
  runs.map((run, n) => {
    const last = runs[n - 1]
    return last === undefined ? null : changedBox(last.scene, run.scene, size)
  })

/** A segment's pictures one after the other, with the frames at which each is to be handed over. The same buffer each time. */
export async function* paintedPictures(
  { segment, runs, camera, fps, signal }: SegmentOrder,
  { painter, boxes }: Painting,
  frames: number,
): AsyncGenerator<{ readonly picture: Buffer; readonly seenAt: readonly number[] }> {
  const inset = segment.kind === 'drawn' ? segment.inset : null
  const faces = inset === null || camera === null ? null : cameraFrames(camera, inset.at, segment.tempo, frames, fps, signal, inset.light)
  try {
    let face = await nextOf(faces)
    let at = 0
    for (const [n, { scene, frames: seen }] of (face === null ? runs : eachFrame(runs)).entries()) {
      const paint = (): Promise<Buffer> => (n === 0 ? painter.paint(scene) : painter.paintNext(scene, boxes[n] ?? null))
      const picture = await (face === null ? paint() : painter.paintWithFace(scene, face))
      const last = at + (segment.kind === 'still' ? frames : seen) - 1
      yield { picture, seenAt: handedOverAt(at, last, frames) }
      at = last + 1
      if (face !== null) face = (await nextOf(faces)) ?? face
    }
  } finally {
    // Should the encoder have gone before, the camera is read no further either.
    await faces?.return(undefined)
  }
}

/** A picture stays until the next one comes; behind the last there is none, so its last frame is handed over too. */
const handedOverAt = (first: number, last: number, frames: number): readonly number[] =>
  last === frames - 1 && last > first ? [first, last] : [first]

/** What comes next; null: nothing does. */
async function nextOf<Value>(values: AsyncGenerator<Value> | null): Promise<Value | null> {
  const next = await values?.next()
  return next === undefined || next.done === true ? null : next.value
}

/** Runs of one frame each: where the face is drawn by hand, no two frames are alike. */
const eachFrame = (runs: readonly Run[]): readonly Run[] =>
  runs.flatMap((run) => Array.from({ length: run.frames }, () => ({ ...run, frames: 1 })))
