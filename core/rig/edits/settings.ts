import * as z from 'zod/mini'
import { Controller as ControllerSchema, Hearing as HearingSchema, RigSchema } from '../schema'
import type { Controller, Hearing, Id, Rig } from '../types'
import {
  accepted,
  assignSet,
  EditError,
  editKind,
  requireController,
  requireDestination,
  requireItem,
} from './kit'

/** Change what concerns the rig as a whole. */
export interface RigSet {
  type: 'rig-set'
  set: Partial<Pick<Rig, 'name' | 'notes' | 'middleC' | 'programsFrom' | 'houseRules'>>
}

export interface ControllerSet {
  type: 'controller-set'
  controller: Id
  set: Partial<
    Pick<Controller, 'name' | 'letter' | 'hue' | 'homeChannel' | 'inUse' | 'notes' | 'deviceNumber'>
  >
}

/** Tell a destination what to listen to. */
export interface HearingSet {
  type: 'hearing-set'
  destination: Id
  for: 'playing' | 'learning'
  hearing: Hearing
}

const RigSettings = z.pick(RigSchema, {
  name: true,
  notes: true,
  middleC: true,
  programsFrom: true,
  houseRules: true,
})
const ControllerSettings = z.pick(ControllerSchema, {
  name: true,
  letter: true,
  hue: true,
  homeChannel: true,
  inUse: true,
  notes: true,
  deviceNumber: true,
})

/**
 * Change the settings of a rig. Refused if a house rule cannot be, or names a controller or block that is not
 * there.
 */
export const rigSet = editKind<RigSet>('rig-set', (rig, { set }) => {
  const { name, notes, middleC, programsFrom, houseRules } = rig
  const next = accepted(RigSettings, { name, notes, middleC, programsFrom, houseRules, ...set })
  const rules = set.houseRules ?? []
  if (new Set(rules.map(({ id }) => id)).size < rules.length)
    throw new EditError('Two house rules have one id; give each its own.')
  for (const rule of rules) {
    if (rule.controller === null) continue
    const { model } = requireController(rig, rule.controller)
    const blocks = rig.models.find(({ id }) => id === model)?.surface.blocks ?? []
    if (rule.block !== null) requireItem(blocks, rule.block, 'block')
  }
  assignSet(rig, set, next)
})

/** Change the settings of a controller. Refused if it is not there. */
export const controllerSet = editKind<ControllerSet>('controller-set', (rig, edit) => {
  const controller = requireController(rig, edit.controller)
  const { name, letter, hue, homeChannel, inUse, notes, deviceNumber } = controller
  const now = { name, letter, hue, homeChannel, inUse, notes, deviceNumber }
  assignSet(controller, edit.set, accepted(ControllerSettings, { ...now, ...edit.set }))
})

/** Say what a destination hears while it is played, or while it learns. Refused if it is not there. */
export const hearingSet = editKind<HearingSet>('hearing-set', (rig, edit) => {
  requireDestination(rig, edit.destination).hears[edit.for] = accepted(HearingSchema, edit.hearing)
})
