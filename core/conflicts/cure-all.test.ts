import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { perform, type Rig, type RigEdit } from '../rig'
import { anyRig } from '../testing/rigs'
import { check, RULES } from '.'
import { cureAll } from './cure-all'
import { editLine } from './preview'
import { cases } from '../testing/cases'

const apply = (rig: Rig, edits: readonly RigEdit[]): Rig => perform(rig, 'x', edits).rig
const count = (rig: Rig, rule: string): number =>
  check(rig).findings.filter((finding) => finding.rule === rule).length
const errors = (rig: Rig): number => check(rig).findings.filter(({ severity }) => severity === 'error').length

describe('curing all findings of a rule', () => {
  const rig = nineRingsRig('as-found')
  it('clears every old mapping of the demo in one go', () => {
    const { edits, cured, left } = cureAll(rig, 'ghost', apply)
    expect(cured).toBe(count(rig, 'ghost'))
    expect(left).toBe(0)
    expect(count(apply(rig, edits), 'ghost')).toBe(0)
    const lines = edits.flatMap((edit) => editLine(rig, edit) ?? [])
    expect(lines.some((line) => line.endsWith('Macro 1 forgets 1:cc102'))).toBe(true)
  })
  it('leaves alone what only the player can decide', () => {
    const { edits, cured, left } = cureAll(rig, 'port-held', apply)
    expect({ edits, cured, left }).toEqual({ edits: [], cured: 0, left: 1 })
  })
  it('says truly what is left, and brings no error', () => {
    fc.assert(
      fc.property(anyRig, fc.constantFrom(...RULES.map(({ id }) => id)), (any, rule) => {
        const { edits, left } = cureAll(any, rule, apply)
        const after = apply(any, edits)
        expect(count(after, rule)).toBe(left)
        expect(errors(after)).toBeLessThanOrEqual(errors(any))
      }),
      cases(25),
    )
  })
})

it('says what a move changes', () => {
  const { findings, fixesOf } = check(nineRingsRig('as-found'))
  const finding = findings.find(({ rule }) => rule === 'same-address')
  const move = fixesOf(finding?.id ?? '').find(({ kind }) => kind === 'move')
  const [edit] = move?.edits ?? []
  if (!edit) throw new Error('no move')
  expect(editLine(nineRingsRig('as-found'), edit)).toMatch(/: \d+:cc\d+(\+\d+)? → \d+:cc\d+/)
})
