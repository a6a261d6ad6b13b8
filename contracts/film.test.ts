import { expect, it } from 'vitest'
import { asId } from '@core/model'
import { film, slide, stretch } from '@core/testing'
import { withProgramme } from '.'

it('goes on with another programme only where all its slides and recordings are there', () => {
  const [one, two] = [slide('one'), slide('two')]
  const recording = stretch('a', 2000, one.id)
  const { programme, shape } = film([one, two], [recording])
  const view = { programme, shape, slides: [one, two], stretches: [recording], peaks: {} }
  const next = { ...programme, revision: programme.revision + 1 }
  expect(withProgramme(view, next)).toEqual({ ...view, programme: next })
  expect(withProgramme({ ...view, stretches: [] }, next)).toBeNull()
  expect(withProgramme(view, { ...next, slides: { ...next.slides, [asId<'slide'>('three')]: 1 } })).toBeNull()
  expect(withProgramme(view, { ...next, slides: { ...next.slides, [one.id]: one.version + 1 } })).toBeNull()
})
