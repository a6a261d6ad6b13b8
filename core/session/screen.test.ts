import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { piecesOfTake } from '@core/programme'
import { playedOf, snapshotAt, trackOf } from '@core/scene'
import { applyCue, openingScreen, startedClips } from '@core/session'
import { anyStretch } from '@core/testing'
import { asId } from '@core/model'
import type { PlayedClip, Stretch } from '@core/model'

const at = fc.double({ min: 0, max: 1, noNaN: true })

/** The screen after all cues up to a time, one after the other. */
const screenAt = (stretch: Stretch, time: number) =>
  stretch.cues.filter((cue) => cue.at <= time).reduce(applyCue, openingScreen(stretch.opening))

describe('what a cue means', () => {
  it('is the same for a track, a snapshot, the pieces of a take and the screen, at any time', () => {
    fc.assert(
      fc.property(anyStretch('s'), at, (stretch, share) => {
        const time = Math.floor(share * (stretch.length - 1))
        const screen = screenAt(stretch, time)
        const track = trackOf(stretch)
        const snapshot = snapshotAt(stretch, time)
        const piece = piecesOfTake({ id: asId('t'), kind: 'full', stretches: [stretch] }).find(
          (one) => one.kind === 'recorded' && one.show.from <= time && time < one.show.to,
        )
        expect(track.shownAt(time)).toMatchObject({ slide: screen.slide, step: screen.step })
        expect([track.blankAt(time), track.insetAt(time)]).toEqual([screen.blank, screen.inset])
        expect(snapshot).toMatchObject({ slide: screen.slide, step: screen.step, blank: screen.blank, inset: screen.inset })
        expect(piece?.slide).toBe(screen.slide)
        expect(track.clipsAt(time)).toEqual(startedClips(screen))
        // A stretch that opens with it goes on with its clips as this one does.
        const later = (clips: readonly PlayedClip[], at: number) => clips.map((clip) => [clip.clip, clip.playing, playedOf(clip, at)])
        expect(later(startedClips(snapshot), 700)).toEqual(later(startedClips(screen), time + 700))
        // Strokes under way are on the track and on the screen, and not yet in the snapshot.
        const lying = screen.ink.filter((stroke) => stroke.slide === screen.slide)
        const drawn = track.drawnAt(screen.slide, time)
        expect(drawn.map(({ stroke }) => stroke.id)).toEqual(lying.map(({ id }) => id))
        const whole = drawn.filter(({ elapsed }) => elapsed === null).map(({ stroke }) => stroke.id)
        expect(snapshot.ink.filter((stroke) => stroke.slide === screen.slide).map(({ id }) => id)).toEqual(whole)
      }),
      { numRuns: 500 },
    )
  })

  it('is nothing that stays for a spot and a stumble, and goes when it is taken back', () => {
    const opening = openingScreen({ slide: asId('a'), step: 0, blank: false, inset: true, ink: [] })
    expect(applyCue(opening, { kind: 'stumble', at: 5 })).toBe(opening)
    expect(applyCue(opening, { kind: 'point', at: 5, path: [] })).toBe(opening)
    const there = applyCue(applyCue(opening, { kind: 'mute', at: 5, on: true }), { kind: 'blank', at: 6, on: true })
    expect(there).toEqual({ ...opening, muted: true, blank: true })
  })
})
