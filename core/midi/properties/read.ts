import * as z from 'zod/mini'
import { SEVEN_MAX } from '../ranges'
import {
  PROPERTY_KINDS,
  PROPERTY_WAYS,
  type PropertyChannel,
  type PropertyControl,
  type PropertyDocument,
  type PropertyProgram,
} from './document'
import { narrowed } from './scale'

export type PropertiesRead =
  | {
      ok: true
      properties: PropertyDocument
      /** What was left out, and why, in sentences. */
      left: readonly string[]
    }
  | { ok: false; message: string }

/** So large no device’s list is. */
const MOST = { letters: 8_000_000, entries: 20_000 } as const
const SEVEN_BITS = 7
const WIDE_MAX = 2 ** 32 - 1

const Title = z.string().check(z.maxLength(2000))
const Seven = z.int().check(z.minimum(0), z.maximum(SEVEN_MAX))
const Channel = z.int().check(z.minimum(1), z.maximum(16))
const Wide = z.int().check(z.minimum(0), z.maximum(WIDE_MAX))

const DeviceInfo = z.object({
  manufacturer: z.optional(Title),
  family: z.optional(Title),
  model: z.optional(Title),
  version: z.optional(Title),
})
const ChannelEntry = z.object({ title: Title, channel: Channel })
const ProgramEntry = z.object({ title: Title, bankPC: z.tuple([Seven, Seven, Seven]) })
const ControlEntry = z
  .object({
    title: Title,
    ctrlType: z.enum(PROPERTY_KINDS),
    ctrlIndex: z.optional(z.array(Seven).check(z.maxLength(2))),
    channel: z.optional(z.nullable(Channel)),
    transmit: z.optional(z.enum(PROPERTY_WAYS)),
    recognize: z.optional(z.enum(PROPERTY_WAYS)),
    numSigBits: z.optional(z.int().check(z.minimum(1), z.maximum(32))),
    stepCount: z.optional(z.nullable(z.int().check(z.minimum(0), z.maximum(WIDE_MAX)))),
    minMax: z.optional(z.tuple([Wide, Wide])),
  })
  .check(
    z.refine(({ ctrlType, ctrlIndex }) => (ctrlIndex?.length ?? 0) >= WANTED_PARTS[ctrlType], {
      path: ['ctrlIndex'],
      message: 'has not as many parts as its kind of controller needs',
    }),
  )

/** Of how many parts the number of a kind is. */
const WANTED_PARTS: Readonly<Record<(typeof PROPERTY_KINDS)[number], number>> = {
  cc: 1,
  nrpn: 2,
  rpn: 2,
  pBend: 0,
  chPress: 0,
  pPress: 0,
}

function controlFrom(entry: z.infer<typeof ControlEntry>): PropertyControl {
  const {
    title,
    ctrlType,
    ctrlIndex = [],
    channel,
    transmit,
    recognize,
    numSigBits,
    stepCount,
    minMax,
  } = entry
  const [first = 0, second = 0] = ctrlIndex
  const bits = Math.max(SEVEN_BITS, numSigBits ?? SEVEN_BITS)
  const isParameter = ctrlType === 'nrpn' || ctrlType === 'rpn'
  return {
    title,
    kind: ctrlType,
    number: isParameter ? (first << SEVEN_BITS) + second : first,
    channel: channel ?? null,
    // What says neither is sent and heard.
    transmit: transmit ?? 'absolute',
    recognize: recognize ?? 'absolute',
    bits,
    steps: stepCount ?? null,
    range: minMax ? { low: narrowed(minMax[0], bits), high: narrowed(minMax[1], bits) } : null,
  }
}

const titleOf = (value: unknown): string => {
  const named = typeof value === 'object' && value !== null && 'title' in value ? value.title : undefined
  return typeof named === 'string' && named !== '' ? `“${named.slice(0, 80)}”` : 'An entry without a title'
}

/** The entries of a list that can be read; each of the others is named with what is wrong with it. */
function entriesOf<T>(resource: string, value: unknown, schema: z.ZodMiniType<T>, left: string[]): T[] {
  if (value === undefined) return []
  if (!Array.isArray(value)) {
    left.push(`${resource} is left out: it should be a list.`)
    return []
  }
  if (value.length > MOST.entries)
    left.push(`${resource} has ${value.length} entries; only the first ${MOST.entries} are read.`)
  return value.slice(0, MOST.entries).flatMap((entry: unknown, index): T[] => {
    const parsed = schema.safeParse(entry)
    if (parsed.success) return [parsed.data]
    const at = parsed.error.issues[0]?.path.join('.') ?? ''
    left.push(
      `${titleOf(entry)} is left out: entry ${index + 1} of ${resource}${at === '' ? ' is none' : ` has no ${at} that can be used`}.`,
    )
    return []
  })
}

const has = (value: unknown, field: string): boolean =>
  typeof value === 'object' && value !== null && Object.hasOwn(value, field)

/** Which resource a list by itself is, by what its entries have. */
function named(value: unknown): Record<string, unknown> | null {
  if (!Array.isArray(value)) {
    if (typeof value !== 'object' || value === null) return null
    return has(value, 'manufacturerId') ? { DeviceInfo: value } : (value as Record<string, unknown>)
  }
  const [first] = value as unknown[]
  if (has(first, 'ctrlType')) return { AllCtrlList: value }
  if (has(first, 'bankPC') && !has(first, 'channel')) return { ProgramList: value }
  return has(first, 'channel') ? { ChannelList: value } : null
}

const RESOURCES = ['DeviceInfo', 'ChannelList', 'AllCtrlList', 'ChCtrlList', 'ProgramList'] as const

const NOT_ONE =
  'This is no list of properties: it should hold DeviceInfo, ChannelList, AllCtrlList or ProgramList, as MIDI-CI property exchange has them.'

/**
 * Read resources of MIDI-CI property exchange from JSON text: one of them as a device answers it, or several under their names. Entries
 * that cannot be used are left out and named; a text that is none of it is refused, with what to do.
 */
export function readProperties(text: string): PropertiesRead {
  if (text.length > MOST.letters)
    return {
      ok: false,
      message: `This is larger than ${MOST.letters / 1_000_000} MB: no device says so much. Choose another file.`,
    }
  let value: unknown
  try {
    value = JSON.parse(text.replace(/^\ufeff/, ''))
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error)
    return { ok: false, message: `This is no JSON (${why}). Choose the file as it came from the device.` }
  }
  const resources = named(value)
  if (!resources || !RESOURCES.some((resource) => Object.hasOwn(resources, resource)))
    return { ok: false, message: NOT_ONE }
  const left: string[] = []
  const device = DeviceInfo.safeParse(resources.DeviceInfo)
  const lists = (['AllCtrlList', 'ChCtrlList'] as const).flatMap((resource) =>
    entriesOf(resource, resources[resource], ControlEntry, left),
  )
  const programs = entriesOf('ProgramList', resources.ProgramList, ProgramEntry, left)
  return {
    ok: true,
    left,
    properties: {
      device: device.success
        ? {
            manufacturer: device.data.manufacturer ?? '',
            family: device.data.family ?? '',
            model: device.data.model ?? '',
            version: device.data.version ?? '',
          }
        : null,
      channels: entriesOf('ChannelList', resources.ChannelList, ChannelEntry, left) as PropertyChannel[],
      controls: lists.map(controlFrom),
      programs: programs.map(({ title, bankPC: [msb, lsb, number] }): PropertyProgram => ({
        title,
        bank: { msb, lsb },
        number,
      })),
    },
  }
}
