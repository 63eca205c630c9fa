import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { perform, programmedAt, type Rig } from '../../rig'
import {
  anyShape,
  cleanRig,
  KNOBS,
  lightRoles,
  litModel,
  PLAIN,
  sendingElse,
  type CleanShape,
} from '../../testing/clean-rigs'
import { plainModel, sending, sendingCc, testController, testDestination, testRig } from '../../testing/rigs'
import { rehearse, rehearsing, type Finding, type Misbehaving, type Rehearsal } from '.'
import { cases } from '../../testing/cases'

const rehearsed = (rig: Rig, misbehaving: Misbehaving = {}): Rehearsal => {
  const report = rehearse(rig, misbehaving)
  if (!report) throw new Error('stopped')
  return report
}
const faults = ({ findings }: Rehearsal): readonly Finding[] =>
  findings.filter(({ weight }) => weight === 'fault')
const said = (report: Rehearsal): string[] => faults(report).map(({ check, text }) => `${check}: ${text}`)

const which = fc.integer({ min: 0, max: KNOBS - 1 })

describe('a rehearsal', () => {
  it('finds nothing wrong in a rig in which everything is taught, and proves every mapping', () => {
    fc.assert(
      fc.property(anyShape, (each) => {
        const rig = cleanRig(each)
        const report = rehearsed(rig)
        expect(said(report)).toEqual([])
        expect(report.proven).toEqual(rig.mappings.map(({ id }) => id))
        expect(rehearsed(rig)).toEqual(report)
      }),
      cases(4),
    )
  })

  it('finds a mapping that listens elsewhere, a number that was changed, and an end that is not reached', () => {
    fc.assert(
      fc.property(anyShape, which, (each, at) => {
        const rig = cleanRig(each)
        const mapping = `m${at + 1}`
        const names = (report: Rehearsal): void => {
          expect(faults(report).some((fault) => fault.mapping === mapping)).toBe(true)
          expect(report.proven).not.toContain(mapping)
        }
        names(
          rehearsed(
            perform(rig, '', [
              {
                type: 'mapping-set',
                mapping,
                set: { learnedAt: { scope: 'channel', channel: 16, target: { kind: 'cc', number: 3 } } },
              },
            ]).rig,
          ),
        )
        const place = { controller: 'a', template: 't', layer: null, gesture: `k${at + 1}.turn` }
        names(rehearsed(sendingElse(rig, place, { number: 3 })))
        names(rehearsed(sendingElse(rig, place, { range: { low: 0, high: 120 } })))
      }),
      cases(4),
    )
  })

  it('finds two mappings that were taught each other’s number', () => {
    fc.assert(
      fc.property(anyShape, (each) => {
        const rig = cleanRig(each)
        const [one, other] = rig.mappings
        const report = rehearsed(
          perform(rig, '', [
            { type: 'mapping-set', mapping: 'm1', set: { learnedAt: other?.learnedAt ?? null } },
            { type: 'mapping-set', mapping: 'm2', set: { learnedAt: one?.learnedAt ?? null } },
          ]).rig,
        )
        for (const mapping of ['m1', 'm2']) expect(report.proven).not.toContain(mapping)
        expect(faults(report).filter(({ check }) => check === 'others')).toHaveLength(2)
      }),
      cases(10),
    )
  })

  it('finds messages that are stopped on the way, by whatever rule', () => {
    fc.assert(
      fc.property(anyShape, which, (each, at) => {
        const stop = {
          kind: 'stop' as const,
          match: { kinds: ['cc' as const], low: each.numbers[at] ?? 0, high: each.numbers[at] ?? 0 },
        }
        const rig = cleanRig(each, {
          cables: [
            { id: 'a-d', from: { owner: 'a', port: 'out' }, to: { owner: 'd', port: 'in' }, rules: [stop] },
          ],
        })
        const report = rehearsed(rig)
        expect(faults(report).map(({ mapping }) => mapping)).toContain(`m${at + 1}`)
        expect(report.proven).not.toContain(`m${at + 1}`)
        expect(report.proven).toHaveLength(rig.mappings.length - 1)
      }),
      cases(6),
    )
  })

  it('finds a rule that is gone: what it kept apart moves both', () => {
    const rules = [{ kind: 'rewrite' as const, match: { channels: [2] }, to: { channel: 3 } }]
    const at = (channel: number) => ({
      ...cleanRig(
        {
          numbers: [20, 20, 21, 22],
          channels: [1, 2, 4, 5],
          inverted: false,
          curve: 'linear',
          takeover: 'when-met',
        },
        {
          cables: [
            {
              id: 'a-d',
              from: { owner: 'a', port: 'out' },
              to: { owner: 'd', port: 'in' },
              rules: channel === 3 ? rules : [],
            },
          ],
        },
      ),
    })
    const taught = (rig: Rig): Rig =>
      perform(rig, '', [
        {
          type: 'mapping-set',
          mapping: 'm2',
          set: { learnedAt: { scope: 'channel', channel: 3, target: { kind: 'cc', number: 20 } } },
        },
      ]).rig
    expect(said(rehearsed(taught(at(3))))).toEqual([])
    const report = rehearsed(taught(at(1)))
    expect(report.proven).not.toContain('m2')
    expect(said(report).join('\n')).toContain('Nothing moves D · P 2')
  })

  it('finds channels that a destination merges, and messages that it loses or takes twice', () => {
    const clean = cleanRig({
      numbers: [20, 20, 21, 22],
      channels: [1, 2, 1, 1],
      inverted: false,
      curve: 'linear',
      takeover: 'when-met',
    })
    expect(said(rehearsed(clean))).toEqual([])
    const merged = rehearsed(clean, { d: ['merges-channels'] })
    expect(said(merged)).toContainEqual('others: Knob 1 (A) also moves D · P 2, which it is not joined to.')
    expect(merged.proven).not.toContain('m1')
    const dropped = rehearsed(clean, { d: ['drops'] })
    for (const n of [1, 2, 3, 4]) expect(dropped.proven).not.toContain(`m${n}`)
    expect(said(dropped).join('\n')).toMatch(/lost: D loses \d+ of \d+ messages that Knob 1 \(A\) sends/)
    expect(said(rehearsed(clean, { d: ['doubles'] })).join('\n')).toMatch(/lost: D takes \d+ of \d+ messages/)
  })

  it('finds a parameter that jumps though it is to be taken over', () => {
    const of = (takeover: CleanShape['takeover']): Rig =>
      cleanRig({
        numbers: [20, 21, 22, 23],
        channels: [1, 1, 1, 1],
        inverted: false,
        curve: 'linear',
        takeover,
      })
    for (const takeover of ['when-met', 'gradual'] as const) {
      const jumps = faults(rehearsed(of(takeover), { d: ['jumps'] }))
      expect(jumps.map(({ check, mapping }) => `${check} ${mapping}`)).toEqual(
        expect.arrayContaining(['takeover m1', 'takeover m2', 'takeover m3', 'takeover m4']),
      )
    }
    // What is written to be taken at once may jump.
    expect(said(rehearsed(of('at-once'), { d: ['jumps'] }))).toEqual([])
  })

  it('finds lights that are not told, that look alike, and that share a number', () => {
    const clean = cleanRig(PLAIN)
    const silent = rehearsed(clean, { d: ['no-feedback'] })
    expect(said(silent)).toEqual([
      'light: The light of Button 1 (A) shows Red when it is to show Green (Voice, on).',
    ])
    expect(silent.proven).not.toContain('mute')
    const alike = rehearsed(
      cleanRig(PLAIN, {
        lightRoles: [
          {
            ...lightRoles[0]!,
            states: [
              { name: 'off', colour: '#0fbf3f' },
              { name: 'on', colour: '#10c040' },
            ],
          },
        ],
      }),
    )
    expect(said(alike).join('\n')).toContain('looks the same for on and for off')
    const surface = {
      ...litModel.surface,
      controls: litModel.surface.controls.map((control) =>
        control.kind === 'button' ? { ...control, lightNumber: 60 } : control,
      ),
    }
    const second = { controller: 'a', template: 't', layer: null, gesture: 'b2.press' }
    const steady = programmedAt(clean, second)?.assignment
    if (!steady) throw new Error('no light')
    const lit = { role: 'voice', setBy: { kind: 'steady' as const, state: 'on' } }
    const shared = perform(cleanRig(PLAIN, { models: [{ ...litModel, surface }] }), '', [
      { type: 'assignment', at: second, assignment: { ...steady, light: lit } },
    ]).rig
    expect(said(rehearsed(shared))).toEqual([
      'wake: After the wake sequence Button 1 (A) shows Green in place of Red: another light has the same number.',
    ])
  })

  it('finds a switch that can only be switched on, and not one of two buttons that set a value each', () => {
    const place = { controller: 'a', template: 't', layer: null, gesture: 'b1.press' }
    const once = sendingElse(cleanRig(PLAIN), place, { behaviour: { kind: 'trigger' } })
    expect(said(rehearsed(once)).join('\n')).toMatch(/sets D · Mute to on only: it does not reach off/)
    const other = {
      ...once.mappings.find(({ id }) => id === 'tap')!,
      id: 'off',
      parameter: 'mute',
      inverted: true,
    }
    const both = perform(once, '', [
      { type: 'mapping-remove', mapping: 'tap' },
      { type: 'mapping-add', mapping: other },
    ]).rig
    expect(faults(rehearsed(both)).filter(({ check }) => check === 'ends')).toEqual([])
  })

  it('says of a control what it moves nowhere, and counts it as a fault only where it is joined', () => {
    const rig = testRig(
      [testController('a', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) })],
      [testDestination('d')],
      {
        mappings: [{ id: 'm', gesture: 'a/k1.turn', destination: 'd', parameter: 'p1', learnedAt: '1:cc22' }],
      },
    )
    const report = rehearsed(rig)
    expect(report.findings.map(({ check, weight }) => `${check} ${weight}`).sort()).toEqual([
      'idle fault',
      'idle note',
      'unreached fault',
    ])
    expect(report.proven).toEqual([])
  })

  it('finds what comes late, for it is more than a DIN cable carries', () => {
    const rig = (connection: 'usb' | 'din'): Rig =>
      testRig(
        [
          testController('a', {
            'k1.turn': sending(
              { kind: 'nrpn', number: 300 },
              { kind: 'nrpn', number: 301 },
              { kind: 'nrpn', number: 302 },
            ),
          }),
        ],
        [
          testDestination('d', {
            parameters: [{ id: 'p1', name: 'One', fixed: { kind: 'nrpn', number: 300 } }],
          }),
        ],
        {
          models: [{ ...plainModel, abilities: { ...plainModel.abilities, connection } }],
          mappings: [{ id: 'm', gesture: 'a/k1.turn', destination: 'd', parameter: 'p1' }],
        },
      )
    expect(said(rehearsed(rig('din'))).join('\n')).toMatch(
      /late: What Knob 1 \(A\) sends comes up to \d+ ms late to D/,
    )
    expect(said(rehearsed(rig('usb'))).join('\n')).not.toMatch(/late/)
  })

  it('finds a function that a destination keeps for itself', () => {
    const kept = { id: 'own', function: 'its transport', kind: 'cc' as const, low: 20, high: 20 }
    const rig = testRig(
      [testController('a', { 'k1.turn': sendingCc(20) })],
      [testDestination('d', { claims: [kept] })],
      {
        mappings: [{ id: 'm', gesture: 'a/k1.turn', destination: 'd', parameter: 'p1', learnedAt: '1:cc20' }],
      },
    )
    expect(said(rehearsed(rig)).join('\n')).toMatch(/others: Knob 1 \(A\) sets off its transport of D/)
  })

  it('goes through every passage and scope, and names those in which something is wrong', () => {
    const mappings = [
      { id: 'm', gesture: 'a/k1.turn', destination: 'd', parameter: 'p1', learnedAt: '1:cc20' },
      {
        id: 'scoped',
        gesture: 'a/k2.turn',
        destination: 'd',
        parameter: 'p2',
        learnedAt: '1:cc21',
        scope: 's',
      },
    ]
    const scopes = [{ id: 's', name: 'Second' }]
    const passages = [
      { id: 'one', name: 'One', scopes: [{ destination: 'd', scope: null }] },
      { id: 'two', name: 'Two', scopes: [{ destination: 'd', scope: 's' }] },
    ]
    const rig = (more: typeof mappings = [], shown = passages): Rig =>
      testRig(
        [testController('a', { 'k1.turn': sendingCc(20), 'k2.turn': sendingCc(21) })],
        [testDestination('d', { scopes })],
        { passages: shown, mappings: [...mappings, ...more] },
      )
    const clean = rehearsed(rig())
    expect(said(clean)).toEqual([])
    expect(clean.proven).toEqual(['m', 'scoped'])
    // A scope that no passage is in is entered all the same.
    expect(rehearsed(rig([], passages.slice(0, 1))).proven).toEqual(['m', 'scoped'])
    // A control that is gone left a mapping that counts in one scope: it shows in that passage alone.
    const old = {
      id: 'old',
      gesture: null,
      destination: 'd',
      parameter: 'p2',
      learnedAt: '1:cc20',
      scope: 's',
    }
    const found = faults(rehearsed(rig([old as never])))
    expect(found.map(({ check, scenes }) => ({ check, scenes }))).toEqual([
      { check: 'others', scenes: ['Two'] },
    ])
  })

  it('counts what it does not tell of a huge rig', () => {
    const idle = Object.fromEntries([1, 2, 3, 4, 5].map((n) => [`k${n}.turn`, sendingCc(20 + n)]))
    const steps = rehearsing(testRig([testController('a', idle)]), {}, 2)
    let step = steps.next()
    while (step.done !== true) step = steps.next()
    expect(step.value.findings).toHaveLength(2)
    expect(step.value.untold).toEqual({ faults: 0, notes: 3 })
  })

  it('can be stopped, and says how far it has come', () => {
    const seen: number[] = []
    const report = rehearse(nineRingsRig('as-performed'), {}, ({ done, of }) => {
      seen.push(done / of)
      return seen.length === 3
    })
    expect(report).toBeNull()
    expect(seen).toEqual([...seen].sort((a, b) => a - b))
  })
})

describe('the demo', () => {
  it(
    'as performed has no fault, and every mapping of a controller in use is proven',
    { timeout: 120_000 },
    () => {
      const rig = nineRingsRig('as-performed')
      const report = rehearsed(rig)
      expect(said(report)).toEqual([])
      expect(report.proven).toHaveLength(rig.mappings.length - report.leftOut.length)
      expect(new Set(report.leftOut.map(({ why }) => why))).toEqual(new Set(['Corvel 8 is put away.']))
    },
  )
})
