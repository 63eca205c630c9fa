import * as fc from 'fast-check'
import { expect, it } from 'vitest'
import { isSetting } from './settings'

it('knows every setting as the application writes it', () => {
  const written: Array<[string, string]> = [
    ['theme', 'night'],
    ['other-layers', 'false'],
    ['ask-before', 'true'],
    ['follow-hand', 'true'],
    ['lens', 'lights'],
    ['upper-view', 'ledger'],
    ['upper-size', '57'],
    ['surface-size', '68.75'],
    ['picture', '{}'],
    ['picture', '{"rig":{"controller syzra":{"x":-3.5,"y":20}}}'],
    ['ports', '{"rig":{"syzra/out":{"id":"9","name":"Out","maker":""}}}'],
  ]
  for (const [name, value] of written)
    expect([name, isSetting(`deft-lattice/${name}`, value)]).toEqual([name, true])
})

it('takes nothing else: no other name, no other value', () => {
  const others: Array<[string, string]> = [
    ['deft-lattice/theme', '"night"'],
    ['deft-lattice/theme', ''],
    ['deft-lattice/upper-size', '1e9'],
    ['deft-lattice/upper-size', '101'],
    ['deft-lattice/upper-size', '-1'],
    ['deft-lattice/lens', 'constructor'],
    ['deft-lattice/picture', 'null'],
    ['deft-lattice/picture', '{"rig":[1]}'],
    ['deft-lattice/picture', '{"rig":'],
    ['deft-lattice/ports', '{"rig":{"a":{"id":1}}}'],
    ['deft-lattice/last-opened', 'x'],
    ['deft-lattice/constructor', 'x'],
    ['theme', 'night'],
  ]
  for (const [key, value] of others) expect([key, value, isSetting(key, value)]).toEqual([key, value, false])
  fc.assert(
    fc.property(fc.string(), fc.string(), (name, value) => {
      expect(isSetting(`deft-lattice/x${name}`, value)).toBe(false)
    }),
  )
})
