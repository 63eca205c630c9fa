import { printTag, type Address } from '../midi'
import {
  fixedTarget,
  parameterOf,
  rigIndex,
  type Destination,
  type Mapping,
  type Parameter,
  type Rig,
} from '../rig'

/** Where a mapping's parameter listens, and why: by the destination's own chart, or learned. */
export interface Listening {
  by: 'chart' | 'learning'
  /** Its channel is null where any will do. */
  address: Address
}

/** Where a parameter listens by its destination's own chart, or null if it has to learn. */
export const chartedAt = ({ fixed }: Parameter): Listening | null =>
  fixed && {
    by: 'chart',
    address: { scope: 'channel', channel: fixed.channel, target: fixedTarget(fixed) },
  }

/** Where a mapping's destination listens for it, or null while it has not been taught. */
export const listeningOf = (mapping: Mapping, parameter: Parameter | null): Listening | null =>
  (parameter && chartedAt(parameter)) ??
  (mapping.learnedAt === null ? null : { by: 'learning', address: mapping.learnedAt })

/** A listening address in writing; without channel where any will do. */
export const printListening = ({ address }: Listening): string => printTag(address)

/** What a mapping moves, or null if it is gone. */
export const mappingParameter = (
  rig: Rig,
  mapping: Mapping,
): { destination: Destination; parameter: Parameter } | null => {
  const destination = rigIndex(rig).destinations.get(mapping.destination)
  const parameter = destination ? parameterOf(destination, mapping.parameter) : null
  return destination && parameter ? { destination, parameter } : null
}
