import * as fc from 'fast-check'
import type { RigEdit } from '../rig'
import { addressAt } from './addresses'
import { anyMessage, fullMessage } from './rigs'

const place = { controller: 'a', template: 't', layer: null, gesture: 'k1.turn' }

const expecting = fc.constantFrom(
  { kind: 'absolute' as const },
  { kind: 'press' as const },
  { kind: 'relative' as const, encoding: 'twos-complement' as const },
)

/** Edits of every sort, some of which do not fit the rigs of `anyRig` and are refused. */
export const anyEdit: fc.Arbitrary<RigEdit> = fc.oneof(
  fc.record({ name: fc.string() }).map(({ name }): RigEdit => ({ type: 'rig-set', set: { name } })),
  fc
    .record({ x: fc.integer({ min: 0, max: 60 }), label: fc.constantFrom('Knob 1', 'Other') })
    .map(({ x, label }) => ({
      type: 'controls-set' as const,
      model: 'plain',
      controls: [{ id: 'k1', set: { place: { x, y: 20, w: 14, h: 14 }, label } }],
    })),
  fc
    .record({ hue: fc.integer({ min: 0, max: 7 }) })
    .map((set): RigEdit => ({ type: 'controller-set', controller: 'a', set })),
  fc
    .record({
      controller: fc.constantFrom('a', 'b', 'nobody'),
      layer: fc.constantFrom(null, 'la', 'gone'),
      gesture: fc.constantFrom('k1.turn', 'k5.turn', 'k9.turn'),
      index: fc.integer({ min: 0, max: 2 }),
      message: anyMessage,
    })
    .map(({ controller, layer, gesture, index, message }): RigEdit => ({
      type: 'message',
      at: { controller, template: 't', layer, gesture },
      index,
      message: fullMessage(message),
    })),
  fc
    .record({ gesture: fc.constantFrom('k1.turn', 'k2.turn'), on: fc.boolean() })
    .map(({ gesture, on }): RigEdit => ({
      type: 'assignment',
      at: { ...place, gesture },
      assignment: on ? { messages: [{ kind: 'off' }], pinned: true, light: null, memo: '' } : null,
    })),
  fc
    .record({ homeChannel: fc.integer({ min: 0, max: 17 }), inUse: fc.boolean() })
    .map((set): RigEdit => ({ type: 'controller-set', controller: 'b', set })),
  fc
    .record({
      id: fc.constantFrom('m0', 'm9'),
      parameter: fc.constantFrom('p1', 'zzz'),
      gesture: fc.constantFrom('a/k1.turn', 'a/k9.turn', null),
    })
    .map(({ id, parameter, gesture }): RigEdit => ({
      type: 'mapping-add',
      mapping: {
        id,
        gesture,
        key: null,
        destination: 'd',
        parameter,
        learnedAt: null,
        scope: null,
        min: null,
        max: null,
        inverted: false,
        curve: 'linear',
        takeover: 'when-met',
        expects: { kind: 'absolute' },
        feedback: false,
        memo: '',
      },
    })),
  fc.constantFrom('m0', 'm1').map((mapping): RigEdit => ({ type: 'mapping-remove', mapping })),
  fc
    .record({ mapping: fc.constantFrom('m0', 'm1'), learnedAt: fc.constantFrom(addressAt('1:cc20'), null) })
    .map(({ mapping, learnedAt }): RigEdit => ({ type: 'mapping-set', mapping, set: { learnedAt } })),
  fc
    .record({ id: fc.constantFrom('x', 'y'), gesture: fc.constantFrom('a/k2.turn', 'a/k9.turn') })
    .map(({ id, gesture }): RigEdit => ({
      type: 'accord-add',
      accord: { id, name: 'Y', reason: '', gestures: ['a/k1.turn', gesture] },
    })),
  fc.constant<RigEdit>({ type: 'accord-remove', accord: 'x' }),
  fc
    .record({ min: fc.constantFrom(null, 0, 5), max: fc.constantFrom(null, 1, 5), expects: expecting })
    .map(({ min, max, expects }): RigEdit => ({
      type: 'mapping-set',
      mapping: 'm0',
      set: { min, max, expects, curve: 's' },
    })),
  fc
    .record({ parameter: fc.constantFrom('p1', 'p2', 'gone'), kind: fc.constantFrom('switch', 'continuous') })
    .map(({ parameter, kind }): RigEdit => ({
      type: 'parameter-set',
      destination: 'd',
      parameter,
      set: { kind, steps: null },
    })),
  fc.constantFrom('p1', 'gone').map((id): RigEdit => ({
    type: 'parameters-remove',
    destination: 'd',
    parameters: [id],
  })),
  fc.constantFrom('s1', 's2').map((id): RigEdit => ({
    type: 'destination-set',
    destination: 'd',
    set: { scopes: [{ id, name: id }], feedback: true },
  })),
)
