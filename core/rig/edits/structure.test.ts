import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import {
  anyRig,
  fullMessage,
  layeredTemplates,
  plainModel,
  sendingCc,
  testController,
  testRig,
} from '../../testing/rigs'
import { parseRig, type Assignment, type Rig } from '..'
import { EditError, perform, redone, undone, type RigEdit, type Step } from '.'
import { addressAt } from '../../testing/addresses'
import { cases } from '../../testing/cases'

const gesture = fc.constantFrom(
  'k1.turn',
  'k2.turn',
  'k5.turn',
  'k6.turn',
  'k6.push',
  'new1.press',
  'k9.turn',
)
const controllerId = fc.constantFrom('a', 'b', 'new', 'nobody')
const templateId = fc.constantFrom('t', 'u')
const layerId = fc.constantFrom('la', 'lb', 'lc', 'le')
const stackId = fc.constantFrom('s', 'v')
const controlId = fc.constantFrom('k1', 'k5', 'k6', 'new1', 'k9')
const at = fc.record({ controller: controllerId, template: templateId })

const assignment: Assignment = {
  messages: [fullMessage({ kind: 'cc', number: 20 })],
  pinned: false,
  light: null,
  memo: '',
}
const control = (id: string, block: string | null) => ({
  id,
  kind: 'button' as const,
  label: id,
  block,
  gestures: ['press' as const],
  silent: false,
  restsInCentre: false,
  detentsPerTurn: null,
  lightNumber: null,
  place: { x: 1, y: 1, w: 5, h: 5 },
})

const structural: fc.Arbitrary<RigEdit> = fc.oneof(
  fc.record({ block: fc.constantFrom(null, 'bl', 'gone') }).map(({ block }): RigEdit => ({
    type: 'controls-add',
    model: 'plain',
    controls: [control('new1', block)],
    blocks: block === 'bl' ? [{ id: 'bl', label: 'B', rows: 1, columns: 1 }] : [],
  })),
  fc
    .record({
      id: controlId,
      gestures: fc.subarray(['turn', 'push', 'press'] as const),
      w: fc.integer({ min: 0, max: 30 }),
    })
    .map(({ id, gestures, w }): RigEdit => ({
      type: 'controls-set',
      model: 'plain',
      controls: [{ id, set: { gestures: [...gestures], place: { x: 0, y: 0, w, h: 4 } } }],
    })),
  fc
    .array(controlId, { maxLength: 2 })
    .map((controls): RigEdit => ({ type: 'controls-remove', model: 'plain', controls })),
  fc.subarray(['k1', 'k2', 'k6']).map((controls): RigEdit => ({
    type: 'block-add',
    model: 'plain',
    block: { id: 'row', label: 'Row', rows: 1, columns: 3 },
    controls,
  })),
  fc.constantFrom('row', 'bl').map((block): RigEdit => ({ type: 'block-break', model: 'plain', block })),
  fc
    .record({ model: fc.constantFrom('plain', 'other'), fresh: fc.boolean() })
    .map(({ model, fresh }): RigEdit => {
      const base = testRig([testController('new', {})])
      const [added] = base.controllers
      const [kind] = base.models
      if (!added || !kind) throw new Error('no controller')
      return {
        type: 'controller-add',
        controller: { ...added, model },
        model: fresh ? { ...kind, id: model } : null,
      }
    }),
  controllerId.map((controller): RigEdit => ({ type: 'controller-remove', controller })),
  fc
    .record({ controller: controllerId, to: fc.integer({ min: 0, max: 3 }) })
    .map((move): RigEdit => ({ type: 'controller-move', ...move })),
  at.map(({ controller }): RigEdit => ({
    type: 'template-add',
    controller,
    template: { id: 'u', name: 'U', base: {}, stacks: [] },
  })),
  fc
    .record({ where: at, to: fc.integer({ min: 0, max: 2 }) })
    .map(({ where, to }): RigEdit => ({ type: 'template-move', ...where, to })),
  at.map((where): RigEdit => ({ type: 'template-remove', ...where })),
  fc
    .record({
      where: at,
      gestures: fc.uniqueArray(gesture, { maxLength: 3 }),
      mode: fc.constantFrom('replace' as const, 'lie-over' as const),
    })
    .map(({ where, gestures, mode }): RigEdit => ({
      type: 'stack-add',
      ...where,
      stack: {
        id: 'v',
        name: 'V',
        gestures,
        mode,
        powerUp: null,
        layers: [{ id: 'lc', name: 'LC', colour: null, assignments: {} }],
      },
    })),
  fc
    .record({
      where: at,
      stack: stackId,
      gestures: fc.uniqueArray(gesture, { maxLength: 3 }),
      powerUp: fc.constantFrom(null, 'la', 'lc'),
      mode: fc.constantFrom('replace' as const, 'lie-over' as const),
    })
    .map(({ where, stack, ...set }): RigEdit => ({ type: 'stack-set', ...where, stack, set })),
  fc
    .record({ where: at, stack: stackId })
    .map(({ where, stack }): RigEdit => ({ type: 'stack-remove', ...where, stack })),
  fc.record({ where: at, stack: stackId, key: gesture }).map(({ where, stack, key }): RigEdit => ({
    type: 'layer-add',
    ...where,
    stack,
    at: 1,
    layer: { id: 'le', name: 'LE', colour: null, assignments: { [key]: assignment } },
  })),
  fc
    .record({ where: at, layer: layerId })
    .map(({ where, layer }): RigEdit => ({ type: 'layer-remove', ...where, layer })),
  fc
    .record({ where: at, layer: layerId, to: fc.integer({ min: 0, max: 4 }) })
    .map(({ where, ...rest }): RigEdit => ({ type: 'layer-move', ...where, ...rest })),
  fc
    .record({ where: at, layer: fc.constantFrom(null, 'la', 'lc'), key: gesture, off: fc.boolean() })
    .map(({ where, layer, key, off }): RigEdit => ({
      type: 'assignments',
      at: { ...where, layer },
      assignments: { [key]: off ? null : assignment },
    })),
  fc
    .record({
      where: at,
      stack: stackId,
      layer: fc.constantFrom(null, 'la', 'lc'),
      id: fc.constantFrom('pa', 'pb'),
      isNew: fc.boolean(),
    })
    .map(({ where, stack, layer, id, isNew }): RigEdit => {
      const showing = [{ ...where, layers: [{ stack, layer }] }]
      return isNew
        ? { type: 'passage-add', passage: { id, name: 'P', showing, scopes: [] } }
        : { type: 'passage-set', passage: id, set: { showing } }
    }),
  fc
    .record({
      passage: fc.constantFrom('pa', 'pb'),
      to: fc.integer({ min: 0, max: 2 }),
      isGone: fc.boolean(),
    })
    .map(({ passage, to, isGone }): RigEdit =>
      isGone ? { type: 'passage-remove', passage } : { type: 'passage-move', passage, to },
    ),
  fc.subarray(['a/k1.turn', 'b/k1.turn', 'a/k9.turn']).map((gestures): RigEdit => ({
    type: 'accord-set',
    accord: 'x',
    set: { gestures, reason: 'since' },
  })),
  fc
    .record({ where: at, stack: stackId, layer: layerId, key: gesture })
    .map(({ where, stack, layer, key }): RigEdit => ({
      type: 'choice-add',
      choice: {
        id: 'ch',
        by: { kind: 'gesture', gesture: `a/${key}` },
        how: 'next',
        targets: [{ kind: 'layers', ...where, stack, layers: [layer] }],
      },
    })),
)

describe('edits of surfaces, controllers, templates, stacks and layers', () => {
  it('leave a valid rig; undone gives the rig before, redone the rig after', () => {
    let made = 0
    fc.assert(
      fc.property(anyRig, fc.array(structural, { minLength: 1, maxLength: 14 }), (before, edits) => {
        let rig: Rig = before
        const steps: Step[] = []
        for (const edit of edits) {
          try {
            const done = perform(rig, edit.type, [edit])
            rig = done.rig
            steps.push(done.step)
            made++
          } catch (error) {
            if (!(error instanceof EditError)) throw error
          }
          expect(parseRig(rig), edit.type).toEqual({ ok: true, rig })
        }
        const back = steps.toReversed().reduce(undone, rig)
        expect(back).toEqual(before)
        expect(steps.reduce(redone, back)).toEqual(rig)
      }),
      cases(40),
    )
    expect(made).toBeGreaterThan(20)
  })

  it('keep what was learned when a control goes, and drop what was not yet taught', () => {
    const rig = testRig([testController('a', { 'k1.turn': sendingCc(20) })], undefined, {
      mappings: [
        { id: 'm1', gesture: 'a/k1.turn', destination: 'd', parameter: 'p1', learnedAt: '1:cc20' },
        { id: 'm2', gesture: 'a/k1.turn', destination: 'd', parameter: 'p2' },
      ],
    })
    const { rig: after } = perform(rig, 'x', [{ type: 'controls-remove', model: 'plain', controls: ['k1'] }])
    expect(after.mappings).toMatchObject([{ id: 'm1', gesture: null, learnedAt: addressAt('1:cc20') }])
    expect(after.controllers[0]?.templates[0]?.base).toEqual({})
  })

  it('carry assignments from the base into a new stack, and back when it is dissolved', () => {
    const rig = testRig([testController('a', { 'k1.turn': sendingCc(20) })])
    const where = { controller: 'a', template: 't' }
    const layer = (id: string) => ({ id, name: id, colour: null, assignments: {} })
    const { rig: stacked } = perform(rig, 'x', [
      {
        type: 'stack-add',
        ...where,
        stack: {
          id: 's',
          name: 'S',
          gestures: ['k1.turn'],
          mode: 'replace',
          powerUp: 'two',
          layers: [layer('one'), layer('two')],
        },
      },
    ])
    const template = stacked.controllers[0]?.templates[0]
    expect(template?.base).toEqual({})
    expect(template?.stacks[0]?.layers.map(({ assignments }) => Object.keys(assignments))).toEqual([
      ['k1.turn'],
      ['k1.turn'],
    ])
    const { rig: flat } = perform(stacked, 'x', [{ type: 'stack-remove', ...where, stack: 's' }])
    expect(flat).toEqual(rig)
  })

  it('keep in the base what the power-up layer sends when its stack is dissolved', () => {
    const base = (powerUp: string | null): unknown => {
      const templates = layeredTemplates(
        { 'k1.turn': sendingCc(20) },
        { 'k1.turn': sendingCc(30) },
        { gestures: ['k1.turn'], powerUp },
      )
      const rig = testRig([testController('a', {}, { templates })])
      const [template] = rig.controllers[0]?.templates ?? []
      const edit = { type: 'stack-remove', controller: 'a', template: template?.id ?? '' } as const
      const { rig: flat } = perform(rig, 'x', [{ ...edit, stack: template?.stacks[0]?.id ?? '' }])
      return flat.controllers[0]?.templates[0]?.base['k1.turn']?.messages[0]
    }
    expect(base('y')).toMatchObject({ number: 30 })
    expect(base(null)).toMatchObject({ number: 20 })
  })

  it('let a model have as few slots as its controllers use, and no fewer', () => {
    const slots = [{ number: 2, template: 't' }]
    const rig = testRig([testController('a', {}, { slots })], undefined, {
      models: [{ ...plainModel, abilities: { ...plainModel.abilities, slots: 3 } }],
    })
    const [model] = rig.models
    if (!model) throw new Error('There is no model.')
    const withSlots = (count: number): RigEdit => ({
      type: 'abilities-set',
      model: 'plain',
      abilities: { ...model.abilities, slots: count },
    })
    expect(parseRig(perform(rig, 'x', [withSlots(2)]).rig).ok).toBe(true)
    expect(() => perform(rig, 'x', [withSlots(1)])).toThrow(/A uses slot 2; empty it first/)
    const file = structuredClone(rig)
    file.models[0]!.abilities.slots = 1
    const read = parseRig(file)
    expect(read.ok ? '' : read.problems.map(({ path, message }) => `${path} ${message}`).join()).toBe(
      'controllers[0].slots[0].number Plain has 1 slots',
    )
  })

  it('take a whole controller out of the demo and leave it valid, cables and passages too', () => {
    for (const controller of ['syzra', 'pelluna', 'merrod', 'umbrek', 'corvel']) {
      const { rig } = perform(nineRingsRig('as-performed'), 'x', [{ type: 'controller-remove', controller }])
      expect(parseRig(rig)).toEqual({ ok: true, rig })
      expect(JSON.stringify(rig.cables)).not.toContain(`"${controller}"`)
    }
  })
})
