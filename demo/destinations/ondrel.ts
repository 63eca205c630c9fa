import { run, slug, type DestinationInput, type ParameterInput } from '../kit'

/** Name, controller number, and the standard meaning where it is one. */
const CHART: ReadonlyArray<readonly [path: string, name: string, cc: number]> = [
  ['Play', 'Modulation', 1],
  ['Play', 'Swell', 2],
  ['Play', 'Glide time', 5],
  ['Play', 'Volume', 7],
  ['Play', 'Pan', 10],
  ['Play', 'Expression', 11],
  ['Play', 'Hold', 64],
  ['Play', 'Glide', 65],
  ['Play', 'Sostenuto', 66],
  ['Oscillator 1', 'Wave fold', 16],
  ['Oscillator 1', 'Shape', 14],
  ['Oscillator 1', 'Octave', 15],
  ['Oscillator 1', 'Detune', 17],
  ['Oscillator 2', 'Shape', 20],
  ['Oscillator 2', 'Octave', 21],
  ['Oscillator 2', 'Detune', 22],
  ['Oscillator 2', 'Sync', 23],
  ['Mixer', 'Oscillator 1', 24],
  ['Mixer', 'Oscillator 2', 25],
  ['Mixer', 'Ring', 26],
  ['Mixer', 'Noise', 27],
  ['Filter', 'Brightness', 74],
  ['Filter', 'Resonance', 71],
  ['Filter', 'Key follow', 28],
  ['Filter', 'Envelope depth', 29],
  ['Filter', 'Slope', 30],
  ['Envelope 1', 'Attack', 73],
  ['Envelope 1', 'Decay', 75],
  ['Envelope 1', 'Release', 72],
  ['Envelope 1', 'Sustain', 79],
  ['Envelope 2', 'Attack', 85],
  ['Envelope 2', 'Decay', 86],
  ['Envelope 2', 'Sustain', 87],
  ['Envelope 2', 'Release', 89],
  ['Vibrato', 'Rate', 76],
  ['Vibrato', 'Depth', 77],
  ['Vibrato', 'Delay', 78],
  ['Effects', 'Reverb', 91],
  ['Effects', 'Chorus', 93],
  ['Effects', 'Phaser', 95],
]

const LONG_CHART: ReadonlyArray<
  readonly [path: string, name: string, nrpn: number, min: number, max: number]
> = [
  ['Oscillator 1', 'Fine pitch', 128, -100, 100],
  ['Oscillator 2', 'Fine pitch', 129, -100, 100],
  ['Oscillator 1', 'Pulse width', 130, 0, 16383],
  ['Oscillator 2', 'Pulse width', 131, 0, 16383],
  ['Filter', 'Fine cutoff', 132, 0, 16383],
  ['Filter', 'Feedback', 133, 0, 1000],
  ['Cycle 1', 'Rate', 256, 0, 5000],
  ['Cycle 1', 'Depth', 257, 0, 1000],
  ['Cycle 1', 'Shape', 258, 0, 7],
  ['Cycle 1', 'Phase', 259, 0, 360],
  ['Cycle 2', 'Rate', 260, 0, 5000],
  ['Cycle 2', 'Depth', 261, 0, 1000],
  ['Cycle 2', 'Shape', 262, 0, 7],
  ['Cycle 2', 'Phase', 263, 0, 360],
  ['Voices', 'Unison', 384, 1, 6],
  ['Voices', 'Unison spread', 385, 0, 100],
  ['Voices', 'Drift', 386, 0, 100],
  ['Voices', 'Stack pan', 387, 0, 100],
  ['Tuning', 'Scale', 512, 0, 31],
  ['Tuning', 'Root', 513, 0, 11],
  ['Tuning', 'Stretch', 514, 0, 100],
  ['Halo', 'Size', 640, 0, 1000],
  ['Halo', 'Decay', 641, 0, 10000],
  ['Halo', 'Tilt', 642, -50, 50],
]

const MEANINGS: ReadonlySet<number> = new Set([
  1, 2, 5, 7, 10, 11, 64, 65, 66, 71, 72, 73, 74, 75, 76, 77, 78, 91, 93, 95,
])

const parameters: ParameterInput[] = [
  ...CHART.map(([path, name, number]): ParameterInput => ({
    id: slug(`${path} ${name}`),
    name,
    path: [path],
    range: { min: 0, max: 127, unit: '' },
    steps: 128,
    fixed: { kind: 'cc', number },
    meaning: MEANINGS.has(number) ? number : null,
  })),
  ...LONG_CHART.map(([path, name, number, min, max]): ParameterInput => ({
    id: slug(`${path} ${name}`),
    name,
    path: [path],
    range: { min, max, unit: '' },
    fixed: { kind: 'nrpn', number },
  })),
  { id: 'bend', name: 'Bend', path: ['Play'], fixed: { kind: 'pitchBend' } },
  { id: 'aftertouch', name: 'Aftertouch', path: ['Play'], fixed: { kind: 'channelPressure' } },
]

const PROGRAMS = [
  'Cold rim',
  'Nine voices',
  'Dust choir',
  'Slow gate',
  'Terminator',
  'Umbra',
  'Glass tide',
  'Last light',
]

export const ondrel: DestinationInput = {
  id: 'ondrel-vi',
  name: 'Ondrel VI',
  kind: 'synth',
  ports: [
    { id: 'in', name: 'In', direction: 'in' },
    { id: 'thru', name: 'Thru', direction: 'thru' },
  ],
  hears: {
    playing: { channels: { kind: 'only', channels: [2] } },
    learning: {},
    settable: true,
  },
  parameters: [
    ...parameters,
    ...PROGRAMS.map((name, number): ParameterInput => ({
      id: `program-${number + 1}`,
      name: `${number + 1} ${name}`,
      path: ['Programs'],
      kind: 'action',
      fixed: { kind: 'program', number, bank: { msb: 0, lsb: 1 } },
    })),
  ],
  programs: run(0, PROGRAMS.length).map((number) => ({
    number,
    bank: { msb: 0, lsb: 1 },
    name: PROGRAMS[number] ?? '',
  })),
  countsFrom: 1,
  middleC: 4,
}
