import { problemBuilder } from '../allocate/build-problem'
import { askedSenders, troublesOf } from '../allocate/free'
import { AllocateRequest, type AllocateInput } from '../allocate/request'
import type { Problem } from '../allocate/solver/problem'
import { teachingOf } from '../allocate/teaching'
import { check } from '../conflicts'
import type { Rig } from '../rig'

/** The problem that a request puts to the solver first, before anything is barred or any hope given up. */
export function problemFor(rig: Rig, input: AllocateInput): Problem {
  const checked = check(rig)
  const request = AllocateRequest.parse(input)
  const troubles = troublesOf(checked)
  const { free } = askedSenders(checked, request, troubles)
  const teaching = teachingOf(checked.context, free, troubles)
  const problemsFor = problemBuilder(checked.context, request, free)
  return problemsFor(troubles, teaching ? { teaching } : {}).build(new Set(), new Set()).problem
}
