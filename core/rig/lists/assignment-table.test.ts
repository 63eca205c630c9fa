import { describe, expect, it } from 'vitest'
import * as fc from 'fast-check'
import { nineRingsRig } from '../../../demo'
import { printTag } from '../../midi'
import { perform } from '../edits'
import { modelOf } from '../lookup'
import { addressOf } from '../messages'
import { ledgerRows } from '../program/ledger'
import { guessedColumns } from './columns'
import {
  assignmentEdits,
  ASSIGNMENT_FIELDS,
  assignmentsFrom,
  type AssignmentsWanted,
} from './assignment-table'
import { readTable } from './table'

const rig = nineRingsRig('as-performed')
const wantedOf = (id: string, draw: AssignmentsWanted['draw'] = null): AssignmentsWanted => {
  const controller = rig.controllers.find((each) => each.id === id)
  const template = controller?.templates[0]
  if (!controller || !template) throw new Error(`no ${id}`)
  return { controller, template, model: modelOf(rig, controller), middleC: rig.middleC, draw }
}
const read = (text: string, id = 'merrod', draw: AssignmentsWanted['draw'] = null) => {
  const table = readTable(text)
  if (!table.ok) throw new Error(table.message)
  return assignmentsFrom(table.rows, guessedColumns(ASSIGNMENT_FIELDS, table.rows), wantedOf(id, draw))
}
const tags = ({ items }: ReturnType<typeof read>): string[] =>
  items.map(({ assignment: { messages } }) => {
    const address = messages[0] ? addressOf(messages[0]) : null
    return address ? printTag(address) : ''
  })
const label = (id: string): string =>
  modelOf(rig, wantedOf(id).controller).surface.controls.find(({ kind }) => kind === 'knob')?.label ?? ''

describe('a table of what a controller sends', () => {
  it('becomes assignments, by address or by kind, channel and number', () => {
    const knob = label('merrod')
    expect(tags(read(`Control,Channel,CC,From,To\n${knob},3,20,10,90\n`))).toEqual(['3:cc20'])
    expect(tags(read(`control;type;ch;number\n${knob};Control Change;Ch 5;21\n`))).toEqual(['5:cc21'])
    expect(tags(read(`Name\tAddress\n${knob.toUpperCase()}\t2:nrpn300\n`))).toEqual(['2:nrpn300'])
    expect(tags(read(`Control,Number\n${knob},44\n`))).toEqual(['home:cc44'])
    expect(tags(read(`Control,Type,Number\n${knob},note,C3\n`))).toEqual([`home:note60`])
  })

  it('writes all lines as one step, and the ledger then says what the table said', () => {
    const knob = label('merrod')
    const got = read(`Control,Channel,CC,From,To,Memo\n${knob},3,20,10,90,mine\n`)
    const next = perform(rig, 'x', assignmentEdits(wantedOf('merrod').model, got)).rig
    const line = ledgerRows(next).find(
      ({ controller, control }) => controller === 'Merrod 49' && control === knob,
    )
    expect([line?.address, line?.low, line?.high, line?.memo]).toEqual(['3:cc20', '10', '90', 'mine'])
  })

  it('draws what the surface does not have, where that is wanted, on a surface that holds it', () => {
    const text = `Control,CC\n${Array.from({ length: 11 }, (_, index) => `New ${index + 1},${index + 20}`).join('\n')}\n`
    expect(read(text).missing).toHaveLength(11)
    expect(read(text).bad[0]?.message).toContain('no control “New 1”')
    const got = read(text, 'merrod', 'fader')
    const { model } = wantedOf('merrod')
    const next = perform(rig, 'x', assignmentEdits(model, got)).rig
    const { surface } = next.models.find(({ id }) => id === model.id) ?? model
    expect(surface.controls).toHaveLength(model.surface.controls.length + 11)
    for (const { place } of surface.controls) {
      expect(place.x + place.w).toBeLessThanOrEqual(surface.width)
      expect(place.y + place.h).toBeLessThanOrEqual(surface.height)
    }
    expect(got.items).toHaveLength(11)
  })

  it.each([
    ['Control,CC\nNobody,20', 'no control “Nobody”'],
    ['Control,CC\n,20', 'names no control'],
    ['Control,CC\nKNOB,200', 'cannot be sent'],
    ['Control,CC\nKNOB,', 'no number'],
    ['Control,Type,CC\nKNOB,smoke,20', 'no kind of message'],
    ['Control,Channel,CC\nKNOB,17,20', 'cannot be sent'],
    ['Control,CC,Layer\nKNOB,20,Attic', 'leave the layer “Attic” out'],
    ['Control,CC,Movement\nKNOB,20,shout', 'has no “shout”'],
    ['Control,CC,From,To\nKNOB,20,0,300', 'use 0 to 127'],
    ['Control,CC,Behaviour\nKNOB,20,jumpy', 'no behaviour'],
    ['Control,CC\nKNOB,20\nKNOB,21', 'says already'],
  ])('names the line that cannot be read: %s', (text, message) => {
    const { bad } = read(text.replaceAll('KNOB', label('merrod')))
    expect(bad).toHaveLength(1)
    expect(bad[0]?.message).toContain(message)
  })

  it('never fails, and every line is read or named, whatever is in it', () => {
    const cell = fc.oneof(
      fc.string({ maxLength: 12 }),
      fc.constantFrom(label('merrod'), '20', '3', 'note', 'cc', 'C3', ''),
    )
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 4, maxLength: 4 }), { minLength: 1, maxLength: 6 }),
        (lines) => {
          const rows = lines.map((cells, index) => ({ line: index + 1, cells }))
          const got = assignmentsFrom(
            rows,
            { control: 0, kind: 1, channel: 2, number: 3 },
            wantedOf('merrod', 'knob'),
          )
          expect(got.items.length + got.bad.length).toBeGreaterThanOrEqual(rows.length - 1)
          perform(rig, 'x', assignmentEdits(wantedOf('merrod').model, got))
        },
      ),
    )
  })
})
