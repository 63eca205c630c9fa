import { defineStore } from 'pinia'
import { joinInOrder, soundTargets, type JoinTarget } from '#core/mappings'
import { readingOrder, splitGestureKey, type Control, type Id, type Place } from '#core/rig'
import { boardItems, listsOf, searched, type BoardItem, type BoardList } from '~/lib/destinations/board'
import { toast } from '~/lib/toast'
import { useDeskStore } from './desk'
import { usePendingEditStore } from './pending-edit'
import { useRigStore } from './rig'

/** The lens on destinations: what of a destination is looked at and picked, to be joined to the selected controls. */
export const useJoiningStore = defineStore('joining', () => {
  const rigs = useRigStore()
  const desk = useDeskStore()
  const { edit } = usePendingEditStore()

  const destinationId = ref<Id | null>(null)
  const scopeId = ref<Id | null>(null)
  const chosenList = ref<BoardList>('parameters')
  /** Sounds one after the other, or with the gaps of their notes. */
  const gaps = ref<'closed' | 'kept'>('closed')
  const query = ref('')
  const onlyUnmoved = ref(false)
  /** Keys of what is picked. */
  const picked = shallowRef<ReadonlySet<string>>(new Set())

  const destinations = computed(() => rigs.rig?.destinations ?? [])
  const destination = computed(
    () => destinations.value.find(({ id }) => id === destinationId.value) ?? destinations.value[0] ?? null,
  )
  const lists = computed(() => (destination.value ? listsOf(destination.value) : []))
  const list = computed<BoardList>({
    get: () => (lists.value.includes(chosenList.value) ? chosenList.value : 'parameters'),
    set: (next) => {
      chosenList.value = next
      picked.value = new Set()
    },
  })
  const scope = computed(() => destination.value?.scopes.find(({ id }) => id === scopeId.value) ?? null)
  const moved = computed(
    () =>
      new Set(
        rigs.rig?.mappings
          .filter((each) => each.destination === destination.value?.id)
          .map((each) => each.parameter),
      ),
  )
  const all = computed(() => (destination.value ? boardItems(destination.value, list.value) : []))
  const items = computed<readonly BoardItem[]>(() => {
    const found = searched(all.value, query.value)
    return onlyUnmoved.value && list.value === 'parameters'
      ? found.filter(({ key }) => !moved.value.has(key))
      : found
  })
  /** What is picked, in the order of the list. */
  const chosen = computed(() => all.value.filter(({ key }) => picked.value.has(key)))

  function choose(id: Id): void {
    destinationId.value = id
    scopeId.value = null
    picked.value = new Set()
    query.value = ''
  }
  const pick = (keys: Iterable<string>): void => {
    picked.value = new Set(keys)
  }
  watch([() => rigs.id, query, onlyUnmoved], () => pick([]))

  /** Where the movements of these controls stand now: the one at hand where a control has it, else its first. */
  function placesOf(controls: readonly Control[]): Place[] {
    const kind = desk.gesture ? splitGestureKey(desk.gesture).gesture : null
    return readingOrder([...controls]).flatMap(({ id, gestures }) => {
      const gesture = gestures.find((each) => each === kind) ?? gestures[0]
      const place = gesture ? desk.placeOf(`${id}.${gesture}`) : null
      return place ? [place] : []
    })
  }

  /** What would be joined, first to first. */
  const places = computed(() => placesOf(desk.selected))
  const targets = computed<ReadonlyArray<JoinTarget | null>>(() => {
    const notes = chosen.value.flatMap(({ target }) => (target.kind === 'note' ? [target.number] : []))
    return list.value === 'sounds' && gaps.value === 'kept' && destination.value
      ? soundTargets(
          { ...destination.value, noteNames: notes.map((number) => ({ number, name: '' })) },
          'kept',
        )
      : chosen.value.map(({ target }) => target)
  })

  function joinTo(at: readonly Place[], to: ReadonlyArray<JoinTarget | null>): boolean {
    const { rig } = rigs
    const owner = destination.value
    if (!rig || !owner || at.length === 0 || to.length === 0) return false
    const { edits, joined, controlsLeft, targetsLeft, pinned } = joinInOrder(
      rig,
      at,
      owner.id,
      to,
      list.value === 'parameters' ? (scope.value?.id ?? null) : null,
    )
    const rest = [
      controlsLeft > 0 ? `${controlsLeft} controls found nothing to move.` : '',
      targetsLeft > 0 ? `${targetsLeft} were left without a control.` : '',
      pinned > 0 ? `${pinned} controls are pinned and stay as they are.` : '',
    ].filter(Boolean)
    if (edits.length === 0) {
      toast(['These are joined already.', ...rest].join(' '))
      return false
    }
    const label = joined === 1 ? `Join to ${owner.name}` : `Join ${joined} controls to ${owner.name}`
    if (!edit(label, edits)) return false
    if (rest.length > 0 || joined > 1) toast([`${joined} joined to ${owner.name}.`, ...rest].join(' '))
    pick([])
    return true
  }
  const join = (): boolean => joinTo(places.value, targets.value)

  return {
    destinations,
    destination,
    scopeId,
    scope,
    lists,
    list,
    gaps,
    query,
    onlyUnmoved,
    picked,
    items,
    chosen,
    places,
    targets,
    choose,
    pick,
    placesOf,
    joinTo,
    join,
  }
})
