import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { findHits, sendersOfTag } from './commands'

const rig = nineRingsRig('as-found')
const names = (query: string): string[] =>
  findHits(rig, [{ name: 'Draw the surface', about: '', run: () => null }], query).map(({ name }) => name)

describe('the command box', () => {
  it('says who sends an address, home channels resolved, in any layer', () => {
    expect(sendersOfTag(rig, '1:cc74').map(({ name, about }) => `${name} (${about})`)).toEqual([
      '1:cc74: Fdbk (Syzra 24, Overture)',
      '1:cc74: Slate left–right (Merrod 49)',
    ])
    expect(sendersOfTag(rig, 'cc102').length).toBeGreaterThan(3)
    expect(sendersOfTag(rig, 'nonsense')).toEqual([])
  })
  it('finds controls, layers and commands by words in any order', () => {
    expect(names('fdbk')).toEqual(['Fdbk'])
    expect(names('syzra night')).toEqual(['Night Side'])
    expect(names('surface draw')).toContain('Draw the surface')
    expect(names('')).toEqual(['Draw the surface'])
  })
})
