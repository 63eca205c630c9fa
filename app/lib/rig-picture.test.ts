import { expect, it } from 'vitest'
import { nineRingsRig } from '#demo/index'
import { cardsOf, linesOf } from './rig-picture'

const rig = nineRingsRig('as-found')
const cards = cardsOf(rig)

it('has a card for every device, none over another', () => {
  const { controllers, boxes, computers, destinations } = rig
  expect(cards).toHaveLength(controllers.length + boxes.length + computers.length + destinations.length)
  for (const a of cards) {
    for (const b of cards) {
      if (a !== b && a.x === b.x) expect(a.y + a.height <= b.y || b.y + b.height <= a.y).toBe(true)
    }
  }
})

it('every line ends at ports that its cards show', () => {
  const outs = new Set(cards.flatMap((card) => card.outs.map(({ ref }) => `${ref.owner}/${ref.port}`)))
  const ins = new Set(cards.flatMap((card) => card.ins.map(({ ref }) => `${ref.owner}/${ref.port}`)))
  const lines = linesOf(rig)
  expect(lines.length).toBeGreaterThan(rig.cables.length)
  for (const { from, to } of lines) {
    expect(outs).toContain(`${from.owner}/${from.port}`)
    expect(ins).toContain(`${to.owner}/${to.port}`)
  }
})

it('says on a cable that it has rules', () => {
  const [first] = rig.cables
  if (!first) throw new Error('no cable')
  const match = { kinds: [], channels: [], low: null, high: null }
  const ruled = { ...rig, cables: [{ ...first, rules: [{ kind: 'stop' as const, match }] }] }
  expect(linesOf(ruled)[0]?.note).toBe('1 rule')
})
