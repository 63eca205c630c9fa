import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../../demo'
import { writeSmf, writeSmfTracks, type NamedTrack } from '../../midi/smf'
import { playRig, switchedOn } from '../played'
import { ownersOf, readCapture } from '.'

const rig = nineRingsRig('as-performed')
const text = (...lines: string[]) => readCapture(new TextEncoder().encode(lines.join('\r\n')))
function sweepOf(id: string, gesture: string, name = ''): NamedTrack {
  const { passed } = playRig(rig, switchedOn(rig), id, { kind: 'move', gesture, to: 1, overMs: 200 }, 0)
  return { name, messages: passed.map(({ at, bytes }) => ({ at, bytes })) }
}

describe('a capture', () => {
  it('is read from a Standard MIDI File or from CSV, by its content', () => {
    const messages = [{ at: 5, bytes: [0xb0, 1, 2] }]
    expect(readCapture(writeSmf('x', messages))).toMatchObject({ ok: true, tracks: [{ messages }] })
    expect(text('Bytes;ms;Controller', 'b0 01 02;5;Syzra 24')).toEqual({
      ok: true,
      isTimed: true,
      tracks: [{ name: 'Syzra 24', messages }],
    })
  })

  it.each([
    [['one,two', '1,2'], /needs the columns ms and Bytes/],
    [['ms,Bytes', 'soon,b0 01 02'], /Line 2: “soon” is no time/],
    [['ms,Bytes', '1,b0 01 02', '-4,b0 01 02'], /Line 3: “-4” is no time/],
    [['ms,Bytes', '1,b0 1'], /Line 2: “b0 1” is not bytes/],
    [['ms,Bytes'], /nothing to play/],
    [['ms,Bytes', '1,"b0'], /Line 2.*quotation/],
  ])('is refused whole with the line: %j', (lines, expected) => {
    const read = text(...lines)
    expect(read.ok ? 'read' : read.message).toMatch(expected)
  })

  it('that is something else altogether is refused', () => {
    const read = readCapture(Uint8Array.from([0x50, 0x4b, 3, 4, 0, 0]))
    expect(read.ok ? 'read' : read.message).toMatch(/no capture/)
  })

  it('is given to the controller of its name, else to the one that sends such things', () => {
    const syzra = sweepOf('syzra', 'fader-1.slide')
    const merrod = sweepOf('merrod', 'mod.turn')
    expect(syzra.messages.length).toBeGreaterThan(10)
    expect(ownersOf(rig, [syzra, merrod])).toEqual(['syzra', 'merrod'])
    expect(ownersOf(rig, [{ ...syzra, name: 'Umbrek 6' }])).toEqual(['umbrek'])
    expect(ownersOf({ ...rig, controllers: [] }, [syzra])).toEqual([null])
  })

  it('is told apart by sender in a file of several', () => {
    const tracks = [sweepOf('syzra', 'fader-1.slide', 'Syzra 24'), sweepOf('merrod', 'mod.turn', 'Merrod 49')]
    const read = readCapture(writeSmfTracks('x', tracks))
    expect(read.ok && ownersOf(rig, read.tracks)).toEqual(['syzra', 'merrod'])
  })
})
