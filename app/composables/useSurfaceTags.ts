import { mappingParameter, movedAt } from '#core/mappings'
import { printTag } from '#core/midi'
import {
  assignmentsAt,
  behaviourWords,
  parameterName,
  placeKey,
  sentAddress,
  shownPlace,
  type Control,
  type Controller,
  type GestureKey,
  type Id,
  type Showing,
} from '#core/rig'
import type { ControlTag } from '~/lib/surface/drawn'

/** Rules about what a control makes of being moved. */
const OF_BEHAVIOUR: ReadonlySet<string> = new Set([
  'mode-mismatch',
  'range-short',
  'toggle-drift',
  'stuck',
  'out-of-ability',
])

const isSameTag = (a: ControlTag, b: ControlTag | undefined): boolean =>
  b !== undefined &&
  a.gesture === b.gesture &&
  a.text === b.text &&
  a.severity === b.severity &&
  a.isShared === b.isShared &&
  a.isPinned === b.isPinned &&
  a.isPlanned === b.isPlanned &&
  a.names?.[0] === b.names?.[0]

/** What the controls of the Desk's controller send now. A list that is as before stays the same list. */
export function useSurfaceTags(controls: () => readonly Control[]) {
  const desk = useDeskStore()
  const rigs = useRigStore()
  const marks = useMarks()
  const plans = usePlanStore()
  /** Where a plan that is looked at would have assignments go, by place. */
  const planned = computed(
    () =>
      new Map(
        plans.isCurrent ? plans.plan?.changes.map(({ at, to }) => [`${placeKey(at)}#${at.message}`, to]) : [],
      ),
  )
  const shared = useSharedGestures()

  /** What a gesture of a controller sends while something is shown; tables are looked up once a layer. */
  function tagsFor(controller: Controller, showing: Showing): (key: GestureKey) => ControlTag | null {
    const tables = new Map<Id | null, ReturnType<typeof assignmentsAt>>()
    const { worstByPlace } = marks.value
    const onPurpose = shared.value
    const to = planned.value
    return (key) => {
      const place = shownPlace(controller, showing, key)
      if (!place) return null
      let table = tables.get(place.layer)
      if (table === undefined) {
        table = assignmentsAt(controller, place)
        tables.set(place.layer, table)
      }
      const assignment = table?.[key]
      const message = assignment?.messages[0]
      const address = message ? sentAddress(message, controller.homeChannel) : null
      const shown = to.get(`${placeKey(place)}#0`) ?? address
      if (!assignment || !shown) return null
      return {
        gesture: key,
        text: printTag(shown),
        severity: worstByPlace.get(placeKey(place))?.severity ?? null,
        isShared: onPurpose.has(`${controller.id}/${key}`),
        isPinned: assignment.pinned,
        isPlanned: to.has(`${placeKey(place)}#0`),
      }
    }
  }

  const preferences = usePreferencesStore()
  /** What a gesture of a controller moves by what is shown, in the lens on destinations. */
  function movesFor(controller: Controller, showing: Showing): (key: GestureKey) => ControlTag | null {
    const { worstByPlace } = marks.value
    const { rig } = rigs
    return (key) => {
      const place = shownPlace(controller, showing, key)
      if (!rig || !place) return null
      const all = movedAt(rig, place).flatMap((mapping) => mappingParameter(rig, mapping) ?? [])
      const [first] = all
      if (!first) return null
      const more = all.length > 1 ? ` +${all.length - 1}` : ''
      const { parameter } = first
      const names = [`${parameterName(parameter)}${more}`, `${parameter.name}${more}`]
      return {
        gesture: key,
        text: names[1] ?? '',
        names,
        severity: worstByPlace.get(placeKey(place))?.severity ?? null,
        isShared: false,
        isPinned: false,
        isPlanned: false,
      }
    }
  }

  /** The role of a control's light, in the lens on lights. */
  function litFor(controller: Controller, showing: Showing): (key: GestureKey) => ControlTag | null {
    const { worstByPlace } = marks.value
    const roles = new Map(rigs.rig?.lightRoles.map((role) => [role.id, role]))
    return (key) => {
      const place = shownPlace(controller, showing, key)
      const light = place && assignmentsAt(controller, place)?.[key]?.light
      const role = light ? roles.get(light.role) : null
      if (!place || !light || !role) return null
      const state = light.setBy.kind === 'steady' ? ` ${light.setBy.state}` : ''
      const names = [`${role.letter} ${role.name}${state}`, `${role.letter}${state}`, role.letter]
      return {
        gesture: key,
        text: role.letter,
        names,
        severity: worstByPlace.get(placeKey(place))?.rule === 'feedback-clash' ? 'error' : null,
        isShared: false,
        isPinned: false,
        isPlanned: false,
      }
    }
  }

  /** What a gesture makes of being moved, in the lens on behaviour. */
  function behavesFor(controller: Controller, showing: Showing): (key: GestureKey) => ControlTag | null {
    const { byPlace } = marks.value
    return (key) => {
      const place = shownPlace(controller, showing, key)
      const message = place && assignmentsAt(controller, place)?.[key]?.messages[0]
      const names = message ? behaviourWords(message) : []
      const short = names.at(-1)
      if (!place || short === undefined) return null
      return {
        gesture: key,
        text: short,
        names,
        does: 'gives',
        severity: byPlace.get(placeKey(place))?.find(({ rule }) => OF_BEHAVIOUR.has(rule))?.severity ?? null,
        isShared: false,
        isPinned: false,
        isPlanned: false,
      }
    }
  }

  const LOOKS = { addresses: tagsFor, behaviour: behavesFor, destinations: movesFor, lights: litFor } as const

  return computed<ReadonlyMap<Id, readonly ControlTag[]>>((before) => {
    const all = new Map<Id, readonly ControlTag[]>()
    let isAsBefore = true
    const { controller, shown } = desk
    const look = LOOKS[preferences.lens]
    const tagOf = controller && shown ? look(controller, shown) : () => null
    for (const { id, gestures } of controls()) {
      const tags = gestures.flatMap((gesture) => tagOf(`${id}.${gesture}`) ?? [])
      const old = before?.get(id)
      const isSame = old?.length === tags.length && tags.every((tag, index) => isSameTag(tag, old[index]))
      all.set(id, isSame ? old : tags)
      isAsBefore &&= isSame
    }
    return before && isAsBefore && before.size === all.size ? before : all
  })
}
