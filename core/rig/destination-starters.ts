import { PERCUSSION_CHANNEL, percussionName, SEVEN_MAX } from '../midi'
import { freeDeviceName, newDestination, newParameter } from './fresh'
import { field, type StarterShape } from './surface/starters'
import type { Destination, Parameter, Rig } from './types'

type Sizes = Readonly<Record<string, number>>
type Made = Pick<Destination, 'kind'> & Partial<Destination>

/** A destination to start from. */
export interface DestinationStarter extends StarterShape {
  make: (sizes: Sizes) => Made
}

const FIRST_DRUM = 35

/** A parameter before it has its id. */
type Draft = Pick<Parameter, 'name'> & Partial<Omit<Parameter, 'id'>>

const range = (min: number, max: number, unit: string) => ({ min, max, unit })
const PERCENT = range(0, 100, '%')
const continuous = (name: string, between = PERCENT, meaning: number | null = null): Draft => ({
  name,
  range: between,
  meaning,
})
const choice = (name: string, ...choices: string[]): Draft => ({
  name,
  kind: 'choice',
  choices,
  steps: choices.length,
})
const toggle = (name: string): Draft => ({ name, kind: 'switch' })
const action = (name: string): Draft => ({ name, kind: 'action' })
const times = <T>(count: number, make: (number: number) => T): T[] =>
  Array.from({ length: count }, (_, index) => make(index + 1))

/** The parameters of groups, each with an id that says where it stands. */
const grouped = (groups: ReadonlyArray<readonly [group: string, drafts: readonly Draft[]]>): Parameter[] =>
  groups.flatMap(([group, drafts], at) =>
    drafts.map((draft, index) => ({
      ...newParameter(`p-${at + 1}-${index + 1}`, draft.name),
      path: [group],
      ...draft,
    })),
  )

const VOLUME = range(-60, 6, 'dB')
const channelStrip = (sends: number): Draft[] => [
  continuous('Volume', VOLUME),
  continuous('Pan', range(-50, 50, '%')),
  ...times(sends, (send) => continuous(`Send ${send}`, range(-60, 0, 'dB'))),
  toggle('Mute'),
  toggle('Solo'),
  toggle('Record arm'),
]
const TRANSPORT: Draft[] = [
  action('Play'),
  action('Stop'),
  action('Record'),
  toggle('Loop'),
  toggle('Metronome'),
  continuous('Tempo', range(40, 240, 'bpm')),
]
const hearsAll = { ports: 'merged', channels: { kind: 'apart' } } as const
const LEARNS: Destination['learns'] = ['cc', 'cc14', 'note', 'pitchBend']

const daw: DestinationStarter = {
  id: 'daw',
  name: 'DAW',
  about: 'Tracks with volume, pan, sends, mute, solo and arm; transport, tempo and scenes.',
  fields: [
    field('tracks', 'Tracks', 8, 1, 64),
    field('sends', 'Sends a track', 2, 0, 8),
    field('scenes', 'Scenes', 8, 0, 64),
  ],
  make: ({ tracks = 8, sends = 2, scenes = 8 }) => ({
    kind: 'daw',
    learns: LEARNS,
    feedback: true,
    parameters: grouped([
      ...times(tracks, (track) => [`Track ${track}`, channelStrip(sends)] as const),
      ['Master', [continuous('Volume', VOLUME)]],
      ['Transport', TRANSPORT],
      ...(scenes > 0 ? [['Scenes', times(scenes, (scene) => action(`Scene ${scene}`))] as const] : []),
    ]),
  }),
}

const selectedTrack: DestinationStarter = {
  id: 'selected-track',
  name: 'DAW, selected track',
  about: 'What acts on whichever track is selected: one strip, the controls of its device, and moving on.',
  fields: [field('sends', 'Sends', 2, 0, 8), field('controls', 'Device controls', 8, 0, 32)],
  make: ({ sends = 2, controls = 8 }) => ({
    kind: 'daw',
    learns: LEARNS,
    feedback: true,
    parameters: grouped([
      ['Selected track', [...channelStrip(sends), action('Track before'), action('Next track')]],
      ...(controls > 0
        ? [['Selected device', times(controls, (number) => continuous(`Control ${number}`))] as const]
        : []),
      ['Transport', TRANSPORT],
    ]),
  }),
}

const SHAPES = ['Sine', 'Triangle', 'Saw', 'Square'] as const
const envelope = (meanings: readonly [number | null, number | null, number | null]): Draft[] => [
  continuous('Attack', PERCENT, meanings[0]),
  continuous('Decay', PERCENT, meanings[1]),
  continuous('Sustain'),
  continuous('Release', PERCENT, meanings[2]),
]

const synth: DestinationStarter = {
  id: 'synth',
  name: 'Synth',
  about: 'A subtractive synth by its usual sections: oscillators, filter, envelopes, LFOs, effects.',
  fields: [field('oscillators', 'Oscillators', 2, 1, 4), field('lfos', 'LFOs', 1, 0, 4)],
  make: ({ oscillators = 2, lfos = 1 }) => ({
    kind: 'synth',
    learns: ['cc', 'cc14', 'nrpn', 'pitchBend', 'channelPressure'],
    parameters: grouped([
      ...times(
        oscillators,
        (number) =>
          [
            `Oscillator ${number}`,
            [
              choice('Wave', ...SHAPES),
              continuous('Octave', range(-2, 2, 'oct')),
              continuous('Detune', range(-50, 50, 'ct')),
              continuous('Level'),
            ],
          ] as const,
      ),
      [
        'Filter',
        [
          continuous('Cutoff', PERCENT, 74),
          continuous('Resonance', PERCENT, 71),
          continuous('Envelope amount', range(-100, 100, '%')),
          continuous('Key follow'),
        ],
      ],
      ['Filter envelope', envelope([null, null, null])],
      ['Amplifier envelope', envelope([73, 75, 72])],
      ...times(
        lfos,
        (number) =>
          [
            `LFO ${number}`,
            [choice('Wave', ...SHAPES), continuous('Rate', PERCENT), continuous('Depth', PERCENT)],
          ] as const,
      ),
      ['Voice', [continuous('Glide', PERCENT, 5), toggle('Mono'), continuous('Volume', PERCENT, 7)]],
      ['Effects', [continuous('Chorus', PERCENT, 93), continuous('Reverb', PERCENT, 91)]],
    ]),
  }),
}

const drumMachine: DestinationStarter = {
  id: 'drum-machine',
  name: 'Drum machine',
  about: 'Sounds on the notes of the General MIDI percussion map, on channel 10.',
  fields: [field('sounds', 'Sounds', 16, 1, 47)],
  make: ({ sounds = 16 }) => {
    const drums = Array.from({ length: SEVEN_MAX + 1 }, (_, number) => number)
      // The second bass drum is the usual first sound.
      .filter((number) => number > FIRST_DRUM && percussionName(number) !== null)
      .concat(FIRST_DRUM)
      .slice(0, sounds)
      .map((number) => ({ number, name: percussionName(number) ?? '' }))
    return {
      kind: 'drum-machine',
      hears: {
        playing: { ports: 'merged', channels: { kind: 'only', channels: [PERCUSSION_CHANNEL] } },
        learning: hearsAll,
        settable: true,
      },
      noteNames: drums,
      parameters: grouped([
        [
          'Sounds',
          drums.map(({ number, name }): Draft => ({
            name,
            kind: 'note',
            fixed: { kind: 'note', channel: null, number },
          })),
        ],
      ]),
    }
  },
}

const effect: DestinationStarter = {
  id: 'effect',
  name: 'Effect',
  about: 'A plugin or box that shapes sound: time, tone, depth and mix.',
  fields: [],
  make: () => ({
    kind: 'plugin',
    learns: LEARNS,
    parameters: grouped([
      [
        'Effect',
        [
          ...['Drive', 'Time', 'Feedback', 'Tone', 'Rate', 'Depth', 'Mix'].map((name) => continuous(name)),
          toggle('Bypass'),
          action('Tap tempo'),
        ],
      ],
    ]),
  }),
}

const blank: DestinationStarter = {
  id: 'blank',
  name: 'Blank',
  about: 'One of your own: type or paste its lists, or read them from a file.',
  fields: [],
  make: () => ({ kind: 'synth' }),
}

/** All starters, in the order in which they are offered. */
export const DESTINATION_STARTERS: readonly DestinationStarter[] = [
  daw,
  selectedTrack,
  synth,
  drumMachine,
  effect,
  blank,
]

/** A destination that a rig does not have yet, from a starter; with a number after its name where that is taken. */
export const startedDestination = (
  rig: Rig,
  starter: DestinationStarter,
  sizes: Sizes,
  name: string,
): Destination => ({ ...newDestination(rig), ...starter.make(sizes), name: freeDeviceName(rig, name) })
