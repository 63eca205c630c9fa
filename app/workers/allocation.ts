import {
  allocate,
  problemsOf,
  type AllocateRequest,
  type Plan,
  type Progress,
  type SolveProgram,
} from '#core/allocate'
import { check, type Apply, type Finding, type Severity } from '#core/conflicts'
import { causesOf } from '#core/conflicts/causes'
import { perform, type Rig } from '#core/rig'

/** What has one cause, in a line: how many findings it is there for, and whether they would misbehave. */
export interface CauseLine {
  title: string
  severity: Severity
  findings: number
}

/** A plan with what it cures and what it leaves, by cause. */
export interface ToldPlan {
  plan: Plan
  cures: readonly CauseLine[]
  leaves: readonly CauseLine[]
}

/** A plan, or why the request cannot be planned. */
export type Planned = ({ ok: true } & ToldPlan) | { ok: false; message: string }

/** Whom the planner tells how far it is: `first` has the plan that is found at once, before it is made better. */
export interface Listener {
  progress: (progress: Progress) => void
  first: (told: ToldPlan) => void
}

/** The planner as the page sees it. It runs in a worker of its own, so that the findings go on being worked out. */
export interface Allocation {
  plan: (rig: Rig, request: AllocateRequest, listener: Listener) => Promise<Planned>
}

const linesOf = (rig: Rig, findings: readonly Finding[]): CauseLine[] =>
  causesOf(rig, findings).map(({ title, severity, findings: own }) => ({
    title,
    severity,
    findings: own.length,
  }))

const told = (rig: Rig, plan: Plan): ToldPlan => ({
  plan,
  cures: linesOf(rig, plan.resolves),
  leaves: linesOf(rig, plan.leaves),
})

/** The planner, to be run in a worker. `loadPrograms` gives what solves linear programs. */
export function createAllocation(loadPrograms: () => Promise<SolveProgram>): Allocation {
  return {
    plan: async (rig, request, listener) => {
      const [problem] = problemsOf(rig, request)
      if (problem) return { ok: false, message: problem.message }
      const checked = check(rig)
      const apply: Apply = (given, edits) => perform(given, 'plan', edits).rig
      if (request.steps > 0) listener.first(told(rig, allocate(checked, { ...request, steps: 0 }, apply)))
      const plan = allocate(checked, request, apply, {
        programs: await loadPrograms(),
        onProgress: (progress) => {
          listener.progress(progress)
          return false
        },
      })
      return { ok: true, ...told(rig, plan) }
    },
  }
}
