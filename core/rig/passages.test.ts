import { expect, it } from 'vitest'
import { check } from '../conflicts'
import { sendingCc, testController, testRig, layeredTemplates } from '../testing/rigs'
import {
  EditError,
  perform,
  powerUpShowing,
  showingIn,
  shownIn,
  withLayer,
  withScope,
  withShowingNow,
  withTemplate,
  type Passage,
  type Rig,
} from '.'

/** Two controllers; the second sends the number of the first in one of its layers only. */
const rig: Rig = testRig([
  testController('a', { 'k1.turn': sendingCc(20) }),
  testController(
    'b',
    {},
    {
      templates: layeredTemplates(
        { 'k1.turn': sendingCc(20) },
        { 'k1.turn': sendingCc(21) },
        { gestures: ['k1.turn'], powerUp: 'x' },
      ),
    },
  ),
])
const empty: Passage = { id: 'p', name: 'Overture', showing: [], scopes: [] }
const showing = (layer: string | null | undefined): Passage =>
  withLayer(withTemplate(empty, 'b', 't'), 'b', 's', layer)
const collides = (of: Rig): boolean => check(of).findings.some(({ rule }) => rule === 'same-address')
const withPassage = (passage: Passage): Rig => perform(rig, 'x', [{ type: 'passage-add', passage }]).rig

it('what never shows in one passage does not collide', () => {
  expect(collides(rig)).toBe(true)
  expect(collides(withPassage(showing('y')))).toBe(false)
  expect(collides(withPassage(showing('x')))).toBe(true)
  expect(collides(withPassage(showing(null)))).toBe(false)
})

it('what a passage leaves open can be anything', () => {
  expect(showing(undefined).showing).toEqual([{ controller: 'b', template: 't', layers: [] }])
  expect(collides(withPassage(showing(undefined)))).toBe(true)
  expect(withTemplate(showing('y'), 'b', null)).toEqual(empty)
})

it('a template that stays keeps the layers that were said; another one starts afresh', () => {
  expect(withTemplate(showing('y'), 'b', 't')).toEqual(showing('y'))
  expect(shownIn(withTemplate(showing('y'), 'b', 'u'), 'b')?.layers).toEqual([])
})

it('takes what shows now, and gives back what to show', () => {
  const [, b] = rig.controllers
  if (!b) throw new Error('no controller')
  const now = withShowingNow(rig, empty, { b: { template: 't', layers: { s: 'y' } } })
  expect(shownIn(now, 'b')).toEqual({ controller: 'b', template: 't', layers: [{ stack: 's', layer: 'y' }] })
  expect(shownIn(now, 'a')).toEqual({ controller: 'a', template: 't', layers: [] })
  expect(showingIn(now, b, powerUpShowing(b))).toEqual({ template: 't', layers: { s: 'y' } })
  expect(showingIn(empty, b, powerUpShowing(b))).toEqual(powerUpShowing(b))
})

it('refuses what is not there, and a controller named twice', () => {
  expect(() => withPassage(showing('gone'))).toThrow(EditError)
  expect(() => withPassage(withScope(empty, 'd', 'nowhere'))).toThrow(EditError)
  const twice = { ...empty, showing: [...showing('x').showing, ...showing('y').showing] }
  expect(() => withPassage(twice)).toThrow(/once/)
})
