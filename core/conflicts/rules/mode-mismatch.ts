import { drivesOf, mappingName, type Drive, type ResolvedMapping } from '../../mappings'
import { ENCODING_WORDS, memoOfTwo, type Mapping, type RelativeEncoding, type RigEdit } from '../../rig'
import { coverageOf, mappedRange, plainNumber, type Travel } from '../../values'
import { keepsState } from '../../midi'
import type { CheckContext } from '../context'
import type { Draft, Fix, Severity } from '../finding'
import type { Rule } from '../rule'
import { senderWords, sentAddresses } from '../words'

interface Mismatch {
  severity: Severity
  /** What is wrong, between who sends and what is moved. */
  says: (who: string, name: string) => string
  fixes: (drives: readonly Drive[]) => readonly Fix[]
}

const expect = (mapping: Mapping, expects: Mapping['expects'], label: string): Fix => ({
  id: `expect-${mapping.id}-${expects.kind}`,
  kind: 'expect',
  label,
  edits: [{ type: 'mapping-set', mapping: mapping.id, set: { expects } }],
})

const expectClicks = (mapping: Mapping, encoding: RelativeEncoding): Fix =>
  expect(mapping, { kind: 'relative', encoding }, `Let it expect clicks in ${ENCODING_WORDS[encoding]}`)

/** Buttons that keep on and off themselves send one value at each press instead. */
function triggered(drives: readonly Drive[]): Fix[] {
  const edits = drives.flatMap(({ sender: { message, place, messageIndex } }): RigEdit[] =>
    'behaviour' in message
      ? [
          {
            type: 'message',
            at: place,
            index: messageIndex,
            message: { ...message, behaviour: { kind: 'trigger' } },
          },
        ]
      : [],
  )
  return edits.length === 0
    ? []
    : [{ id: 'behave-trigger', kind: 'behave', label: 'Let it send at each press', edits }]
}

const flips = ({ mapping, parameter }: ResolvedMapping): boolean =>
  mapping.expects.kind === 'press' || parameter.kind === 'action'

/** What is wrong with how one message moves a parameter, or null. */
function mismatchOf(resolved: ResolvedMapping, { travel }: Drive): Mismatch | null {
  const { mapping } = resolved
  const { expects } = mapping
  if (travel.kind === 'clicks' && travel.encoding !== 'increments') {
    const { encoding } = travel
    if (expects.kind === 'relative') {
      return expects.encoding === encoding
        ? null
        : {
            severity: 'error',
            says: (who, name) =>
              `${who} sends clicks in ${ENCODING_WORDS[encoding]}, but ${name} expects ${ENCODING_WORDS[expects.encoding]}: some clicks will go the wrong way.`,
            fixes: () => [expectClicks(mapping, encoding)],
          }
    }
    return {
      severity: 'error',
      says: (who, name) =>
        `${who} sends clicks, but ${name} expects ${expects.kind === 'press' ? 'presses' : 'positions'}: it will jump between its ends.`,
      fixes: () => [expectClicks(mapping, encoding)],
    }
  }
  if (expects.kind === 'relative' && (travel.kind === 'sweep' || travel.kind === 'points')) {
    return {
      severity: 'error',
      says: (who, name) => `${who} sends positions, but ${name} expects clicks: it will run to one end.`,
      fixes: () => [expect(mapping, { kind: 'absolute' }, 'Let it expect positions')],
    }
  }
  if (flips(resolved) && keepsState(travel)) {
    return {
      severity: 'error',
      says: (who, name) =>
        `${who} keeps on and off in the hardware, but ${name} acts at each press: every second press is lost.`,
      fixes: triggered,
    }
  }
  return null
}

type Sweep = Extract<Travel, { kind: 'sweep' }>

// To go through what a control reaches takes longer than the rest of the rule.
const coverage = memoOfTwo((sweep: Sweep, { mapping, parameter }: ResolvedMapping) =>
  coverageOf(sweep, mappedRange(mapping, parameter)),
)

/** Values that a finer message of the same control would reach. */
function resolutionLost(
  { rig }: CheckContext,
  resolved: ResolvedMapping,
  drives: readonly Drive[],
): Mismatch | null {
  const { mapping, destination, parameter } = resolved
  if (mapping.expects.kind !== 'absolute' || parameter.kind !== 'continuous') return null
  if (!destination.learns.includes('cc14')) return null
  const [drive] = drives
  if (drive?.message.kind !== 'cc' || drive.travel.kind !== 'sweep') return null
  const { count } = drive.travel
  const owner = rig.controllers.find(({ id }) => id === drive.sender.place.controller)
  const model = rig.models.find(({ id }) => id === owner?.model)
  if (!model?.abilities.fourteenBit) return null
  const { missed, smallestStep } = coverage(drive.travel, resolved)
  if (!missed || missed.count === 0 || smallestStep === null) return null
  return {
    severity: 'advice',
    says: (who, name) =>
      `${who} sends ${count} values, so ${name} moves in steps of ${plainNumber(smallestStep)} and never takes ${missed.count} of its ${missed.of} values: a 14-bit number would.`,
    fixes: () => [],
  }
}

function draft(
  { rig }: CheckContext,
  { mapping, destination }: ResolvedMapping,
  drives: readonly Drive[],
  mismatch: Mismatch,
): Draft {
  const senders = drives.map(({ sender }) => sender)
  return {
    severity: mismatch.severity,
    message: mismatch.says(senderWords(rig, senders), mappingName(rig, mapping)),
    senders,
    addresses: sentAddresses(senders),
    destinations: [destination.id],
    about: mapping.id,
    cures: () => mismatch.fixes(drives),
  }
}

/** A control sends in another manner than its parameter expects: clicks for positions, kept for pressed. */
export const modeMismatch: Rule = {
  id: 'mode-mismatch',
  title: 'Sent one way, expected another',
  topic: 'values',
  reach: 'mapping',
  extent: 'everywhere',
  find: (context) =>
    context.resolved().flatMap((resolved): Draft[] => {
      const drives = drivesOf(context.rig, resolved)
      const wrong = drives.flatMap((drive) => {
        const mismatch = mismatchOf(resolved, drive)
        return mismatch ? [{ drive, mismatch }] : []
      })
      const [first] = wrong
      if (first)
        return [
          draft(
            context,
            resolved,
            wrong.map(({ drive }) => drive),
            first.mismatch,
          ),
        ]
      const lost = resolutionLost(context, resolved, drives)
      return lost ? [draft(context, resolved, drives, lost)] : []
    }),
}
