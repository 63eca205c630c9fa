import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { drawingOf, fitLabel, fitName, fitTag, labelRooms, placeLabels, tagForms, tagWidth } from '.'

const rig = nineRingsRig('as-found')
const surfaceOf = (id: string) => {
  const found = rig.models.find((model) => model.id === id)
  if (!found) throw new Error(`no ${id}`)
  return found.surface
}
describe('address tags on the surface', () => {
  it('shorten from the whole to the number', () => {
    expect(tagForms('1:cc16+48')).toEqual(['1:cc16+48', 'cc16+48', '16+48'])
    expect(tagForms('2:bend')).toEqual(['2:bend', 'bend'])
    expect(tagForms('mmc:play')).toEqual(['mmc:play', 'play'])
  })
  it('take the longest form that fits, or none', () => {
    expect(fitTag('10:note36', 200)).toBe('10:note36')
    expect(fitTag('10:note36', tagWidth('note36'))).toBe('note36')
    expect(fitTag('10:note36', 22)).toBe('36')
    expect(fitTag('10:note36', 5)).toBeNull()
  })
  it('labels are cut, and say so', () => {
    expect(fitLabel('Second pedal', 400)).toBe('Second pedal')
    expect(fitLabel('Second pedal', 40)).toBe('Secon…')
    expect(fitLabel('Second pedal', 4)).toBe('')
  })
  it('knows that letters of other scripts are wider, and cuts none in two', () => {
    expect(fitLabel('鍵盤つまみ', 58)).toBe('鍵盤つまみ')
    expect(fitLabel('鍵盤つまみ', 45)).toBe('鍵盤つ…')
    expect(fitLabel('🎹🎹🎹', 20)).toBe('🎹…')
    expect(tagWidth('音量')).toBeGreaterThan(22)
    expect(fitName(['カットオフ周波数', 'カットオフ'], 60)).toBe('カットオ…')
  })
})

describe('placing labels', () => {
  it.each(
    rig.models.map(({ id }) => id).flatMap((id) => [0.8, 1.4, 2.2].map((scale) => [id, scale] as const)),
  )('%s at %f px a mm: no two names or tags run into each other', (id, scale) => {
    const surface = surfaceOf(id)
    const places = placeLabels(labelRooms(surface.controls, scale, surface), () => 1)
    const boxes = places.flatMap(({ x, label, tagsY, tagWidth: width, control }) => [
      ...(label && label.text !== ''
        ? [
            {
              id: control.id,
              left: x - (label.text.length * 5.9) / 2,
              right: x + (label.text.length * 5.9) / 2,
              top: label.y - 9,
              bottom: label.y + 1,
            },
          ]
        : []),
      ...(tagsY === null
        ? []
        : [
            { id: control.id, left: x - width / 2, right: x + width / 2, top: tagsY + 1, bottom: tagsY + 12 },
          ].map((box) => {
            const text = fitTag('1:cc102', width)
            const half = text === null ? 0 : tagWidth(text) / 2
            return { ...box, left: x - half, right: x + half }
          })),
    ])
    for (const [index, a] of boxes.entries()) {
      for (const b of boxes.slice(index + 1)) {
        const meet = a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom && b.top < a.bottom
        expect(meet && a.id !== b.id, `${a.id} and ${b.id}`).toBe(false)
      }
    }
  })
})

describe('drawings', () => {
  it('stay within their place, ticks aside', () => {
    for (const { surface } of rig.models) {
      for (const control of surface.controls) {
        const [body] = drawingOf(control).filter(({ ink }) => ink === 'body')
        expect(body, control.kind).toBeDefined()
        const { x, y, w, h } = control.place
        if (body?.shape === 'rect') {
          expect(
            body.x >= x && body.y >= y && body.x + body.w <= x + w + 1e-9 && body.y + body.h <= y + h + 1e-9,
          ).toBe(true)
        } else if (body?.shape === 'circle') {
          expect(body.cx - body.r >= x - 1e-9 && body.cy + body.r <= y + h + 1e-9).toBe(true)
        }
      }
    }
  })
})
