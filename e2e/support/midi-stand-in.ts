/**
 * A stand-in for `navigator.requestMIDIAccess`, as a script for the page: it keeps to the interfaces of the W3C Web MIDI API
 * (MIDIAccess, MIDIPort, MIDIInput, MIDIOutput, MIDIConnectionEvent, MIDIMessageEvent) and is steered by `window.midi`.
 */
export const MIDI_STAND_IN = `(() => {
  const failure = (name, message) => new DOMException(message, name)
  class Port extends EventTarget {
    constructor(access, id, name, type) {
      super()
      Object.assign(this, { access, id, name, type, manufacturer: 'Made up', version: '1', state: 'connected', connection: 'closed', onstatechange: null, onmidimessage: null, held: false, sent: [] })
    }
    change() {
      for (const target of [this, this.access]) {
        const event = new Event('statechange')
        event.port = this
        target.dispatchEvent(event)
        target.onstatechange?.(event)
      }
    }
    async open() {
      if (this.held) throw failure('InvalidAccessError', 'The port is held.')
      if (this.connection === 'open') return this
      this.connection = this.state === 'connected' ? 'open' : 'pending'
      this.change()
      return this
    }
    async close() {
      if (this.connection === 'closed') return this
      this.connection = 'closed'
      this.change()
      return this
    }
    addEventListener(kind, listener) {
      super.addEventListener(kind, listener)
      if (kind === 'midimessage') this.listening = (this.listening ?? 0) + 1
    }
    removeEventListener(kind, listener) {
      super.removeEventListener(kind, listener)
      if (kind === 'midimessage') this.listening--
    }
    send(data) {
      if (this.state !== 'connected') throw failure('InvalidStateError', 'The port is disconnected.')
      if (data[0] === 0xf0 && !this.access.sysexEnabled) throw failure('InvalidAccessError', 'SysEx is not allowed.')
      if (!data.length || data[0] < 0x80) throw new TypeError('Running status is not allowed.')
      this.connection = 'open'
      this.sent.push([...data])
      const echo = midi.echoes[this.id]
      if (echo) this.access.port(echo).deliver([...data])
    }
    deliver(data, at) {
      if (this.connection !== 'open' || (data[0] === 0xf0 && !this.access.sysexEnabled)) return
      const event = new Event('midimessage')
      event.data = Uint8Array.from(data)
      if (at !== undefined) Object.defineProperty(event, 'timeStamp', { value: at })
      this.dispatchEvent(event)
    }
  }
  const all = []
  const midi = {
    refuses: null,
    asked: [],
    accesses: [],
    /** Inputs that say again what an output was told, by the id of the output. */
    echoes: {},
    plug(id, name, type) {
      const known = all.find((port) => port.id === id)
      if (!known) all.push({ id, name, type, held: false, isThere: true })
      else known.isThere = true
      for (const access of midi.accesses) access.take(all.find((port) => port.id === id))
    },
    unplug(id) {
      all.find((port) => port.id === id).isThere = false
      for (const access of midi.accesses) access.take(all.find((port) => port.id === id))
    },
    hold(id, held) {
      all.find((port) => port.id === id).held = held
      for (const access of midi.accesses) access.port(id).held = held
    },
    deliver(id, ...messages) {
      for (const access of midi.accesses) for (const message of messages) access.port(id).deliver(message)
    },
    /** A message that the hardware sent at a time of performance.now(). */
    deliverAt(id, at, message) {
      for (const access of midi.accesses) access.port(id).deliver(message, at)
    },
    sent: (id) => midi.accesses.flatMap((access) => access.port(id)?.sent ?? []),
    isHeard: (id) => midi.accesses.some((access) => access.port(id)?.listening > 0),
  }
  class Access extends EventTarget {
    constructor(sysexEnabled) {
      super()
      Object.assign(this, { sysexEnabled, inputs: new Map(), outputs: new Map(), onstatechange: null })
      all.forEach((each) => this.take(each, true))
    }
    port(id) {
      return this.inputs.get(id) ?? this.outputs.get(id)
    }
    take({ id, name, type, held, isThere }, isFirst) {
      const map = type === 'input' ? this.inputs : this.outputs
      const port = map.get(id) ?? new Port(this, id, name, type)
      map.set(id, port)
      port.held = held
      port.state = isThere ? 'connected' : 'disconnected'
      if (!isThere && port.connection === 'open') port.connection = 'pending'
      else if (isThere && port.connection === 'pending') port.connection = 'open'
      if (!isFirst) port.change()
    }
  }
  window.midi = midi
  navigator.requestMIDIAccess = async ({ sysex = false } = {}) => {
    midi.asked.push(sysex)
    if (midi.refuses) throw failure(midi.refuses, 'No.')
    const access = new Access(sysex)
    midi.accesses.push(access)
    return access
  }
})()`
