import type { Occupancy, SenderChange } from '../../addresses'
import type { CheckContext } from '../context'

/** A change of senders, with who sends where before and after it. */
export interface Changed {
  before: Occupancy
  after: Occupancy
  change: SenderChange
}

/**
 * The part of a rig that rules of one reach have to look at again, as it was and as it is. What they found in
 * the part as it was is taken back; `all`: everything they found is.
 */
export interface AffectedScope {
  before: CheckContext | 'all'
  after: CheckContext
}

/** Finds the part for a change; null where these rules would find what they found before. */
export type AffectedScopeOf = (changed: Changed) => AffectedScope | null
