import { wrap, type Remote } from 'comlink'
import { defineStore } from 'pinia'
import {
  entriesFor,
  knowsColours,
  lightness,
  lightPicture,
  lightInit,
  patternOf,
  type LightLook,
  type Lit,
  type LightInit,
} from '#core/lights'
import {
  changeAssignments,
  modelOf,
  placesOver,
  takeId,
  type Assignment,
  type Id,
  type LightRole,
  type PaletteEntry,
  type RigEdit,
} from '#core/rig'
import { lightColours, type SurfaceLight } from '~/lib/surface/light-colours'
import { patternPath } from '~/lib/surface/light-pattern'
import { toast } from '~/lib/toast'
import type { Chooser } from '~/workers/lights'
import { useDeskStore } from './desk'
import { usePendingEditStore } from './pending-edit'
import { useRigStore } from './rig'

export type LightsTab = 'roles' | 'palette' | 'light-init'
export type Look = 'start' | 'on' | 'active' | 'value'
export type SetBy = NonNullable<Assignment['light']>['setBy']

/** Darker than this (OKLab lightness) is dim; what is off is chosen among the dim. */
const DIM = 0.55

/** The lens on lights: what every light of the Desk's controller shows, and the roles of the rig. */
export const useLightsStore = defineStore('lights', () => {
  const rigs = useRigStore()
  const desk = useDeskStore()
  const { edit } = usePendingEditStore()

  const tab = ref<LightsTab>('roles')
  const look = ref<Look>('start')
  /** The value that is looked at as sent back by destinations. */
  const sentBack = ref(127)
  /** Give a role in every layer, or only in those that show. */
  const isEveryLayer = ref(false)
  const which = ref<'all' | 'needed'>('all')
  const isWholeRig = ref(false)
  const isChoosing = ref(false)

  const roles = computed(() => rigs.rig?.lightRoles ?? [])
  const abilities = computed(() => desk.model?.abilities.lights ?? null)

  const way = computed<LightLook>(() =>
    look.value === 'start'
      ? { kind: 'start' }
      : look.value === 'on'
        ? { kind: 'state', state: 'on' }
        : look.value === 'value'
          ? { kind: 'value', value: sentBack.value }
          : { kind: 'active', gestures: desk.selectedRefs },
  )
  const picture = computed<ReadonlyMap<Id, Lit>>(() =>
    rigs.rig && desk.controller
      ? new Map(
          lightPicture(rigs.rig, desk.controller, desk.showing, way.value).map((lit) => [
            lit.control.id,
            lit,
          ]),
        )
      : new Map(),
  )

  /** The pattern by which a role is told where colours are not, as a path. */
  const patternPathOf = (role: LightRole): string =>
    patternPath(patternOf(roles.value.findIndex(({ id }) => id === role.id)))
  /** The same as a surface draws it, with the patterns of roles. */
  const shining = computed<ReadonlyMap<Id, SurfaceLight>>(
    () =>
      new Map(
        [...picture.value].map(([id, { entry, role }]) => [
          id,
          lightColours(entry.colour, role ? patternPathOf(role) : undefined),
        ]),
      ),
  )

  /** Every different set of colours that lights of the rig can show: the palettes that roles are seen on. */
  const palettes = computed<ReadonlyArray<readonly PaletteEntry[]>>(() => {
    const { rig } = rigs
    if (!rig) return []
    const all = rig.controllers
      .filter(({ inUse }) => inUse)
      .flatMap((controller) => {
        const { abilities: own, surface } = modelOf(rig, controller)
        const kinds = new Set(surface.controls.map(({ kind }) => kind))
        return [...kinds].map((kind) => entriesFor(own.lights, kind))
      })
      .filter(knowsColours)
    return [...new Map(all.map((entries) => [JSON.stringify(entries), entries])).values()]
  })

  function addRole(): void {
    const taken = new Set(roles.value.map(({ letter }) => letter))
    const letter = [...'ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789'].find((each) => !taken.has(each))
    if (letter === undefined) return toast.error('Every letter stands for a role already; remove one first.')
    const name = `Role ${roles.value.length + 1}`
    const role: LightRole = {
      id: takeId(name, new Set(roles.value.map(({ id }) => id))),
      name,
      letter,
      states: [
        { name: 'off', colour: '#26323a', from: null },
        { name: 'on', colour: '#ffffff', from: null },
      ],
    }
    edit(`Add ${name}`, [{ type: 'light-role-add', role }])
  }

  const setRole = (role: LightRole, label: string, set: Partial<Omit<LightRole, 'id'>>): boolean =>
    edit(`${label} ${role.name}`, [{ type: 'light-role-set', role: role.id, set }])

  /** The first gesture of every selected control, in the layers that are meant. */
  const places = computed(() => {
    const { controller, template, selected } = desk
    if (!controller || !template) return []
    const gestures = selected.flatMap(({ id, gestures: own }) => (own[0] ? [`${id}.${own[0]}`] : []))
    return isEveryLayer.value
      ? placesOver(controller, template, gestures, 'all-layers')
      : gestures.flatMap((gesture) => desk.placeOf(gesture) ?? [])
  })

  /** Give the selected controls a role, or none, set in some way. */
  function give(role: LightRole | null, setBy: SetBy): void {
    const { rig } = rigs
    if (!rig || places.value.length === 0) return
    const edits = changeAssignments(rig, places.value, ({ assignment }) => ({
      ...assignment,
      light: role && { role: role.id, setBy },
    }))
    const count = places.value.length
    edit(
      role ? `Give ${count} ${count === 1 ? 'light' : 'lights'} the role ${role.name}` : 'Leave lights dark',
      edits,
    )
  }

  /** Where a role is given, over the whole rig. */
  const uses = computed<ReadonlyMap<Id, number>>(() => {
    const counts = new Map<Id, number>()
    for (const { templates } of rigs.rig?.controllers ?? [])
      for (const { base, stacks } of templates)
        for (const table of [
          base,
          ...stacks.flatMap(({ layers }) => layers.map(({ assignments }) => assignments)),
        ])
          for (const { light } of Object.values(table))
            if (light) counts.set(light.role, (counts.get(light.role) ?? 0) + 1)
    return counts
  })

  let chooser: Remote<Chooser> | null = null
  const connect = (): Remote<Chooser> =>
    (chooser ??= wrap<Chooser>(
      new Worker(new URL('../workers/lights.worker.ts', import.meta.url), { type: 'module' }),
    ))

  /** Choose the colours of all roles so that they are as far apart as they can be on every palette. */
  async function choose(): Promise<void> {
    const { rig, revision } = rigs
    if (!rig || roles.value.length === 0) return
    if (palettes.value.length === 0)
      return toast.error('No light of this rig shows colours: give a controller a palette first.')
    isChoosing.value = true
    try {
      const colours = [...new Set(palettes.value.flatMap((entries) => entries.map(({ colour }) => colour)))]
      const isDim = (colour: string): boolean => lightness(colour) < DIM && lightness(colour) > 0
      const count = roles.value.length
      const offs = roles.value.filter(({ states }) => states.length > 1).length
      const brights = roles.value.reduce((sum, { states }) => sum + Math.max(1, states.length - 1), 0)
      const chosen = await connect().choose({
        dark: colours.filter(isDim),
        bright: colours.filter((colour) => lightness(colour) >= DIM),
        darkCount: offs,
        brightCount: brights,
        palettes: palettes.value.map((entries) => [...entries]),
      })
      if (revision !== rigs.revision) return toast('The rig has changed meanwhile; choose again.')
      const made = edit(
        `Choose the colours of ${count} roles`,
        chosenEdits(roles.value, chosen.dark, chosen.bright),
      )
      if (made)
        toast(
          chosen.bound > chosen.smallest
            ? `Chosen: any two are at least ${chosen.smallest.toFixed(2)} apart; ${chosen.bound.toFixed(2)} could be possible.`
            : `Chosen: any two are at least ${chosen.smallest.toFixed(2)} apart, and no choice does better.`,
        )
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error))
    } finally {
      isChoosing.value = false
    }
  }

  const lightInitOf = computed<LightInit | null>(() => {
    const { rig } = rigs
    if (!rig || !desk.controller) return null
    const controllers = isWholeRig.value ? rig.controllers.filter(({ inUse }) => inUse) : [desk.controller]
    return lightInit(rig, controllers, desk.showing, which.value)
  })

  return {
    tab,
    look,
    sentBack,
    isEveryLayer,
    which,
    isWholeRig,
    isChoosing,
    roles,
    abilities,
    picture,
    shining,
    patternPathOf,
    palettes,
    places,
    uses,
    lightInitOf,
    addRole,
    setRole,
    give,
    choose,
  }
})

/** The chosen colours handed to the states of roles: what is off gets a dim one, the others bright ones. */
function chosenEdits(
  roles: readonly LightRole[],
  dark: readonly string[],
  bright: readonly string[],
): RigEdit[] {
  const [dims, lights] = [[...dark], [...bright]]
  return roles.map((role): RigEdit => ({
    type: 'light-role-set',
    role: role.id,
    set: {
      states: role.states.map((state, index) => ({
        ...state,
        colour: (role.states.length > 1 && index === 0 ? dims.shift() : lights.shift()) ?? state.colour,
      })),
    },
  }))
}
