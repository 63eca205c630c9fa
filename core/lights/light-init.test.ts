import { parseMidi } from 'midi-file'
import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nineRingsRig } from '../../demo'
import { writeSmf } from '../midi/smf'
import { perform, powerUpShowing, type Rig } from '../rig'
import {
  darkOf,
  entriesFor,
  lightInit,
  lightPicture,
  lightInitBytes,
  lightInitText,
  type LightInitMessage,
} from '.'
import { cases } from '../testing/cases'

const showingOf = (rig: Rig) =>
  Object.fromEntries(rig.controllers.map((each) => [each.id, powerUpShowing(each)]))
const controllerOf = (rig: Rig, id: string) => {
  const found = rig.controllers.find((each) => each.id === id)
  if (!found) throw new Error(id)
  return found
}

const performed = nineRingsRig('as-performed')

/** Lights as hardware has them: dark at first, each set by the last message at its address. */
function played(messages: readonly LightInitMessage[]): Map<string, number> {
  const lights = new Map<string, number>()
  for (const message of messages) {
    const [status, number, value] = lightInitBytes(message)
    const isNote = status >> 4 === 9
    lights.set(`${isNote ? 'note' : 'cc'} ${(status & 15) + 1} ${number}`, value)
  }
  return lights
}

const lightsOf = (rig: Rig) => rig.models.find(({ id }) => id === 'pelluna-36')?.abilities.lights ?? null

describe('a wake sequence', () => {
  const anyLights: fc.Arbitrary<Rig> = fc
    .array(
      fc.tuple(fc.nat(35), fc.constantFrom(null, 'drum', 'voice', 'effect'), fc.constantFrom('off', 'on')),
      { maxLength: 40 },
    )
    .map((given) => {
      const at = { controller: 'pelluna', template: 'nine-rings', layer: 'drums' }
      const layer = controllerOf(performed, 'pelluna').templates[0]?.stacks[0]?.layers[0]
      const assignments = Object.fromEntries(
        given.flatMap(([pad, name, state]) => {
          const key = `pad-${pad + 1}.strike`
          const assignment = layer?.assignments[key]
          const light = name === null ? null : { role: name, setBy: { kind: 'steady' as const, state } }
          return assignment ? [[key, { ...assignment, light }]] : []
        }),
      )
      return perform(performed, 'x', [{ type: 'assignments', at, assignments }]).rig
    })

  it('played into dark lights gives the wanted picture, all of it or only what is needed', () => {
    fc.assert(
      fc.property(anyLights, fc.constantFrom('all' as const, 'needed' as const), (rig, which) => {
        const pelluna = controllerOf(rig, 'pelluna')
        const showing = showingOf(rig)
        const { messages } = lightInit(rig, [pelluna], showing, which)
        const lights = played(messages)
        for (const { control, entry } of lightPicture(rig, pelluna, showing)) {
          const shown = lights.get(`cc 16 ${control.lightNumber}`) ?? 0
          const dark = darkOf(entriesFor(lightsOf(rig), control.kind))?.index
          const isSent = lights.has(`cc 16 ${control.lightNumber}`)
          if (which === 'needed' && isSent) expect(entry.index).not.toBe(dark)
          // What is left out starts as dark as the palette can be.
          if (which === 'all' || isSent) expect(shown).toBe(entry.index)
          else expect(entry.index).toBe(dark)
        }
      }),
      cases(60),
    )
  })

  it('is counted, timed on DIN, and written as text and as a MIDI file that another reader reads', () => {
    const rig = performed
    const controllers = [controllerOf(rig, 'syzra'), controllerOf(rig, 'pelluna')]
    const found = lightInit(rig, controllers, showingOf(rig))
    expect(found.messages.length).toBe(42 + 19)
    expect(found.bytes).toBe(found.messages.length * 3)
    expect(found.dinMs).toBeNull()
    // What goes over USB takes no time on the DIN cable of another.
    const all = lightInit(rig, [...controllers, controllerOf(rig, 'umbrek')], showingOf(rig))
    expect([all.messages.length, all.dinMs]).toEqual([found.messages.length, 0])
    expect(lightInitText(rig, found).trim().split('\n')).toHaveLength(found.messages.length)
    const file = writeSmf(
      'Lights',
      found.messages.map((message, index) => ({ at: index * 2, bytes: lightInitBytes(message) })),
    )
    const read = parseMidi(file)
    expect(read.header).toMatchObject({ format: 0, numTracks: 1 })
    const events = (read.tracks[0] ?? []).filter(
      ({ type }) => type === 'noteOn' || type === 'noteOff' || type === 'controller',
    )
    expect(events).toHaveLength(found.messages.length)
    let at = 0
    events.forEach((event, index) => {
      at += event.deltaTime
      const [status, number, value] = lightInitBytes(found.messages[index] as LightInitMessage)
      expect(at).toBe(index * 4)
      expect(event).toMatchObject({ channel: status & 15 })
      if (event.type === 'controller') expect([event.controllerType, event.value]).toEqual([number, value])
      else if ('velocity' in event) expect([event.noteNumber, event.velocity]).toEqual([number, value])
    })
  })

  it('goes to the channel whose meaning is called like the state', () => {
    const model = performed.models.find(({ id }) => id === 'pelluna-36')
    const lights = model?.abilities.lights
    if (!model || !lights) throw new Error('gone')
    const setBy = {
      kind: 'channel-meaning' as const,
      meanings: [
        { channel: 1, meaning: 'steady' },
        { channel: 3, meaning: 'Off' },
      ],
    }
    const { rig } = perform(performed, 'x', [
      {
        type: 'abilities-set',
        model: model.id,
        abilities: { ...model.abilities, lights: { ...lights, setBy } },
      },
    ])
    const { messages } = lightInit(rig, [controllerOf(rig, 'pelluna')], showingOf(rig))
    const channelOf = (control: string) =>
      messages.find((message) => message.control === control)?.address.channel
    expect([channelOf('pad-1'), channelOf('slim-6')]).toEqual([3, 1])
  })

  it('leaves out lights that cannot be set from outside', () => {
    const { messages, unset, dinMs } = lightInit(
      performed,
      [controllerOf(performed, 'umbrek')],
      showingOf(performed),
    )
    expect(messages).toEqual([])
    expect(unset.length).toBeGreaterThan(0)
    expect(dinMs).toBe(0)
  })
})

describe('times in a MIDI file', () => {
  it('come back as they were, in order', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(400_000), { maxLength: 30 }), (times) => {
        const file = writeSmf(
          'x',
          times.map((at) => ({ at, bytes: [0xb0, 1, 2] })),
        )
        const track = parseMidi(file).tracks[0] ?? []
        let at = 0
        const back: number[] = []
        for (const event of track) {
          at += event.deltaTime
          if (event.type === 'controller') back.push(at / 2)
        }
        expect(back).toEqual([...times].sort((a, b) => a - b))
      }),
    )
  })
})
