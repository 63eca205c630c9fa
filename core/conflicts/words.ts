import { noteName, printTag, sameAddress, type Address } from '../midi'
import {
  cellKey,
  cellOfKey,
  cellTarget,
  changedBy,
  hostChain,
  outgoing,
  type CellAddress,
  type Loss,
  type Sender,
} from '../addresses'
import {
  placeKey,
  placeName,
  portKey,
  portsOf,
  powerUpShowing,
  rigIndex,
  shownPlace,
  splitGestureRef,
  type Cable,
  type GestureRef,
  type Id,
  type Mapping,
  type Place,
  type PortRef,
  type Rig,
} from '../rig'
import type { FindingPlace } from './finding'

/** "a", "a and b", "a, b and c". */
export function listed(items: readonly string[]): string {
  if (items.length < 2) return items[0] ?? ''
  return `${items.slice(0, -1).join(', ')} and ${items.at(-1)}`
}

/** As `listed`, with at most `most` items written out: "a, b and 6 more". */
export function shortListed(items: readonly string[], most = 3): string {
  return items.length <= most
    ? listed(items)
    : listed([...items.slice(0, most - 1), `${items.length - most + 1} more`])
}

/** The form of a verb for one or several: "sends" or "send". */
export const verb = (count: number, one: string, several: string): string => (count === 1 ? one : several)

const unique = <T>(items: readonly T[]): T[] => [...new Set(items)]

/** How many places senders speak from: messages of one place are one. */
export const placeCount = (senders: readonly Sender[]): number =>
  new Set(senders.map(({ place }) => placeKey(place))).size

/** Where a sender stands, in words: its layer, and its template where the others stand in another. */
function standing(rig: Rig, { place }: Sender, isTemplateSaid: boolean): string {
  const { gesture, layer } = placeName(rig, place)
  const template = rigIndex(rig)
    .controllers.get(place.controller)
    ?.templates.find(({ id }) => id === place.template)
  return `${gesture}${layer === null ? '' : ` in ${layer}`}${isTemplateSaid && template ? ` of “${template.name}”` : ''}`
}

/**
 * The senders of a finding in words, grouped by controller: "Fdbk and Drift (Syzra 24) and Ribbon (Merrod 49)". Where
 * they stand in several templates of a controller, or `among` others that do, the templates are named.
 */
export function senderWords(
  rig: Rig,
  senders: readonly Sender[],
  among: readonly Sender[] = senders,
): string {
  const templates = new Map<Id, Set<Id>>()
  for (const { place } of among)
    templates.set(place.controller, (templates.get(place.controller) ?? new Set()).add(place.template))
  const byController = new Map<Id, string[]>()
  for (const sender of senders) {
    const { controller } = sender.place
    const isTemplateSaid = (templates.get(controller)?.size ?? 0) > 1
    byController.set(controller, [
      ...(byController.get(controller) ?? []),
      standing(rig, sender, isTemplateSaid),
    ])
  }
  return listed(
    [...byController].map(
      ([controller, names]) =>
        `${shortListed(unique(names))} (${rigIndex(rig).controllers.get(controller)?.name ?? controller})`,
    ),
  )
}

/** Who moves a mapping, in words: "C2 of Keys (Merrod 49)" where it is one key of a keyboard. */
export const moverWords = (rig: Rig, { key }: Pick<Mapping, 'key'>, senders: readonly Sender[]): string =>
  `${key === null ? '' : `${noteName(key, rig.middleC)} of `}${senderWords(rig, senders)}`

/** Places in words, grouped by controller and layer: "Pad 1, Pad 2 and 34 more in Scales (Pelluna 36)". */
export function placeWords(rig: Rig, places: readonly Place[]): string {
  const groups = new Map<string, { names: string[]; layer: string | null; controller: string }>()
  for (const place of places) {
    const { gesture, layer, controller } = placeName(rig, place)
    const group = groups.get(`${controller} ${layer}`) ?? { names: [], layer, controller }
    groups.set(`${controller} ${layer}`, group)
    group.names.push(gesture)
  }
  return shortListed(
    [...groups.values()].map(
      ({ names, layer, controller }) =>
        `${shortListed(unique(names))}${layer === null ? '' : ` in ${layer}`} (${controller})`,
    ),
  )
}

/** A port in words: the one who has it and its own name. */
export function portWords(rig: Rig, ref: PortRef): string {
  const end = portsOf(rig).find((each) => portKey(each.ref) === portKey(ref))
  return end ? `${end.ownerName} · ${end.name}` : 'a port that is gone'
}

/** A cable in words, by its ports. */
export const cableWords = (rig: Rig, { from, to }: Cable): string =>
  `${portWords(rig, from)} → ${portWords(rig, to)}`

/** A way along cables in words: by whom it goes, each once after the other; `withPorts` names the ports too. */
export function routeWords(rig: Rig, cables: readonly Cable[], withPorts = false): string {
  const ends = cables.flatMap(({ from, to }) => [from, to])
  if (withPorts) return ends.map((ref) => portWords(rig, ref)).join(' → ')
  const owners = new Map(portsOf(rig).map(({ ref, ownerName }) => [ref.owner, ownerName]))
  return ends
    .filter(({ owner }, index) => owner !== ends[index - 1]?.owner)
    .map(({ owner }) => owners.get(owner) ?? '')
    .join(' → ')
}

/** Several ways in words, with their ports where they would read the same otherwise. */
export function routesWords(rig: Rig, ways: ReadonlyArray<readonly Cable[]>): string[] {
  const plain = ways.map((cables) => routeWords(rig, cables))
  return plain.map((words, index) =>
    plain.filter((other) => other === words).length > 1 ? routeWords(rig, ways[index] ?? [], true) : words,
  )
}

/** Destinations in words; what runs inside a named host is not named again. */
export function destinationWords(rig: Rig, ids: readonly Id[]): string {
  const { destinations } = rigIndex(rig)
  const named = unique(ids).flatMap((id) => destinations.get(id) ?? [])
  const outer = named.filter(
    (one) =>
      !hostChain(rig, one)
        .slice(1)
        .some((host) => named.includes(host)),
  )
  return shortListed(outer.map((one) => one.name))
}

/** Cells as addresses, in order, neighbouring notes joined into spans. */
export function cellAddresses(cells: readonly CellAddress[]): Address[] {
  const keys = unique(cells.map(cellKey)).sort((a, b) => a - b)
  const addresses: Address[] = []
  for (let index = 0; index < keys.length;) {
    const first = cellOfKey(keys[index] ?? 0)
    const isNote = first.kind === 'note' || first.kind === 'polyPressure'
    let last = index
    while (
      isNote &&
      keys[last + 1] === (keys[last] ?? 0) + 1 &&
      cellOfKey(keys[last + 1] ?? 0).channel === first.channel
    )
      last++
    const target =
      first.kind === 'note' || first.kind === 'polyPressure'
        ? { kind: first.kind, low: first.number, high: first.number + last - index }
        : cellTarget(first)
    addresses.push({ scope: 'channel', channel: first.channel, target })
    index = last + 1
  }
  return addresses
}

/** Addresses in words: "1:cc20, 1:cc21". */
export const addressWords = (addresses: readonly Address[]): string => addresses.map(printTag).join(', ')

/** "1:cc20, 1:cc21 and 5 more". */
export const shortAddressWords = (addresses: readonly Address[]): string =>
  shortListed(unique(addresses.map(printTag)))

/** What these send, before any cable; each address once. */
export function sentAddresses(senders: readonly Sender[]): Address[] {
  const found: Address[] = []
  for (const { address } of senders)
    if (address && !found.some((other) => sameAddress(other, address))) found.push(address)
  return found
}

/**
 * For those who come to these cells of a destination only because a cable changes what they send: a sentence that
 * names the cable. Empty where nobody does.
 */
export function throughWords(
  rig: Rig,
  senders: readonly Sender[],
  cells: readonly CellAddress[],
  destinations: readonly Id[],
): string {
  const keys = new Set(cells.map(cellKey))
  const said = senders.flatMap((sender): string[] => {
    if (sender.cells.some((cell) => keys.has(cellKey(cell)))) return []
    const owner = rigIndex(rig).controllers.get(sender.place.controller)
    const cable =
      owner &&
      destinations.map((id) => changedBy(rig, owner, outgoing(sender), id)).find((each) => each !== null)
    if (!cable) return []
    const sent = sender.address ? printTag(sender.address) : 'something else'
    return [`${senderWords(rig, [sender])} sends ${sent}, which the cable ${cableWords(rig, cable)} changes`]
  })
  return said.length === 0 ? '' : ` ${shortListed(said)}.`
}

/** Where a message is lost, as the end of a sentence. */
export function lossWords(rig: Rig, controller: Id, destination: Id, loss: Loss): string {
  const { controllers, destinations } = rigIndex(rig)
  const owner = controllers.get(controller)?.name ?? ''
  const there = destinations.get(destination)?.name ?? ''
  switch (loss.kind) {
    case 'no-cable':
      return `no cable leads from ${owner} to ${there}`
    case 'stopped':
      return `the cable ${cableWords(rig, loss.cable)} stops it`
    case 'port-held': {
      const computer = rig.computers.find(({ id }) => id === loss.computer)
      const port = computer?.ports.find(({ id }) => id === loss.port)
      return `${destinations.get(loss.by)?.name ?? 'another program'} holds ${port?.name ?? 'the port'} of ${computer?.name ?? 'the computer'}`
    }
    case 'not-heard':
      return `${loss.by.name} does not hear channel ${loss.channel}`
    case 'kept':
      return `${loss.by.name} keeps it for ${loss.claim.function}`
  }
}

/** Where gestures stand at power-up (where their stack shows nothing: in the base), to go to. */
export const placesOf = (rig: Rig, gestures: readonly GestureRef[]): FindingPlace[] =>
  gestures.flatMap((ref) => {
    const { controller: id, gesture } = splitGestureRef(ref)
    const controller = rigIndex(rig).controllers.get(id)
    if (!controller) return []
    const showing = powerUpShowing(controller)
    const place = shownPlace(controller, showing, gesture) ?? {
      controller: id,
      template: showing.template,
      layer: null,
      gesture,
    }
    return [{ ...place, message: 0 }]
  })
