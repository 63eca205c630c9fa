import {
  cellsListened,
  claimCovers,
  deliveryOf,
  landedAt,
  lossOf,
  matchOf,
  waysTo,
  type Bus,
  type FlowEdge,
  type Loss,
} from '../addresses'
import { lossWords, portWords } from '../conflicts/words'
import { chartedAt, isInForce, listeningOf, moverName, resolveMappings } from '../mappings'
import { channelOf, isChannelMessage, keyAlone, printTag, type Address, type SentMessage } from '../midi'
import {
  assignmentsAt,
  choiceWords,
  findGesture,
  gestureName,
  parameterName,
  parameterOf,
  placeName,
  powerUpShowing,
  rigIndex,
  shownPlace,
  splitGestureRef,
  type Controller,
  type Destination,
  type GestureRef,
  type Id,
  type Mapping,
  type Parameter,
  type Rig,
  type Showing,
} from '../rig'
import { mappedRange, valueText } from '../values'

/** One place that a message passes on its way from a hand to a parameter, in words. */
export interface Station {
  kind: 'control' | 'layer' | 'message' | 'cable' | 'port' | 'destination' | 'parameter' | 'value'
  title: string
  detail: string
}

/** The way of what a gesture sends to a parameter, as far as it goes. */
export interface Trace {
  gesture: GestureRef | null
  destination: Id | null
  parameter: Id | null
  mapping: Id | null
  /** What it passes, in order. Where it is lost, the last one is where. */
  stations: readonly Station[]
  /** Why it goes no further than the last station, and what to do; null where it arrives. */
  broken: { why: string; cure: string } | null
}

/** What a rig shows while a trace is made; what is not said is as at power-up, in no scope. */
export interface TraceFrom {
  showing?: Readonly<Record<Id, Showing | undefined>>
  scopes?: Readonly<Record<Id, Id | null | undefined>>
}

interface Walk {
  rig: Rig
  stations: Station[]
  broken: Trace['broken']
}

const pass = ({ stations }: Walk, kind: Station['kind'], title: string, detail: string): void => {
  stations.push({ kind, title, detail })
}
/** The way ends at the last station. */
const lose = (walk: Walk, why: string, cure: string): null => {
  walk.broken = { why, cure }
  return null
}

/** Who can make a stack show a layer, in words. */
const choosers = (rig: Rig, controller: Id, stack: Id): string[] =>
  rig.choices
    .filter(({ targets }) =>
      targets.some(
        (target) => target.kind === 'layers' && target.controller === controller && target.stack === stack,
      ),
    )
    .map((choice) => choiceWords(rig, choice))

/** From the control to what it sends in the layer that shows; null where it sends nothing. */
function spoken(walk: Walk, from: TraceFrom, ref: GestureRef): SentMessage[] | null {
  const { rig, stations } = walk
  const found = findGesture(rig, ref)
  if (!found) {
    pass(walk, 'control', 'The control', 'is gone')
    return lose(walk, 'The control is gone from its surface.', 'Join the parameter to another control.')
  }
  const { controller, control } = found
  const name = gestureName(control, found.gesture)
  pass(walk, 'control', name, controller.name)
  if (!controller.inUse)
    return lose(walk, `${controller.name} is put away.`, 'Take it into use again on its card.')
  if (control.silent)
    return lose(walk, `${name} is purely analog and sends nothing.`, 'Choose another control.')
  const { gesture } = splitGestureRef(ref)
  const showing = from.showing?.[controller.id] ?? powerUpShowing(controller)
  const template = controller.templates.find(({ id }) => id === showing.template)
  const place = shownPlace(controller, showing, gesture)
  if (!place) {
    const stack = template?.stacks.find(({ gestures }) => gestures.includes(gesture))
    const [first] = stack ? choosers(rig, controller.id, stack.id) : []
    pass(walk, 'layer', stack?.name ?? 'its layers', 'shows no layer')
    return lose(
      walk,
      `${stack?.name ?? 'Its stack'} of ${controller.name} shows no layer, so ${name} sends nothing.`,
      first ? `First: ${first}.` : 'Give the stack a layer at power-up, or something that chooses one.',
    )
  }
  const layer = template?.stacks.flatMap(({ layers }) => layers).find(({ id }) => id === place.layer)
  const messages = assignmentsAt(controller, place)?.[gesture]?.messages ?? []
  const sent = messages.flatMap((message): SentMessage[] => (message.kind === 'off' ? [] : [message]))
  if (sent.length === 0) {
    pass(walk, 'layer', layer?.name ?? template?.name ?? '', 'sends nothing')
    return lose(
      walk,
      `${name} sends nothing${layer ? ` in ${layer.name}` : ''}.`,
      'Give it a message on the Desk.',
    )
  }
  if (layer) pass(walk, 'layer', layer.name, 'the layer that shows')
  const out = sent.map((message): SentMessage => {
    const channel = channelOf(message, controller.homeChannel)
    return channel === null || !isChannelMessage(message) ? message : { ...message, channel }
  })
  if (out.every((message) => landedAt(message).length === 0)) {
    pass(walk, 'message', 'no number yet', 'a number is wanted')
    return lose(walk, `${name} has no number yet.`, 'Type an address, or let a plan give one.')
  }
  return stations.length > 0 ? out : null
}

const tagsOf = (message: SentMessage): string => landedAt(message).map(printTag).join(', ')

/** The stations of one way along cables, boxes and computers. */
function along(walk: Walk, sent: SentMessage, way: readonly FlowEdge[]): void {
  const { rig } = walk
  let now = sent
  for (const { cable, to } of way) {
    if (cable) {
      const isChanged = to.message !== now
      const how = isChanged ? `changes it to ${tagsOf(to.message)}` : 'as it is'
      pass(walk, 'cable', `${portWords(rig, cable.from)} → ${portWords(rig, cable.to)}`, how)
    } else pass(walk, 'port', portWords(rig, to.port), 'opened by the program')
    now = to.message
  }
}

/** What to do about a message that is lost on its way. */
function lossCure(loss: Loss): string {
  switch (loss.kind) {
    case 'no-cable':
      return 'Draw a cable in Rig.'
    case 'stopped':
      return 'Let the cable pass it: its rules are in Rig.'
    case 'port-held':
      return 'Let the other program go of the port, or share it.'
    case 'not-heard':
      return `Send on a channel that ${loss.by.name} hears, or let it hear this one.`
    case 'kept':
      return `Move the control to another number, or take the claim away from ${loss.by.name}.`
  }
}

interface Arrival {
  bus: Bus
  message: SentMessage
}

/** From the out of a controller to what a destination hears; null where nothing of it does. */
function delivered(
  walk: Walk,
  controller: Controller,
  message: SentMessage,
  destination: Destination,
): Arrival[] | null {
  const { rig } = walk
  const delivery = deliveryOf(rig)
  const isThere = (bus: Bus): boolean => bus.destination === destination.id
  const loss = lossOf(rig, controller, message, destination.id)
  const [flow] = delivery
    .flows(controller.id, message)
    .map(({ starts, message: leaving }) => ({
      leaving,
      way: waysTo(starts, ({ port }) => delivery.busesAt(port).some(isThere), destination.id)[0],
    }))
    .filter(({ way }) => way !== undefined)
  if (flow?.way) along(walk, flow.leaving, flow.way)
  if (loss) {
    const why = lossWords(rig, controller.id, destination.id, loss)
    if (loss.kind === 'stopped')
      pass(walk, 'cable', `${portWords(rig, loss.cable.from)} → ${portWords(rig, loss.cable.to)}`, 'stops it')
    else if (loss.kind === 'not-heard' || loss.kind === 'kept')
      pass(walk, 'destination', loss.by.name, 'does not take it')
    else pass(walk, 'port', destination.name, 'is not reached')
    return lose(walk, `${why.slice(0, 1).toUpperCase()}${why.slice(1)}.`, lossCure(loss))
  }
  const arrivals = delivery
    .arrivals(controller.id, message)
    .filter(({ bus }) => isThere(bus))
    .flatMap(({ bus, messages }) => messages.map((each): Arrival => ({ bus, message: each })))
  const heard = arrivals.map(({ message: each }) => tagsOf(each)).join(', ')
  pass(walk, 'destination', destination.name, `hears ${heard}`)
  return arrivals
}

const landedIn = (arrivals: readonly Arrival[]): Array<{ bus: Bus; address: Address }> =>
  arrivals.flatMap(({ bus, message }) => landedAt(message).map((address) => ({ bus, address })))

/** The layer whose message a mapping is moved by, where one is; null where none is, or it is the base. */
function layerThatMoves(rig: Rig, mapping: Mapping): string | null {
  const [sender] = resolveMappings(rig, [mapping])[0]?.meeting ?? []
  return sender ? placeName(rig, sender.place).layer : null
}

/** Why a parameter listens at an address: it takes it from anyone, was taught it, or was taught it for somebody else. */
function listeningWords(
  rig: Rig,
  ref: GestureRef,
  mapping: Mapping | null,
  by: 'chart' | 'learning',
  tag: string,
): string {
  if (by === 'chart') return mapping?.gesture === ref ? `takes ${tag}` : `takes ${tag} from anyone`
  if (mapping?.gesture === ref) return `taught ${tag}`
  const other = mapping && moverName(rig, mapping)
  return `taught ${tag} for ${other ?? 'a control that is gone'}`
}

/** From what a destination hears to its parameter. */
function taken(
  walk: Walk,
  ref: GestureRef,
  from: TraceFrom,
  arrivals: readonly Arrival[],
  destination: Destination,
  parameter: Parameter,
  mapping: Mapping | null,
): void {
  const { rig } = walk
  const name = parameterName(parameter)
  const listening = mapping ? listeningOf(mapping, parameter) : chartedAt(parameter)
  const landed = landedIn(arrivals)
  const heard = landed.map(({ address }) => printTag(address)).join(', ')
  if (!listening) {
    pass(walk, 'parameter', name, 'not yet taught')
    lose(walk, `${destination.name} has not been taught what moves ${name}.`, `Teach it ${heard}.`)
    return
  }
  const tag = printTag(listening.address)
  const isMet = landed.some(
    ({ bus, address }) => matchOf(listening.address, address, bus.mergesChannels) !== null,
  )
  const elsewhere = mapping && !isMet ? layerThatMoves(rig, mapping) : null
  if (elsewhere) {
    pass(walk, 'parameter', name, `listens at ${tag}`)
    lose(walk, `It is moved from the layer ${elsewhere}, which does not show.`, `Show ${elsewhere} first.`)
    return
  }
  if (!isMet) {
    pass(walk, 'parameter', name, `listens at ${tag}`)
    lose(
      walk,
      `${heard} arrives, and ${name} listens at ${tag}.`,
      listening.by === 'chart'
        ? `Let the control send ${tag}.`
        : 'Teach it again, or let the control send what it learned.',
    )
    return
  }
  const claim = destination.claims.find(
    (each) =>
      !each.serves.includes(parameter.id) &&
      landed.some(({ address }) => cellsListened(address).some((cell) => claimCovers(each, cell))),
  )
  if (claim) {
    pass(walk, 'parameter', name, `${destination.name} takes it first`)
    lose(
      walk,
      `${destination.name} keeps it for ${claim.function}.`,
      'Move the control to another number, then teach it again.',
    )
    return
  }
  const scope = from.scopes?.[destination.id] ?? null
  const scopeName = (id: Id | null): string =>
    destination.scopes.find((each) => each.id === id)?.name ?? 'no scope'
  if (mapping && !isInForce(rig, mapping, scope)) {
    pass(
      walk,
      'parameter',
      name,
      mapping.scope === null ? 'counts elsewhere' : `only in ${scopeName(mapping.scope)}`,
    )
    lose(
      walk,
      mapping.scope === null
        ? `In ${scopeName(scope)} another mapping of this control counts.`
        : `${destination.name} is in ${scopeName(scope)}, and this counts only in ${scopeName(mapping.scope)}.`,
      mapping.scope === null
        ? 'Leave the scope, or change its mapping.'
        : `Switch ${destination.name} to ${scopeName(mapping.scope)}.`,
    )
    return
  }
  pass(walk, 'parameter', name, listeningWords(rig, ref, mapping, listening.by, tag))
  if (parameter.kind === 'action' || parameter.kind === 'note') return
  const range = mappedRange(mapping ?? { min: null, max: null, inverted: false, curve: 'linear' }, parameter)
  const [low, high] = range.inverted ? [range.max, range.min] : [range.min, range.max]
  pass(
    walk,
    'value',
    `${valueText(parameter, low)} to ${valueText(parameter, high)}`,
    'as far as the control goes',
  )
}

interface Target {
  destination: Destination
  parameter: Parameter
  mapping: Mapping | null
}

function traceTo(
  rig: Rig,
  from: TraceFrom,
  ref: GestureRef,
  { destination, parameter, mapping }: Target,
): Trace {
  const controller = rigIndex(rig).controllers.get(splitGestureRef(ref).controller)
  const start = (): Walk => ({ rig, stations: [], broken: null })
  const done = ({ stations, broken }: Walk): Trace => ({
    gesture: ref,
    destination: destination.id,
    parameter: parameter.id,
    mapping: mapping?.id ?? null,
    stations,
    broken,
  })
  const first = start()
  const messages = spoken(first, from, ref)
  if (!messages || !controller) return done(first)
  // Of several messages the one that gets furthest tells the tale.
  let best: Walk | null = null
  for (const message of messages) {
    const walk: Walk = { ...start(), stations: [...first.stations] }
    const key = mapping?.key ?? null
    const one = key === null ? message : keyAlone(message, key)
    if (!one) {
      pass(walk, 'message', tagsOf(message), 'has no such key')
      lose(walk, 'The keyboard has no such key.', 'Choose a key that is there.')
    } else {
      pass(walk, 'message', tagsOf(one), `out of ${controller.name}`)
      const arrivals = delivered(walk, controller, one, destination)
      if (arrivals) taken(walk, ref, from, arrivals, destination, parameter, mapping)
    }
    if (best === null || (best.broken && (!walk.broken || walk.stations.length > best.stations.length)))
      best = walk
  }
  return done(best ?? first)
}

/** The parameters that a gesture is joined to, and those that listen where it lands though it is not. */
function targetsOf(rig: Rig, from: TraceFrom, ref: GestureRef): Target[] {
  const joined = rig.mappings
    .filter(({ gesture }) => gesture === ref)
    .flatMap((mapping): Target[] => {
      const destination = rigIndex(rig).destinations.get(mapping.destination)
      const parameter = destination && parameterOf(destination, mapping.parameter)
      return destination && parameter ? [{ destination, parameter, mapping }] : []
    })
  const controller = rigIndex(rig).controllers.get(splitGestureRef(ref).controller)
  const messages = spoken({ rig, stations: [], broken: null }, from, ref) ?? []
  const strangers = controller
    ? messages.flatMap((message) =>
        deliveryOf(rig)
          .arrivals(controller.id, message)
          .flatMap(({ bus, messages: arrived }) => strangersAt(rig, ref, bus, arrived)),
      )
    : []
  // What listens by its chart does so once, whoever is joined to it; what was taught, once for each mapping.
  const keyOf = ({ destination, parameter, mapping }: Target): string =>
    `${destination.id}/${parameter.id}/${chartedAt(parameter) ? '' : (mapping?.id ?? '')}`
  const known = new Set(joined.map(keyOf))
  return [...joined, ...strangers.filter((target) => !known.has(keyOf(target)) && known.add(keyOf(target)))]
}

/** What listens where messages land, and belongs to another control or to none. */
function strangersAt(rig: Rig, ref: GestureRef, bus: Bus, messages: readonly SentMessage[]): Target[] {
  const destination = rigIndex(rig).destinations.get(bus.destination)
  if (!destination) return []
  const landed = messages.flatMap(landedAt)
  const isMet = (address: Address): boolean =>
    landed.some((each) => matchOf(address, each, bus.mergesChannels) !== null)
  const charted = destination.parameters.flatMap((parameter): Target[] => {
    const listening = chartedAt(parameter)
    return listening && isMet(listening.address) ? [{ destination, parameter, mapping: null }] : []
  })
  const learned = rig.mappings.flatMap((mapping): Target[] => {
    if (mapping.destination !== destination.id || mapping.gesture === ref) return []
    const parameter = parameterOf(destination, mapping.parameter)
    const listening = parameter && listeningOf(mapping, parameter)
    return parameter && listening?.by === 'learning' && isMet(listening.address)
      ? [{ destination, parameter, mapping }]
      : []
  })
  return [...charted, ...learned]
}

/**
 * Follow what a gesture sends, from the hand to every parameter that it is joined to or moves: each station with what it makes
 * of the message, and where it is lost, why and what to do. A gesture that leads nowhere gives one trace that says so.
 */
export function traceGesture(rig: Rig, ref: GestureRef, from: TraceFrom = {}): Trace[] {
  const targets = targetsOf(rig, from, ref)
  if (targets.length > 0) return targets.map((target) => traceTo(rig, from, ref, target))
  const walk: Walk = { rig, stations: [], broken: null }
  const messages = spoken(walk, from, ref)
  const controller = rigIndex(rig).controllers.get(splitGestureRef(ref).controller)
  const [message] = messages ?? []
  if (message && controller) {
    pass(walk, 'message', tagsOf(message), `out of ${controller.name}`)
    const there = deliveryOf(rig).arrivals(controller.id, message)
    const names = [
      ...new Set(there.map(({ bus }) => rigIndex(rig).destinations.get(bus.destination)?.name ?? '')),
    ]
    if (names.length === 0)
      lose(walk, `No cable leads from ${controller.name} to anything that listens.`, 'Draw a cable in Rig.')
    else {
      pass(walk, 'destination', names.join(', '), 'nothing listens there')
      lose(walk, 'It arrives, and no parameter listens at it.', 'Join it to a parameter on the Desk.')
    }
  }
  const { stations, broken } = walk
  return [{ gesture: ref, destination: null, parameter: null, mapping: null, stations, broken }]
}

/**
 * Why a parameter moves or does not, backwards: the trace of every control that is joined to it. One that nobody is joined to
 * gives one trace that says so.
 */
export function traceParameter(rig: Rig, destinationId: Id, parameterId: Id, from: TraceFrom = {}): Trace[] {
  const destination = rigIndex(rig).destinations.get(destinationId)
  const parameter = destination && parameterOf(destination, parameterId)
  if (!destination || !parameter) return []
  const mappings = rig.mappings.filter(
    (mapping) => mapping.destination === destinationId && mapping.parameter === parameterId,
  )
  const traces = mappings.flatMap((mapping) =>
    mapping.gesture === null
      ? []
      : [traceTo(rig, from, mapping.gesture, { destination, parameter, mapping })],
  )
  if (traces.length > 0) return traces
  const isOld = mappings.length > 0
  return [
    {
      gesture: null,
      destination: destinationId,
      parameter: parameterId,
      mapping: null,
      stations: [{ kind: 'parameter', title: parameterName(parameter), detail: destination.name }],
      broken: {
        why: isOld ? 'The control that was joined to it is gone.' : 'No control is joined to it.',
        cure: 'Join a control to it on the Desk.',
      },
    },
  ]
}
