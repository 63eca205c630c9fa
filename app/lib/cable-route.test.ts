import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { portKey } from '../../core/rig'
import { cableRoute, type Obstacle, type Point } from './cable-route'
import { CARD_WIDTH, cardsOf, linesOf, portPoint } from './rig-picture'
import { cases } from '../../core/testing/cases'

/** Do the straight pieces between points touch the inside of a card? Sampled, by another way than the router goes. */
function touches(points: readonly Point[], cards: readonly Obstacle[]): boolean {
  for (let index = 1; index < points.length; index++) {
    const [a, b] = [points[index - 1]!, points[index]!]
    for (let step = 0; step <= 40; step++) {
      const [x, y] = [a.x + ((b.x - a.x) * step) / 40, a.y + ((b.y - a.y) * step) / 40]
      if (
        cards.some(
          (card) =>
            x > card.x + 0.5 &&
            x < card.x + card.width - 0.5 &&
            y > card.y + 0.5 &&
            y < card.y + card.height - 0.5,
        )
      )
        return true
    }
  }
  return false
}

/** Cards on a loose grid, so that there is always a way between them. */
const fields = fc.array(
  fc.record({
    column: fc.nat(5),
    row: fc.nat(5),
    width: fc.integer({ min: 60, max: 190 }),
    height: fc.integer({ min: 40, max: 150 }),
  }),
  { minLength: 2, maxLength: 20 },
)

it('no cable passes behind a card where there is a way round', () => {
  fc.assert(
    fc.property(fields, fc.nat(9), (list, lane) => {
      const cards = [...new Map(list.map((each) => [`${each.column} ${each.row}`, each])).values()].map(
        ({ column, row, width, height }): Obstacle => ({ x: column * 300, y: row * 260, width, height }),
      )
      const [source, target] = [cards[0]!, cards.at(-1)!]
      const from = { x: source.x + source.width, y: source.y + source.height / 2 }
      const to = { x: target.x, y: target.y + target.height / 2 }
      const { points, path } = cableRoute(from, to, cards, lane)
      expect(path.startsWith(`M${from.x} ${from.y}`)).toBe(true)
      expect(points[0]).toEqual(from)
      expect(points.at(-1)).toEqual(to)
      expect(touches(points, cards)).toBe(false)
    }),
    cases(172),
  )
})

it('no cable of the demo passes behind a card', () => {
  for (const state of ['as-found', 'as-performed'] as const) {
    const rig = nineRingsRig(state)
    const cards = cardsOf(rig)
    const obstacles = cards.map(({ x, y, height }) => ({ x, y, width: CARD_WIDTH, height }))
    for (const [lane, line] of linesOf(rig).entries()) {
      const [from, to] = [portPoint(cards, line.from, 'out'), portPoint(cards, line.to, 'in')]
      if (!from || !to) throw new Error(`${portKey(line.from)} is not in the picture.`)
      expect(touches(cableRoute(from, to, obstacles, lane).points, obstacles), line.id).toBe(false)
    }
  }
})
