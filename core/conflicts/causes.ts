import { controlName, findGesture, rigIndex, splitGestureKey, type Id, type Rig } from '../rig'
import { SEVERITIES, type Finding, type Severity } from './finding'
import { TOPICS, type Topic } from './rule'
import { RULES } from './rules'
import { listed } from './words'

/** Findings that are there for one reason, as far as can be told: told as one thing. */
export interface Cause {
  id: string
  /** What they have in common, as a heading; the finding's own sentence says more where there is only one. */
  title: string
  severity: Severity
  findings: readonly Finding[]
  /** How many controls it touches. */
  controls: number
}

/** Something that several findings may be there for. */
interface Candidate {
  key: string
  title: () => string
  /** Of two that explain as many, the lower is nearer. */
  rank: number
  /** So many findings it has to explain. */
  least: number
}

/** A finding about more controls than these is not there for one of them. */
const FEW_CONTROLS = 4
/** From so many findings of one rule at one controller or destination on, that is the cause. */
const MANY = 3

const RULE_BY_ID = new Map(RULES.map((rule) => [rule.id, rule]))

const controllersOf = ({ at }: Finding): Id[] => [...new Set(at.map(({ controller }) => controller))]

/** The one channel that a finding is about; null where there are several or none. */
function channelOf({ addresses }: Finding): number | null {
  const channels = new Set(addresses.map((address) => (address.scope === 'channel' ? address.channel : null)))
  const [only] = channels
  return channels.size === 1 && typeof only === 'number' ? only : null
}

function candidatesOf(rig: Rig, finding: Finding): Candidate[] {
  const { controllers, destinations } = rigIndex(rig)
  const rule = RULE_BY_ID.get(finding.rule)
  const nameOf = (id: Id): string => controllers.get(id)?.name ?? destinations.get(id)?.name ?? ''
  const found: Candidate[] = []
  const owners = controllersOf(finding)
  const channel = channelOf(finding)
  if (rule?.topic === 'meeting' && channel !== null && owners.length > 0 && owners.length < 4) {
    const sorted = owners.toSorted()
    found.push({
      key: `channel ${channel} ${sorted.join(' ')}`,
      title: () => `${listed(owners.map(nameOf))} on channel ${channel}`,
      rank: 0,
      least: 2,
    })
  }
  for (const { kind, id } of finding.things)
    found.push({
      key: `${kind} ${id}`,
      title: () => (kind === 'cable' ? cableName(rig, id) : thingName(rig, id)),
      rank: 1,
      least: 2,
    })
  const few = controlsIn([finding]) <= FEW_CONTROLS ? finding.at : []
  for (const { controller, gesture } of few) {
    const { control } = splitGestureKey(gesture)
    found.push({
      key: `control ${controller}/${control}`,
      title: () => {
        const known = findGesture(rig, `${controller}/${gesture}`)
        return `${known ? controlName(known.control) : control} (${nameOf(controller)})`
      },
      rank: 2,
      least: 2,
    })
  }
  for (const device of [...owners, ...finding.destinations])
    found.push({
      key: `at ${device} ${finding.rule}`,
      title: () => `${rule?.title ?? ''}: ${nameOf(device)}`,
      rank: 3,
      least: MANY,
    })
  return found
}

function cableName(rig: Rig, id: Id): string {
  const cable = rig.cables.find((each) => each.id === id)
  return cable
    ? `The cable ${thingName(rig, cable.from.owner)} → ${thingName(rig, cable.to.owner)}`
    : 'A cable'
}

const thingName = (rig: Rig, id: Id): string =>
  [...rig.controllers, ...rig.destinations, ...rig.boxes, ...rig.computers].find((each) => each.id === id)
    ?.name ?? ''

const weight = (severity: Severity): number => SEVERITIES.indexOf(severity)

function controlsIn(findings: readonly Finding[]): number {
  const controls = new Set<string>()
  for (const { at } of findings)
    for (const { controller, gesture } of at)
      controls.add(`${controller}/${splitGestureKey(gesture).control}`)
  return controls.size
}

function causeOf(id: string, title: string, findings: readonly Finding[]): Cause {
  const [worst] = findings.toSorted((a, b) => weight(a.severity) - weight(b.severity))
  return { id, title, severity: worst?.severity ?? 'advice', findings, controls: controlsIn(findings) }
}

/**
 * Findings by what they are there for: the few things that explain most of them first (a greedy set cover), each finding
 * under one. What is left with no more in common than its topic stands under that; what is alone, by itself. Worst first,
 * then those that touch most controls.
 */
export function causesOf(rig: Rig, findings: readonly Finding[]): Cause[] {
  const members = new Map<string, { candidate: Candidate; findings: Set<Finding> }>()
  const candidates = new Map<Finding, Candidate[]>()
  for (const finding of findings) {
    const own = [...new Map(candidatesOf(rig, finding).map((each) => [each.key, each])).values()]
    candidates.set(finding, own)
    for (const candidate of own) {
      const known = members.get(candidate.key) ?? { candidate, findings: new Set<Finding>() }
      known.findings.add(finding)
      members.set(candidate.key, known)
    }
  }

  const causes: Cause[] = []
  const open = new Set(findings)
  for (;;) {
    let best: { candidate: Candidate; findings: Set<Finding> } | null = null
    for (const [key, each] of members) {
      const { size } = each.findings
      if (size < each.candidate.least) {
        members.delete(key)
        continue
      }
      const than = best?.findings.size ?? 0
      if (size > than || (size === than && best && each.candidate.rank < best.candidate.rank)) best = each
    }
    if (!best) break
    const covered = [...best.findings]
    causes.push(causeOf(best.candidate.key, best.candidate.title(), covered))
    for (const finding of covered) {
      open.delete(finding)
      for (const { key } of candidates.get(finding) ?? []) members.get(key)?.findings.delete(finding)
    }
  }

  const byTopic = new Map<Topic, Finding[]>()
  for (const finding of open) {
    const topic = RULE_BY_ID.get(finding.rule)?.topic ?? 'values'
    byTopic.set(topic, [...(byTopic.get(topic) ?? []), finding])
  }
  for (const [topic, left] of byTopic) {
    const [only] = left
    if (left.length === 1 && only) causes.push(causeOf(only.id, RULE_BY_ID.get(only.rule)?.title ?? '', left))
    else causes.push(causeOf(`topic ${topic}`, TOPICS[topic], left))
  }
  return causes.sort((a, b) => weight(a.severity) - weight(b.severity) || b.controls - a.controls)
}
