import { patternOf, type Pattern } from '../../lights'
import {
  controlName,
  gestureName,
  GESTURE_WORD,
  modelOf,
  plain,
  programmedAt,
  shownPlace,
  type Control,
  type Controller,
  type GestureKind,
  type Id,
  type LightRole,
  type Place,
  type Rig,
  type Showing,
} from '../../rig'
import { doesAt, tagsAt } from '../doing'
import { drawingOf, labelRooms, type LabelRoom, type ShapePart } from '../drawing'
import { PAPER_INK, SOFT_INK, type Drawing, type Part } from './drawing'
import { cut, fitted, LEADING, textWidth, type Fitted, type Wanted } from './fit'
import { swatchParts } from './swatch-parts'

/** What a controller shows, under the name that a card gives it. */
export interface NamedShowing {
  name: string
  showing: Showing
}

/** What a gesture does in one of the showings of a card. */
export interface CardLine {
  gesture: GestureKind
  name: string
  showing: string
  place: Place
  tags: readonly string[]
  does: readonly string[]
  light: { role: LightRole; pattern: Pattern; colour: string } | null
}

/** A control of a card with all that is said of it. */
export interface CardControl {
  control: Control
  lines: readonly CardLine[]
}

/** Room around the surface for its name, and for the ruler below, in mm. */
const MARGIN = 9
export const RULER_MM = 50
const RULER_HEIGHT = 1.2
const HEAD_SIZE = 3.4
const SWATCH = 3
/** Labels are placed in px; so many px of theirs are 1 mm here. */
const PX_A_MM = 13 / 2.4
/** Letters and lines do not touch the edge of what they are written into. */
const PADDING = 0.8

/** The colour of a role's light as it stands out: switched on, else its last state. */
const brightOf = ({ states }: LightRole): string =>
  (states.find(({ name }) => name.toLowerCase() === 'on') ?? states.at(-1))?.colour ?? '#ffffff'

function lightAt(rig: Rig, place: Place): CardLine['light'] {
  const light = programmedAt(rig, place)?.assignment.light
  const index = light ? rig.lightRoles.findIndex(({ id }) => id === light.role) : -1
  const role = rig.lightRoles[index]
  return role ? { role, pattern: patternOf(index), colour: brightOf(role) } : null
}

/** All that is said of the controls of a controller in some showings; what several showings say alike is said once. */
export function cardControls(
  rig: Rig,
  controller: Controller,
  showings: readonly NamedShowing[],
): CardControl[] {
  return modelOf(rig, controller).surface.controls.map((control) => {
    const seen = new Set<string>()
    const lines = showings.flatMap(({ name, showing }) =>
      control.gestures.flatMap((gesture): CardLine[] => {
        const place = control.silent ? null : shownPlace(controller, showing, `${control.id}.${gesture}`)
        const key = place ? `${place.layer ?? ''} ${gesture}` : ''
        if (!place || seen.has(key)) return []
        seen.add(key)
        const tags = tagsAt(rig, place)
        const does = doesAt(rig, place)
        const light = lightAt(rig, place)
        if (tags.length === 0 && does.length === 0 && !light) return []
        const shownBy = place.layer === null ? '' : name
        return [{ gesture, name: gestureName(control, gesture), showing: shownBy, place, tags, does, light }]
      }),
    )
    return { control, lines }
  })
}

/** What is written at a control, in the order of what matters: its label, then what each gesture moves, then where it is sent. */
function wantedAt({ control, lines }: CardControl, isOfSeveral: boolean): Wanted[] {
  const wanted: Wanted[] = [{ text: plain(controlName(control)), face: 'bold' }]
  for (const line of lines) {
    const ahead = [
      isOfSeveral ? line.showing : '',
      line.gesture === control.gestures[0] ? '' : GESTURE_WORD[line.gesture],
    ]
      .filter(Boolean)
      .join(', ')
    const said = line.does.join('; ')
    const tags = line.tags.join(' ')
    if (said !== '') wanted.push({ text: plain(ahead === '' ? said : `${ahead}: ${said}`), face: 'plain' })
    if (tags !== '')
      wanted.push({ text: said === '' && ahead !== '' ? `${plain(ahead)} ${tags}` : tags, face: 'figures' })
  }
  return wanted
}

const STROKED = { body: 'edge', mark: 'mark', detail: 'detail', dark: null } as const
const FILLED = { body: '#ffffff', mark: null, detail: null, dark: '#c9c4b6' } as const

/** A part of the line drawing of a control as it is printed. */
function printed(part: ShapePart): Part {
  const ink = STROKED[part.ink]
  switch (part.shape) {
    case 'rect':
      return {
        kind: 'rect',
        x: part.x,
        y: part.y,
        w: part.w,
        h: part.h,
        radius: part.radius,
        ink,
        fill: FILLED[part.ink],
      }
    case 'circle':
      return { kind: 'circle', cx: part.cx, cy: part.cy, r: part.r, ink, fill: FILLED[part.ink] }
    case 'line':
      return { kind: 'line', x1: part.x1, y1: part.y1, x2: part.x2, y2: part.y2, ink: ink ?? 'mark' }
  }
}

interface Room {
  /** Middle of the lines. */
  x: number
  top: number
  width: number
  height: number
}

const roomOf = (room: LabelRoom): Room => {
  const x = room.x / PX_A_MM
  const width = room.width / PX_A_MM
  return room.side === 'inside'
    ? { x, width, top: room.top / PX_A_MM, height: room.height / PX_A_MM }
    : { x, width, top: room.bottom / PX_A_MM, height: Math.max(0, room.room / PX_A_MM) }
}
const ownRoom = ({ place }: Control): Room => ({
  x: place.x + place.w / 2,
  top: place.y,
  width: place.w - PADDING,
  height: place.h,
})

const WRITTEN_ON: ReadonlySet<Control['kind']> = new Set([
  'button',
  'footswitch',
  'pad',
  'xy',
  'pedal',
  'keybed',
  'ribbon',
])

/** The room in which most can be read: beside the control, or on it where it is flat. */
function bestRoom(
  control: Control,
  beside: Room,
  wanted: readonly Wanted[],
  below: number,
): { room: Room; set: Fitted } {
  const inside = (room: Room): Fitted =>
    fitted(wanted, room.width - PADDING, room.height - 2 * PADDING - below)
  const first = { room: beside, set: inside(beside) }
  if (!WRITTEN_ON.has(control.kind)) return first
  const own = ownRoom(control)
  const second = { room: own, set: inside(own) }
  const rank = ({ set }: { set: Fitted }): number => (set.isCut ? set.lines.length : 100 + set.size)
  return rank(second) > rank(first) ? second : first
}

/** The writing of a control with the swatches of its lights; `isCut` where something had no room. */
function writing(
  card: CardControl,
  room: LabelRoom,
  isOfSeveral: boolean,
): { parts: Part[]; isCut: boolean } {
  const { control, lines } = card
  const lights = [
    ...new Map(lines.flatMap(({ light }) => (light ? [[light.role.id, light] as const] : []))).values(),
  ]
  const below = lights.length > 0 && WRITTEN_ON.has(control.kind) ? SWATCH : 0
  const { room: at, set } = bestRoom(control, roomOf(room), wantedAt(card, isOfSeveral), below)
  const leading = set.size * LEADING
  const block = set.lines.length * leading
  const isKeys = control.kind === 'keybed'
  const isInside = at.top < control.place.y + control.place.h - 0.01
  const top = isKeys
    ? at.top + at.height - block - PADDING
    : isInside
      ? at.top + below + (at.height - below - block) / 2
      : at.top + PADDING
  const shown =
    set.lines.length > 0 ? set.lines : [{ text: '…', whole: controlName(control), face: 'plain' as const }]
  const parts: Part[] = shown.map(({ text, whole, face }, index) => ({
    kind: 'text',
    x: at.x,
    y: top + (index + 0.8) * leading,
    size: set.size,
    text,
    whole,
    anchor: 'middle',
    face,
    colour: face === 'figures' ? SOFT_INK : PAPER_INK,
  }))
  const swatches = Math.max(1, Math.floor(control.place.w / (SWATCH * 2)))
  lights.slice(0, swatches).forEach(({ role, pattern, colour }, index) => {
    const { x, y } = control.place
    const left = x + 0.5 + index * (SWATCH * 2)
    parts.push(...swatchParts(left, y + 0.5, SWATCH - 0.6, colour, pattern), {
      kind: 'text',
      x: left + SWATCH - 0.3,
      y: y + SWATCH - 0.5,
      size: 2.2,
      text: role.letter,
      whole: `${role.letter} ${plain(role.name)}`,
      anchor: 'start',
      face: 'bold',
      colour: PAPER_INK,
    })
  })
  // Of several layers the swatches do not say which has which light, and not every control has room for all of them.
  const hidesLight = lights.length > swatches || (isOfSeveral && lights.length > 0)
  return { parts, isCut: set.isCut || hidesLight }
}

function ruler(top: number): Part[] {
  return [
    { kind: 'rect', x: MARGIN, y: top, w: RULER_MM, h: RULER_HEIGHT, radius: 0, ink: null, fill: '#000000' },
    {
      kind: 'text',
      x: MARGIN + RULER_MM + 1.5,
      y: top + RULER_HEIGHT + 0.3,
      size: 2.2,
      text: `This bar is ${RULER_MM} mm long.`,
      anchor: 'start',
      face: 'plain',
      colour: PAPER_INK,
    },
  ]
}

const LEGEND_LINE = 4
const LEGEND_SIZE = 2.4

/** What the letters and patterns of lights stand for, in lines of a width in mm. */
function legend(
  controls: readonly CardControl[],
  top: number,
  width: number,
): { parts: Part[]; height: number } {
  const lights = new Map(
    controls.flatMap(({ lines }) =>
      lines.flatMap(({ light }) => (light ? [[light.role.id, light] as const] : [])),
    ),
  )
  const parts: Part[] = []
  let [x, y] = [MARGIN, top]
  for (const { role, pattern, colour } of lights.values()) {
    const text = plain(`${role.letter} ${role.name}`)
    const wide = SWATCH + 1 + textWidth(text, LEGEND_SIZE, 'plain') + 4
    if (x > MARGIN && x + wide > MARGIN + width) [x, y] = [MARGIN, y + LEGEND_LINE]
    parts.push(...swatchParts(x, y, SWATCH - 0.6, colour, pattern), {
      kind: 'text',
      x: x + SWATCH + 0.6,
      y: y + SWATCH - 1,
      size: LEGEND_SIZE,
      text: cut(text, width - SWATCH, LEGEND_SIZE, 'plain'),
      whole: text,
      anchor: 'start',
      face: 'plain',
      colour: PAPER_INK,
    })
    x += wide
  }
  return { parts, height: lights.size === 0 ? 0 : y - top + LEGEND_LINE }
}

const shifted = (part: Part): Part => {
  switch (part.kind) {
    case 'rect':
    case 'text':
      return { ...part, x: part.x + MARGIN, y: part.y + MARGIN }
    case 'circle':
      return { ...part, cx: part.cx + MARGIN, cy: part.cy + MARGIN }
    case 'line':
      return {
        ...part,
        x1: part.x1 + MARGIN,
        y1: part.y1 + MARGIN,
        x2: part.x2 + MARGIN,
        y2: part.y2 + MARGIN,
      }
  }
}

/**
 * The surface of a controller true to scale in mm, each control with its label, what it moves and where it is sent; a
 * dashed line to cut along, and a ruler to check the print by. `whole` are the controls at which all is written that is
 * said of them.
 */
export function cardDrawing(
  rig: Rig,
  controller: Controller,
  name: string,
  controls: readonly CardControl[],
  isOfSeveral: boolean,
): { drawing: Drawing; whole: ReadonlySet<Id> } {
  const { surface } = modelOf(rig, controller)
  const rooms = labelRooms(
    controls.map(({ control }) => control),
    PX_A_MM,
    surface,
  )
  const title = plain(name === '' ? controller.name : `${controller.name}: ${name}`)
  const width = Math.max(surface.width + 2 * MARGIN, MARGIN * 2 + RULER_MM + 40)
  const head: Part[] = [
    {
      kind: 'text',
      x: MARGIN,
      y: MARGIN - 2.5,
      size: HEAD_SIZE,
      text: cut(title, width - 2 * MARGIN, HEAD_SIZE, 'bold'),
      whole: title,
      anchor: 'start',
      face: 'bold',
      colour: PAPER_INK,
    },
  ]
  const rigName = plain(rig.name)
  if (textWidth(title, HEAD_SIZE, 'bold') + textWidth(rigName, 2.6, 'plain') + 6 < surface.width)
    head.push({
      kind: 'text',
      x: MARGIN + surface.width,
      y: MARGIN - 2.5,
      size: 2.6,
      text: rigName,
      anchor: 'end',
      face: 'plain',
      colour: SOFT_INK,
    })
  const edge: Part = {
    kind: 'rect',
    x: 0,
    y: 0,
    w: surface.width,
    h: surface.height,
    radius: 0,
    ink: 'cut',
    fill: null,
  }
  const bodies = controls.flatMap(({ control }) => drawingOf(control).map(printed))
  const written = controls.map((card, index) => {
    const room = rooms[index]
    return room ? writing(card, room, isOfSeveral) : { parts: [], isCut: true }
  })
  const key = legend(controls, MARGIN + surface.height + 2.5, Math.max(surface.width, RULER_MM + 40))
  const foot = MARGIN + surface.height + key.height
  const drawing: Drawing = {
    name: title,
    width,
    height: foot + MARGIN,
    parts: [
      ...head,
      ...[edge, ...bodies, ...written.flatMap(({ parts }) => parts)].map(shifted),
      ...key.parts,
      ...ruler(foot + 4),
    ],
  }
  const whole = controls.flatMap(({ control }, index) => (written[index]?.isCut ? [] : control.id))
  return { drawing, whole: new Set(whole) }
}
