import { describe, expect, it } from 'vitest'
import { joined, rigOf } from '../testing/mapped-rigs'
import { sendingCc } from '../testing/rigs'
import { rigIndex, type Rig, type RigInput } from '../rig'
import { playRig, selectIn, switchedOn } from './played'
import { selectedIn, selectionsOf } from './selection'
import { traceGesture } from './trace'
import { TraceRequest, traceProblems } from './trace/request'

type Parameters = NonNullable<NonNullable<RigInput['destinations']>[number]['parameters']>

const volume = (track: number): Parameters[number] => ({
  id: `v${track}`,
  name: 'Volume',
  path: [`Track ${track}`],
  range: { min: 0, max: 100, unit: '%' },
})
const relative: Parameters[number] = {
  id: 'sel',
  name: 'Volume of the selected track',
  kind: 'relative',
  standsFor: 'Volume',
  range: { min: 0, max: 100, unit: '%' },
}
const rigWith = (parameters: Parameters): Rig =>
  rigOf({ 'k1.turn': sendingCc(20) }, [joined('a/k1.turn', 'sel', { learnedAt: '1:cc20' })], { parameters })
const tracks = rigWith([volume(1), volume(2), relative])
const daw = (rig: Rig) => {
  const [destination] = rig.destinations
  if (!destination) throw new Error('no destination')
  return destination
}

/** What moves when the knob is turned up, and through what. */
function movedIn(rig: Rig, selected: string | null): string[] {
  const { id } = daw(rig)
  const start = switchedOn(rig)
  const state = selected === null ? start : selectIn(start, id, selected)
  const { passed } = playRig(rig, state, 'a', { kind: 'move', gesture: 'k1.turn', to: 1 }, 0)
  return passed.flatMap(({ arrived }) =>
    arrived.flatMap(({ effects }) =>
      effects.flatMap((effect) =>
        effect.kind === 'moves' ? [`${effect.parameter} to ${effect.to} through ${effect.through}`] : [],
      ),
    ),
  )
}

describe('what is relative to a selection', () => {
  it('moves what is selected and nothing else: the first track until another one is chosen', () => {
    expect(selectionsOf(daw(tracks))).toEqual(['Track 1', 'Track 2'])
    expect(movedIn(tracks, null)).toEqual(['v1 to 100 through sel'])
    expect(movedIn(tracks, 'Track 2')).toEqual(['v2 to 100 through sel'])
  })

  it('falls back to the first when what was selected is gone, and to itself where nothing can be', () => {
    expect(selectedIn(daw(tracks), 'Track 9')).toBe('Track 1')
    const alone = rigWith([relative])
    expect(selectionsOf(daw(alone))).toEqual([])
    expect(movedIn(alone, null)).toEqual(['sel to 100 through null'])
  })

  it('is followed to what is selected', () => {
    const { id } = daw(tracks)
    const titles = (selected: string | null): string[] =>
      traceGesture(tracks, 'a/k1.turn', { selected: { [id]: selected } })
        .flatMap(({ stations }) => stations)
        .filter(({ kind }) => kind === 'parameter')
        .map(({ title }) => title)
    expect(titles(null).at(-1)).toContain('Track 1')
    expect(titles('Track 2').at(-1)).toContain('Track 2')
  })

  it('is refused in a request where the rig has no such selection', () => {
    const { id } = daw(tracks)
    const request = TraceRequest.parse({
      kind: 'gesture',
      gesture: 'a/k1.turn',
      selected: { [id]: 'Track 9', nowhere: null },
    })
    expect(traceProblems(tracks, request).map(({ path }) => path)).toEqual([
      `request.selected.${id}`,
      'request.selected.nowhere',
    ])
    expect(rigIndex(tracks).destinations.has(id)).toBe(true)
  })
})
