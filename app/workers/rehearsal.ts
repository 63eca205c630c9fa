import { rehearse, type Misbehaving, type Progress, type Rehearsal } from '#core/bench/rehearsal'
import type { Rig } from '#core/rig'

/** Rehearsing as the page sees it. It runs in a worker of its own, which is ended to stop it. */
export interface Rehearser {
  rehearse: (rig: Rig, misbehaving: Misbehaving, tell: (progress: Progress) => void) => Rehearsal
}

export const createRehearser = (): Rehearser => ({
  rehearse: (rig, misbehaving, tell) => {
    const report = rehearse(rig, misbehaving, (progress) => {
      tell(progress)
      return false
    })
    if (!report) throw new Error('The rehearsal ended before its time.')
    return report
  },
})
