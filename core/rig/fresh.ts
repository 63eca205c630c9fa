import { CHANNELS, programKey, SEVEN_MAX } from '../midi'
import { freeId } from './ids'
import { ownerIds } from './ports'
import type { Box, Computer, Controller, Destination, Id, Model, Parameter, Rig } from './types'

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789'
const HUES = 8
/** Below the first drum of the General MIDI percussion map. */
const BEFORE_FIRST_DRUM = 35

const freeOwner = (rig: Rig, word: string): Id =>
  freeId(
    word,
    ownerIds(rig).map((id) => ({ id })),
  )

/** The first letter of a name that no controller has, else any that is free. */
export function freeLetter(rig: Rig, name: string): string {
  const used = new Set(rig.controllers.map(({ letter }) => letter))
  const wanted = name.toUpperCase().match(/[A-Z0-9]/)?.[0] ?? 'A'
  return used.has(wanted) ? ([...LETTERS].find((letter) => !used.has(letter)) ?? wanted) : wanted
}

/**
 * A controller that a rig does not have yet, with a model of its own: on the first home channel that is free, with one
 * out and one empty template.
 */
export function newController(
  rig: Rig,
  name: string,
  surface: Model['surface'],
): { controller: Controller; model: Model } {
  const model: Model = {
    id: freeId('model', rig.models),
    name,
    surface,
    abilities: {
      connection: 'usb',
      kinds: {},
      relativeEncodings: ['twos-complement', 'offset-binary'],
      fourteenBit: true,
      slots: 1,
      stacks: 8,
      layersAStack: 16,
      lights: null,
    },
  }
  const channels = new Set(rig.controllers.map(({ homeChannel }) => homeChannel))
  const controller: Controller = {
    id: freeOwner(rig, 'controller'),
    name,
    letter: freeLetter(rig, name),
    hue: rig.controllers.length % HUES,
    model: model.id,
    deviceNumber: 0,
    inUse: true,
    homeChannel: CHANNELS.find((channel) => !channels.has(channel)) ?? 1,
    ports: [{ id: 'out', name: 'Out', direction: 'out' }],
    templates: [{ id: 'template-1', name: 'Template 1', base: {}, stacks: [] }],
    slots: [],
    lineCheck: null,
    notes: '',
  }
  return { controller, model }
}

/** A destination that a rig does not have yet: one in, which hears every channel, and nothing in its lists. */
export const newDestination = (rig: Rig): Destination => ({
  id: freeOwner(rig, 'destination'),
  name: `Destination ${rig.destinations.length + 1}`,
  kind: 'synth',
  inside: null,
  ports: [{ id: 'in', name: 'MIDI in', direction: 'in', opens: null }],
  hears: {
    playing: { ports: 'merged', channels: { kind: 'apart' } },
    learning: { ports: 'merged', channels: { kind: 'apart' } },
    settable: true,
  },
  claims: [],
  scopes: [],
  parameters: [],
  noteNames: [],
  programs: [],
  countsFrom: 0,
  middleC: 3,
  learns: ['cc'],
  stepRule: { kind: 'fraction', of: 1 / 128 },
  feedback: false,
  unit: null,
  notes: '',
})

/** A name that none of others has: “Synth”, then “Synth 2”. */
export function freeName(name: string, taken: ReadonlySet<string>): string {
  for (let count = 1; ; count++) {
    // A name has 120 characters at most.
    const candidate = count === 1 ? name : `${name.slice(0, 110)} ${count}`
    if (!taken.has(candidate)) return candidate
  }
}

/** A name that nothing with ports has yet. */
export const freeDeviceName = (rig: Rig, name: string): string =>
  freeName(
    name,
    new Set(
      [...rig.controllers, ...rig.destinations, ...rig.boxes, ...rig.computers].map((each) => each.name),
    ),
  )

/** A merge box that a rig does not have yet, with two ins and an out. */
export const newBox = (rig: Rig): Box => ({
  id: freeOwner(rig, 'box'),
  name: freeDeviceName(rig, 'Merge box'),
  kind: 'merge',
  ports: [
    { id: 'in-1', name: 'In 1', direction: 'in' },
    { id: 'in-2', name: 'In 2', direction: 'in' },
    { id: 'out-1', name: 'Out', direction: 'out' },
  ],
})

/** A computer that a rig does not have yet, with one port that programs share. */
export const newComputer = (rig: Rig): Computer => ({
  id: freeOwner(rig, 'computer'),
  name: freeDeviceName(rig, 'Computer'),
  ports: [{ id: 'port-1', name: 'USB 1', sharing: 'shared' }],
})

/** The first number from `start` up, and then from 0, that is not taken; null where all of 0–127 are. */
function freeNumber(start: number, isTaken: (number: number) => boolean): number | null {
  for (let tried = 0; tried <= SEVEN_MAX; tried++) {
    const number = (start + tried) % (SEVEN_MAX + 1)
    if (!isTaken(number)) return number
  }
  return null
}

/** A parameter of which nothing is known but its name: continuous, and learned. */
export const newParameter = (id: Id, name: string): Parameter => ({
  id,
  name,
  path: [],
  kind: 'continuous',
  range: null,
  steps: null,
  choices: [],
  fixed: null,
  standsFor: null,
  meaning: null,
  switchesTo: null,
  nativeStep: null,
})

/** A sound for the note after a destination's highest; null where every note has one. */
export function newSound({ noteNames }: Destination): Destination['noteNames'][number] | null {
  const taken = new Set(noteNames.map(({ number }) => number))
  const highest = taken.size === 0 ? BEFORE_FIRST_DRUM : Math.max(...taken)
  const number = freeNumber(highest + 1, (each) => taken.has(each))
  return number === null ? null : { number, name: `Sound ${noteNames.length + 1}` }
}

/** A preset after a destination's last, in the same bank; null where that bank is full. */
export function newPreset({ programs }: Destination): Destination['programs'][number] | null {
  const last = programs.at(-1)
  const bank = last?.bank ?? null
  const taken = new Set(programs.map(programKey))
  const number = freeNumber((last?.number ?? -1) + 1, (each) => taken.has(programKey({ number: each, bank })))
  return number === null ? null : { number, bank, name: `Preset ${programs.length + 1}` }
}
