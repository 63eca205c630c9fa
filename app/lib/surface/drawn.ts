import type { Severity } from '#core/conflicts'
import { CONTROL_KIND_NAME, controlName, splitGestureKey, type GestureKey, type Id } from '#core/rig'
import { gestureVerb } from '../sentence'
import type { SurfaceLight } from './light-colours'
import {
  fitName,
  fitTag,
  inkedPaths,
  TAG_LINE_PX,
  tagWidth,
  type InkedPath,
  type LabelPlace,
} from '#core/sheets/drawing'

/** An address on the surface, with what is to be said of it. */
export interface ControlTag {
  gesture: GestureKey
  text: string
  severity: Severity | null
  isShared: boolean
  isPinned: boolean
  /** Is it what a plan would have it send, rather than what it sends? */
  isPlanned: boolean
  /** Is it the name of what is moved, rather than an address? The long form, then the short one. */
  names?: readonly string[]
  /** The word between a movement and what is said of it, where that is not what the form of the tag suggests. */
  does?: 'gives'
}

/** What the drawing of a control depends on: as long as these are the same, so is the drawing. */
export interface DrawnFrom {
  place: LabelPlace
  /** Px a mm. */
  scale: number
  tags: readonly ControlTag[]
  /** Null where the control is not selected; else the gesture at hand. */
  selected: { gesture: GestureKey | null } | null
  isTabStop: boolean
  /** The colour of its light and what to write on it, in the lens on lights. */
  light?: SurfaceLight | undefined
}

/** One tag of a drawing: in px, with the classes of its state. */
export interface DrawnTag {
  gesture: GestureKey
  text: string
  x: number
  y: number
  left: number
  width: number
  state: string
  notch: string | null
  shared: string | null
  isPinned: boolean
}

/** All that is drawn of one control, in px. */
export interface DrawnControl {
  from: DrawnFrom
  id: Id
  paths: readonly InkedPath[]
  box: { x: number; y: number; w: number; h: number }
  isEmpty: boolean
  halo: 'round' | 'square' | null
  /** A plate behind writing that stands on keys. */
  plate: { x: number; y: number; w: number; h: number } | null
  label: { x: number; y: number; text: string } | null
  /** Trouble that no tag shows, where there is no room for one. */
  hiddenTrouble: Severity | null
  severity: Severity | null
  tags: readonly DrawnTag[]
  spoken: string
  light: SurfaceLight | null
}

const ROUND: ReadonlySet<string> = new Set(['knob', 'encoder', 'footswitch', 'tilt', 'joystick'])
const RANK = { error: 3, warning: 2, advice: 1 } as const
const TAG_CHAR_PX = 6.7

function spokenOf({ place: { control }, tags, light }: DrawnFrom): string {
  const sent = tags.map(({ gesture, text, severity, isShared, isPlanned, names, does: word }) => {
    const verb = gestureVerb(splitGestureKey(gesture).gesture).toLowerCase()
    const does = word ?? (light ? 'shows' : names ? 'moves' : isPlanned ? 'is to send' : 'sends')
    return `${verb} ${does} ${names?.[0] ?? text}${severity ? `, ${severity}` : ''}${isShared ? ', shared on purpose' : ''}`
  })
  const said = sent.length > 0 ? sent : ['sends nothing']
  return [controlName(control), CONTROL_KIND_NAME[control.kind], ...said].join(', ')
}

/** Tags that find room, in the form that fits: what is selected or in trouble first; the last says how many did not. */
function tagsThatFit({ place, tags, selected }: DrawnFrom): DrawnTag[] {
  const lines = place.tagLines
  const rank = ({ gesture, severity, isPlanned }: ControlTag): number =>
    gesture === selected?.gesture ? 5 : isPlanned ? 4 : severity === null ? 0 : RANK[severity]
  const ordered = lines < tags.length ? tags.toSorted((a, b) => rank(b) - rank(a)) : tags
  return ordered.slice(0, lines).flatMap((tag, index) => {
    const hidden = index === lines - 1 ? tags.length - lines : 0
    const more = hidden > 0 ? ` +${hidden}` : ''
    const room = place.tagWidth - more.length * TAG_CHAR_PX
    const fitted = tag.names ? fitName(tag.names, room) : fitTag(tag.text, room)
    if (fitted === null) return []
    const text = fitted + more
    const width = tagWidth(text)
    const left = place.x - width / 2
    const y = (place.tagsY ?? 0) + index * TAG_LINE_PX
    const chosen = tag.gesture === selected?.gesture ? 'chosen' : ''
    return {
      gesture: tag.gesture,
      text,
      x: place.x,
      y,
      left,
      width,
      state: `tagline ${tag.isPlanned ? 'planned' : (tag.severity ?? '')} ${chosen}`,
      notch: tag.severity === 'error' && !tag.isPlanned ? `M${left + width - 6} ${y + 0.5}h6v6z` : null,
      shared: tag.isShared ? `M${left + 3} ${y + 13}h${width - 6}m0 2h${6 - width}` : null,
      isPinned: tag.isPinned,
    }
  })
}

function drawControl(from: DrawnFrom): DrawnControl {
  const { place, scale, tags, selected } = from
  const { control, label } = place
  const { x, y, w, h } = control.place
  const drawnTags = tagsThatFit(from)
  const troubled = tags
    .flatMap(({ severity }) => severity ?? [])
    .reduce<Severity | null>((worst, each) => (worst && RANK[worst] >= RANK[each] ? worst : each), null)
  const isShown = drawnTags.some(({ gesture }) => tags.some((tag) => tag.gesture === gesture && tag.severity))
  const plateWidth = Math.max((label?.text.length ?? 0) * 7, ...drawnTags.map(({ width }) => width)) + 12
  return {
    from,
    id: control.id,
    paths: inkedPaths(control, scale),
    box: { x: x * scale, y: y * scale, w: w * scale, h: h * scale },
    isEmpty: control.silent || tags.length === 0,
    halo: selected === null ? null : ROUND.has(control.kind) ? 'round' : 'square',
    plate:
      control.kind === 'keybed' && label
        ? {
            x: place.x - plateWidth / 2,
            y: label.y - 13,
            w: plateWidth,
            h: place.tagLines * TAG_LINE_PX + 18,
          }
        : null,
    label: label ? { x: place.x, ...label } : null,
    hiddenTrouble: isShown ? null : troubled,
    severity: troubled,
    tags: drawnTags,
    spoken: spokenOf(from),
    light: from.light ?? null,
  }
}

const isAsBefore = (a: DrawnFrom, b: DrawnFrom): boolean =>
  a.place === b.place &&
  a.scale === b.scale &&
  a.tags === b.tags &&
  a.isTabStop === b.isTabStop &&
  a.light?.colour === b.light?.colour &&
  a.light?.pattern === b.light?.pattern &&
  a.selected?.gesture === b.selected?.gesture &&
  (a.selected === null) === (b.selected === null)

/** The drawings of a surface. One that is as in `before` is that very object, and need not be drawn again. */
export function drawControls(
  all: readonly DrawnFrom[],
  before: readonly DrawnControl[] = [],
): readonly DrawnControl[] {
  return all.map((from, index) => {
    const old = before[index]
    return old && isAsBefore(from, old.from) ? old : drawControl(from)
  })
}
