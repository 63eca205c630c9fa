import { parameterName, parameterOf, rigIndex } from '../../../rig'
import { listenerOf, type Run } from '../run'
import { moverOf, type Check, type Told } from '../told'

/** What a gesture moves that it is not joined to, each once. */
function strangers(run: Run): Told[] {
  const { rig, spot, joined } = run
  const own = new Set(joined.map(({ destination, parameter }) => `${destination.id}/${parameter.id}`))
  const found = new Map<string, Told>()
  for (const { destination, effect } of run.effects) {
    if (effect.kind !== 'moves' && effect.kind !== 'acts') continue
    const id = listenerOf(effect)
    const key = `${destination}/${id}`
    if (own.has(key) || found.has(key)) continue
    const owner = rigIndex(rig).destinations.get(destination)
    const parameter = owner && parameterOf(owner, id)
    if (!owner || !parameter) continue
    found.set(key, {
      weight: 'fault',
      text: `${moverOf(rig, spot)} ${joined.length > 0 ? 'also moves' : 'moves'} ${owner.name} · ${parameterName(parameter)}, which it is not joined to.`,
      cure: 'Give one of the two another number, or join them on the Desk if it is meant.',
      place: spot.place,
      mapping: effect.mapping,
      concerns: 'all' as const,
      parameter: { destination, id },
    })
  }
  return [...found.values()]
}

/** Functions that a destination keeps for itself and that a gesture sets off though it is joined to something there. */
function functions(run: Run): Told[] {
  const { rig, spot, joined } = run
  const found = new Map<string, Told>()
  for (const { destination, effect } of run.effects) {
    if (effect.kind !== 'function') continue
    const owner = rigIndex(rig).destinations.get(destination)
    const claim = owner?.claims.find(({ id }) => id === effect.claim)
    const there = joined.filter((each) => each.destination.id === destination)
    if (!owner || !claim || there.length === 0) continue
    if (there.some(({ parameter }) => claim.serves.includes(parameter.id))) continue
    found.set(`${destination}/${claim.id}`, {
      weight: 'fault',
      text: `${moverOf(rig, spot)} sets off ${claim.function} of ${owner.name}, which keeps what it sends for itself.`,
      cure: 'Give the control another number or channel.',
      place: spot.place,
      mapping: null,
      concerns: 'all' as const,
      parameter: null,
    })
  }
  return [...found.values()]
}

/** Did anything else move? */
export const others: Check = { id: 'others', find: (run) => [...strangers(run), ...functions(run)] }
