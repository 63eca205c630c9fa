import { allocate, problemsOf } from '#core/allocate'
import { AllocateRequest } from '#core/allocate/request'
import { check } from '#core/conflicts'
import { perform } from '#core/rig'
import { defineApi, readRigAndRequest, refuse } from '../lib/api'

export default defineApi(async (event) => {
  const { rig, request } = await readRigAndRequest(event, AllocateRequest)
  const problems = problemsOf(rig, request)
  if (problems.length > 0) throw refuse(problems)
  const plan = allocate(check(rig), request, (given, edits) => perform(given, 'plan', edits).rig)
  return { ...plan, changes: plan.changes.map(({ spot: _, ...change }) => change) }
})
