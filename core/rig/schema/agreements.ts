import * as z from 'zod/mini'
import { Channel, Colour, Id, Letter, LIMITS, list, Name, or, orNull, Seven, Text } from './primitives'
import { GestureRef } from './references'

/** Sharing on purpose: these gestures may meet at one address. */
export const Accord = z.strictObject({
  id: Id,
  name: Name,
  reason: Text,
  gestures: list(GestureRef, 256, 2).check(
    z.refine((gestures) => new Set(gestures).size === gestures.length, 'must name each gesture once'),
  ),
})

export const LightRole = z.strictObject({
  id: Id,
  name: Name,
  /** A letter that stands for it where there is no colour. */
  letter: Letter,
  states: list(
    z.strictObject({
      name: Name,
      colour: Colour,
      /** The least value sent back by a destination that means it; null where the values are shared out evenly. */
      from: orNull(Seven),
    }),
    16,
    1,
  ),
})

/** A part of the show: what every controller shows, and which scope every destination is in. */
export const Passage = z.strictObject({
  id: Id,
  name: Name,
  showing: or(
    z.array(
      z.strictObject({
        controller: Id,
        template: Id,
        layers: or(z.array(z.strictObject({ stack: Id, layer: z.nullable(Id) })), []),
      }),
    ),
    [],
  ),
  scopes: or(z.array(z.strictObject({ destination: Id, scope: z.nullable(Id) })), []),
})

/** A preference for handing out numbers. */
export const HouseRule = z
  .strictObject({
    id: Id,
    kind: z.enum(['prefer', 'avoid']),
    message: or(z.enum(['cc', 'cc14', 'note', 'nrpn', 'program']), 'cc'),
    channel: orNull(Channel),
    low: Seven,
    high: Seven,
    /** For whom it holds; null is the whole rig. */
    controller: orNull(Id),
    block: orNull(Id),
    memo: Text,
  })
  .check(
    z.refine(({ low, high }) => low <= high, {
      path: ['low'],
      error: 'A house rule runs from the lower number to the higher.',
    }),
    z.refine(({ controller, block }) => controller !== null || block === null, {
      path: ['block'],
      error: 'A house rule for a block needs the controller it is on.',
    }),
  )

/** What a player said of one step of the set-up checklist: done, or a word to it. */
export const CheckedStep = z.strictObject({
  /** The step, by what it is about and what is to be done. */
  step: z.string().check(z.minLength(1), z.maxLength(LIMITS.name * 2)),
  done: or(z.boolean(), false),
  memo: Text,
})

/** A finding set aside, with the facts it rested on, so that it returns when they change. */
export const SetAside = z.strictObject({
  finding: z.string().check(z.maxLength(LIMITS.name * 2)),
  facts: z.string().check(z.maxLength(LIMITS.text)),
  reason: Text,
})
