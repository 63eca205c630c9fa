import { SetAside as SetAsideSchema } from '../schema'
import type { SetAside } from '../types'
import { accepted, EditError, editKind } from './kit'

/** Set a finding aside, with the facts it rests on and a reason; setting it aside again replaces both. */
export interface AsideAdd {
  type: 'aside-add'
  aside: SetAside
}

/** Let a finding count again. */
export interface AsideRemove {
  type: 'aside-remove'
  finding: string
}

/** Set a finding aside, in place of what was said of it before. Refused without a reason. */
export const asideAdd = editKind<AsideAdd>('aside-add', (rig, edit) => {
  const aside = accepted(SetAsideSchema, edit.aside)
  if (aside.reason.trim() === '') throw new EditError('Say in a few words why it may stay.')
  rig.setAside = [...rig.setAside.filter(({ finding }) => finding !== aside.finding), aside]
})

/** Let a finding count again. Refused if it is not set aside. */
export const asideRemove = editKind<AsideRemove>('aside-remove', (rig, edit) => {
  if (!rig.setAside.some(({ finding }) => finding === edit.finding))
    throw new EditError('This finding is not set aside.')
  rig.setAside = rig.setAside.filter(({ finding }) => finding !== edit.finding)
})
