import * as z from 'zod/mini'
import { Accord, CheckedStep, HouseRule, LightRole, Passage, SetAside } from './agreements'
import { Box, Cable, Computer } from './cabling'
import { Controller, Model } from './controller'
import { Destination } from './destination'
import { Mapping } from './mapping'
import { apart, LIMITS, list, Name, or, orNull, Text } from './primitives'
import { Recipe, Rehearsed } from './proof'
import { Choice } from './template'
import { RIG_FORMAT, RIG_VERSION } from './version'

export { RIG_FORMAT, RIG_VERSION }

/** One player's whole set-up: the document. */
export const RigSchema = z.strictObject({
  format: z.literal(RIG_FORMAT),
  version: z.literal(RIG_VERSION),
  name: Name,
  notes: Text,
  /** Which octave number middle C has in this rig. */
  middleC: or(z.union([z.literal(3), z.literal(4), z.literal(5)]), 3),
  /** From which number programs are counted on screen. */
  programsFrom: or(z.union([z.literal(0), z.literal(1)]), 1),
  models: or(list(Model, LIMITS.controllers), []),
  controllers: or(list(Controller, LIMITS.controllers), []),
  destinations: or(list(Destination, 256), []),
  boxes: or(list(Box, 256), []),
  computers: or(list(Computer, 32), []),
  cables: or(list(Cable, 2000), []),
  mappings: or(list(Mapping, 100_000), []),
  choices: or(list(Choice, 5000), []),
  accords: or(list(Accord, 5000), []),
  lightRoles: or(list(LightRole, 256), []),
  passages: or(list(Passage, 256), []),
  houseRules: or(list(HouseRule, 1000), []),
  setAside: or(list(SetAside, 10_000), []),
  checklist: or(
    list(CheckedStep, 10_000).check(
      apart(
        ({ step }) => step,
        () => 'A step of the checklist is named once.',
      ),
    ),
    [],
  ),
  /** What the last rehearsal proved; null where there was none. */
  rehearsed: orNull(Rehearsed),
  /** How real hardware takes its templates. */
  recipes: or(list(Recipe, 64), []),
})
