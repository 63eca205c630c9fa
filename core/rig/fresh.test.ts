import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { emptyRig, newBox, newComputer, newController, newDestination, newPreset, newSound, perform } from '.'

const surface = nineRingsRig('as-found').models[0]!.surface

it('whatever is added to any rig, and again, is new there and is taken', () => {
  for (let rig of [emptyRig('Empty'), nineRingsRig('as-found')])
    for (let count = 0; count < 40; count++) {
      const used = new Set(rig.controllers.map(({ homeChannel }) => homeChannel))
      rig = perform(rig, 'x', [
        { type: 'controller-add', ...newController(rig, 'Åre 2', surface) },
        { type: 'destination-add', destination: newDestination(rig) },
        { type: 'box-add', box: newBox(rig) },
        { type: 'computer-add', computer: newComputer(rig) },
      ]).rig
      expect(used.has(rig.controllers.at(-1)!.homeChannel)).toBe(used.size === 16)
    }
})

it('a letter of a new controller is its own as long as there are any', () => {
  let rig = emptyRig('Empty')
  const letters: string[] = []
  for (let count = 0; count < 36; count++) {
    const added = newController(rig, 'réseau', surface)
    letters.push(added.controller.letter)
    rig = perform(rig, 'x', [{ type: 'controller-add', ...added }]).rig
  }
  expect(letters[0]).toBe('R')
  expect(new Set(letters).size).toBe(36)
})

it('sounds and presets are added until every number has one, the next number first', () => {
  let destination = newDestination(emptyRig('Empty'))
  expect(newSound(destination)?.number).toBe(36)
  expect(newPreset(destination)).toMatchObject({ number: 0, bank: null })
  const bank = { msb: 1, lsb: 2 }
  fc.assert(
    fc.property(fc.uniqueArray(fc.nat(127), { minLength: 1 }), (numbers) => {
      destination = {
        ...destination,
        noteNames: numbers.map((number) => ({ number, name: 'x' })),
        programs: [
          { number: 5, bank: null, name: 'y' },
          ...numbers.map((number) => ({ number, bank, name: 'x' })),
        ],
      }
      const [sound, preset] = [newSound(destination)?.number, newPreset(destination)]
      const isFull = numbers.length === 128
      expect(sound === undefined).toBe(isFull)
      expect(preset === null).toBe(isFull)
      if (isFull) return
      const after = (number: number): number => {
        let next = (number + 1) % 128
        while (numbers.includes(next)) next = (next + 1) % 128
        return next
      }
      expect(sound).toBe(after(Math.max(...numbers)))
      expect(preset).toMatchObject({ number: after(numbers.at(-1) ?? 0), bank })
    }),
  )
})
