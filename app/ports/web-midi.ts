import { PortError, type OpenPorts, type OuterPort, type PortDriver, type PortTrouble } from './port'

/** What the browser's refusals mean (Web MIDI API, "requestMIDIAccess" and "MIDIPort"). */
const TROUBLES: Readonly<Record<string, PortTrouble>> = {
  NotAllowedError: 'refused',
  SecurityError: 'refused',
  AbortError: 'refused',
  NotSupportedError: 'no-system',
  InvalidStateError: 'no-system',
}
const nameOf = (error: unknown): string => (error instanceof Error ? error.name : '')

const outer = (port: MIDIPort): OuterPort => ({
  id: port.id,
  name: port.name ?? 'A port without a name',
  maker: port.manufacturer ?? '',
  direction: port.type === 'input' ? 'in' : 'out',
  isThere: port.state === 'connected',
})

function over(access: MIDIAccess): OpenPorts {
  return {
    hasSysex: access.sysexEnabled,
    ports: () => [...access.inputs.values(), ...access.outputs.values()].map(outer),
    onChange: (listener) => {
      access.addEventListener('statechange', listener)
      return () => access.removeEventListener('statechange', listener)
    },
    listen: async (id, listener) => {
      const port = access.inputs.get(id)
      if (!port || port.state !== 'connected') throw new PortError('unplugged')
      try {
        await port.open()
      } catch (error) {
        // The one way in which the standard says that another program has it (Web MIDI API, "MIDIPort.open").
        throw new PortError(nameOf(error) === 'InvalidAccessError' ? 'held' : 'failed', error)
      }
      const take = ({ data, timeStamp }: MIDIMessageEvent): void => {
        if (data) listener(data, timeStamp || performance.now())
      }
      port.addEventListener('midimessage', take)
      return () => {
        port.removeEventListener('midimessage', take)
        if (port.state === 'connected') void port.close()
      }
    },
    send: (id, bytes) => {
      const port = access.outputs.get(id)
      if (!port || port.state !== 'connected') throw new PortError('unplugged')
      if (bytes[0] === 0xf0 && !access.sysexEnabled) throw new PortError('needs-sysex')
      try {
        port.send([...bytes])
      } catch (error) {
        throw new PortError(nameOf(error) === 'InvalidStateError' ? 'unplugged' : 'failed', error)
      }
    },
    close: () => {
      for (const port of [...access.inputs.values(), ...access.outputs.values()]) void port.close()
    },
  }
}

/** The ports of this computer, as the browser gives them (W3C Web MIDI API). SysEx is asked for only if it is wanted. */
export const webMidi: PortDriver = {
  open: async ({ sysex }) => {
    if (typeof navigator.requestMIDIAccess !== 'function') throw new PortError('not-offered')
    try {
      return over(await navigator.requestMIDIAccess({ sysex }))
    } catch (error) {
      throw new PortError(TROUBLES[nameOf(error)] ?? 'failed', error)
    }
  },
}
