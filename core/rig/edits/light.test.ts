import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { EditError, parseRig, perform, type LightRole, type Rig, type RigEdit } from '..'

const role = (id: string, letter: string, off: string, on: string): LightRole => ({
  id,
  name: id,
  letter,
  states: [
    { name: 'off', colour: off, from: null },
    { name: 'on', colour: on, from: null },
  ],
})
const performed = nineRingsRig('as-performed')

describe('edits of light roles', () => {
  const add = (more: Partial<LightRole>): RigEdit => ({
    type: 'light-role-add',
    role: { ...role('new', 'N', '#000000', '#ffffff'), ...more },
  })
  it('take a role from every light when it goes', () => {
    const { rig } = perform(performed, 'x', [{ type: 'light-role-remove', role: 'drum' }])
    expect(JSON.stringify(rig.controllers)).not.toContain('"role":"drum"')
    expect(parseRig(structuredClone(rig)).ok).toBe(true)
  })
  it.each<[string, RigEdit, RegExp]>([
    [
      'two states of one name',
      add({
        states: [
          { name: 'on', colour: '#000000', from: null },
          { name: 'On', colour: '#ffffff', from: null },
        ],
      }),
      /two states of one name/,
    ],
    ['a letter that is taken', add({ letter: 'D' }), /stands for “Drum” already/],
    ['what is no colour', add({ states: [{ name: 'on', colour: 'red', from: null }] }), /must be a colour/],
    ['a role without states', add({ states: [] }), /needs at least 1/],
    [
      'a light of a role that is gone',
      {
        type: 'assignments',
        at: { controller: 'syzra', template: 'nine-rings', layer: null },
        assignments: {
          'run-1.press': {
            messages: [{ kind: 'off' }],
            pinned: false,
            memo: '',
            light: { role: 'gone', setBy: { kind: 'press' } },
          },
        },
      },
      /light role is no longer there/,
    ],
    [
      'a palette with a number twice',
      {
        type: 'abilities-set',
        model: 'pelluna-36',
        abilities: {
          ...(performed.models.find(({ id }) => id === 'pelluna-36')
            ?.abilities as Rig['models'][number]['abilities']),
          lights: {
            levels: {},
            setBy: { kind: 'fixed' },
            palette: [
              { index: 3, colour: '#000000', name: 'a' },
              { index: 3, colour: '#ffffff', name: 'b' },
            ],
          },
        },
      },
      /two colours at 3/,
    ],
  ])('refuse %s', (_, edit, why) => {
    expect(() => perform(performed, 'x', [edit])).toThrow(EditError)
    expect(() => perform(performed, 'x', [edit])).toThrow(why)
  })
})
