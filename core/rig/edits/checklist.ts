import { CheckedStep as CheckedStepSchema } from '../schema'
import type { CheckedStep } from '../types'
import { accepted, EditError, editKind } from './kit'

/** Tick a step of the set-up checklist, take the tick back, or write a word to it. */
export interface StepSet {
  type: 'step-set'
  step: string
  set: Partial<Pick<CheckedStep, 'done' | 'memo'>>
}

/** Take back every tick; what was written stays. */
export interface StepsClear {
  type: 'steps-clear'
}

const saysSomething = ({ done, memo }: CheckedStep): boolean => done || memo !== ''

/** Tick a step or write to it. One that is neither ticked nor written to is no longer kept. */
export const stepSet = editKind<StepSet>('step-set', (rig, { step, set }) => {
  const at = rig.checklist.findIndex((each) => each.step === step)
  const next = accepted(CheckedStepSchema, { ...(rig.checklist[at] ?? { step }), ...set })
  if (at === -1) {
    if (saysSomething(next)) rig.checklist.push(next)
  } else if (saysSomething(next)) rig.checklist[at] = next
  else rig.checklist.splice(at, 1)
})

/** Take back every tick. Refused where none is set. */
export const stepsClear = editKind<StepsClear>('steps-clear', (rig) => {
  if (!rig.checklist.some(({ done }) => done)) throw new EditError('No step is ticked.')
  rig.checklist = rig.checklist.map((each) => ({ ...each, done: false })).filter(saysSomething)
})
