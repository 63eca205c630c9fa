import { expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { choiceWords } from './choices'
import { parseRig, perform } from '.'

const rig = nineRingsRig('as-performed')

it('every choice of the demo reads as a sentence without an id or a gap', () => {
  expect(rig.choices.length).toBeGreaterThan(3)
  for (const choice of rig.choices) {
    const words = choiceWords(rig, choice)
    expect(words).not.toMatch(/undefined|null| {2}|: $|gone/)
    expect(words).toContain(' · ')
  }
})

it('one switch for two controllers, and an incoming message, are choices like others', () => {
  const layersOf = (controller: string) => {
    const found = rig.controllers.find(({ id }) => id === controller)
    const template = found?.templates[0]
    const stack = template?.stacks[0]
    const layer = stack?.layers[1] ?? stack?.layers[0]
    if (!template || !stack || !layer) throw new Error('no layers')
    return { kind: 'layers' as const, controller, template: template.id, stack: stack.id, layers: [layer.id] }
  }
  const targets = [layersOf('pelluna'), layersOf('syzra')]
  const { rig: after } = perform(rig, 'x', [
    {
      type: 'choice-add',
      choice: {
        id: 'both',
        by: { kind: 'gesture', gesture: 'umbrek/foot-1.press' },
        how: 'this-one',
        targets,
      },
    },
    {
      type: 'choice-add',
      choice: {
        id: 'in',
        by: { kind: 'incoming', controller: 'syzra', trigger: { kind: 'program', channel: 16, number: 3 } },
        how: 'this-one',
        targets: targets.slice(0, 1),
      },
    },
  ])
  expect(parseRig(after).ok).toBe(true)
  const [both, incoming] = after.choices.slice(-2)
  expect(both && choiceWords(after, both)).toMatch(/^Umbrek 6 · .+ shows .+; on Syzra 24: .+/)
  expect(incoming && choiceWords(after, incoming)).toMatch(/^Incoming program 3 on channel 16 shows /)
})
