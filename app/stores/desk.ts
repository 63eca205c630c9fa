import { defineStore } from 'pinia'
import type { Family } from '#core/addresses'
import type { Finding } from '#core/conflicts'
import type { Channel } from '#core/midi'
import {
  controlsOf,
  modelOf,
  powerUpShowing,
  showingIn,
  shownPlace,
  splitGestureKey,
  stackOfLayer,
  type Control,
  type Controller,
  type GestureKey,
  type GestureRef,
  type Id,
  type Passage,
  type Place,
  type Showing,
  type Template,
} from '#core/rig'
import type { AnalysisView } from '~/workers/analysis'
import { useRigStore } from './rig'

export type SidePanel =
  | 'selection'
  | 'findings'
  | 'draw'
  | 'templates'
  | 'controller'
  | 'teach'
  | 'draw-by-moving'
  | 'learn-by-moving'

/** What the Desk shows and what is selected on it: one selection for surface, sentence and lattice. */
export const useDeskStore = defineStore('desk', () => {
  const rigs = useRigStore()
  const controllerId = ref<Id | null>(null)
  const chosenShowing = shallowRef<Readonly<Record<Id, Showing>>>({})
  const gesture = ref<GestureKey | null>(null)
  const selectedIds = shallowRef<readonly Id[]>([])
  /** What real hardware is moving at this moment. */
  const heard = shallowRef<readonly GestureRef[]>([])
  const bus = ref<string | null>(null)
  const family = ref<Family>('cc')
  /** NRPN and RPN stand as a list in the lattice's place. */
  const isListing = ref(false)
  /** The one channel that the lattice shows large, with names; null for all. */
  const zoomed = ref<Channel | null>(null)
  const panel = ref<SidePanel>('selection')
  const findingId = ref<string | null>(null)

  const controllers = computed(() => rigs.rig?.controllers ?? [])
  /** By what the controllers are told apart in small; the same as long as no letter and no hue changes. */
  const faces = computed<ReadonlyMap<Id, Pick<Controller, 'letter' | 'hue'>>>((before) => {
    const isSame =
      before?.size === controllers.value.length &&
      controllers.value.every(({ id, letter, hue }) => {
        const face = before.get(id)
        return face?.letter === letter && face.hue === hue
      })
    return isSame ? before : new Map(controllers.value.map(({ id, letter, hue }) => [id, { letter, hue }]))
  })
  const controller = computed<Controller | null>(
    () => controllers.value.find(({ id }) => id === controllerId.value) ?? controllers.value[0] ?? null,
  )
  const model = computed(() => (rigs.rig && controller.value ? modelOf(rigs.rig, controller.value) : null))

  /** What every controller shows: as chosen, else as at power-up. */
  const showing = computed<Readonly<Record<Id, Showing>>>(() =>
    Object.fromEntries(
      controllers.value.map((each) => {
        const chosen = chosenShowing.value[each.id]
        const isThere = each.templates.some(({ id }) => id === chosen?.template)
        return [each.id, chosen && isThere ? chosen : powerUpShowing(each)]
      }),
    ),
  )
  const shown = computed(() => (controller.value ? showing.value[controller.value.id] : undefined))
  const template = computed<Template | null>(
    () => controller.value?.templates.find(({ id }) => id === shown.value?.template) ?? null,
  )
  const control = computed<Control | null>(() =>
    gesture.value && model.value
      ? (controlsOf(model.value).get(splitGestureKey(gesture.value).control) ?? null)
      : null,
  )
  /** The selected controls, in the order of the surface. */
  const selected = computed<readonly Control[]>(() => {
    const ids = new Set(selectedIds.value)
    return model.value?.surface.controls.filter(({ id }) => ids.has(id)) ?? []
  })
  // By itself, so that an edit of the controller does not make the selection another.
  const ownerId = computed(() => controller.value?.id)
  /** The gestures that are selected, as references: the one at hand, or all of several controls. */
  const selectedRefs = computed<ReadonlySet<GestureRef>>(() => {
    const owner = ownerId.value
    if (owner === undefined || gesture.value === null) return new Set()
    if (selectedIds.value.length < 2) return new Set([`${owner}/${gesture.value}`])
    return new Set(
      selected.value.flatMap(({ id, gestures }) => gestures.map((kind) => `${owner}/${id}.${kind}`)),
    )
  })
  const view = computed<AnalysisView>(() => ({
    bus: bus.value,
    family: family.value,
    parameters: isListing.value,
    showing: showing.value,
  }))

  /** Where a gesture's assignment stands in what is shown now; null where no layer shows. */
  const placeOf = (key: GestureKey): Place | null =>
    controller.value && shown.value ? shownPlace(controller.value, shown.value, key) : null

  function setShowing(id: Id, next: Showing): void {
    chosenShowing.value = { ...showing.value, [id]: next }
  }

  function chooseController(id: Id): void {
    controllerId.value = id
    select(null)
  }

  function chooseTemplate(id: Id): void {
    if (controller.value) setShowing(controller.value.id, powerUpShowing(controller.value, id))
  }

  function chooseLayer(stack: Id, layer: Id | null): void {
    if (!controller.value || !shown.value) return
    setShowing(controller.value.id, { ...shown.value, layers: { ...shown.value.layers, [stack]: layer } })
  }

  /** Let every controller show what a passage says; what it leaves open stays as it is. */
  function showPassage(passage: Passage): void {
    chosenShowing.value = Object.fromEntries(
      controllers.value.flatMap((each) => {
        const now = showing.value[each.id]
        return now ? [[each.id, showingIn(passage, each, now)]] : []
      }),
    )
  }

  /** Select one control by a gesture of it. Null selects nothing. */
  function select(key: GestureKey | null): void {
    gesture.value = key
    selectedIds.value = key === null ? [] : [splitGestureKey(key).control]
    if (key !== null) showSelection()
  }

  /** Select a control by the first of its gestures. */
  const selectControl = ({ id, gestures }: Control): void => select(`${id}.${gestures[0] ?? 'turn'}`)

  /** Select these controls; the last is the one that the keyboard and the lattice start from. */
  function selectMany(ids: readonly Id[]): void {
    const all = model.value ? controlsOf(model.value) : new Map<Id, Control>()
    const found = ids.flatMap((id) => all.get(id) ?? [])
    const last = found.at(-1)
    selectedIds.value = found.map(({ id }) => id)
    gesture.value = last ? `${last.id}.${last.gestures[0] ?? 'turn'}` : null
    if (last) showSelection()
  }

  /** Add a control to the selection, or take it out. */
  function toggle(id: Id): void {
    const { value } = selectedIds
    selectMany(value.includes(id) ? value.filter((other) => other !== id) : [...value, id])
  }

  function showSelection(): void {
    if (panel.value === 'findings' || panel.value === 'controller' || panel.value === 'teach')
      panel.value = 'selection'
  }

  /** Go to where an assignment stands: its controller, template and layer, and select it. */
  function goTo(place: Place): void {
    const target = controllers.value.find(({ id }) => id === place.controller)
    const inTemplate = target?.templates.find(({ id }) => id === place.template)
    if (!target || !inTemplate) return
    controllerId.value = target.id
    const now = showing.value[target.id]
    const base = now?.template === inTemplate.id ? now : powerUpShowing(target, inTemplate.id)
    const stack = place.layer === null ? null : stackOfLayer(inTemplate, place.layer)
    setShowing(target.id, stack ? { ...base, layers: { ...base.layers, [stack.id]: place.layer } } : base)
    select(place.gesture)
  }

  /** Go to a finding: its first place, on a bus and in a family where it shows. */
  function goToFinding(finding: Finding, busOf: (destination: Id) => string | null): void {
    const [place] = finding.at
    if (!place) return
    findingId.value = finding.id
    const destination = finding.destinations[0]
    const reached = destination === undefined ? null : busOf(destination)
    if (reached !== null) bus.value = reached
    const [address] = finding.addresses
    if (address) {
      const { kind } = address.target
      isListing.value = kind === 'nrpn' || kind === 'rpn'
      family.value = kind === 'note' || kind === 'program' ? kind : 'cc'
      zoomed.value = null
    }
    goTo(place)
  }

  function reset(): void {
    controllerId.value = null
    chosenShowing.value = {}
    gesture.value = null
    selectedIds.value = []
    bus.value = null
    findingId.value = null
    zoomed.value = null
    panel.value = 'selection'
  }
  watch(() => rigs.id, reset)

  return {
    heard,
    controllerId,
    controllers,
    faces,
    controller,
    model,
    template,
    shown,
    showing,
    gesture,
    selectedIds,
    selected,
    selectedRefs,
    control,
    bus,
    family,
    isListing,
    zoomed,
    panel,
    findingId,
    view,
    placeOf,
    chooseController,
    chooseTemplate,
    chooseLayer,
    showPassage,
    select,
    selectControl,
    selectMany,
    toggle,
    goTo,
    goToFinding,
  }
})
