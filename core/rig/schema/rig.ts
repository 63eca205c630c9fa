import { z } from 'zod'
import { Accord, HouseRule, LightRole, Passage, SetAside } from './agreements'
import { Box, Cable, Computer } from './cabling'
import { Controller, Model } from './controller'
import { Destination } from './destination'
import { Mapping } from './mapping'
import { LIMITS, Name, Text } from './primitives'
import { Choice } from './template'

export const RIG_FORMAT = 'deft-lattice/rig'
export const RIG_VERSION = 1

/** One player's whole set-up: the document. */
export const RigSchema = z.strictObject({
  format: z.literal(RIG_FORMAT),
  version: z.literal(RIG_VERSION),
  name: Name,
  notes: Text,
  /** Which octave number middle C has in this rig. */
  middleC: z.union([z.literal(3), z.literal(4), z.literal(5)]).default(3),
  /** From which number programs are counted on screen. */
  programsFrom: z.union([z.literal(0), z.literal(1)]).default(1),
  models: z.array(Model).max(LIMITS.controllers).default([]),
  controllers: z.array(Controller).max(LIMITS.controllers).default([]),
  destinations: z.array(Destination).max(256).default([]),
  boxes: z.array(Box).max(256).default([]),
  computers: z.array(Computer).max(32).default([]),
  cables: z.array(Cable).max(2000).default([]),
  mappings: z.array(Mapping).max(100_000).default([]),
  choices: z.array(Choice).max(5000).default([]),
  accords: z.array(Accord).max(5000).default([]),
  lightRoles: z.array(LightRole).max(256).default([]),
  passages: z.array(Passage).max(256).default([]),
  houseRules: z.array(HouseRule).max(1000).default([]),
  setAside: z.array(SetAside).max(10_000).default([]),
})
