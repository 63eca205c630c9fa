import { useEventListener, useRafFn } from '@vueuse/core'
import type { Lattice, Owner } from '#core/addresses'
import { placeKey } from '#core/rig'
import type { MessagePlace } from '#core/rig/program/shift'
import { toast } from '~/lib/toast'
import type { LatticeGeometry } from '~/lib/lattice/geometry'
import type { Spot } from '~/lib/lattice/walk'

/** A press that moves less than this (px) is a click. */
const DRAG_PX = 5
/** So near the edge of what is to be seen (px), what is carried scrolls it, by so much a frame. */
const EDGE_PX = 22
const SCROLL_PX = 8

/** The nearest element around another that can be scrolled up and down. */
function scrollerOf(element: Element): Element | null {
  const parent = element.parentElement
  if (!parent || parent.scrollHeight > parent.clientHeight + 1) {
    const { overflowY } = parent ? getComputedStyle(parent) : { overflowY: '' }
    if (!parent || overflowY === 'auto' || overflowY === 'scroll') return parent
  }
  return scrollerOf(parent)
}

/** A cell that is being carried to another place, with what lies where the whole run would go. */
export interface CellDrag {
  from: Spot
  to: Spot
  messages: readonly MessagePlace[]
  by: { channels: number; numbers: number }
  /** Every cell of the run as it would lie. */
  cells: ReadonlyArray<Spot & { isTaken: boolean }>
}

/** Carry a cell, or with several controls selected their whole run, to another place of the lattice. */
export function useCellDrag(lattice: () => Lattice, geometry: () => LatticeGeometry) {
  const desk = useDeskStore()
  const rigs = useRigStore()
  const edit = useEdit()
  const drag = shallowRef<CellDrag | null>(null)
  let pressed: { spot: Spot; x: number; y: number; drawing: Element } | null = null

  const ownersAt = ({ row, number }: Spot): readonly Owner[] =>
    lattice().rows[row]?.cells.find((cell) => cell.number === number)?.owners ?? []
  const channelOf = ({ row }: Spot): number => lattice().rows[row]?.channel ?? 1
  const isFirst = ({ live, part, role }: Owner): boolean => live && part !== 'lsb' && role === 'main'

  /** The cells that go along: of the whole selection if the cell is part of it, else of its sender. */
  function run(spot: Spot): { spots: Spot[]; messages: MessagePlace[] } {
    const own = ownersAt(spot).filter(isFirst)
    const goes = own.some(({ gesture }) => desk.selectedRefs.has(gesture))
      ? desk.selectedRefs
      : new Set(own.slice(0, 1).map(({ gesture }) => gesture))
    const spots: Spot[] = []
    const messages = new Map<string, MessagePlace>()
    lattice().rows.forEach((each, row) =>
      each.cells.forEach(({ number, owners }) => {
        const mine = owners.filter((owner) => isFirst(owner) && goes.has(owner.gesture))
        if (mine.length > 0) spots.push({ row, number })
        for (const { place, message } of mine)
          messages.set(`${placeKey(place)}#${message}`, { place, message })
      }),
    )
    return { spots, messages: [...messages.values()] }
  }

  function start(event: PointerEvent, spot: Spot | null): void {
    pressed =
      spot && event.button === 0 && rigs.canEdit && ownersAt(spot).some(isFirst)
        ? { spot, x: event.clientX, y: event.clientY, drawing: event.currentTarget as Element }
        : null
  }

  useEventListener(window, 'pointermove', (event: PointerEvent) => {
    if (!pressed) return
    if (!drag.value && Math.hypot(event.clientX - pressed.x, event.clientY - pressed.y) < DRAG_PX) return
    carry(event)
    scrolling.resume()
  })

  let last: { clientX: number; clientY: number } | null = null
  /** Rows that cannot be seen come into view while something is carried to the edge. */
  const scrolling = useRafFn(
    () => {
      const around = pressed && scrollerOf(pressed.drawing)
      if (!drag.value || !around || !last) return scrolling.pause()
      const { top, bottom } = around.getBoundingClientRect()
      const by = last.clientY > bottom - EDGE_PX ? SCROLL_PX : last.clientY < top + EDGE_PX ? -SCROLL_PX : 0
      const before = around.scrollTop
      around.scrollTop += by
      if (around.scrollTop !== before) carry(last)
    },
    { immediate: false },
  )

  function carry(event: { clientX: number; clientY: number }): void {
    if (!pressed) return
    last = { clientX: event.clientX, clientY: event.clientY }
    const box = pressed.drawing.getBoundingClientRect()
    const to = geometry().cellAt(event.clientX - box.left, event.clientY - box.top)
    if (!to) return
    const from = pressed.spot
    const { spots, messages } = run(from)
    const by = { channels: channelOf(to) - channelOf(from), numbers: to.number - from.number }
    const moving = new Set(spots.map(({ row, number }) => `${row} ${number}`))
    drag.value = {
      from,
      to,
      messages,
      by,
      cells: spots.flatMap((spot) => {
        const channel = channelOf(spot) + by.channels
        const row = lattice().rows.findIndex((each) => each.channel === channel)
        if (row === -1) return []
        const at = { row, number: spot.number + by.numbers }
        const isOther = !moving.has(`${at.row} ${at.number}`)
        return { ...at, isTaken: isOther && ownersAt(at).some(({ live }) => live) }
      }),
    }
  }

  useEventListener(window, 'pointerup', () => {
    const { value } = drag
    pressed = null
    drag.value = null
    if (value) void drop(value)
  })

  async function drop(value: CellDrag): Promise<void> {
    const { rig } = rigs
    // What moving needs is fetched with the first drop.
    const { shiftAddresses } = await import('#core/rig/program/shift')
    if (!rig || rig !== rigs.rig) return
    const shift = shiftAddresses(rig, value.messages, value.by)
    if (!shift.ok) return toast.error(shift.message)
    edit(shift.count === 1 ? 'Move an address' : `Move ${shift.count} addresses`, shift.edits)
  }

  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (event.key !== 'Escape' || !drag.value) return
    pressed = null
    drag.value = null
  })

  return { drag, start }
}
