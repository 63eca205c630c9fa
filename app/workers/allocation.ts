import { allocate, problemsOf, type AllocateRequest, type Plan, type Progress } from '#core/allocate'
import { check } from '#core/conflicts'
import { perform, type Rig } from '#core/rig'

/** A plan, or why the request cannot be planned. */
export type Planned = { ok: true; plan: Plan } | { ok: false; message: string }

/** The planner as the page sees it. It runs in a worker of its own, so that the findings go on being worked out. */
export interface Allocation {
  plan: (rig: Rig, request: AllocateRequest, onProgress: (progress: Progress) => void) => Planned
}

/** The planner, to be run in a worker. */
export function createAllocation(): Allocation {
  return {
    plan: (rig, request, onProgress) => {
      const [problem] = problemsOf(rig, request)
      if (problem) return { ok: false, message: problem.message }
      const plan = allocate(
        check(rig),
        request,
        (given, edits) => perform(given, 'plan', edits).rig,
        (progress) => {
          onProgress(progress)
          return false
        },
      )
      return { ok: true, plan }
    },
  }
}
