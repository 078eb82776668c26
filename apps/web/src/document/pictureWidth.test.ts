import { describe, expect, it } from 'vitest'
import { heldWidth, nextWidth, SMALL_PICTURE, widestWithPane } from './pictureWidth.js'

describe('the width of the picture', () => {
  it.each([1280, 1440, 1920])(
    'goes from small to half of a page of %i, to all but the cues, and back',
    (page) => {
      const sizes = [SMALL_PICTURE]
      for (let press = 0; press < 3; press++) sizes.push(nextWidth(sizes.at(-1)!, page))
      expect(sizes).toEqual([SMALL_PICTURE, page / 2, page - 320, SMALL_PICTURE])
    },
  )
  it('is at most so large that a pane has room beside it, where one is to be seen', () => {
    expect([1280, 1920, 900].map(widestWithPane)).toEqual([654, 1294, SMALL_PICTURE])
  })
  it('leaves room for the cues on a page that has become narrow, and is never too small to be seen', () => {
    expect([heldWidth(1600, 1000), heldWidth(20, 1000), heldWidth(900, 400)]).toEqual([680, 296, 296])
    // From a width that was drawn by hand the next larger one follows.
    expect(nextWidth(500, 1280)).toBe(640)
  })
})
