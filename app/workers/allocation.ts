import {
  allocate,
  problemsOf,
  type AllocateRequest,
  type Plan,
  type Progress,
  type SolveProgram,
} from '#core/allocate'
import { check, type Apply } from '#core/conflicts'
import { perform, type Rig } from '#core/rig'

/** A plan, or why the request cannot be planned. */
export type Planned = { ok: true; plan: Plan } | { ok: false; message: string }

/** Whom the planner tells how far it is: `first` has the plan that is found at once, before it is made better. */
export interface Listener {
  progress: (progress: Progress) => void
  first: (plan: Plan) => void
}

/** The planner as the page sees it. It runs in a worker of its own, so that the findings go on being worked out. */
export interface Allocation {
  plan: (rig: Rig, request: AllocateRequest, listener: Listener) => Promise<Planned>
}

/** The planner, to be run in a worker. `loadPrograms` gives what solves linear programs. */
export function createAllocation(loadPrograms: () => Promise<SolveProgram>): Allocation {
  return {
    plan: async (rig, request, listener) => {
      const [problem] = problemsOf(rig, request)
      if (problem) return { ok: false, message: problem.message }
      const checked = check(rig)
      const apply: Apply = (given, edits) => perform(given, 'plan', edits).rig
      if (request.steps > 0) listener.first(allocate(checked, { ...request, steps: 0 }, apply))
      const plan = allocate(checked, request, apply, {
        programs: await loadPrograms(),
        onProgress: (progress) => {
          listener.progress(progress)
          return false
        },
      })
      return { ok: true, plan }
    },
  }
}
