import { expect, it } from 'vitest'
import type { Rig } from '../core/rig'
import { builtCore } from './built'

const learnedAt = (channel: number, number: number) => ({
  scope: 'channel' as const,
  channel,
  target: { kind: 'cc' as const, number },
})

const { assignmentsOf, cellKey, cellsOf, check, nineRingsRig, perform, recheck, stressRig } =
  await builtCore()

const RUNS = 9
const RECHECKS = 41

const middle = (taken: number[]): number => taken.toSorted((a, b) => a - b)[taken.length >> 1] ?? 0

const timed = (work: () => void): number => {
  const start = performance.now()
  work()
  return performance.now() - start
}

/** Work that is done `runs` times, after once to warm up: the median, in ms. */
function median(work: () => void, runs = RUNS): number {
  work()
  return middle(Array.from({ length: runs }, () => timed(work)))
}

/** Two kinds of work in turn, so that what slows the machine for a while slows both; each on a rig of its own. */
function inTurn(rig: Rig, a: (rig: Rig) => void, b: (rig: Rig) => void): [number, number] {
  const taken: [number[], number[]] = [[], []]
  for (let run = 0; run <= RUNS; run++) {
    for (const [index, work] of [a, b].entries()) {
      const copy = fresh(rig)
      const ms = timed(() => work(copy))
      if (run > 0) taken[index]?.push(ms)
    }
  }
  return [middle(taken[0]), middle(taken[1])]
}

/** A rig that shares nothing with what was looked at before, so that nothing known of it helps. */
const fresh = (rig: Rig): Rig => structuredClone(rig)

/** One pass that works out every address, at every destination, and hashes it; nothing else. */
function hashPass(rig: Rig): number {
  const seen = new Map<string, Map<number, number>>()
  for (const controller of rig.controllers) {
    const reached = rig.cables.filter(({ from }) => from.owner === controller.id).map(({ to }) => to.owner)
    for (const { assignment } of assignmentsOf(controller)) {
      for (const message of assignment.messages) {
        for (const cell of cellsOf(message, controller.homeChannel)) {
          const key = cellKey(cell)
          for (const destination of reached) {
            const cells = seen.get(destination) ?? new Map<number, number>()
            seen.set(destination, cells)
            cells.set(key, (cells.get(key) ?? 0) + 1)
          }
        }
      }
    }
  }
  return [...seen.values()].reduce((sum, { size }) => sum + size, 0)
}

it('the whole check of a large rig, and after one edit', () => {
  const rig = stressRig()
  const before = process.memoryUsage().heapUsed
  const held = check(rig)
  const memory = (process.memoryUsage().heapUsed - before) / 2 ** 20
  const [hash, full] = inTurn(rig, (copy) => expect(hashPass(copy)).toBeGreaterThan(0), check)
  let number = 20
  let edited = rig
  let last = held
  const after = median(() => {
    number = 20 + ((number + 1) % 60)
    edited = perform(edited, 'x', [
      {
        type: 'message',
        at: { controller: 'c5', template: 't', layer: 'l0', gesture: 'k7.turn' },
        index: 0,
        message: {
          kind: 'cc',
          moment: 'move',
          channel: 'home',
          number,
          range: { low: 0, high: 127 },
          behaviour: { kind: 'absolute', turns: null },
          resolution: { kind: 'full' },
          releaseValue: null,
        },
      },
    ]).rig
    last = recheck(last, edited)
  }, RECHECKS)
  let taught = 0
  const teaching = median(() => {
    edited = perform(edited, 'x', [
      { type: 'mapping-set', mapping: 'm-5-1', set: { learnedAt: learnedAt(6, 20 + (taught++ % 10)) } },
    ]).rig
    last = recheck(last, edited)
  }, RECHECKS)
  let moved = 0
  const moving = median(() => {
    const place = { x: 20 + (moved++ % 10), y: 20, w: 20, h: 20 }
    edited = perform(edited, 'x', [
      { type: 'controls-set', model: 'desk', controls: [{ id: 'k0', set: { place } }] },
    ]).rig
    last = recheck(last, edited)
  }, RECHECKS)
  console.log(
    [
      `64 controllers, 100,352 assignments, 8 destinations, ${held.findings.length} findings:`,
      `  every address hashed once          ${hash.toFixed(0).padStart(6)} ms`,
      `  the whole check                    ${full.toFixed(0).padStart(6)} ms = ${(full / hash).toFixed(1)} × the hashing (figure: at most 5)`,
      `  recheck after one edit             ${after.toFixed(0).padStart(6)} ms = 1/${(full / after).toFixed(1)} of the whole (figure: at most 1/50)`,
      `  recheck after a mapping is taught  ${teaching.toFixed(0).padStart(6)} ms = 1/${(full / teaching).toFixed(1)} of the whole`,
      `  recheck after a control is moved   ${moving.toFixed(0).padStart(6)} ms = 1/${(full / moving).toFixed(1)} of the whole`,
      `  memory that one check takes       ${memory.toFixed(0).padStart(6)} MB`,
    ].join('\n'),
  )
})

it('the whole check of the demo, whose cables have rules, and all its cures', () => {
  const rig = nineRingsRig('as-found')
  let cures = 0
  const [full, all] = inTurn(rig, check, (copy) => {
    const { findings, fixesOf } = check(copy)
    cures = findings.reduce((sum, { id }) => sum + fixesOf(id).length, 0)
  })
  console.log(
    [
      `Demo as found, ${check(rig).findings.length} findings, ${cures} cures:`,
      `  the whole check                    ${full.toFixed(0).padStart(6)} ms`,
      `  every cure tried out               ${(all - full).toFixed(0).padStart(6)} ms = ${((all - full) / full / cures).toFixed(2)} × the check a cure`,
    ].join('\n'),
  )
})
