import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { perform } from '.'

const rig = nineRingsRig('as-performed')
const tick = (step: string, done = true) => ({ type: 'step-set', step, set: { done } }) as const

describe('the checklist', () => {
  it('keeps a tick and words apart, and forgets a step of which neither is left', () => {
    const ticked = perform(rig, 'x', [tick('a/home')]).rig
    expect(ticked.checklist).toEqual([{ step: 'a/home', done: true, memo: '' }])
    const written = perform(ticked, 'x', [
      { type: 'step-set', step: 'a/home', set: { memo: 'left drawer' } },
    ]).rig
    expect(written.checklist).toEqual([{ step: 'a/home', done: true, memo: 'left drawer' }])
    const open = perform(written, 'x', [tick('a/home', false)]).rig
    expect(open.checklist).toEqual([{ step: 'a/home', done: false, memo: 'left drawer' }])
    expect(
      perform(open, 'x', [{ type: 'step-set', step: 'a/home', set: { memo: '' } }]).rig.checklist,
    ).toEqual([])
  })

  it('takes back every tick, and leaves the words', () => {
    const some = perform(rig, 'x', [
      tick('a'),
      tick('b'),
      { type: 'step-set', step: 'b', set: { memo: 'B' } },
    ]).rig
    expect(perform(some, 'x', [{ type: 'steps-clear' }]).rig.checklist).toEqual([
      { step: 'b', done: false, memo: 'B' },
    ])
    expect(() => perform(rig, 'x', [{ type: 'steps-clear' }])).toThrow('No step is ticked')
  })

  it('refuses words that are too long, and changes nothing', () => {
    expect(() =>
      perform(rig, 'x', [{ type: 'step-set', step: 'a', set: { memo: 'x'.repeat(4001) } }]),
    ).toThrow()
  })
})
