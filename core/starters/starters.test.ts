import { describe, expect, it } from 'vitest'
import { asId } from '@core/model'
import { framingOf } from '@core/layout'
import { STARTER_DECKS, STARTER_NAMES, STARTER_SHAPE, STARTERS, starterSlides } from '@core/starters'

let ids = 0
const newId = () => asId<'slide'>(`s${String((ids += 1))}`)

describe.each(STARTER_NAMES)('the starter %s', (name) => {
  const slides = starterSlides(name, newId)

  it('has a slide for each of its texts, with notes that say what goes there, and steps', () => {
    expect(slides).toHaveLength(STARTER_DECKS[name].slides.length)
    for (const slide of slides) {
      expect(slide.title).not.toBe('')
      expect(slide.notes.length).toBeGreaterThan(30)
      expect(slide.steps.length).toBeGreaterThan(0)
    }
    expect(slides.some(({ steps }) => steps.length > 1)).toBe(true)
  })

  it('is planned within its limit, with room to spare', () => {
    const planned = slides.reduce((sum, slide) => sum + (slide.planned ?? 0), 0)
    expect(planned).toBeLessThan(STARTERS[name].limit)
    expect(planned).toBeGreaterThan(STARTERS[name].limit * 0.75)
  })

  it('has a face that is shown on most slides', () => {
    expect(slides.filter((slide) => !framingOf(slide, STARTER_SHAPE).off).length).toBeGreaterThanOrEqual(slides.length - 1)
  })
})
