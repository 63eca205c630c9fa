import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { perform, type Rig, type RigEdit } from '../rig'
import { check } from '.'

const performed = nineRingsRig('as-performed')

describe('feedback-clash', () => {
  const found = (rig: Rig): string[] =>
    check(rig)
      .findings.filter(({ rule }) => rule === 'feedback-clash')
      .map(({ message }) => message)
  it('finds two lights that answer to one message, and is content when they show the same', () => {
    expect(found(nineRingsRig('as-found'))[0]).toMatch(
      /lights of .*Down.*Up.* answer to one message, 6:note86/,
    )
    expect(found(performed)).toEqual([])
  })

  it('finds a message for a light that reaches a listener by the way it comes', () => {
    const edits: RigEdit[] = [
      { type: 'port-set', owner: 'loomwright', port: 'thru', set: { name: 'Through' } },
      {
        type: 'cable-add',
        cable: {
          id: 'to-lights',
          from: { owner: 'loomwright', port: 'thru' },
          to: { owner: 'pelluna', port: 'usb-in' },
          rules: [],
          otherwise: 'pass',
        },
      },
    ]
    const joined = perform(performed, 'x', edits).rig
    expect(found(joined)).toEqual([])
    const open = perform(joined, 'x', [
      { type: 'cable-set', cable: 'to-kettlow', set: { rules: [], otherwise: 'pass' } },
      {
        type: 'hearing-set',
        destination: 'kettlow',
        for: 'playing',
        hearing: { ports: 'merged', channels: { kind: 'apart' } },
      },
      {
        type: 'parameter-set',
        destination: 'kettlow',
        parameter: 'bell',
        set: { fixed: { kind: 'cc', channel: 16, number: 0 } },
      },
    ]).rig
    expect(found(open)).toEqual([expect.stringMatching(/also reaches Kettlow and moves Sounds · Bell/)])
  })
})
