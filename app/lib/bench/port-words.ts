import type { PortTrouble } from '~/ports/port'

/** What happened, and what to do. `name` is the port it is about, where it is about one. */
export function troubleWords(trouble: PortTrouble, name = 'The port'): { what: string; todo: string } {
  switch (trouble) {
    case 'not-offered':
      return {
        what: 'This browser offers no MIDI ports.',
        todo: 'Open Deft Lattice in a browser with Web MIDI to use them. Everything simulated works here too.',
      }
    case 'refused':
      return {
        what: 'The browser was told not to give this page MIDI ports.',
        todo: 'Allow MIDI for this page in the settings beside its address, then ask again.',
      }
    case 'no-system':
      return {
        what: 'The MIDI system of this computer does not answer.',
        todo: 'Plug in what you want to use, start the browser anew, then ask again.',
      }
    case 'held':
      return {
        what: `${name} is held by another program.`,
        todo: 'Close the port there, then try again.',
      }
    case 'unplugged':
      return {
        what: `${name} was unplugged.`,
        todo: 'Plug it in again: it goes on by itself. Until then what it stands for is simulated.',
      }
    case 'needs-sysex':
      return {
        what: `${name} was sent SysEx, which the browser holds back.`,
        todo: 'Ask for SysEx below.',
      }
    case 'failed':
      return {
        what: `${name} does not answer.`,
        todo: 'Unplug it, plug it in again, then try again.',
      }
  }
}
