import { cableWords } from '../conflicts/words'
import { mappingName, moverName } from '../mappings'
import { printTag } from '../midi'
import {
  choiceWords,
  claimWords,
  controlName,
  gestureName,
  gestureRef,
  parameterName,
  splitGestureKey,
  type Assignment,
  type Cable,
  type Choice,
  type Claim,
  type Control,
  type Controller,
  type GestureKey,
  type Id,
  type Mapping,
  type Model,
  type Parameter,
  type Rig,
  type Stack,
  type Template,
} from '../rig'
import type { Difference } from '../rig/compare'
import { fieldChange, fieldChanges, fieldName } from './fields'
import type { Described, LineKind } from './report'
import { assignmentThen, wasAndIs } from './words'

type Said = Pick<Described, 'name' | 'was' | 'is'> & { kind?: LineKind; gesture?: Described['gesture'] }
type Group = Described['group']

/** Two rigs, one difference, and what lies there before and after; undefined where nothing does. */
interface Seen {
  before: Rig
  after: Rig
  difference: Difference
  was: unknown
  is: unknown
  /** The rig in which what is spoken of is there: the later one, if it is in both. */
  rig: Rig
}

const THE_RIG: Group = { kind: 'rig', id: null, name: 'The rig' }

const silent = (name: string): Said => ({ name, was: null, is: null })

/** A thing by its name, with the fields in which it differs where it is in both. */
function thing<T extends object>(seen: Seen, nameOf: (value: T, rig: Rig) => string): Said {
  const { was, is, rig } = seen
  const name = nameOf((is ?? was) as T, rig)
  if (typeof was !== 'object' || typeof is !== 'object' || was === null || is === null) return silent(name)
  const changes = fieldChanges(was, is)
  const [before, after] = (['was', 'is'] as const).map((when) =>
    changes.flatMap((each) => (each[when] === null ? [] : [`${each.name} ${each[when]}`])).join(', '),
  )
  const others = changes.filter(({ was: text }) => text === null).map((each) => each.name)
  return {
    name: others.length > 0 ? `${name}: ${others.join(', ')}` : name,
    was: before || null,
    is: after || null,
  }
}

const named = (seen: Seen): Said => thing<{ name: string }>(seen, ({ name }) => name)

function fieldOf(seen: Seen): Said {
  const field = seen.difference.where.at(-1) ?? ''
  const { name, was, is } = fieldChange(field, seen.was, seen.is)
  return { name, was, is }
}

const controllerIn = (rig: Rig, id: Id): Controller | undefined =>
  rig.controllers.find((each) => each.id === id)
const surfaceControls = (rig: Rig, controller: Controller): Control[] =>
  rig.models.find(({ id }) => id === controller.model)?.surface.controls ?? []

function assignment(seen: Seen, id: Id, key: GestureKey): Said {
  const { control: controlId, gesture } = splitGestureKey(key)
  const then = (rig: Rig, value: unknown) => {
    const controller = controllerIn(rig, id)
    return controller && value ? assignmentThen(rig, controller, value as Assignment) : null
  }
  const [was, is] = [then(seen.before, seen.was), then(seen.after, seen.is)]
  const owner = controllerIn(seen.rig, id)
  const control = owner && surfaceControls(seen.rig, owner).find((each) => each.id === controlId)
  const name = control ? gestureName(control, gesture) : controlId
  const at = gestureRef(id, key)
  if (!was || !is)
    return { name, was: was && (was.tags || 'nothing'), is: is && (is.tags || 'nothing'), gesture: at }
  const kind = was.tags === is.tags ? 'changed' : 'moved'
  return { name, kind, gesture: at, ...wasAndIs(was, is) }
}

/** What lies within a template: the base, a stack, a layer or what a gesture sends there. */
function inTemplate(seen: Seen, id: Id, template: Template, rest: readonly string[]): [string, Said] {
  const [field, ...inner] = rest
  if (field === undefined) return ['Templates', silent(template.name)]
  if (field === 'base' && inner[0] !== undefined)
    return [`${template.name}, always on`, assignment(seen, id, inner[0])]
  const [stackId, inStack, layerId, , gesture] = inner
  if (field !== 'stacks' || stackId === undefined) return [template.name, fieldOf(seen)]
  const stack = template.stacks.find((each) => each.id === stackId) as Stack
  if (inStack === undefined) return [template.name, silent(`Stack ${stack.name}`)]
  const layer = stack.layers.find((each) => each.id === layerId)
  if (inStack !== 'layers' || !layer) return [stack.name, fieldOf(seen)]
  if (gesture !== undefined) return [layer.name, assignment(seen, id, gesture)]
  return inner.length === 3 ? [stack.name, silent(`Layer ${layer.name}`)] : [layer.name, fieldOf(seen)]
}

function inController(seen: Seen): Described | null {
  const [, id, list, item, ...rest] = seen.difference.where
  const controller = id === undefined ? undefined : controllerIn(seen.rig, id)
  if (!controller || id === undefined) return null
  const group: Group = { kind: 'controller', id, name: controller.name }
  if (list === undefined) return line(seen, group, '', silent('The whole controller'))
  if (list === 'ports' && item !== undefined) return line(seen, group, 'Ports', named(seen))
  const template = controller.templates.find((each) => each.id === item)
  if (list !== 'templates' || !template) return line(seen, group, 'Settings', fieldOf(seen))
  return line(seen, group, ...inTemplate(seen, id, template, rest))
}

const hasMoved = ({ was, is }: Seen): boolean => {
  const names = was && is ? fieldChanges(was, is).map(({ name }) => name) : []
  return names.length > 0 && names.every((name) => name === fieldName('place'))
}

function inModel(seen: Seen): Described {
  const [, id, , list, item] = seen.difference.where
  const model = seen.rig.models.find((each) => each.id === id) as Model
  const owner = seen.rig.controllers.find((each) => each.model === id)
  const group: Group = owner ? { kind: 'controller', id: owner.id, name: owner.name } : THE_RIG
  if (seen.difference.where.length === 2)
    return line(seen, group, 'Surface', silent(`The kind of controller ${model.name}`))
  if (list === 'controls' && item !== undefined) {
    const control = (seen.is ?? seen.was) as Control
    const gesture = owner ? gestureRef(owner.id, `${control.id}.${control.gestures[0] ?? 'turn'}`) : null
    const said: Said = hasMoved(seen)
      ? { ...silent(controlName(control)), kind: 'moved' }
      : thing<Control>(seen, controlName)
    return line(seen, group, 'Surface', { ...said, gesture })
  }
  if (list === 'blocks' && item !== undefined)
    return line(
      seen,
      group,
      'Surface',
      thing<{ label: string }>(seen, ({ label }) => `Block ${label}`),
    )
  return line(seen, group, list === undefined ? 'Hardware' : 'Surface', fieldOf(seen))
}

const DESTINATION_LISTS: Readonly<Record<string, [string, (seen: Seen) => Said]>> = {
  ports: ['Ports', named],
  scopes: ['Scopes', named],
  claims: ['Kept for itself', (seen) => thing<Claim>(seen, claimWords)],
  parameters: ['Parameters', (seen) => thing<Parameter>(seen, parameterName)],
}

function inDestination(seen: Seen): Described | null {
  const [, id, list, item] = seen.difference.where
  const destination = seen.rig.destinations.find((each) => each.id === id)
  if (!destination || id === undefined) return null
  const group: Group = { kind: 'destination', id, name: destination.name }
  if (list === undefined) return line(seen, group, '', silent('The whole destination'))
  const items = item === undefined ? undefined : DESTINATION_LISTS[list]
  return items ? line(seen, group, items[0], items[1](seen)) : line(seen, group, 'Settings', fieldOf(seen))
}

const learned = ({ learnedAt }: Mapping): string =>
  learnedAt === null ? 'not yet taught' : `taught ${printTag(learnedAt)}`

function inMappings(seen: Seen): Described {
  const mapping = (seen.is ?? seen.was) as Mapping
  const destination = seen.rig.destinations.find(({ id }) => id === mapping.destination)
  const group: Group = destination
    ? { kind: 'destination', id: destination.id, name: destination.name }
    : THE_RIG
  const nameIn = (each: Mapping, rig: Rig): string =>
    `${moverName(rig, each) ?? 'a control that is gone'} → ${mappingName(rig, each)}`
  const said = thing<Mapping>(seen, nameIn)
  const [was, is] = [seen.was, seen.is] as [Mapping | undefined, Mapping | undefined]
  const isTaught = was && is && learned(was) !== learned(is)
  const add = (text: string | null, more: string): string => (text === null ? more : `${text}, ${more}`)
  return line(seen, group, 'Mappings', {
    ...said,
    ...(isTaught
      ? { name: nameIn(is, seen.rig), was: add(said.was, learned(was)), is: add(said.is, learned(is)) }
      : {}),
    gesture: mapping.gesture,
  })
}

/** Lists of the rig itself, each with its heading and how one of its items is named. */
const RIG_LISTS: Readonly<Record<string, [string, (seen: Seen) => Said]>> = {
  boxes: ['Boxes', named],
  computers: ['Computers', named],
  cables: ['Cables', (seen) => thing<Cable>(seen, (cable, rig) => cableWords(rig, cable))],
  choices: ['What chooses layers', (seen) => thing<Choice>(seen, (choice, rig) => choiceWords(rig, choice))],
  accords: ['Shared on purpose', named],
  lightRoles: ['Light roles', named],
  passages: ['Passages', named],
  houseRules: [
    'House rules',
    (seen) =>
      thing<Rig['houseRules'][number]>(
        seen,
        ({ kind, message, low, high }) => `${kind} ${message} ${low}–${high}`,
      ),
  ],
  recipes: ['Recipes', named],
}

function inRig(seen: Seen): Described {
  const [list = '', item] = seen.difference.where
  const items = item === undefined ? undefined : RIG_LISTS[list]
  return items
    ? line(seen, THE_RIG, items[0], items[1](seen))
    : line(seen, THE_RIG, 'Settings', fieldOf(seen))
}

function line({ difference: { kind } }: Seen, group: Group, section: string, said: Said): Described {
  return {
    group,
    section,
    kind: said.kind ?? (kind === 'order' ? 'changed' : kind),
    name: kind === 'order' ? `Order of ${said.name}` : said.name,
    was: said.was,
    is: said.is,
    gesture: said.gesture ?? null,
  }
}

/** One difference of two rigs in words, and where it belongs. */
export function describe(before: Rig, after: Rig, difference: Difference): Described {
  const { where, kind } = difference
  const seen: Seen = {
    before,
    after,
    difference,
    was: kind === 'new' ? undefined : difference.before,
    is: kind === 'gone' ? undefined : difference.after,
    rig: kind === 'gone' ? before : after,
  }
  if (kind === 'order' && where.length > 1) {
    // The list is spoken of, not what is in it.
    const outer = describe(before, after, { kind: 'changed', where, before: null, after: null })
    return { ...outer, name: `Order of ${fieldName(where.at(-1) ?? '')}`, was: null, is: null }
  }
  switch (where[0]) {
    case 'controllers':
      return inController(seen) ?? inRig(seen)
    case 'models':
      return where.length === 1 ? inRig(seen) : inModel(seen)
    case 'destinations':
      return inDestination(seen) ?? inRig(seen)
    case 'mappings':
      return where.length === 1 ? inRig(seen) : inMappings(seen)
    default:
      return inRig(seen)
  }
}
