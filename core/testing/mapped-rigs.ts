import { expect } from 'vitest'
import { onceTaught } from '../mappings'
import { perform, type Rig, type RigInput } from '../rig'
import { sendingCc, testController, testDestination, testRig, type Assigned } from './rigs'
import { check, newErrors } from '../conflicts'

export type MappingInput = NonNullable<RigInput['mappings']>[number]
export type CableInput = NonNullable<RigInput['cables']>[number]
export type DestinationInput = Parameters<typeof testDestination>[1]

/** What a rule says of a rig, each with its weight before it. */
export const told = (rig: Rig, rule: string): string[] =>
  check(rig)
    .findings.filter((finding) => finding.rule === rule)
    .map(({ severity, message }) => `${severity}: ${message}`)
/** How grave what a rule says is, finding by finding. */
export const severities = (rig: Rig, rule: string): string[] =>
  told(rig, rule).map((text) => text.slice(0, text.indexOf(':')))

/** The kinds of cures offered for what a rule finds; each must take its finding away, and bring no new error. */
export function cures(rig: Rig, rule: string): string[] {
  const before = check(rig)
  const finding = before.findings.find((each) => each.rule === rule)
  if (!finding) throw new Error(`${rule} found nothing`)
  return before.fixesOf(finding.id).map(({ kind, edits, teach }) => {
    const made = perform(rig, 'x', edits).rig
    const after = check(teach ? onceTaught(rig, made).rig : made)
    expect(after.findings.map(({ id }) => id)).not.toContain(finding.id)
    expect(newErrors(before, after)).toEqual([])
    return kind
  })
}

export const joined = (
  gesture: string | null,
  parameter: string,
  more: Partial<MappingInput> = {},
): MappingInput => ({
  id: `m-${gesture ?? 'none'}-${parameter}-${more.scope ?? ''}`.replaceAll(/[^a-z0-9-]/g, '-'),
  gesture,
  destination: 'd',
  parameter,
  ...more,
})
export const rigOf = (
  base: Assigned,
  mappings: MappingInput[] = [],
  destination: DestinationInput = {},
  more: Partial<RigInput> = {},
): Rig => testRig([testController('a', base)], [testDestination('d', destination)], { mappings, ...more })
export const plainCable: CableInput = {
  id: 'a-d',
  from: { owner: 'a', port: 'out' },
  to: { owner: 'd', port: 'in' },
}
export const ruled = (
  rules: CableInput['rules'],
  otherwise: 'pass' | 'stop' = 'pass',
): Partial<RigInput> => ({
  cables: [{ ...plainCable, rules, otherwise }],
})
export const rewrite = (match: object, to: object) => ({ kind: 'rewrite' as const, match, to })
export const merged = { hears: { playing: { channels: { kind: 'merged' as const } } } }
export const only = (...channels: number[]) => ({
  hears: { playing: { channels: { kind: 'only' as const, channels } } },
})
export const learned20 = joined('a/k1.turn', 'p1', { learnedAt: '1:cc20' })
export const sends20 = { 'k1.turn': sendingCc(20) }

/** Two controllers, each with what it sends. */
export const two = (
  a: Assigned,
  b: Assigned,
  ...rest: Parameters<typeof testRig> extends [unknown, ...infer R] ? R : never
): Rig => testRig([testController('a', a), testController('b', b)], ...rest)

/** A destination with a parameter that takes CC 74 only. */
export const bright = testDestination('d', {
  parameters: [
    { id: 'p1', name: 'One' },
    { id: 'bright', name: 'Bright', fixed: { kind: 'cc', number: 74 } },
  ],
})

/** The only mapping of a rig. */
export const joinedAlone = (
  gesture: string,
  parameter: string,
  learnedAt: string | null = null,
): MappingInput[] => [{ id: 'm', gesture, destination: 'd', parameter, learnedAt }]
