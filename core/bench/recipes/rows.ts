import { channelOf, fitsNumber, numberOf, withNumber, type Channel, type Message } from '../../midi'
import {
  controlsOf,
  freshMessage,
  gestureName,
  splitGestureKey,
  withChannel,
  type Assignment,
  type Controller,
  type GestureKey,
  type Layer,
  type LightRole,
  type Model,
  type Template,
} from '../../rig'
import { Message as MessageSchema } from '../../rig/schema'
import { entriesFor, shownAs } from '../../lights'

/** What a recipe can say of one control in one layer. Numbers as in the model: channels 1–16, values 0–127 or 0–16383. */
export interface RecipeRow {
  /** The layer, counted from 0: the base, then every layer of every stack. */
  layer: number
  /** The gesture, counted from 0 in the order of the surface. */
  control: number
  kind: string
  channel: number
  number: number
  low: number
  high: number
  behaviour: string
  /** The number of the colour that its light shows when it is on. */
  colour: number
  name: string
}

/** Every gesture of a model, in the order of its surface: by this number hardware names it. */
export const gesturesOf = (model: Model): GestureKey[] =>
  [...controlsOf(model).values()].flatMap(({ id, gestures }) => gestures.map((kind) => `${id}.${kind}`))

/** The tables of a template in the order in which hardware counts them: the base, then layer by layer. */
const layersOf = ({ base, stacks }: Template): Array<Readonly<Record<GestureKey, Assignment>>> => [
  base,
  ...stacks.flatMap(({ layers }) => layers.map(({ assignments }) => assignments)),
]

function colourOf(
  model: Model,
  roles: readonly LightRole[],
  gesture: GestureKey,
  { light }: Assignment,
): number {
  const control = controlsOf(model).get(splitGestureKey(gesture).control)
  const role = light && roles.find(({ id }) => id === light.role)
  const state = role?.states.find(({ name }) => name.toLowerCase() === 'on') ?? role?.states.at(-1)
  if (!control || !role || !state) return 0
  return (
    shownAs(state.colour, role.states.indexOf(state), entriesFor(model.abilities.lights, control.kind))?.entry
      .index ?? 0
  )
}

/** What a template says, control by control and layer by layer, as far as a recipe can say it. */
export function rowsOf(
  model: Model,
  controller: Pick<Controller, 'homeChannel'>,
  template: Template,
  roles: readonly LightRole[],
): RecipeRow[] {
  const gestures = gesturesOf(model)
  const controls = controlsOf(model)
  return layersOf(template).flatMap((table, layer) =>
    gestures.flatMap((gesture, at): RecipeRow[] => {
      const assignment = table[gesture]
      const message = assignment?.messages[0]
      const { control: id, gesture: kind } = splitGestureKey(gesture)
      const control = controls.get(id)
      if (!assignment || !message || !control) return []
      const range = 'range' in message ? message.range : { low: 0, high: 127 }
      return [
        {
          layer,
          control: at,
          kind: message.kind,
          channel: channelOf(message, controller.homeChannel) ?? controller.homeChannel,
          number: numberOf(message) ?? 0,
          low: range.low,
          high: range.high,
          behaviour: 'behaviour' in message ? message.behaviour.kind : '',
          colour: colourOf(model, roles, gesture, assignment),
          name: gestureName(control, kind),
        },
      ]
    }),
  )
}

/** A message as a row says it; null where it cannot be. */
function messageIn(
  model: Model,
  row: Partial<RecipeRow>,
  gesture: GestureKey,
  before: Message | undefined,
  home: Channel,
): Message | null {
  const { control: id, gesture: kind } = splitGestureKey(gesture)
  const control = controlsOf(model).get(id)
  if (!control) return null
  const isSame = before !== undefined && (row.kind === undefined || before.kind === row.kind)
  const fresh = isSame ? before : freshMessage((row.kind ?? 'cc') as Message['kind'], control.kind, kind)
  const numbered =
    row.number !== undefined &&
    fitsNumber(fresh.kind, row.number) &&
    numberOf(fresh) !== row.number &&
    // Keys play a span of notes, which is no number.
    (!isSame || numberOf(fresh) !== null)
      ? withNumber(fresh, row.number)
      : fresh
  // A message that goes by the home channel goes on doing so.
  const isHome = 'channel' in numbered && numbered.channel === 'home' && row.channel === home
  const placed =
    row.channel !== undefined && 'channel' in numbered && !isHome
      ? withChannel(numbered, row.channel as Channel)
      : numbered
  const ranged =
    'range' in placed && row.low !== undefined && row.high !== undefined
      ? { ...placed, range: { low: row.low, high: row.high } }
      : placed
  const isOther =
    'behaviour' in ranged && row.behaviour !== undefined && row.behaviour !== ranged.behaviour.kind
  const wanted = isOther
    ? { ...ranged, behaviour: BEHAVIOURS[row.behaviour ?? ''] ?? ranged.behaviour }
    : ranged
  const parsed = MessageSchema.safeParse(wanted)
  return parsed.success ? parsed.data : fresh
}

/** Behaviours that need more than their name, as they are where a recipe names them and nothing else is known. */
const BEHAVIOURS: Readonly<Record<string, object>> = {
  absolute: { kind: 'absolute', turns: null },
  relative: { kind: 'relative', encoding: 'offset-binary', acceleration: 'none' },
  momentary: { kind: 'momentary' },
  toggle: { kind: 'toggle' },
  trigger: { kind: 'trigger' },
  latch: { kind: 'latch' },
}

/** A template after what a recipe read is written into it; what the recipe does not say stays. */
export function withRows(
  model: Model,
  controller: Pick<Controller, 'homeChannel'>,
  template: Template,
  rows: ReadonlyArray<Partial<RecipeRow>>,
): Template {
  const gestures = gesturesOf(model)
  const tables = layersOf(template).map((table) => ({ ...table }))
  for (const row of rows) {
    const gesture = gestures[row.control ?? -1]
    const table = tables[row.layer ?? 0]
    if (gesture === undefined || !table) continue
    const before = table[gesture]
    const message = messageIn(model, row, gesture, before?.messages[0], controller.homeChannel)
    if (!message) continue
    table[gesture] = before
      ? { ...before, messages: [message, ...before.messages.slice(1)] }
      : { messages: [message], pinned: false, light: null, memo: '' }
  }
  let at = 1
  const layer = (each: Layer): Layer => ({ ...each, assignments: { ...tables[at++] } })
  return {
    ...template,
    base: { ...tables[0] },
    stacks: template.stacks.map((stack) => ({ ...stack, layers: stack.layers.map(layer) })),
  }
}
