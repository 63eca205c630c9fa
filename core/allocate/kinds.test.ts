import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { check } from '../conflicts'
import { assignmentsOf, channelOf, type Rig } from '../rig'
import { joined } from '../testing/mapped-rigs'
import { sending, sendingCc, testController, testDestination, testRig } from '../testing/rigs'
import { problemsOf } from '.'
import { AllocateRequest, type AllocateInput } from './request'
import { tagOf } from '../testing/addresses'
import { apply, moves, plan } from '../testing/plans'
import { cases } from '../testing/cases'

const pads = {
  id: 'pads',
  name: 'Pads',
  abilities: { connection: 'usb' as const },
  surface: {
    width: 200,
    height: 40,
    controls: [1, 2, 3].map((n) => ({
      id: `p${n}`,
      kind: 'pad' as const,
      label: `Pad ${n}`,
      block: 'grid',
      gestures: ['strike' as const, 'pressure' as const],
      place: { x: n * 30 - 25, y: 5, w: 14, h: 14 },
    })),
    blocks: [{ id: 'grid', label: 'Grid', rows: 1, columns: 3 }],
  },
}
const note = (number: number | 'wanted') => sending({ kind: 'note', keys: { kind: 'one', number } })
const poly = (number: number | 'wanted') => sending({ kind: 'polyPressure', keys: { kind: 'one', number } })
type More = NonNullable<Parameters<typeof testRig>[2]>
const padRig = (base: Parameters<typeof testController>[1], more: More = {}): Rig => {
  const { models } = testRig([])
  return testRig([testController('a', base, { model: 'pads' })], undefined, {
    ...more,
    models: [...models, pads],
  })
}

describe('what goes together', () => {
  it('poly pressure goes where the note of its pad goes, and is kept with it when struck out', () => {
    const rig = padRig({
      'p1.strike': note('wanted'),
      'p1.pressure': poly('wanted'),
      'p2.strike': note('wanted'),
      'p2.pressure': poly('wanted'),
    })
    const found = plan(rig, { kind: 'fill' })
    expect(moves(found)).toEqual([
      'a/p1.strike: null → 1:note0',
      'a/p1.pressure: null → 1:poly0',
      'a/p2.strike: null → 1:note1',
      'a/p2.pressure: null → 1:poly1',
    ])
    const struck = [found.changes[1]?.key ?? '']
    expect(moves(plan(rig, { kind: 'fill', struck }))).toEqual([
      'a/p2.strike: null → 1:note0',
      'a/p2.pressure: null → 1:poly0',
    ])
  })

  it('a pad goes where its pressure is heard, though its note is joined to nothing', () => {
    const rig = padRig(
      { 'p1.strike': note('wanted'), 'p1.pressure': poly('wanted') },
      { mappings: [joined('a/p1.pressure', 'p1', { learnedAt: '1:poly60' })] },
    )
    expect(moves(plan(rig, { kind: 'fill' }))).toEqual([
      'a/p1.strike: null → 1:note60',
      'a/p1.pressure: null → 1:poly60',
    ])
  })

  it('poly pressure without a number gets that of a note that has one', () => {
    const rig = padRig({ 'p1.strike': note(50), 'p1.pressure': poly('wanted') })
    expect(moves(plan(rig, { kind: 'fill' }))).toEqual(['a/p1.pressure: null → 1:poly50'])
  })

  it('bend and pressure of one controller share a channel, those of two do not', () => {
    const wheels = {
      'k1.turn': sending({ kind: 'pitchBend' }),
      'k2.turn': sending({ kind: 'channelPressure' }),
    }
    const rig = testRig([testController('a', wheels), testController('b', wheels)])
    const found = plan(rig, { kind: 'avoid', away: [{ message: 'all', channel: 1 }] })
    expect(moves(found)).toEqual([
      'a/k1.turn: 1:bend → 2:bend',
      'a/k2.turn: 1:pressure → 2:pressure',
      'b/k1.turn: 1:bend → 3:bend',
      'b/k2.turn: 1:pressure → 3:pressure',
    ])
    expect(check(apply(rig, found.edits)).findings.filter(({ rule }) => rule === 'same-address')).toEqual([])
  })
})

describe('leaving a channel', () => {
  it('keeps pitches together, whatever their numbers', () => {
    const pitches = [36, 38, 40].map((number) => sending({ kind: 'note', keys: { kind: 'one', number } }))
    const rig = testRig([
      testController('a', Object.fromEntries(pitches.map((sent, n) => [`k${n + 1}.turn`, sent]))),
    ])
    expect(moves(plan(rig, { kind: 'avoid', away: [{ message: 'all', channel: 1 }] }))).toEqual([
      'a/k1.turn: 1:note36 → 2:note36',
      'a/k2.turn: 1:note38 → 2:note38',
      'a/k3.turn: 1:note40 → 2:note40',
    ])
  })

  it('does not go where it would arrive twice, by two cables, and knows that nothing better is left out', () => {
    const cable = (from: string, to: string, more: object = {}) => {
      const [[owner = '', port = ''], [other = '', input = '']] = [from.split('.'), to.split('.')]
      return {
        id: `${owner}-${port}-${other}`,
        from: { owner, port },
        to: { owner: other, port: input },
        ...more,
      }
    }
    const sends = { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) }
    const wired = (second: object, base: Parameters<typeof testController>[1] = sends): Rig =>
      testRig(
        [
          testController('a', base, {
            ports: [
              { id: 'out', name: 'Out', direction: 'out' },
              { id: 'too', name: 'Too', direction: 'out' },
            ],
          }),
        ],
        [testDestination('d')],
        {
          boxes: [
            {
              id: 'm',
              name: 'M',
              kind: 'merge',
              ports: [
                { id: 'in', name: 'In', direction: 'in' },
                { id: 'out', name: 'Out', direction: 'out' },
              ],
            },
          ],
          cables: [cable('a.out', 'd.in'), cable('a.too', 'm.in', second), cable('m.out', 'd.in')],
        },
      )
    const leaving = (rig: Rig) => plan(rig, { kind: 'avoid', away: [{ message: 'all', channel: 1 }] })
    const passingTwo = { rules: [{ kind: 'pass', match: { channels: [2] } }], otherwise: 'stop' }
    const onlyTwo = leaving(wired(passingTwo))
    expect(onlyTwo.changes.map(({ channel }) => channel)).toEqual([3, 3])
    expect(onlyTwo.isLeast).toBe(true)
    // One that arrives twice already may stay on that channel; another like it may not go there.
    const both = { 'k1.turn': sendingCc(20, { channel: 2 }), 'k2.turn': sendingCc(21) }
    const oneIsThere = plan(wired(passingTwo, both), {
      kind: 'avoid',
      away: [
        { message: 'all', channel: 1 },
        { message: 'cc', channel: 2, low: 20, high: 20 },
      ],
      policy: { kind: 'among', channels: [2, 3] },
    })
    expect(oneIsThere.changes.map(({ channel }) => channel)).toEqual([2, 3])
    expect(oneIsThere.isLeast).toBe(true)
    // What arrives twice already may do so elsewhere, and who wants a number gets one: the cables are another matter.
    expect(leaving(wired({})).changes.map(({ channel }) => channel)).toEqual([2, 2])
    const wants = sending({ kind: 'cc', number: 'wanted' })
    const wanting: Array<Parameters<typeof testController>[1]> = [
      { 'k1.turn': wants, 'k2.turn': sendingCc(21) },
      { 'k1.turn': wants },
    ]
    for (const base of wanting)
      expect(plan(wired({}, base), { kind: 'fill' }).changes.map(({ channel }) => channel)).toEqual([1])
  })

  it('takes everything along: what means something keeps its number, pins stay and are named', () => {
    const rig = testRig([
      testController('a', {
        'k1.turn': sendingCc(20),
        'k2.turn': sending({ kind: 'note', keys: { kind: 'span', low: 36, high: 40 } }),
        'k3.turn': sending({ kind: 'program', number: 7 }),
        'k4.turn': note(60),
        'k5.turn': { ...sendingCc(30), pinned: true },
      }),
    ])
    const found = plan(rig, { kind: 'avoid', away: [{ message: 'all', channel: 1 }] })
    const to = found.changes.map((change) => tagOf(change.to) ?? '')
    expect(to.filter((tag) => !tag.includes('cc'))).toEqual(['2:note36-40', '2:pc7', '2:note60'])
    expect(to.every((tag) => tag.startsWith('2:'))).toBe(true)
    expect(found.shortages.map(({ message }) => message)).toEqual([
      'Knob 5 (A): it is pinned, so it is left as it is.',
    ])
    expect(found.shortages[0]?.help).toMatch(/name it/)
    const named = plan(rig, {
      kind: 'avoid',
      away: [{ message: 'all', channel: 1 }],
      gestures: ['a/k4.turn', 'a/k5.turn'],
    })
    expect(named.changes.map(({ to }) => tagOf(to))).toEqual(['2:note60', expect.stringMatching(/^2:cc/)])
  })

  it.each<[string, AllocateInput, string]>([
    [
      'every channel is kept',
      { kind: 'avoid', away: [{ message: 'all', channel: 1 }], policy: { kind: 'keep' } },
      'request.policy',
    ],
    [
      'only that channel may be used',
      { kind: 'avoid', away: [{ message: 'all', channel: 1 }], policy: { kind: 'among', channels: [1] } },
      'request.policy',
    ],
    [
      'no channel is left',
      { kind: 'avoid', away: Array.from({ length: 16 }, (_, n) => ({ message: 'all', channel: n + 1 })) },
      'request.away',
    ],
    [
      'numbers are named too',
      { kind: 'avoid', away: [{ message: 'all', channel: 1, low: 20 }] },
      'request.away[0]',
    ],
    ['numbers run down', { kind: 'avoid', away: [{ low: 30, high: 20 }] }, 'request.away[0]'],
  ])('is refused where %s', (_, input, path) => {
    const rig = testRig([testController('a', {})])
    expect(problemsOf(rig, AllocateRequest.parse(input)).map((problem) => problem.path)).toEqual([path])
  })
})

it('programs that want a number get one each, one that has it keeps it', () => {
  const program = (number: number | 'wanted') => sending({ kind: 'program', number })
  const rig = testRig([
    testController('a', {
      'k1.turn': program('wanted'),
      'k2.turn': program(0),
      'k3.turn': program('wanted'),
    }),
  ])
  expect(moves(plan(rig, { kind: 'fill' }))).toEqual(['a/k1.turn: null → 1:pc1', 'a/k3.turn: null → 1:pc2'])
})

it('a standard parameter that wants a number is left to the player, who is told', () => {
  const rig = testRig([testController('a', { 'k1.turn': sending({ kind: 'rpn', number: 'wanted' }) })])
  const found = plan(rig, { kind: 'fill' })
  expect(found.changes).toEqual([])
  expect(found.shortages[0]?.message).toMatch(/for you to say/)
  expect(found.shortages[0]?.help).toMatch(/change it yourself/)
  expect(found.shortages[0]?.help).not.toMatch(/name it/)
})

describe('parameters', () => {
  const nrpn = (number: number | 'wanted') => sending({ kind: 'nrpn', number })

  it('get the lowest run that is free, however high that lies', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.integer({ min: 0, max: 12 }), { maxLength: 3 }),
        fc.boolean(),
        (near, isFull) => {
          const taken = isFull ? near.map((number) => number + 1100) : near
          const chart = isFull ? Array.from({ length: 1100 }, (_, number) => number) : []
          const rig = testRig(
            [
              testController('a', {
                'k1.turn': nrpn('wanted'),
                ...Object.fromEntries(taken.map((number, index) => [`k${index + 2}.turn`, nrpn(number)])),
              }),
            ],
            [
              testDestination('d', {
                parameters: chart.map((number) => ({
                  id: `n${number}`,
                  name: `N${number}`,
                  fixed: { kind: 'nrpn' as const, channel: null, number },
                })),
              }),
            ],
          )
          const used = new Set([...taken, ...chart])
          const lowest = Array.from({ length: 1200 }, (_, number) => number).find(
            (number) => !used.has(number),
          )
          expect(plan(rig, { kind: 'fill' }).changes.map(({ to }) => tagOf(to))).toEqual([`1:nrpn${lowest}`])
        },
      ),
      cases(5),
    )
  })

  it('go back to where a destination learned them', () => {
    const rig = testRig([testController('a', { 'k1.turn': nrpn('wanted') })], undefined, {
      mappings: [
        { id: 'm', gesture: 'a/k1.turn', destination: 'd', parameter: 'p1', learnedAt: '1:nrpn9000' },
      ],
    })
    expect(plan(rig, { kind: 'fill' }).changes.map(({ to }) => tagOf(to))).toEqual(['1:nrpn9000'])
  })
})

it('an address that several share goes to another once all of them have left it', () => {
  const rig = testRig([
    testController('a', { 'k1.turn': sendingCc(20) }),
    testController('b', { 'k1.turn': sendingCc(20) }),
    testController('c', { 'k1.turn': sendingCc(50) }),
  ])
  const rules = [{ kind: 'prefer' as const, low: 20, high: 20, controller: 'c' }]
  const elsewhere = ['a', 'b'].map((controller) => ({
    kind: 'avoid' as const,
    low: 0,
    high: 20,
    controller,
  }))
  const found = plan(rig, { kind: 'replan', rules: [...rules, ...elsewhere] })
  expect(tagOf(found.changes.find(({ at }) => at.controller === 'c')?.to ?? null)).toBe('1:cc20')
})

it('gives a controller the channel on which mappings go on that several of its layers serve', () => {
  const on = (channel: number, number: number) => sending({ kind: 'cc', channel, number })
  const rig = testRig(
    [
      testController(
        'a',
        {},
        {
          templates: [
            {
              id: 't',
              name: 'T',
              base: { 'k2.turn': on(2, 21), 'k3.turn': on(2, 22) },
              stacks: [
                {
                  id: 's',
                  name: 'S',
                  gestures: ['k1.turn'],
                  layers: ['x', 'y'].map((id) => ({
                    id,
                    name: id.toUpperCase(),
                    assignments: { 'k1.turn': on(5, 20) },
                  })),
                },
              ],
            },
          ],
        },
      ),
    ],
    undefined,
    {
      mappings: [{ id: 'm', gesture: 'a/k1.turn', destination: 'd', parameter: 'p1', learnedAt: '5:cc20' }],
    },
  )
  const found = plan(rig, { kind: 'replan', policy: { kind: 'each-controller' } })
  expect(found.score.stale).toBe(0)
  expect(found.bound).toBeNull()
})

it('gives each controller the channel on which least is to be learned anew', () => {
  const learned = (id: string, gesture: string, parameter: string, learnedAt: string) => ({
    id,
    gesture,
    destination: 'd',
    parameter,
    learnedAt,
  })
  const on = (channel: number, number: number) => sending({ kind: 'cc', channel, number })
  const rig = testRig(
    [
      testController('a', { 'k1.turn': on(4, 20), 'k2.turn': on(4, 21), 'k3.turn': on(2, 22) }),
      testController('b', { 'k1.turn': on(4, 30), 'k2.turn': on(7, 31) }),
    ],
    undefined,
    {
      mappings: [
        learned('m1', 'a/k1.turn', 'p1', '4:cc20'),
        learned('m2', 'b/k1.turn', 'p2', '4:cc30'),
        learned('m3', 'b/k2.turn', 'p2', '7:cc31'),
      ],
    },
  )
  const found = plan(rig, { kind: 'replan', policy: { kind: 'each-controller' } })
  const channels = (id: string) =>
    new Set(
      apply(rig, found.edits)
        .controllers.filter((controller) => controller.id === id)
        .flatMap((controller) => [...assignmentsOf(controller)])
        .flatMap(({ assignment }) => assignment.messages.map((message) => channelOf(message, 1))),
    )
  expect([...channels('a')]).toEqual([4])
  expect([...channels('b')]).toEqual([7])
  expect(found.stale.map(({ mapping }) => mapping)).toEqual(['m2'])
  expect(found.bound).toBeNull()
})

it('says that no one channel serves what is to be together on one', () => {
  const only = (channel: number) => ({
    playing: { channels: { kind: 'only' as const, channels: [channel] } },
  })
  const on = (channel: number, number: number) => sending({ kind: 'cc', channel, number })
  const rig = testRig(
    [testController('a', { 'k1.turn': on(1, 20), 'k2.turn': on(2, 21) })],
    [testDestination('d', { hears: only(1) }), testDestination('e', { hears: only(2) })],
    {
      mappings: ['d', 'e'].map((destination, index) => ({
        id: destination,
        gesture: `a/k${index + 1}.turn`,
        destination,
        parameter: 'p1',
        learnedAt: `${index + 1}:cc${20 + index}`,
      })),
    },
  )
  const found = plan(rig, { kind: 'replan', policy: { kind: 'each-controller' } })
  expect(found.shortages.map(({ message }) => message)).toEqual([
    expect.stringMatching(/no one channel has room .* this one is left/),
  ])
})
