import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { mappingState } from '../mappings'
import { cableRuleProblem, type Cable, type CableRule, type Message } from '../rig'
import { fullMessage, sending, sendingCc, testController, testDestination, testRig } from '../testing/rigs'
import { carried } from './cables'
import { cellsOf } from './cells'
import { emit } from './emission'

const cable = (rules: CableRule[], otherwise: Cable['otherwise'] = 'pass'): Cable => ({
  id: 'c',
  from: { owner: 'a', port: 'out' },
  to: { owner: 'd', port: 'in' },
  rules,
  otherwise,
})
const match = (more: Partial<CableRule['match']> = {}): CableRule['match'] => ({
  kinds: [],
  channels: [],
  low: null,
  high: null,
  ...more,
})
type To = Extract<CableRule, { kind: 'rewrite' }>['to']
const rewrite = (from: Partial<CableRule['match']>, to: Partial<To>): CableRule => ({
  kind: 'rewrite',
  match: match(from),
  to: { kind: null, channel: null, number: null, range: null, ...to },
})
const cells = (message: Message | null): string[] =>
  message === null
    ? []
    : cellsOf(message, 1).map(({ kind, channel, number }) => `${channel}:${kind}${number}`)

const note = (number: number, channel = 1): Message =>
  fullMessage({ kind: 'note', channel, keys: { kind: 'one', number } })
const cc = (number: number, channel = 1): Message => fullMessage({ kind: 'cc', channel, number })

describe('a cable', () => {
  it('passes or stops what no rule matches, as it says', () => {
    expect(carried(cable([]), cc(7))).toEqual(cc(7))
    expect(carried(cable([], 'stop'), cc(7))).toBeNull()
  })

  it('the first rule that matches decides', () => {
    const rules: CableRule[] = [
      { kind: 'stop', match: match({ kinds: ['cc'], low: 20, high: 29 }) },
      { kind: 'pass', match: match({ kinds: ['cc'] }) },
    ]
    expect(carried(cable(rules, 'stop'), cc(24))).toBeNull()
    expect(carried(cable(rules, 'stop'), cc(30))).toEqual(cc(30))
    expect(carried(cable(rules, 'stop'), note(24))).toBeNull()
  })

  it('rewrites a note to a controller, and a controller to another on another channel', () => {
    const toPedal = cable([rewrite({ kinds: ['note'], low: 51, high: 51 }, { kind: 'cc', number: 64 })])
    expect(cells(carried(toPedal, note(51, 3)))).toEqual(['3:cc64'])
    expect(cells(carried(toPedal, note(52, 3)))).toEqual(['3:note52'])
    const toWheel = cable([
      rewrite({ kinds: ['cc'], channels: [3], low: 20, high: 20 }, { channel: 1, number: 1 }),
    ])
    expect(cells(carried(toWheel, cc(20, 3)))).toEqual(['1:cc1'])
    expect(cells(carried(toWheel, cc(20, 4)))).toEqual(['4:cc20'])
  })

  it('moves a whole run: the rest follow the lowest', () => {
    const run = cable([rewrite({ kinds: ['cc'], low: 20, high: 27 }, { number: 102 })])
    fc.assert(
      fc.property(fc.integer({ min: 20, max: 27 }), (number) => {
        expect(cells(carried(run, cc(number)))).toEqual([`1:cc${number + 82}`])
      }),
    )
  })

  it('narrows the range where it says so', () => {
    const half = carried(cable([rewrite({}, { range: { low: 0, high: 63 } })]), cc(20))
    expect(half).toMatchObject({ range: { low: 0, high: 63 } })
  })

  it('a rule that would land outside is said to be impossible', () => {
    expect(cableRuleProblem(rewrite({ kinds: ['cc'], low: 0, high: 40 }, { number: 100 }))).toMatch(/140/)
    expect(cableRuleProblem(rewrite({ kinds: ['cc'], low: 9, high: 4 }, {}))).toMatch(/wrong way/)
    expect(cableRuleProblem(rewrite({ kinds: ['note'] }, { kind: 'cc14', number: 40 }))).toMatch(/1 to 31/)
    expect(cableRuleProblem(rewrite({ kinds: ['cc'], low: 20, high: 27 }, { number: 102 }))).toBeNull()
  })
})

describe('what arrives', () => {
  const [source] = [
    testController('a', {
      'k1.turn': sendingCc(20),
      'k6.push': sending({ kind: 'note', keys: { kind: 'span', low: 48, high: 52 } }),
    }),
  ]
  const rigWith = (rules: CableRule[]) => {
    const rig = testRig([source], [testDestination('d')], {
      mappings: [{ id: 'm', gesture: 'a/k1.turn', destination: 'd', parameter: 'p1', learnedAt: '1:cc74' }],
    })
    return { ...rig, cables: rig.cables.map((each) => ({ ...each, rules })) }
  }
  const arriving = (rules: CableRule[]): string[] =>
    emit(rigWith(rules)).flatMap(({ cells: at }) =>
      at.map(({ channel, kind, number }) => `${channel}:${kind}${number}`),
    )

  it('a span of keys is taken key by key', () => {
    expect(arriving([rewrite({ kinds: ['note'], low: 51, high: 51 }, { kind: 'cc', number: 64 })])).toEqual([
      '1:cc20',
      '1:note48',
      '1:note49',
      '1:note50',
      '1:cc64',
      '1:note52',
    ])
  })

  it('a mapping agrees with what arrives, not with what leaves', () => {
    const [before] = rigWith([]).mappings
    const rewritten = rigWith([rewrite({ kinds: ['cc'], low: 20, high: 20 }, { number: 74 })])
    if (!before) throw new Error('no mapping')
    expect(mappingState(rigWith([]), before).agreement).toBe('differs')
    expect(mappingState(rewritten, before).agreement).toBe('agrees')
  })
})
