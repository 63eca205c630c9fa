import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { parseRig, portKey, portsOf, type Cable, type Rig } from '..'
import { EditError, perform, redone, undone, type RigEdit, type Step } from '.'
import { cases } from '../../testing/cases'

const demo = nineRingsRig('as-found')
const end = fc.constantFrom(...portsOf(demo).map(({ ref }) => ref), { owner: 'new', port: 'p' })
const owner = fc.constantFrom('syzra', 'loomwright', 'ondrel', 'new', 'desk', 'nobody')
const cableId = fc.constantFrom('new', ...demo.cables.map(({ id }) => id))
const destinationId = fc.constantFrom('fresh', ...demo.destinations.map(({ id }) => id))
const [template] = demo.destinations

const cabling: fc.Arbitrary<RigEdit> = fc.oneof(
  fc.record({ from: end, to: end }).map(({ from, to }): RigEdit => ({
    type: 'cable-add',
    cable: {
      id: `c-${portKey(from)}-${portKey(to)}`.replaceAll('/', '-'),
      from,
      to,
      rules: [],
      otherwise: 'pass',
    },
  })),
  cableId.map((cable): RigEdit => ({ type: 'cable-remove', cable })),
  fc
    .record({
      cable: cableId,
      number: fc.integer({ min: -1, max: 20_000 }),
      otherwise: fc.constantFrom('pass' as const, 'stop' as const),
    })
    .map(({ cable, number, otherwise }): RigEdit => ({
      type: 'cable-set',
      cable,
      set: {
        otherwise,
        rules: [
          {
            kind: 'rewrite',
            match: { kinds: ['cc'], channels: [], low: null, high: null },
            to: { kind: null, channel: 2, number, range: null },
          },
        ],
      },
    })),
  fc
    .record({
      owner,
      id: fc.constantFrom('p', 'q'),
      direction: fc.constantFrom('in' as const, 'out' as const, 'thru' as const),
    })
    .map(({ owner: device, id, direction }): RigEdit => ({
      type: 'port-add',
      owner: device,
      port: { id, name: id, direction },
    })),
  end.map(({ owner: device, port }): RigEdit => ({ type: 'port-remove', owner: device, port })),
  fc.record({ end, name: fc.constantFrom('', 'Socket') }).map(({ end: ref, name }): RigEdit => ({
    type: 'port-set',
    owner: ref.owner,
    port: ref.port,
    set: { name },
  })),
  fc.constantFrom('new', 'syzra').map((id): RigEdit => ({
    type: 'box-add',
    box: { id, name: 'Box', kind: 'merge', ports: [{ id: 'p', name: 'In', direction: 'in' }] },
  })),
  fc.constant<RigEdit>({ type: 'box-remove', box: 'new' }),
  fc.constantFrom('new', 'other').map((id): RigEdit => ({
    type: 'computer-add',
    computer: { id, name: 'Computer', ports: [{ id: 'p', name: 'One', sharing: 'exclusive' }] },
  })),
  fc.constantFrom(...demo.computers.map(({ id }) => id), 'new').map((computer): RigEdit => ({
    type: 'computer-remove',
    computer,
  })),
  destinationId.map((destination): RigEdit => ({ type: 'destination-remove', destination })),
  fc
    .record({ destination: destinationId, inside: fc.option(destinationId) })
    .map(({ destination, inside }): RigEdit => ({ type: 'destination-set', destination, set: { inside } })),
  fc.constant<RigEdit>({
    type: 'destination-add',
    destination: { ...(template as NonNullable<typeof template>), id: 'fresh', ports: [] },
  }),
)

describe('edits of cables, ports, boxes, computers and destinations', () => {
  it('leave a valid rig; undone gives the rig before, redone the rig after', () => {
    let made = 0
    fc.assert(
      fc.property(fc.array(cabling, { minLength: 1, maxLength: 10, size: 'max' }), (edits) => {
        let rig: Rig = demo
        const steps: Step[] = []
        for (const edit of edits) {
          try {
            const done = perform(rig, edit.type, [edit])
            rig = done.rig
            steps.push(done.step)
            made++
          } catch (error) {
            if (!(error instanceof EditError)) throw error
          }
        }
        expect(parseRig(rig)).toEqual({ ok: true, rig })
        const back = steps.toReversed().reduce(undone, rig)
        expect(back).toEqual(demo)
        expect(steps.reduce(redone, back)).toEqual(rig)
      }),
      cases(20),
    )
    expect(made).toBeGreaterThan(20)
  })

  const cable = (from: Cable['from'], to: Cable['to']): RigEdit => ({
    type: 'cable-add',
    cable: { id: 'x', from, to, rules: [], otherwise: 'pass' },
  })

  it('refuse a cable the wrong way round, twice, or into nothing', () => {
    const [known] = demo.cables
    if (!known) throw new Error('no cable')
    const add = (edit: RigEdit) => () => perform(demo, 'x', [edit])
    expect(add(cable(known.from, known.to))).toThrow(/joined already/)
    expect(add(cable({ owner: 'ondrel', port: 'in' }, known.to))).toThrow(/turn it round|no longer there/)
    expect(add(cable(known.from, { owner: 'nobody', port: 'x' }))).toThrow(/no longer there/)
  })

  it('refuse a rewrite that lands outside what the standard has', () => {
    const [known] = demo.cables
    if (!known) throw new Error('no cable')
    const match = { kinds: [], channels: [], low: null, high: null }
    const to = { kind: null, channel: 17, number: null, range: null }
    expect(() =>
      perform(demo, 'x', [
        { type: 'cable-set', cable: known.id, set: { rules: [{ kind: 'rewrite', match, to }] } },
      ]),
    ).toThrow(/channel/)
  })

  it('a host cannot run inside its own plugin', () => {
    const plugin = demo.destinations.find(({ inside }) => inside !== null)
    if (!plugin?.inside) throw new Error('no plugin')
    const { inside: destination, id: inside } = plugin
    expect(() => perform(demo, 'x', [{ type: 'destination-set', destination, set: { inside } }])).toThrow(
      /inside itself/,
    )
  })
})
