import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { check, type Finding } from '../../core/conflicts'
import { patched, perform, powerUpShowing, type Rig } from '../../core/rig'
import { sendingCc, testController, testRig } from '../../core/testing/rigs'
import { createAnalysis, MOST_SENT, type AnalysisReport, type AnalysisView } from './analysis'

const viewOf = (rig: Rig, more: Partial<AnalysisView> = {}): AnalysisView => ({
  bus: null,
  family: 'cc',
  parameters: false,
  showing: Object.fromEntries(
    rig.controllers.map((controller) => [controller.id, powerUpShowing(controller)]),
  ),
  ...more,
})

const foundIn = ({ findings }: AnalysisReport): readonly Finding[] => {
  if (findings === 'as-before') throw new Error('The findings did not cross.')
  return findings
}

describe('the analysis as the page sees it', () => {
  it('follows patches as the page makes them', async () => {
    const rig = nineRingsRig('as-found')
    const analysis = createAnalysis()
    analysis.load(rig, 1)
    const before = analysis.report(viewOf(rig))
    const [ghost] = foundIn(before).filter((finding) => finding.rule === 'ghost')
    const [fix] = await analysis.fixesOf(ghost?.id ?? '')
    const { rig: after, step } = perform(rig, 'x', fix?.edits ?? [])
    analysis.patch(JSON.stringify(step.patches), 2)
    const now = analysis.report(viewOf(after))
    expect(now.revision).toBe(2)
    expect(foundIn(now).map(({ id }) => id)).not.toContain(ghost?.id)
    expect(patched(rig, step.patches)).toEqual(after)
  })

  it('sends findings again only when they changed', () => {
    const rig = nineRingsRig('as-found')
    const analysis = createAnalysis()
    analysis.load(rig, 1)
    expect(foundIn(analysis.report(viewOf(rig))).length).toBeGreaterThan(0)
    const { step } = perform(rig, 'x', [{ type: 'rig-set', set: { notes: 'Seen.' } }])
    analysis.patch(JSON.stringify(step.patches), 2)
    expect(analysis.report(viewOf(rig))).toMatchObject({ revision: 2, findings: 'as-before' })
  })

  it('sends a lattice again only when it changed, and parameters only when asked for', () => {
    const rig = nineRingsRig('as-found')
    const analysis = createAnalysis()
    analysis.load(rig, 1)
    expect(analysis.report(viewOf(rig)).lattice).toMatchObject({ family: 'cc' })
    expect(analysis.report(viewOf(rig)).lattice).toBe('as-before')
    expect(analysis.report(viewOf(rig, { family: 'note' })).lattice).toMatchObject({ family: 'note' })
    expect(analysis.report(viewOf(rig)).parameters).toEqual([])
    expect(analysis.report(viewOf(rig, { parameters: true })).parameters.length).toBeGreaterThan(0)
  })

  it('counts all findings, and sends as many as can be read', () => {
    const count = MOST_SENT + 500
    const rig = testRig([testController('a', { 'k1.turn': sendingCc(20) })], undefined, {
      mappings: Array.from({ length: count }, (_, index) => ({
        id: `m${index}`,
        gesture: 'a/k1.turn',
        destination: 'd',
        parameter: 'p1',
      })),
    })
    const analysis = createAnalysis()
    analysis.load(rig, 1)
    const { findings, counts, rules } = analysis.report(viewOf(rig))
    expect(findings).toHaveLength(MOST_SENT)
    expect(counts.advice).toBe(count)
    expect(rules.find(({ id }) => id === 'unheard')?.count).toBe(count)
  })
})

it('tells the findings by cause when asked, each once', async () => {
  const analysis = createAnalysis()
  const rig = nineRingsRig('as-found')
  analysis.load(rig, 1)
  const causes = await analysis.causes()
  const { findings } = check(rig)
  expect(causes.flatMap((cause) => cause.findings).toSorted()).toEqual(
    findings.map(({ id }) => id).toSorted(),
  )
})
