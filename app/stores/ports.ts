import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { portKey, type Id, type PortRef } from '#core/rig'
import { PortError, type OpenPorts, type OuterPort, type PortTrouble, type Stop } from '~/ports/port'
import { webMidi } from '~/ports/web-midi'

/** A real port, so that it is known again: by its id, else by its name. */
interface Remembered {
  id: string
  name: string
  maker: string
}

/** A port of the rig that a real one can stand for. */
export interface RigPort {
  ref: PortRef
  key: string
  owner: string
  name: string
  /** Is the real port one that messages come from, or one that they are sent to? */
  direction: 'in' | 'out'
  work: PortWork
}

/** What a real port does for one of the rig. */
export type PortWork =
  /** A real controller sends in place of the simulated one. */
  | 'plays'
  /** What is to come in at a controller goes to the real one: its lights. */
  | 'lights'
  /** What a real program or synth sends comes in at a simulated controller. */
  | 'comes-in'
  /** What arrives at a destination goes to the real one. */
  | 'receives'

const DIRECTION: Readonly<Record<PortWork, RigPort['direction']>> = {
  plays: 'in',
  lights: 'out',
  'comes-in': 'in',
  receives: 'out',
}
/** A controller's in can be the real one's, or that of a simulated one which hears: each has a key of its own. */
const keyFor = (ref: PortRef, work: PortWork): string =>
  work === 'comes-in' ? `${portKey(ref)} hears` : portKey(ref)
const worksOf = (isController: boolean, direction: 'in' | 'out' | 'thru'): readonly PortWork[] => {
  if (!isController) return direction === 'in' ? ['receives'] : []
  if (direction === 'thru') return []
  return direction === 'out' ? ['plays'] : ['lights', 'comes-in']
}

/** The real port that is meant: by its id, else by its name, unless that one is meant for another port of the rig. */
function find(
  ports: readonly OuterPort[],
  direction: 'in' | 'out',
  wanted: Remembered,
  others: ReadonlySet<string>,
): OuterPort | undefined {
  const all = ports.filter((port) => port.direction === direction)
  const isNamed = (port: OuterPort): boolean => port.name === wanted.name && port.maker === wanted.maker
  return (
    all.find((port) => port.id === wanted.id && port.isThere) ??
    all.find((port) => isNamed(port) && port.isThere && !others.has(port.id)) ??
    all.find((port) => port.id === wanted.id)
  )
}

/** Real ports in place of those of the rig: which stands for which, on this computer. */
export const usePortsStore = defineStore('ports', () => {
  const rigs = useRigStore()
  const bench = useBenchStore()
  const open = shallowRef<OpenPorts | null>(null)
  const isAsking = ref(false)
  const trouble = ref<PortTrouble | null>(null)
  const real = shallowRef<readonly OuterPort[]>([])
  /** By rig and port of the rig: what stands for it. On this computer, not in the rig. */
  const remembered = useStorage<Record<Id, Record<string, Remembered>>>('deft-lattice/ports', {})
  /** What is wrong with single ports, by port of the rig. */
  const troubles = ref<Record<string, PortTrouble>>({})

  const rigPorts = computed<readonly RigPort[]>(() => {
    const { rig } = rigs
    if (!rig) return []
    const inUse = rig.controllers.filter((each) => each.inUse)
    return [...inUse, ...rig.destinations].flatMap((owner) => {
      const isController = 'homeChannel' in owner
      return owner.ports.flatMap(({ id: port, name, direction }): RigPort[] => {
        const ref = { owner: owner.id, port }
        return worksOf(isController, direction).map((work) => ({
          ref,
          key: keyFor(ref, work),
          owner: owner.name,
          name,
          direction: DIRECTION[work],
          work,
        }))
      })
    })
  })
  const chosen = computed<Readonly<Record<string, Remembered>>>(
    () => (rigs.id && remembered.value[rigs.id]) || {},
  )

  const found = ({ key, direction }: RigPort): OuterPort | undefined => {
    const wanted = chosen.value[key]
    const others = Object.entries(chosen.value).flatMap(([other, { id }]) => (other === key ? [] : [id]))
    return wanted && find(real.value, direction, wanted, new Set(others))
  }
  /** Does a real port do the work of one of the rig? One that is held or gone does not. */
  const isReal = (port: RigPort): boolean => found(port)?.isThere === true && !troubles.value[port.key]

  // What was wrong in one rig says nothing of another.
  watch(
    () => rigs.id,
    () => (troubles.value = {}),
  )

  /** Let a real port stand for one of the rig; null simulates it again. */
  function choose(key: string, id: string | null): void {
    if (!rigs.id) return
    const port = real.value.find((each) => each.id === id)
    const { [key]: _, ...others } = chosen.value
    const { [key]: __, ...wrong } = troubles.value
    troubles.value = wrong
    remembered.value = {
      ...remembered.value,
      [rigs.id]: port ? { ...others, [key]: { id: port.id, name: port.name, maker: port.maker } } : others,
    }
  }

  /** Try a port again that another program had. */
  function retry(key: string): void {
    mark(key, null)
    real.value = open.value?.ports() ?? []
  }

  let stopWatching: Stop = () => undefined
  /** Ask the browser for ports; for SysEx only when it is needed. */
  async function ask(sysex = false): Promise<void> {
    if (isAsking.value) return
    isAsking.value = true
    try {
      const next = await webMidi.open({ sysex })
      stopWatching()
      silenceAll()
      open.value?.close()
      open.value = next
      trouble.value = null
      troubles.value = {}
      stopWatching = next.onChange(() => (real.value = next.ports()))
      real.value = next.ports()
    } catch (error) {
      trouble.value = error instanceof PortError ? error.trouble : 'failed'
      if (!(error instanceof PortError)) throw error
    } finally {
      isAsking.value = false
    }
  }

  /** What is listened to, by port of the rig. */
  const heard = new Map<string, { real: string; stop: Stop }>()
  function silenceAll(): void {
    for (const { stop } of heard.values()) stop()
    heard.clear()
  }
  function mark(key: string, what: PortTrouble | null): void {
    const { [key]: before, ...others } = troubles.value
    if (before === (what ?? undefined)) return
    troubles.value = what ? { ...others, [key]: what } : others
  }

  async function listen({ key, ref, work }: RigPort, id: string): Promise<void> {
    if (!open.value) return
    // Taken at once, so that nothing is listened to twice while the port opens.
    const own = { real: id, stop: (() => undefined) as Stop }
    heard.set(key, own)
    try {
      const stop = await open.value.listen(id, (bytes, at) =>
        work === 'comes-in' ? bench.comeIn(ref.owner, bytes, at) : bench.hear(ref.owner, key, bytes, at),
      )
      if (heard.get(key) === own) own.stop = stop
      else stop()
      mark(key, null)
    } catch (error) {
      if (heard.get(key) === own) heard.delete(key)
      mark(key, error instanceof PortError ? error.trouble : 'failed')
      if (!(error instanceof PortError)) throw error
    }
  }

  /** The out that each port of the rig is sent to, by its key. */
  const outs = computed<ReadonlyMap<string, OuterPort>>(() => {
    const all = new Map<string, OuterPort>()
    for (const port of rigPorts.value) {
      const there = port.direction === 'out' ? found(port) : undefined
      if (there?.isThere) all.set(port.key, there)
    }
    return all
  })
  /** The controllers that are heard by a real port. */
  const realControllers = computed<ReadonlySet<Id>>(
    () =>
      new Set(
        rigPorts.value.flatMap((port) => (port.work === 'plays' && isReal(port) ? [port.ref.owner] : [])),
      ),
  )
  function stands(key: string): OuterPort | null {
    const port = rigPorts.value.find((each) => each.key === key)
    return (port && found(port)) ?? null
  }

  // Ports come and go: what is there is listened to, what is not is simulated.
  watch(
    [real, chosen, rigPorts],
    () => {
      if (!open.value) return
      const wanted = new Map<string, string>()
      for (const port of rigPorts.value) {
        if (!chosen.value[port.key]) continue
        const there = found(port)
        if (!there?.isThere) mark(port.key, 'unplugged')
        else if (port.direction === 'in') wanted.set(port.key, there.id)
        else if (troubles.value[port.key] === 'unplugged') mark(port.key, null)
      }
      for (const [key, { real: id, stop }] of [...heard])
        if (wanted.get(key) !== id) {
          stop()
          heard.delete(key)
        }
      for (const [key, id] of wanted) {
        const port = rigPorts.value.find((each) => each.key === key)
        if (port && !heard.has(key) && troubles.value[key] !== 'held') void listen(port, id)
      }
    },
    { immediate: true },
  )

  function send(key: string, bytes: readonly number[]): void {
    const port = outs.value.get(key)
    if (!open.value || !port) return
    try {
      open.value.send(port.id, bytes)
    } catch (error) {
      mark(key, error instanceof PortError ? error.trouble : 'failed')
      if (!(error instanceof PortError)) throw error
    }
  }
  watch(
    [outs, realControllers],
    () => bench.connect({ outlets: new Set(outs.value.keys()), real: realControllers.value, send }),
    { immediate: true },
  )

  useHeardOnDesk()

  return {
    real,
    rigPorts,
    chosen,
    trouble,
    troubles,
    isAsking,
    realControllers,
    realCount: computed(() => rigPorts.value.filter(isReal).length),
    isOpen: computed(() => open.value !== null),
    hasSysex: computed(() => open.value?.hasSysex === true),
    ask,
    choose,
    retry,
    stands,
    send,
  }
})
