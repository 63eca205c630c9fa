import { expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { EditError, parseRig, perform, type Rig } from '../rig'
import { check, factsOf } from '.'

const rig = nineRingsRig('as-found')
const finding = check(rig).findings.find(({ rule }) => rule === 'well-known')
if (!finding) throw new Error('no finding')
const aside = (of: Rig, reason = 'The show never uses both.'): Rig =>
  perform(of, 'x', [{ type: 'aside-add', aside: { finding: finding.id, facts: factsOf(finding), reason } }])
    .rig

it('a finding set aside no longer counts, keeps its reason, and can be brought back', () => {
  const after = aside(rig)
  expect(parseRig(after)).toEqual({ ok: true, rig: after })
  const { findings, asides } = check(after)
  expect(findings).toHaveLength(check(rig).findings.length - 1)
  expect(asides).toMatchObject([{ finding: { id: finding.id }, reason: 'The show never uses both.' }])
  const back = perform(after, 'x', [{ type: 'aside-remove', finding: finding.id }]).rig
  expect(check(back).findings).toEqual(check(rig).findings)
})

it('it comes back when its facts change, not when something is renamed', () => {
  const renamed = perform(aside(rig), 'x', [
    { type: 'controller-set', controller: 'syzra', set: { name: 'X' } },
  ]).rig
  expect(check(renamed).asides).toHaveLength(1)
  const [place] = finding.at
  if (!place) throw new Error('no place')
  const { message: _, ...at } = place
  const cleared = perform(aside(rig), 'x', [{ type: 'assignment', at, assignment: null }]).rig
  expect(check(cleared).asides).toEqual([])
})

it('any finding can be set aside, however much it speaks of', () => {
  const { findings } = check(rig)
  const edits = findings.map((each) => ({
    type: 'aside-add' as const,
    aside: { finding: each.id, facts: factsOf(each), reason: 'x' },
  }))
  const after = perform(rig, 'x', edits).rig
  expect(parseRig(after)).toEqual({ ok: true, rig: after })
  expect(check(after).findings).toEqual([])
})

it('wants a reason', () => {
  expect(() => aside(rig, '  ')).toThrow(EditError)
})
