import { leadsIn, portKey, portsOf, type PortEnd, type PortRef } from '#core/rig'
import { freeId } from '#core/rig'

/** A port with its owner, as a player names it. */
export const endName = ({ ownerName, name }: PortEnd): string => `${ownerName} · ${name}`

/** Cables by their ends: what can be joined, what is joined, and joining. */
export function useCabling() {
  const rigs = useRigStore()
  const edit = useEdit()
  const ends = computed(() => (rigs.rig ? portsOf(rigs.rig) : []))
  const endAt = (ref: PortRef): PortEnd | null =>
    ends.value.find((end) => portKey(end.ref) === portKey(ref)) ?? null

  /** The cables from a port, with the name of their other end. */
  const cablesFrom = (ref: PortRef) =>
    (rigs.rig?.cables ?? []).flatMap((cable) => {
      if (portKey(cable.from) !== portKey(ref)) return []
      const end = endAt(cable.to)
      return end ? [{ id: cable.id, name: endName(end), to: portKey(cable.to) }] : []
    })

  /** Every in that a port could be joined to and is not yet. */
  const offersFor = (ref: PortRef): PortEnd[] => {
    const joined = new Set(cablesFrom(ref).map(({ to }) => to))
    return ends.value.filter(
      (end) => leadsIn(end.direction) && end.ref.owner !== ref.owner && !joined.has(portKey(end.ref)),
    )
  }

  function joinPorts(from: PortRef, to: PortRef): void {
    const { rig } = rigs
    const end = endAt(to)
    if (!rig || !end) return
    edit(`Cable to ${endName(end)}`, [
      {
        type: 'cable-add',
        cable: { id: freeId('cable', rig.cables), from, to, rules: [], otherwise: 'pass' },
      },
    ])
  }

  return { ends, endAt, cablesFrom, offersFor, joinPorts }
}
