import { KIND_FACTS, type Control, type GestureKind, type Id } from '../rig'
import { actedBy, actedSince, encloses, isAccident, isPressed, meanTime, type Acted } from './act'
import { channelsOfKeys, expressionOf, zoneHeard, ZONE_SENDERS } from './zone'
import { nameIn, type Belongings, type Walk } from './walk-state'

/** Messages that come so closely together, in ms, are of one press. */
const SAME_MS = 8

/** Who is being dealt out what one act of a hand was. */
interface Dealing {
  walk: Walk
  belongs: Record<string, Belongings[string]>
  next: number
  last: Id | null
  rest: readonly Acted[]
}

/** What a step waits for: what its kind always senses, as far as nothing was heard of it. */
export const missingOf = (belongs: Belongings, control: Control): GestureKind[] =>
  KIND_FACTS[control.kind].gestures.filter(
    (gesture) => control.gestures.includes(gesture) && !hasGesture(belongs, control.id, gesture),
  )

const hasGesture = (belongs: Belongings, id: Id, gesture: GestureKind): boolean =>
  Object.values(belongs).some((each) => each.control === id && each.gesture === gesture)

/** Can a control have a gesture besides those that it always has? */
const canHave = ({ adds }: Walk, control: Control, gesture: GestureKind): boolean =>
  control.gestures.includes(gesture) || (adds && KIND_FACTS[control.kind].more.includes(gesture))

const FEW_VALUES = 3
const FEW_CLICKS = 2

/** Can what was heard be this gesture of such a control? One value alone moves nothing. */
function canBe(
  { shape, points }: Acted,
  gesture: GestureKind,
  { kind }: Control,
  all: readonly Acted[],
): boolean {
  if (isPressed(gesture))
    return shape === 'pressed' || shape === 'unclear' || (kind === 'pedal' && shape === 'moved')
  // What is leaned into goes with something else, unless it comes alone.
  if (shape === 'leaned') return all.every((each) => each.shape === 'leaned')
  if (shape !== 'unclear') return shape === 'moved'
  // Turned slowly, a knob says value after value, and an encoder the same one again.
  const values = new Set(points.map(({ value }) => value)).size
  return values >= FEW_VALUES || (kind === 'encoder' && points.length >= FEW_CLICKS)
}

function give(dealing: Dealing, acted: Acted, control: Control, gesture: GestureKind): void {
  const { name, program } = nameIn(dealing.walk.heard, acted.sender)
  // A pressure that several pads share belongs to each of them.
  const key = dealing.belongs[name] ? `${name}@${control.id}` : name
  dealing.belongs[key] = { control: control.id, gesture, program, sender: acted.sender }
  dealing.rest = dealing.rest.filter((each) => each !== acted)
  dealing.last = control.id
}

/** What goes with a movement or a blow becomes a gesture of the same control. */
function giveCompanions(dealing: Dealing, control: Control, main: Acted, all: readonly Acted[]): void {
  const { belongs } = dealing
  const isFree = (gesture: GestureKind): boolean =>
    canHave(dealing.walk, control, gesture) && !hasGesture(belongs, control.id, gesture)
  const touch = isFree('touch') ? dealing.rest.find((each) => encloses(each, main)) : undefined
  if (touch) give(dealing, touch, control, 'touch')
  const leaned = all.find(({ shape }) => shape === 'leaned')
  if (leaned && isFree('pressure') && goesWith(leaned, main)) give(dealing, leaned, control, 'pressure')
  if (control.kind !== 'pad') return
  const along = dealing.rest.filter((each) => each.shape === 'moved' && encloses(main, each))
  const gestures: readonly GestureKind[] =
    along.length === 1 && isFree('pressure') ? ['pressure'] : ['x', 'y', 'pressure']
  along.forEach((each) => {
    const gesture = gestures.find((one) => isFree(one))
    if (gesture) give(dealing, each, control, gesture)
  })
}

const goesWith = (leaned: Acted, main: Acted): boolean =>
  main.shape === 'moved' || encloses(main, leaned) || (main.points[0]?.at ?? 0) <= (leaned.points[0]?.at ?? 0)

/** Encoders and sticks are pushed after they were turned: that is no control of its own. */
function givePush(dealing: Dealing): boolean {
  const before = dealing.walk.steps.find(({ id }) => id === dealing.last)
  if (!before || !canHave(dealing.walk, before, 'push')) return false
  if (hasGesture(dealing.belongs, before.id, 'push') || missingOf(dealing.belongs, before).length > 0)
    return false
  const pressed = dealing.rest.find(({ shape }) => shape === 'pressed')
  if (!pressed) return false
  give(dealing, pressed, before, 'push')
  return true
}

/**
 * Every key of a keyboard is its strike, also of one that was struck before. Where each key has a channel of its own, so is what that
 * channel says of it; else only keys on the channel of the first are of the same keyboard.
 */
function giveKeys(dealing: Dealing, keyboard: Control): boolean {
  const { heard } = dealing.walk
  const own = Object.values(dealing.belongs).flatMap(({ control, sender }) =>
    control === keyboard.id ? [sender] : [],
  )
  const notes = dealing.rest.filter(({ sender }) => sender.includes(':note'))
  const channels = channelsOfKeys(heard, [...own, ...notes.map(({ sender }) => sender)])
  const isZone = zoneHeard(heard, channels) !== null
  const [first] = channels
  const keys = notes.filter(({ sender }) => isZone || sender.startsWith(`${first}:`))
  const expression = isZone ? expressionOf(channels) : new Set<string>()
  const more = dealing.rest.filter(
    ({ sender }) => expression.has(sender) || (isZone && ZONE_SENDERS.has(sender)),
  )
  for (const each of [...keys, ...more]) give(dealing, each, keyboard, 'strike')
  return keys.length + more.length > 0
}

/** The next step that waits for something, from a place on; their number when there is none. */
export function nextOpen(steps: readonly Control[], belongs: Belongings, from: number): number {
  const found = steps.findIndex((each, index) => index >= from && missingOf(belongs, each).length > 0)
  return found < 0 ? steps.length : found
}

/** One more of what was heard goes to the next step. Is there nothing to give? Then false. */
function giveNext(dealing: Dealing, all: readonly Acted[]): boolean {
  const { steps } = dealing.walk
  const last = steps.find(({ id }) => id === dealing.last)
  if (last?.kind === 'keybed' && giveKeys(dealing, last)) return true
  const control = steps[dealing.next]
  const wanted = control ? missingOf(dealing.belongs, control) : []
  const [first] = wanted
  if (!control || first === undefined) return givePush(dealing)
  if (control.kind === 'keybed') {
    if (!giveKeys(dealing, control)) return false
  } else {
    const fitting = dealing.rest.filter((each) => canBe(each, first, control, all))
    const isPush = !isPressed(first) && fitting.every(({ shape }) => shape !== 'moved')
    if (isPush && givePush(dealing)) return true
    // Of two axes the one that is moved across comes first.
    const chosen = (
      wanted.length > 1 ? fitting.toSorted((a, b) => meanTime(a) - meanTime(b)) : fitting
    ).slice(0, wanted.length)
    const [main] = chosen
    if (!main) return false
    chosen.forEach((each, index) => {
      const gesture = wanted[index]
      if (gesture) give(dealing, each, control, gesture)
    })
    giveCompanions(dealing, control, main, all)
    // What one press says besides is no control of its own.
    if (isPressed(first))
      dealing.rest = dealing.rest.filter(
        ({ points }) => Math.abs((points[0]?.at ?? 0) - (main.points[0]?.at ?? 0)) > SAME_MS,
      )
  }
  if (missingOf(dealing.belongs, control).length === 0)
    dealing.next = nextOpen(steps, dealing.belongs, dealing.next + 1)
  return true
}

/** A touch of something that is known already: it comes when it is moved again. */
function giveLateTouches(dealing: Dealing, from: number): void {
  for (const [name, { control: id, sender, gesture }] of Object.entries(dealing.belongs)) {
    const control = dealing.walk.steps.find((each) => each.id === id)
    const moved = control && name === sender ? actedBy(dealing.walk.heard, sender, from) : null
    if (control && moved && (moved.shape === 'moved' || gesture === 'strike'))
      giveCompanions(dealing, control, moved, dealing.rest)
  }
}

/** A hand is done with something: what was heard of it goes to the steps that wait, in order. */
export function settle(walk: Walk): Walk {
  if (!walk.act) return walk
  const step = walk.steps[walk.next]
  const wanted = step ? missingOf(walk.belongs, step) : []
  const isPress = wanted[0] !== undefined && isPressed(wanted[0])
  const awaited = isPress ? 'press' : wanted.length > 1 ? 'axes' : 'movement'
  const all = actedSince(walk.heard, walk.act, awaited)
  // What turns out to be the other half of something known is known; a pressure may be shared.
  const isNew = ({ sender, shape }: Acted): boolean =>
    shape === 'leaned' || walk.belongs[nameIn(walk.heard, sender).name] === undefined
  const meant = all.filter((each) => isNew(each) && !isAccident(each, all))
  const dealing: Dealing = {
    walk,
    belongs: { ...walk.belongs },
    next: walk.next,
    last: walk.last,
    rest: meant,
  }
  giveLateTouches(dealing, walk.act.from)
  while (dealing.rest.length > 0 && giveNext(dealing, meant));
  const given = new Set(Object.values(dealing.belongs).map(({ sender }) => sender))
  return {
    ...walk,
    belongs: dealing.belongs,
    next: dealing.next,
    last: dealing.last,
    act: null,
    others: all.flatMap(({ sender }) => (given.has(sender) ? [] : [sender])),
  }
}
