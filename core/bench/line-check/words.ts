import { noteName } from '../../midi'
import { cableWords } from '../../conflicts/words'
import { rigIndex, type Rig } from '../../rig'
import { nameOf } from './causes'
import type { Cause, World } from './worlds'

const OCTAVE = 12
const MIDDLE_C = 60

/** A cause as a sentence, of the controller that is listened to. */
export function causeWords(rig: Rig, id: string, world: World, cause: Cause): string {
  const name = nameOf(rig, id)
  switch (cause.kind) {
    case 'slot': {
      const template = world.controller.templates.find((each) => each.id === cause.template)
      const slot = world.controller.slots.find((each) => each.template === cause.template)
      const where = slot ? ` (slot ${slot.number})` : ''
      return `Another slot is loaded: ${world.controller.name} sends template “${template?.name ?? ''}”${where}.`
    }
    case 'port':
      return `Two ports are swapped: what comes from ${name} is sent by ${nameOf(rig, cause.owner)}.`
    case 'home':
      return `The home channel is another: ${world.controller.name} sends on channel ${cause.channel}, not on ${rigIndex(rig).controllers.get(world.controller.id)?.homeChannel ?? ''}.`
    case 'shift': {
      const by = Math.abs(cause.semitones)
      const way = cause.semitones > 0 ? 'up' : 'down'
      return by % OCTAVE === 0
        ? `The keys of ${world.controller.name} are ${by / OCTAVE} ${by === OCTAVE ? 'octave' : 'octaves'} ${way}.`
        : `The keys of ${world.controller.name} are transposed ${by} ${by === 1 ? 'semitone' : 'semitones'} ${way}: ${noteName(MIDDLE_C, rig.middleC)} plays ${noteName(MIDDLE_C + cause.semitones, rig.middleC)}.`
    }
    case 'layer': {
      const stack = world.controller.templates
        .flatMap(({ stacks }) => stacks)
        .find((each) => each.id === cause.stack)
      const layer = stack?.layers.find((each) => each.id === cause.layer)
      return `Another layer is on: ${stack?.name ?? ''} of ${world.controller.name} shows ${layer?.name ?? 'none'}.`
    }
    case 'inverted':
      return `All values of ${world.controller.name} come the wrong way round: pressed says what let go is to say.`
    case 'rule': {
      const cable = rig.cables.find((each) => each.id === cause.cable)
      return `The rules of the cable ${cable ? cableWords(rig, cable) : ''} are missing: what comes is as it was sent.`
    }
  }
}

/** What to do about a cause, as a sentence. */
export function cureWords(world: World, cause: Cause): string {
  switch (cause.kind) {
    case 'slot':
      return `Load the slot that is written on ${world.controller.name}.`
    case 'port':
      return 'Swap the two cables, or the two ports.'
    case 'home':
      return `Set the home channel of ${world.controller.name}, or take the other over into the rig.`
    case 'shift':
      return `Set octave and transpose of ${world.controller.name} back.`
    case 'layer':
      return `Choose the layer on ${world.controller.name}, or begin the passage.`
    case 'inverted':
      return 'Turn polarity round on the hardware.'
    case 'rule':
      return 'Switch the rules of the cable or box on again.'
  }
}
