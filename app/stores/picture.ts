import { defineStore } from 'pinia'
import { useLocalStorage } from '@vueuse/core'
import type { Arrangement, RigThing } from '~/lib/rig-picture'
import { useRigStore } from './rig'

/** What is selected in the picture of the rig. */
export const usePictureStore = defineStore('picture', () => {
  const rigs = useRigStore()
  const selected = shallowRef<RigThing | null>(null)

  /** The selection, if it is still in the rig. */
  const current = computed<RigThing | null>(() => {
    const { rig } = rigs
    const thing = selected.value
    if (!rig || !thing) return null
    const lists = {
      controller: rig.controllers,
      box: rig.boxes,
      computer: rig.computers,
      destination: rig.destinations,
      cable: rig.cables,
    }
    return lists[thing.kind].some(({ id }) => id === thing.id) ? thing : null
  })
  /** Cables that a finding speaks of, marked until something else is picked. */
  const marked = shallowRef<ReadonlySet<string>>(new Set())
  const select = (thing: RigThing | null, cables: readonly string[] = []): void => {
    selected.value = thing
    marked.value = new Set(cables)
  }
  /** The destination whose lists stand in the picture's place. */
  const openedId = ref<string | null>(null)
  const opened = computed(() => rigs.rig?.destinations.find(({ id }) => id === openedId.value) ?? null)
  const open = (id: string): void => {
    openedId.value = id
    select({ kind: 'destination', id })
  }
  const close = (): void => {
    openedId.value = null
  }
  /** Where cards were put, by rig: kept on this computer, not in the rig. */
  const allMoved = useLocalStorage<Record<string, Arrangement['moved']>>('deft-lattice/picture', {})
  const key = computed(() => rigs.id ?? 'unkept')
  const unfolded = ref<ReadonlySet<string>>(new Set())
  const arrangement = computed<Arrangement>(() => ({
    moved: allMoved.value[key.value] ?? {},
    unfolded: unfolded.value,
  }))
  function put(card: string, at: { x: number; y: number }): void {
    allMoved.value = { ...allMoved.value, [key.value]: { ...arrangement.value.moved, [card]: at } }
  }
  function arrangeAnew(): void {
    const { [key.value]: _, ...others } = allMoved.value
    allMoved.value = others
  }
  function fold(card: string): void {
    const next = new Set(unfolded.value)
    if (!next.delete(card)) next.add(card)
    unfolded.value = next
  }
  watch(
    () => rigs.id,
    () => {
      select(null)
      close()
    },
  )
  return { current, marked, select, opened, open, close, arrangement, put, arrangeAnew, fold }
})
