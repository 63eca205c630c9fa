import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { anyMappedRig, anyRig } from '../testing/rigs'
import { causesOf } from './causes'
import { check } from './checked'
import { SEVERITIES } from './finding'
import { cases } from '../testing/cases'

describe('findings by cause', () => {
  it('each finding stands under one cause; worst first, then those that touch most', () => {
    fc.assert(
      fc.property(fc.oneof(anyRig, anyMappedRig), (rig) => {
        const { findings } = check(rig)
        const causes = causesOf(rig, findings)
        const told = causes.flatMap((cause) => cause.findings.map(({ id }) => id))
        expect(told.toSorted()).toEqual(findings.map(({ id }) => id).toSorted())
        expect(new Set(causes.map(({ id }) => id)).size).toBe(causes.length)
        for (const { title, severity, findings: own } of causes) {
          expect(title).not.toBe('')
          expect(own.some((finding) => finding.severity === severity)).toBe(true)
          const worst = Math.min(...own.map((finding) => SEVERITIES.indexOf(finding.severity)))
          expect(SEVERITIES.indexOf(severity)).toBe(worst)
        }
        const order = causes.map(({ severity, controls }) => SEVERITIES.indexOf(severity) * 1e6 - controls)
        expect(order).toEqual(order.toSorted((a, b) => a - b))
      }),
      cases(50),
    )
  })

  it('the demo as found reads as about a dozen things', () => {
    const rig = nineRingsRig('as-found')
    const { findings } = check(rig)
    const causes = causesOf(rig, findings)
    expect(findings.length).toBeGreaterThan(35)
    expect(causes.length).toBeLessThanOrEqual(15)
    expect(causes.map(({ title }) => title)).toContain('The cable Junction → Dome laptop')
  })

  it('what one cable makes of many is one thing', () => {
    const rig = nineRingsRig('as-performed')
    expect(check(rig).findings).toEqual([])
    const cables = rig.cables.filter(({ id }) => id !== 'syzra-to-laptop')
    const pulled = { ...rig, cables }
    const { findings } = check(pulled)
    expect(findings.length).toBeGreaterThan(2)
    expect(causesOf(pulled, findings)[0]?.title).toBe('Not heard: Syzra 24')
  })
})
