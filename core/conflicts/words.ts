import { printTag } from '../midi'
import { cellKey, cellOfKey, cellTarget, hostChain, type CellAddress, type Sender } from '../addresses'
import {
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

const unique = <T>(items: readonly T[]): T[] => [...new Set(items)]

/** The senders of a finding in words, grouped by controller: "Fdbk and Drift (Syzra 24) and Ribbon (Merrod 49)". */
export function senderWords(rig: Rig, senders: readonly Sender[]): string {
  const byController = new Map<string, string[]>()
  for (const sender of senders) {
    const name = placeName(rig, sender.place)
    const own = name.layer === null ? name.gesture : `${name.gesture} in ${name.layer}`
    byController.set(name.controller, [...(byController.get(name.controller) ?? []), own])
  }
  return listed(
    [...byController].map(([controller, names]) => `${shortListed(unique(names))} (${controller})`),
  )
}

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

/** A way along cables in words: by whom it goes, each once after the other. */
export function routeWords(rig: Rig, cables: readonly Cable[]): string {
  const owners = new Map(portsOf(rig).map(({ ref, ownerName }) => [ref.owner, ownerName]))
  const ids = cables.flatMap(({ from, to }) => [from.owner, to.owner])
  return ids
    .filter((id, index) => id !== ids[index - 1])
    .map((id) => owners.get(id) ?? '')
    .join(' → ')
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

/** Cells as tags, in order, neighbouring notes joined into spans: `10:note36-38`. */
export function cellTags(cells: readonly CellAddress[]): string[] {
  const keys = unique(cells.map(cellKey)).sort((a, b) => a - b)
  const tags: string[] = []
  for (let index = 0; index < keys.length;) {
    const first = cellOfKey(keys[index] ?? 0)
    let last = index
    if (first.space === 'note' || first.space === 'poly') {
      while (
        keys[last + 1] === (keys[last] ?? 0) + 1 &&
        cellOfKey(keys[last + 1] ?? 0).channel === first.channel
      )
        last++
    }
    const target =
      first.space === 'note' || first.space === 'poly'
        ? { kind: first.space, low: first.number, high: first.number + last - index }
        : cellTarget(first)
    tags.push(printTag({ scope: 'channel', channel: first.channel, target }))
    index = last + 1
  }
  return tags
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
