import { isPlainCable, portGraph } from '../../addresses'
import { portKey, type Cable, type Id, type PortRef, type Rig } from '../../rig'

/**
 * The cables with rules that a controller's messages come to first, through boxes, thru ports and plain cables: behind one of
 * them something else is heard than at the controller's own port, and nothing but its rules is the reason.
 */
export function ruledCablesOf(rig: Rig, controller: Id): Cable[] {
  const graph = portGraph(rig)
  const outs: PortRef[] = (rig.controllers.find(({ id }) => id === controller)?.ports ?? [])
    .filter(({ direction }) => direction === 'out')
    .map(({ id: port }) => ({ owner: controller, port }))
  const seen = new Set(outs.map(portKey))
  const ruled = new Map<Id, Cable>()
  const open = [...outs]
  for (let at = open.pop(); at; at = open.pop()) {
    for (const cable of graph.cablesFrom(at)) {
      if (!isPlainCable(cable)) {
        ruled.set(cable.id, cable)
        continue
      }
      for (const arrived of [cable.to, ...graph.openedAt(cable.to)]) {
        for (const next of graph.onwardOf(arrived.owner)) {
          if (seen.has(portKey(next))) continue
          seen.add(portKey(next))
          open.push(next)
        }
      }
    }
  }
  return rig.cables.filter(({ id }) => ruled.has(id))
}
