import { describe, expect, it } from 'vitest'
import { emptyComposition, recomposed } from '@core/compose'
import { PLAIN_FRAMING, asId } from '@core/model'
import type { Cue, Stretch } from '@core/model'
import { applyProgrammeEdit } from '@core/programme'
import { indexFilm } from '@core/scene'
import { film, slide, stretch, stroke } from '@core/testing'
import { PEAKS_A_SECOND } from '@core/voice'
import { preflight } from '.'

const [one, two, three] = [slide('one'), slide('two'), slide('three')]
const show: Cue = { kind: 'show', at: 10_000, slide: two.id, step: 0 }
/** An outline of speech with a part that is silent, in seconds. */
const spoken = (seconds: number, silent: readonly [number, number] = [0, 0]): number[] =>
  Array.from({ length: seconds * PEAKS_A_SECOND }, (_, n) => {
    const at = n / PEAKS_A_SECOND
    return at >= silent[0] && at < silent[1] ? 0 : 90 + (n % 3) * 20
  })
const found = (cues: readonly Cue[], peaks: readonly number[], more: Partial<Stretch> = {}, deck = [one, two]) => {
  const made = film(
    [one, two],
    [
      stretch(
        's',
        20_000,
        one.id,
        [show, ...cues].sort((a, b) => a.at - b.at),
        { camera: false, loudness: -20, ...more },
      ),
    ],
  )
  return preflight(indexFilm(made), { s: peaks }, deck)
}

describe('before a file is made', () => {
  it('nothing is said of a talk that is in order', () => {
    expect(found([], spoken(20))).toEqual([])
  })

  it('a silence is found as one, over the change of a slide, and not where somebody was muted', () => {
    expect(found([], spoken(20, [7, 13]))).toEqual([{ kind: 'silence', places: [{ at: 7000, slide: one.id, amount: 6000 }] }])
    expect(found([], spoken(20, [7, 11.5]))).toEqual([])
    const muted: readonly Cue[] = [
      { kind: 'mute', at: 7000, on: true },
      { kind: 'mute', at: 13_000, on: false },
    ]
    expect(found(muted, spoken(20, [7, 13]))).toEqual([{ kind: 'muted', places: [{ at: 7000, slide: one.id, amount: 6000 }] }])
  })

  it('of what was cut nothing is said, and places are those of the talk as it is', () => {
    const made = film([one, two], [stretch('s', 20_000, one.id, [show], { camera: false, loudness: -20 })])
    const peaks = spoken(20, [7, 13])
    const cut = applyProgrammeEdit(made.programme, { kind: 'cut', parts: [{ from: 7500, to: 12_500 }] })
    expect(preflight(indexFilm({ ...made, programme: cut }), { s: peaks }, [one, two])).toEqual([])
    const later = applyProgrammeEdit(made.programme, { kind: 'cut', parts: [{ from: 0, to: 4000 }] })
    expect(preflight(indexFilm({ ...made, programme: later }), { s: peaks }, [one, two])[0]?.places[0]).toMatchObject({
      at: 3000,
      amount: 6000,
    })
  })

  it('clipping, a voice that is too soft, and a camera that gave nothing are found', () => {
    const loud = spoken(20)
    loud[15 * PEAKS_A_SECOND] = 255
    expect(found([], loud)).toEqual([{ kind: 'clipped', places: [{ at: 15_000, slide: two.id, amount: 50 }] }])
    expect(found([], spoken(20), { loudness: -47 })).toMatchObject([{ kind: 'quiet', places: [{ at: 0, amount: -47 }] }])
    expect(found([], spoken(20), { camera: true, cameraLost: 1200 })).toMatchObject([{ kind: 'camera-lost', places: [{ amount: 1200 }] }])
  })

  it('slides that are not in it are named, optional and skipped ones apart, and those that are only in it', () => {
    expect(found([], spoken(20), {}, [one, two, three])).toEqual([{ kind: 'unseen', places: [{ at: null, slide: three.id, amount: 0 }] }])
    expect(found([], spoken(20), {}, [one, two, { ...three, optional: true }, { ...three, id: asId('four'), skip: true }])).toEqual([])
    expect(found([], spoken(20), {}, [one])).toEqual([{ kind: 'gone', places: [{ at: 10_000, slide: two.id, amount: 10_000 }] }])
  })

  it('a code to scan is found that leads to another page than the talk has now', () => {
    const picture = {
      asset: asId<'asset'>('a'.repeat(64)),
      size: { width: 9, height: 9 },
      alt: '',
      leadsTo: 'https://harbour.example/s/old',
    }
    const composition = { ...emptyComposition('plate', 'paper'), pictures: [picture] }
    const coded = recomposed({ ...two, composition }, { width: 16, height: 9 })
    const made = film([one, coded], [stretch('s', 20_000, one.id, [show], { camera: false, loudness: -20 })])
    const said = (page: string | null) => preflight(indexFilm(made), { s: spoken(20) }, [one, coded], page)
    expect(said('https://harbour.example/s/new')).toEqual([{ kind: 'code', places: [{ at: 10_000, slide: two.id, amount: 0 }] }])
    expect([said('https://harbour.example/s/old'), said(null)]).toEqual([[], []])
  })

  it('slides that were changed since are named, and not those whose notes alone were', () => {
    const redrawn = { ...two, version: 2, steps: slide('two', 2).steps }
    expect(found([], spoken(20), {}, [one, redrawn])).toEqual([{ kind: 'changed', places: [{ at: 10_000, slide: two.id, amount: 0 }] }])
    expect(found([], spoken(20), {}, [one, { ...two, version: 2, notes: 'hold fast' }])).toEqual([])
  })

  it('a face that lies on ink is found', () => {
    const board = slide('one', 1, { framing: { ...PLAIN_FRAMING, rect: { x: 0.1, y: 0.1, w: 0.4, h: 0.4 } } })
    const made = film(
      [board],
      [stretch('s', 5000, board.id, [{ kind: 'ink', at: 500, stroke: stroke('k', board.id, 400) }], { loudness: -20 })],
    )
    expect(preflight(indexFilm(made), { s: spoken(5) }, [board])).toMatchObject([{ kind: 'covered', places: [{ at: 0, amount: 1 }] }])
  })
})
