import { RigSchema } from '../core/rig/schema'
import type { Rig } from '../core/rig'
import { cables } from './cables'
import { corvelController } from './controllers/corvel'
import { merrodController } from './controllers/merrod'
import { pellunaController } from './controllers/pelluna'
import { syzraController } from './controllers/syzra'
import { umbrekController } from './controllers/umbrek'
import { kettlow } from './destinations/kettlow'
import { loomwright } from './destinations/loomwright'
import { ondrel } from './destinations/ondrel'
import { ferricMile, siltglass } from './destinations/plugins'
import type { DemoInput, DemoState } from './kit'
import { mappingsOf } from './mappings'
import { corvel } from './models/corvel'
import { merrod } from './models/merrod'
import { pelluna } from './models/pelluna'
import { syzra } from './models/syzra'
import { umbrek } from './models/umbrek'
import { choices, passages } from './show'

const modulation = {
  id: 'modulation',
  name: 'Modulation by wheel or ribbon',
  reason: 'Left hand takes the wheel when seated, the ribbon when standing; never both at once.',
  gestures: ['merrod/mod.turn', 'merrod/ribbon.slide'],
}

const sceneSteps = {
  id: 'scene-steps',
  name: 'Scene length down and up',
  reason: 'Two buttons send two values of one number: the shorter and the longer length.',
  gestures: ['syzra/side-7.press', 'syzra/side-8.press'],
}

const formerSharing = {
  id: 'tape-and-dark',
  name: 'Tape and dark on one number',
  reason: 'They once shared a number; they no longer do.',
  gestures: ['umbrek/foot-5.press', 'umbrek/foot-6.press'],
}

/** A program from the rehearsal that nobody closed: it still has Syzra's port. */
const leftOpen: NonNullable<DemoInput['destinations']>[number] = {
  id: 'siltglass-alone',
  name: 'Siltglass alone',
  kind: 'plugin',
  ports: [
    {
      id: 'in',
      name: 'Syzra 24',
      direction: 'in',
      opens: { computer: 'laptop', port: 'usb-syzra' },
    },
  ],
  hears: { playing: { channels: { kind: 'only', channels: [16] } }, learning: {} },
}

/**
 * The one finding that stays as it is, because the player knows why it may: notes held while the pads turn
 * their page. The check says when these facts are no longer true, and the demo's test then tells.
 */
const knownToStay: NonNullable<DemoInput['setAside']>[number] = {
  finding: 'stuck:pelluna/nine-rings/pads',
  facts: 'fd39b201391bcd0f',
  reason: 'Both hands are off the pads when the page turns, between movements.',
}

/** The demo rig "Nine Rings" in one of its two states, as it would stand in a file. */
export function nineRings(state: DemoState): DemoInput {
  const controllers = [
    syzraController(state),
    pellunaController(state),
    merrodController(state),
    umbrekController(state),
    corvelController,
  ]
  const found = state === 'as-found'
  return {
    format: 'deft-lattice/rig',
    version: 7,
    name: found ? 'Nine Rings · as found' : 'Nine Rings · as performed',
    notes: 'One player, a planetarium, four movements in fifty minutes.',
    models: [syzra, pelluna, merrod, umbrek, corvel],
    controllers,
    destinations: [
      loomwright,
      siltglass,
      ...(found ? [leftOpen] : []),
      ferricMile,
      {
        ...ondrel,
        hears: { ...ondrel.hears, playing: { channels: { kind: 'only', channels: [found ? 1 : 2] } } },
      },
      {
        ...kettlow,
        hears: {
          ...kettlow.hears,
          playing: { channels: found ? { kind: 'merged' } : { kind: 'only', channels: [10] } },
        },
      },
    ],
    boxes: [
      {
        id: 'junction',
        name: 'Junction',
        kind: 'merge',
        ports: [
          ...['a', 'b', 'c', 'd'].map((letter) => ({
            id: `in-${letter}`,
            name: `In ${letter.toUpperCase()}`,
            direction: 'in' as const,
          })),
          { id: 'out-1', name: 'Out 1', direction: 'out' },
          { id: 'out-2', name: 'Out 2', direction: 'out' },
        ],
      },
    ],
    computers: [
      {
        id: 'laptop',
        name: 'Dome laptop',
        ports: [
          { id: 'usb-syzra', name: 'Syzra 24', sharing: found ? 'exclusive' : 'shared' },
          { id: 'usb-pelluna', name: 'Pelluna 36' },
          { id: 'usb-merrod', name: 'Merrod 49' },
          { id: 'din', name: 'DIN interface' },
        ],
      },
    ],
    cables: cables(state),
    mappings: mappingsOf(controllers, state),
    choices: choices(),
    accords: found ? [modulation, formerSharing] : [modulation, sceneSteps],
    lightRoles: [
      {
        id: 'drum',
        name: 'Drum',
        letter: 'D',
        states: [
          { name: 'off', colour: '#3a1505' },
          { name: 'on', colour: '#ff8a1e' },
        ],
      },
      {
        id: 'launch',
        name: 'Launch',
        letter: 'L',
        states: [
          { name: 'off', colour: '#062a3a' },
          { name: 'on', colour: '#2fc7ff' },
        ],
      },
      {
        id: 'voice',
        name: 'Voice',
        letter: 'V',
        states: [
          { name: 'off', colour: '#251038' },
          { name: 'on', colour: '#b06bff' },
        ],
      },
      {
        id: 'effect',
        name: 'Effect',
        letter: 'E',
        states: [
          { name: 'off', colour: '#0d2e14' },
          { name: 'on', colour: '#4be070' },
        ],
      },
    ],
    passages,
    setAside: found ? [] : [knownToStay],
    houseRules: [
      { id: 'nothing-low', kind: 'avoid', low: 0, high: 13, memo: 'Nothing below 14.' },
      {
        id: 'pads-keep',
        kind: 'prefer',
        message: 'note',
        low: 36,
        high: 83,
        controller: 'pelluna',
        block: 'pads',
      },
    ],
  }
}

/** As `nineRings`, complete and validated. */
export const nineRingsRig = (state: DemoState): Rig => RigSchema.parse(nineRings(state))
