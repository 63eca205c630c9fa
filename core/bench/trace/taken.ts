import { cellsListened, claimCovers, landedAt, matchOf, type Bus } from '../../addresses'
import { chartedAt, isInForce, listeningOf, moverName, resolveMappings } from '../../mappings'
import { printTag, type Address } from '../../midi'
import {
  parameterName,
  placeName,
  type Destination,
  type GestureRef,
  type Id,
  type Mapping,
  type Parameter,
  type Rig,
} from '../../rig'
import { mappedRange, valueText } from '../../values'
import { meantBy } from '../selection'
import { pass, lose, type TraceFrom, type Walk } from './walk'
import type { Arrival } from './delivered'

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
export function taken(
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
  const meant = meantBy(destination, parameter, from.selected?.[destination.id] ?? null)
  if (meant !== parameter) pass(walk, 'parameter', parameterName(meant), 'is what is selected')
  if (meant.kind === 'action' || meant.kind === 'note') return
  const range = mappedRange(mapping ?? { min: null, max: null, inverted: false, curve: 'linear' }, meant)
  const [low, high] = range.inverted ? [range.max, range.min] : [range.min, range.max]
  pass(walk, 'value', `${valueText(meant, low)} to ${valueText(meant, high)}`, 'as far as the control goes')
}
