import {
  allocate,
  problemsOf,
  type AllocateRequest,
  type Plan,
  type Progress,
  type SolveProgram,
} from '#core/allocate'
import { check } from '#core/conflicts'
import { perform, type Rig } from '#core/rig'

/** A plan, or why the request cannot be planned. */
export type Planned = { ok: true; plan: Plan } | { ok: false; message: string }

/** The planner as the page sees it. It runs in a worker of its own, so that the findings go on being worked out. */
export interface Allocation {
  plan: (rig: Rig, request: AllocateRequest, onProgress: (progress: Progress) => void) => Promise<Planned>
}

/** The planner, to be run in a worker. `loadPrograms` loads what solves linear programs, once it is needed. */
export function createAllocation(loadPrograms: () => Promise<SolveProgram>): Allocation {
  let programs: Promise<SolveProgram> | null = null
  return {
    plan: async (rig, request, onProgress) => {
      const [problem] = problemsOf(rig, request)
      if (problem) return { ok: false, message: problem.message }
      programs ??= loadPrograms()
      const plan = allocate(check(rig), request, (given, edits) => perform(given, 'plan', edits).rig, {
        programs: await programs,
        onProgress: (progress) => {
          onProgress(progress)
          return false
        },
      })
      return { ok: true, plan }
    },
  }
}
