import * as z from 'zod/mini'
import { Controller as ControllerSchema, Hearing as HearingSchema, RigSchema } from '../schema'
import type { Controller, Hearing, Id, Rig } from '../types'
import { accepted, EditError, editKind, requireController, requireDestination } from './kit'

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

export const rigSet = editKind<RigSet>('rig-set', (rig, { set }) => {
  const { name, notes, middleC, programsFrom, houseRules } = rig
  for (const rule of set.houseRules ?? []) {
    if (rule.low > rule.high) throw new EditError('A house rule runs from the lower number to the higher.')
    if (rule.controller !== null) requireController(rig, rule.controller)
  }
  Object.assign(rig, accepted(RigSettings, { name, notes, middleC, programsFrom, houseRules, ...set }))
})

export const controllerSet = editKind<ControllerSet>('controller-set', (rig, edit) => {
  const controller = requireController(rig, edit.controller)
  const { name, letter, hue, homeChannel, inUse, notes, deviceNumber } = controller
  const now = { name, letter, hue, homeChannel, inUse, notes, deviceNumber }
  Object.assign(controller, accepted(ControllerSettings, { ...now, ...edit.set }))
})

export const hearingSet = editKind<HearingSet>('hearing-set', (rig, edit) => {
  requireDestination(rig, edit.destination).hears[edit.for] = accepted(HearingSchema, edit.hearing)
})
