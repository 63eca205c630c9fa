import * as z from 'zod/mini'
import { formed, Id, list, LIMITS, Name, or, orNull, Text, whole } from './primitives'
import { GestureKey, GestureRef } from './references'
import { Template } from './template'

/** A point in time, in UTC, as ISO 8601 writes it. */
export const Instant = formed(
  /^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,3})?Z$/,
  'must be a time such as 2026-05-04T19:30:00Z',
)

/** A checksum of what something rested on, to tell whether it has changed since. */
export const Mark = formed(/^[0-9a-f]{16}$/, 'must be sixteen hexadecimal digits')

const Sentence = z.string().check(z.maxLength(LIMITS.name * 10))

/** What the last rehearsal proved, and on what that rested. */
export const Rehearsed = z.strictObject({
  at: Instant,
  /** How many faults it found. */
  faults: or(whole(0, 1_000_000), 0),
  /** The first of them, in words. */
  findings: or(
    list(z.strictObject({ text: Sentence, cure: Sentence, gesture: orNull(GestureRef) }), 500),
    [],
  ),
  /** The mappings that did what they are to do, each with a mark of all that they rested on. */
  proven: or(z.record(Id, Mark), {}),
})

/** What the last line check of a controller found. */
export const LineChecked = z.strictObject({
  at: Instant,
  /** The gestures that were touched, in their layers: as written, or what came in its place. */
  lines: or(
    list(
      z.strictObject({
        template: Id,
        layer: orNull(Id),
        gesture: GestureKey,
        /** What came where it is not as written; null where it is. */
        came: orNull(z.string().check(z.maxLength(LIMITS.name * 2))),
      }),
      20_000,
    ),
    [],
  ),
  /** The causes that were named, as sentences. */
  causes: or(list(Name, 64), []),
})

/** What a memory place held once, kept before something else was stored over it. */
export const KeptTemplate = z.strictObject({ at: Instant, template: Template })

/** A numbered memory place of a controller. */
export const Slot = z.strictObject({
  number: whole(1, 1000),
  /** The template of the rig that it holds, as far as is known. */
  template: orNull(Id),
  memo: Text,
  /** When that was stored or fetched, and a mark of what it was then. */
  storedAt: orNull(Instant),
  mark: orNull(Mark),
  /** What was there before, the newest first. */
  kept: or(list(KeptTemplate, 8), []),
})

/**
 * How a piece of hardware takes its template by SysEx, written once from its manual: its message and its tables as the player
 * writes them, which are read where they are used.
 */
export const Recipe = z.strictObject({
  id: Id,
  name: Name,
  /** The kind of controller that it is for; null for any. */
  model: orNull(Id),
  notes: Text,
  message: Text,
  /** What asks the hardware for a template that it holds, in the same notation; empty where that is not known. */
  request: Text,
  /** What the hardware calls kinds of message, and behaviours. */
  kinds: Text,
  behaviours: Text,
  /** How long it wants to be left alone after each message, in ms. */
  waitMs: or(whole(0, 10_000), 20),
})
