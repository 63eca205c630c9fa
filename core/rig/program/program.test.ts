import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { printTag } from '../../midi'
import { fullMessage } from '../../testing/rigs'
import {
  assignmentsOf,
  numberOf,
  perform,
  rigIndex,
  sentAddress,
  withChannel,
  type Assignment,
  type Control,
  type Message,
  type Place,
  type Rig,
} from '..'
import { changeAssignments, copyLayer, type CopyRule, inCommon, layersOver, numbersFor, placesOver } from '.'

const rig = nineRingsRig('as-performed')
const pelluna = (of: Rig = rig) => {
  const controller = rigIndex(of).controllers.get('pelluna')
  const template = controller?.templates[0]
  if (!controller || !template) throw new Error('no pads')
  return { controller, template }
}
const pads = Array.from({ length: 36 }, (_, index) => `pad-${index + 1}.strike`)

const changeMessages = (places: readonly Place[], change: (message: Message) => Message) =>
  changeAssignments(rig, places, ({ assignment }) => {
    const messages = assignment.messages.map(change)
    return messages.every((message, index) => message === assignment.messages[index])
      ? assignment
      : { ...assignment, messages }
  })

describe('many assignments at once', () => {
  it('moves note and pressure of all pads in all layers to another channel in one step, and nothing else', () => {
    const { controller, template } = pelluna()
    const gestures = pads.flatMap((key) => [key, key.replace('strike', 'pressure')])
    const places = placesOver(controller, template, gestures, 'all-layers')
    const edits = changeMessages(places, (message) => withChannel(message, 9))
    expect(edits).toHaveLength(2)
    const { rig: after } = perform(rig, 'x', edits)
    for (const layer of pelluna(after).template.stacks[0]?.layers ?? []) {
      for (const { messages } of Object.values(layer.assignments)) {
        expect(
          messages.every(
            (message) => message.kind === 'off' || ('channel' in message && message.channel === 9),
          ),
        ).toBe(true)
      }
    }
    expect(pelluna(after).template.base).toBe(pelluna().template.base)
  })

  it('leaves out what does not change', () => {
    const { controller, template } = pelluna()
    const places = placesOver(controller, template, pads, ['drums'])
    expect(changeMessages(places, (message) => message)).toEqual([])
  })

  it('knows the layers over a selection, and what is mixed', () => {
    expect(layersOver(pelluna().template, ['pad-1.strike']).map(({ name }) => name)).toEqual([
      'Drums and clips',
      'Scales',
    ])
    expect(layersOver(pelluna().template, ['slim-1.press'])).toEqual([])
    expect(inCommon([1, 1])).toEqual({ kind: 'same', value: 1 })
    expect(inCommon([1, 2])).toEqual({ kind: 'mixed' })
    expect(inCommon([])).toBeNull()
  })
})

describe('numbers over a selection', () => {
  const grid = (rows: number, columns: number): Control[] =>
    Array.from({ length: rows * columns }, (_, index) => ({
      id: `p${index + 1}`,
      kind: 'pad',
      label: '',
      block: null,
      gestures: ['strike'],
      silent: false,
      restsInCentre: false,
      detentsPerTurn: null,
      lightNumber: null,
      place: { x: (index % columns) * 30, y: Math.floor(index / columns) * 30, w: 25, h: 25 },
    }))
  const list = (
    controls: Control[],
    ...rest: [Parameters<typeof numbersFor>[1], Parameters<typeof numbersFor>[2]]
  ): number[] => {
    const { numbers } = numbersFor(controls, ...rest)
    return controls.flatMap(({ id }) => numbers.get(id) ?? [])
  }
  const all = { low: 0, high: 127 }

  it.each([
    [{ kind: 'same', number: 7 } as const, [7, 7, 7, 7]],
    [{ kind: 'run', from: 20, step: 1 } as const, [20, 21, 22, 23]],
    [{ kind: 'run', from: 20, step: -2 } as const, [20, 18, 16, 14]],
    [{ kind: 'rows', from: 20, rowStep: 10 } as const, [20, 21, 30, 31]],
    [{ kind: 'grid', from: 36, columnStep: 1, rowStep: 5 } as const, [41, 42, 36, 37]],
    [{ kind: 'scale', from: 60, scale: 'major' } as const, [64, 65, 60, 62]],
  ])('%j', (numbering, expected) => {
    expect(list(grid(2, 2), numbering, all)).toEqual(expected)
  })

  it('leave out, and name, what falls outside the range', () => {
    const { numbers, beyond } = numbersFor(grid(1, 4), { kind: 'run', from: 126, step: 1 }, all)
    expect([...numbers.values()]).toEqual([126, 127])
    expect(beyond).toEqual(['p3', 'p4'])
  })
})

describe('copying a layer', () => {
  const { controller, template } = pelluna()
  const copiedTo = (rule: CopyRule): Rig => {
    const copy = copyLayer(rig, controller, template, 'scales', ['drums'], rule)
    if (!copy.ok) throw new Error(copy.message)
    return perform(rig, 'x', copy.edits).rig
  }
  const strike = (of: Rig) =>
    pelluna(of).template.stacks[0]?.layers[0]?.assignments['pad-1.strike']?.messages[0]

  it('the same, numbers further on, or on another channel', () => {
    expect(strike(copiedTo({ kind: 'same' }))).toMatchObject({ channel: 12, keys: { number: 48 } })
    expect(strike(copiedTo({ kind: 'numbers', plus: 4 }))).toMatchObject({
      channel: 12,
      keys: { number: 52 },
    })
    expect(strike(copiedTo({ kind: 'channel', channel: 3 }))).toMatchObject({
      channel: 3,
      keys: { number: 48 },
    })
  })

  it('leaves a number as it is that would leave its range', () => {
    expect(strike(copiedTo({ kind: 'numbers', plus: 100 }))).toMatchObject({ keys: { number: 48 } })
  })

  it('to the next free run: nothing else sends what it sends, and the gaps stay', () => {
    const syzra = rig.controllers.find(({ id }) => id === 'syzra')
    const mixer = syzra?.templates[0]
    const stack = mixer?.stacks.find(({ layers }) => layers.length > 1)
    const [first, second] = stack?.layers ?? []
    if (!syzra || !mixer || !first || !second) throw new Error('no layers')
    const copy = copyLayer(rig, syzra, mixer, first.id, [second.id], { kind: 'free' })
    if (!copy.ok) throw new Error(copy.message)
    const after = perform(rig, 'x', copy.edits).rig
    const numbersOf = (of: Rig, layer: string): number[] =>
      [...assignmentsOf(of.controllers.find(({ id }) => id === 'syzra') ?? syzra)].flatMap(
        ({ place, assignment }) =>
          place.layer === layer ? assignment.messages.flatMap((message) => numberOf(message) ?? []) : [],
      )
    const [from, to] = [numbersOf(rig, first.id), numbersOf(after, second.id)]
    const shift = (to[0] ?? 0) - (from[0] ?? 0)
    expect(shift).not.toBe(0)
    expect(to).toEqual(from.map((number) => number + shift))
    const senders = new Map<string, Place[]>()
    for (const owner of after.controllers) {
      for (const { place, assignment } of assignmentsOf(owner)) {
        const sent = assignment.messages[0] && sentAddress(assignment.messages[0], owner.homeChannel)
        if (sent) senders.set(printTag(sent), [...(senders.get(printTag(sent)) ?? []), place])
      }
    }
    for (const owners of senders.values()) {
      if (owners.some(({ layer }) => layer === second.id)) expect(owners).toMatchObject([{}])
    }
  })

  it('is refused when no run is free', () => {
    const full = { ...controller, templates: [template, { id: 'full', name: 'Full', base: {}, stacks: [] }] }
    const base = Object.fromEntries(
      Array.from({ length: 128 }, (_, number): [string, Assignment] => [
        `pad-${number}.strike`,
        {
          messages: [fullMessage({ kind: 'note', keys: { kind: 'one', number } })],
          pinned: false,
          light: null,
          memo: '',
        },
      ]),
    )
    const crowded = {
      ...rig,
      controllers: Array.from({ length: 16 }, (_, index) => ({
        ...full,
        id: `c${index}`,
        homeChannel: index + 1,
        templates: [{ id: 'full', name: 'Full', base, stacks: [] }],
      })),
    } as Rig
    const copy = copyLayer(crowded, controller, template, 'scales', ['drums'], { kind: 'free' })
    expect(copy).toMatchObject({ ok: false, message: expect.stringContaining('No run of free numbers') })
  })
})
