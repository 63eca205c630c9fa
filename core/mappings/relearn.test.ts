import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { check } from '../conflicts'
import { perform, placeRef, type Place, type Rig, type RigInput } from '../rig'
import {
  anyRig,
  sending,
  sendingCc,
  testController,
  testDestination,
  testRig,
  type Assigned,
} from '../testing/rigs'
import {
  freshMapping,
  inForceTogether,
  isInForce,
  joinInOrder,
  mappingState,
  relearnList,
  soundTargets,
  type JoinTarget,
} from '.'
import { addressAt, tagOf } from '../testing/addresses'

type MappingInput = NonNullable<RigInput['mappings']>[number]

const joined = (
  gesture: string | null,
  parameter: string,
  more: Partial<MappingInput> = {},
): MappingInput => ({
  id: `${gesture ?? 'none'}-${parameter}-${more.scope ?? ''}`.replaceAll(/[^a-z0-9-]/g, '-'),
  gesture: gesture && `a/${gesture}`,
  destination: 'd',
  parameter,
  ...more,
})
const rigOf = (
  base: Assigned,
  mappings: MappingInput[],
  more: Parameters<typeof testDestination>[1] = {},
): Rig =>
  testRig(
    [testController('a', base)],
    [
      testDestination('d', {
        scopes: [
          { id: 's', name: 'S' },
          { id: 't', name: 'T' },
        ],
        ...more,
      }),
    ],
    { mappings },
  )
const linesOf = (rig: Rig) => relearnList(rig).flatMap(({ lines }) => lines)
const place = (gesture: string): Place => ({ controller: 'a', template: 't', layer: null, gesture })

describe('what must be taught again', () => {
  it('says what to clear and what to move', () => {
    const rig = rigOf({ 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) }, [
      joined('k1.turn', 'p1', { learnedAt: '5:cc18' }),
      joined('k2.turn', 'p2'),
    ])
    expect(linesOf(rig).map(({ text, was, to }) => ({ text, was: tagOf(was), to: tagOf(to) }))).toEqual([
      { text: 'Clear 5:cc18, then turn Knob 1 (A).', was: '5:cc18', to: '1:cc20' },
      { text: 'Turn Knob 2 (A).', was: null, to: '1:cc21' },
    ])
  })

  it('names old mappings that another control sets off, and those only', () => {
    const rig = rigOf({ 'k1.turn': sendingCc(20) }, [
      joined(null, 'p1', { learnedAt: '1:cc20' }),
      joined(null, 'p2', { learnedAt: '1:cc99' }),
    ])
    expect(linesOf(rig)).toMatchObject([{ kind: 'clear', text: 'Clear 1:cc20: Knob 1 (A) sets it off now.' }])
  })

  it('clears first, then goes by scope and by control', () => {
    const rig = rigOf({ 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) }, [
      joined('k1.turn', 'p1', { scope: 't' }),
      joined('k2.turn', 'p1', { scope: 's' }),
      joined('k2.turn', 'p2'),
      joined('k1.turn', 'p2'),
      joined(null, 'p1', { learnedAt: '1:cc20' }),
    ])
    expect(linesOf(rig).map(({ mapping }) => mapping.id)).toEqual([
      'none-p1-',
      'k1-turn-p2-',
      'k2-turn-p2-',
      'k2-turn-p1-s',
      'k1-turn-p1-t',
    ])
  })

  it('says where a destination cannot learn what is sent', () => {
    const rig = rigOf({ 'k1.turn': sending({ kind: 'nrpn', number: 5 }) }, [joined('k1.turn', 'p1')], {
      learns: ['cc'],
    })
    expect(linesOf(rig)[0]?.hindrance).toMatch(/D cannot learn 1:nrpn5/)
  })

  it('is empty for the demo as performed', () => {
    expect(relearnList(nineRingsRig('as-performed'))).toEqual([])
  })

  it('is empty once every line is ticked off, and then nothing is unheard or an old mapping', () => {
    fc.assert(
      fc.property(anyRig, (rig) => {
        let now = rig
        for (let rounds = 0; rounds < 20; rounds++) {
          const [line] = linesOf(now)
          if (!line) break
          now = perform(now, 'x', [line.done]).rig
        }
        expect(linesOf(now)).toEqual([])
        const left = check(now).findings.filter(
          ({ rule, severity, message }) =>
            rule === 'unheard' && severity !== 'error' && !/more than one address|coarser/.test(message),
        )
        expect(left.map(({ message }) => message)).toEqual([])
      }),
    )
  })
})

describe('scopes', () => {
  const rig = rigOf({ 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) }, [
    joined('k1.turn', 'p1'),
    joined('k1.turn', 'p2', { scope: 's' }),
    joined('k2.turn', 'p1', { scope: 's' }),
    joined('k2.turn', 'p1', { scope: 't' }),
  ])
  const [everywhere, named, other, third] = rig.mappings
  it('win over everywhere where they are named', () => {
    if (!everywhere || !named || !other || !third) throw new Error('gone')
    expect([null, 's', 't'].map((scope) => isInForce(rig, everywhere, scope))).toEqual([true, false, true])
    expect([null, 's', 't'].map((scope) => isInForce(rig, named, scope))).toEqual([false, true, false])
    expect(inForceTogether(rig, everywhere, other)).toBe(false)
    expect(inForceTogether(rig, everywhere, third)).toBe(true)
    expect(inForceTogether(rig, named, third)).toBe(false)
  })
})

describe('joining in order', () => {
  const base = { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21), 'k3.turn': sendingCc(22) }
  const places = ['k1.turn', 'k2.turn', 'k3.turn'].map(place)
  const parameter = (id: string): JoinTarget => ({ kind: 'parameter', parameter: id })

  it('joins first to first, and says what is left over', () => {
    const rig = rigOf(base, [])
    const made = joinInOrder(rig, places, 'd', [parameter('p1'), parameter('p2')], null)
    expect([made.joined, made.controlsLeft, made.targetsLeft]).toEqual([2, 1, 0])
    const { mappings } = perform(rig, 'x', made.edits).rig
    expect(mappings.map(({ gesture, parameter: to }) => `${gesture} ${to}`)).toEqual([
      'a/k1.turn p1',
      'a/k2.turn p2',
    ])
    expect(new Set(mappings.map(({ id }) => id)).size).toBe(2)
  })

  it('leaves what is joined already', () => {
    const rig = rigOf(base, [joined('k1.turn', 'p1')])
    expect(joinInOrder(rig, places, 'd', [parameter('p1'), parameter('p2')], null)).toMatchObject({
      joined: 1,
    })
    expect(joinInOrder(rig, places.slice(0, 1), 'd', [parameter('p1')], 's')).toMatchObject({ joined: 1 })
  })

  it('lets controls send what a chart fixes, but not pinned ones', () => {
    const chart = {
      parameters: [{ id: 'p1', name: 'One', fixed: { kind: 'cc' as const, number: 74 } }],
      hears: { playing: { channels: { kind: 'only' as const, channels: [7] } } },
    }
    const rig = rigOf(base, [], chart)
    const after = perform(rig, 'x', joinInOrder(rig, places, 'd', [parameter('p1')], null).edits).rig
    expect(after.mappings.map((mapping) => mappingState(after, mapping))).toMatchObject([
      { agreement: 'agrees', sent: [addressAt('7:cc74')] },
    ])
    const pinned = rigOf({ 'k1.turn': { ...sendingCc(20), pinned: true } }, [], chart)
    expect(joinInOrder(pinned, places, 'd', [parameter('p1')], null)).toMatchObject({ edits: [], pinned: 1 })
  })

  it('puts pads on sounds, with the gaps closed or kept', () => {
    const drums = { noteNames: [36, 38, 39].map((number) => ({ number, name: `N${number}` })) }
    const rig = rigOf(base, [], drums)
    const [destination] = rig.destinations
    if (!destination) throw new Error('gone')
    const notesAfter = (gaps: 'closed' | 'kept'): unknown[] => {
      const { edits } = joinInOrder(rig, places, 'd', soundTargets(destination, gaps), null)
      const table = perform(rig, 'x', edits).rig.controllers[0]?.templates[0]?.base ?? {}
      return ['k1.turn', 'k2.turn', 'k3.turn'].map((key) => {
        const message = table[key]?.messages[0]
        return message?.kind === 'note' && message.keys.kind === 'one' ? message.keys.number : message?.kind
      })
    }
    expect(notesAfter('closed')).toEqual([36, 38, 39])
    expect(notesAfter('kept')).toEqual([36, 'cc', 38])
    // A gap is nothing that is left over.
    expect(
      joinInOrder(rig, places.slice(0, 1), 'd', soundTargets(destination, 'kept'), null).targetsLeft,
    ).toBe(2)
  })

  it('sends the program of a preset with its bank', () => {
    const rig = rigOf(base, [])
    const target: JoinTarget = { kind: 'program', number: 4, bank: { msb: 0, lsb: 1 } }
    const { edits } = joinInOrder(rig, places, 'd', [target], null)
    expect(edits).toMatchObject([
      { type: 'message', message: { kind: 'program', number: 4, bank: { lsb: 1 } } },
    ])
  })

  it('expects clicks from a control that sends them', () => {
    const rig = rigOf(
      { 'k1.turn': sendingCc(20, { behaviour: { kind: 'relative', encoding: 'offset-binary' } }) },
      [],
    )
    expect(freshMapping(rig, 'm', place('k1.turn'), 'd', 'p1', null)).toMatchObject({
      gesture: placeRef(place('k1.turn')),
      expects: { kind: 'relative', encoding: 'offset-binary' },
    })
  })
})
