import { landedAt } from '../../addresses'
import { printTag, type SentMessage } from '../../midi'
import type { GestureRef, Id, Rig, Showing } from '../../rig'

/** One place that a message passes on its way from a hand to a parameter, in words. */
export interface Station {
  kind: 'control' | 'layer' | 'message' | 'cable' | 'port' | 'destination' | 'parameter' | 'value'
  title: string
  detail: string
}

/** The way of what a gesture sends to a parameter, as far as it goes. */
export interface Trace {
  gesture: GestureRef | null
  destination: Id | null
  parameter: Id | null
  mapping: Id | null
  /** What it passes, in order. Where it is lost, the last one is where. */
  stations: readonly Station[]
  /** Why it goes no further than the last station, and what to do; null where it arrives. */
  broken: { why: string; cure: string } | null
}

/** What a rig shows while a trace is made; what is not said is as at power-up, in no scope. */
export interface TraceFrom {
  showing?: Readonly<Record<Id, Showing | undefined>>
  scopes?: Readonly<Record<Id, Id | null | undefined>>
  /** What is selected in destinations; the first that can be where it is not said. */
  selected?: Readonly<Record<Id, string | null | undefined>>
}

/** A trace while it is made. */
export interface Walk {
  rig: Rig
  stations: Station[]
  broken: Trace['broken']
}

/** The message comes to one more station. */
export const pass = ({ stations }: Walk, kind: Station['kind'], title: string, detail: string): void => {
  stations.push({ kind, title, detail })
}
/** The way ends at the last station. */
export const lose = (walk: Walk, why: string, cure: string): null => {
  walk.broken = { why, cure }
  return null
}

/** Where a message lands, in writing. */
export const tagsOf = (message: SentMessage): string => landedAt(message).map(printTag).join(', ')
