import { Accord as AccordSchema } from '../schema'
import type { Accord, Id } from '../types'
import { accepted, editKind, requireGesture, requireItem, requireNewId } from './kit'

export interface AccordAdd {
  type: 'accord-add'
  accord: Accord
}

export interface AccordRemove {
  type: 'accord-remove'
  accord: Id
}

/** Give an accord another name, reason, or other gestures. */
export interface AccordSet {
  type: 'accord-set'
  accord: Id
  set: Partial<Omit<Accord, 'id'>>
}

/** Share on purpose. Refused if a gesture is not there, or the accord has been added already. */
export const accordAdd = editKind<AccordAdd>('accord-add', (rig, edit) => {
  const accord = accepted(AccordSchema, edit.accord)
  requireNewId(rig.accords, accord.id)
  accord.gestures.forEach((gesture) => requireGesture(rig, gesture))
  rig.accords.push(accord)
})

/** Change an accord. Refused if it, or a gesture that it names, is not there. */
export const accordSet = editKind<AccordSet>('accord-set', (rig, edit) => {
  const accord = requireItem(rig.accords, edit.accord, 'agreement')
  const next = accepted(AccordSchema, { ...accord, ...edit.set, id: accord.id })
  next.gestures.forEach((gesture) => requireGesture(rig, gesture))
  Object.assign(accord, next)
})

/** Share no longer. Refused if the accord is not there. */
export const accordRemove = editKind<AccordRemove>('accord-remove', (rig, edit) => {
  requireItem(rig.accords, edit.accord, 'agreement')
  rig.accords = rig.accords.filter((accord) => accord.id !== edit.accord)
})
