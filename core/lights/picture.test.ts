import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { powerUpShowing, type LightRole, type Rig } from '../rig'
import { lightPicture, stateForValue } from '.'

const role = (id: string, letter: string, off: string, on: string): LightRole => ({
  id,
  name: id,
  letter,
  states: [
    { name: 'off', colour: off, from: null },
    { name: 'on', colour: on, from: null },
  ],
})
const showingOf = (rig: Rig) =>
  Object.fromEntries(rig.controllers.map((each) => [each.id, powerUpShowing(each)]))
const controllerOf = (rig: Rig, id: string) => {
  const found = rig.controllers.find((each) => each.id === id)
  if (!found) throw new Error(id)
  return found
}

const performed = nineRingsRig('as-performed')

describe('the picture of the lights', () => {
  it('shows what is active bright and the others as they start, and layers in their colours', () => {
    const pelluna = controllerOf(performed, 'pelluna')
    const start = lightPicture(performed, pelluna, showingOf(performed))
    const active = lightPicture(performed, pelluna, showingOf(performed), {
      kind: 'active',
      gestures: new Set(['pelluna/pad-1.strike']),
    })
    const of = (picture: typeof start, id: string) => picture.find(({ control }) => control.id === id)
    expect([of(start, 'pad-1')?.state, of(active, 'pad-1')?.state, of(active, 'pad-2')?.state]).toEqual([
      'off',
      'on',
      'off',
    ])
    expect([of(start, 'slim-1')?.wanted, of(start, 'slim-2')?.wanted]).toEqual(['#ff8a1e', '#3b2455'])
    expect(of(start, 'slim-6')).toMatchObject({ role: null, wanted: null })
  })
})

describe('a value that a destination sends back', () => {
  const three = { ...role('a', 'A', '#000000', '#ffffff') }
  three.states = [...three.states, { name: 'record', colour: '#ff0000', from: null }]
  const marked = {
    ...three,
    states: three.states.map((state, index) => ({ ...state, from: [null, 1, 127][index] ?? null })),
  }
  it.each([
    [0, 'off', 'off'],
    [42, 'off', 'on'],
    [43, 'on', 'on'],
    [85, 'on', 'on'],
    [86, 'record', 'on'],
    [127, 'record', 'record'],
  ])('%d means %s where values are shared out, and %s where states say from when', (value, even, from) => {
    expect([stateForValue(three, value), stateForValue(marked, value)]).toEqual([even, from])
  })

  it('shows on the lights that the destination sets, and on no others', () => {
    const syzra = controllerOf(performed, 'syzra')
    const pelluna = controllerOf(performed, 'pelluna')
    const look = { kind: 'value' as const, value: 127 }
    const states = (controller: typeof syzra) =>
      new Set(
        lightPicture(performed, controller, showingOf(performed), look).flatMap(({ state }) => state ?? []),
      )
    expect([...states(syzra)]).toEqual(['on'])
    expect([...states(pelluna)]).toEqual(['off'])
  })
})
