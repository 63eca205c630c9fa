import { expect, it } from 'vitest'
import { fullMessage, type MessageInput } from '../testing/rigs'
import { behaviourWords } from '.'

it.each<[MessageInput, string[]]>([
  [{ kind: 'off' }, []],
  [{ kind: 'cc', number: 20 }, ['0–127']],
  [{ kind: 'cc', number: 20, range: { low: 127, high: 0 } }, ['127–0']],
  [{ kind: 'cc', number: 20, range: { low: 64, high: 64 } }, ['64']],
  [{ kind: 'cc', number: 20, resolution: { kind: 'steps', count: 5 } }, ['0–127, 5 steps', '5 steps']],
  [{ kind: 'cc', number: 20, behaviour: { kind: 'momentary' } }, ['held 127/0', 'held']],
  [{ kind: 'cc', number: 20, behaviour: { kind: 'momentary' }, releaseValue: 3 }, ['held 127/3', 'held']],
  [{ kind: 'cc', number: 20, behaviour: { kind: 'toggle' } }, ['on/off 127/0', 'on/off']],
  [{ kind: 'cc', number: 20, behaviour: { kind: 'list', values: [1, 2, 3] } }, ['3 values', 'list']],
  [{ kind: 'cc14', number: 20 }, ['0–16383, 14-bit', '14-bit']],
  [{ kind: 'nrpn', number: 20, sendsLsb: false }, ['0–16383, 7-bit', '7-bit']],
  [{ kind: 'nrpn', number: 20, steps: 'increments' }, ['up and down', 'steps']],
  [{ kind: 'note', keys: { kind: 'one', number: 36 } }, ['held by force 1–127', 'held by force', 'held']],
  [
    { kind: 'note', keys: { kind: 'one', number: 36 }, velocity: { kind: 'fixed', value: 100 } },
    ['held at 100', 'held'],
  ],
  [{ kind: 'program', number: 3 }, ['once']],
])('%j behaves as %j', (message, words) => {
  expect(behaviourWords(fullMessage(message))).toEqual(words)
})
