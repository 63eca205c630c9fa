import { run, slug, type DestinationInput, type ParameterInput } from '../kit'

export const TRACKS = ['Rings', 'Dust', 'Ice', 'Choir', 'Drum', 'Sub', 'Air', 'Return'] as const
export const MOVEMENTS = ['Overture', 'Rings', 'Transit', 'Night Side'] as const

export const movementIds = MOVEMENTS.map(slug)

const perTrack = (track: string, index: number): ParameterInput[] => {
  const path = [`Track ${index + 1} ${track}`]
  const id = (what: string): string => `t${index + 1}-${what}`
  return [
    { id: id('volume'), name: 'Volume', path, range: { min: -60, max: 6, unit: 'dB' }, steps: 1024 },
    { id: id('pan'), name: 'Pan', path, range: { min: -50, max: 50, unit: '%' } },
    { id: id('send-echo'), name: 'Send to echo', path, range: { min: -60, max: 0, unit: 'dB' } },
    { id: id('send-hall'), name: 'Send to hall', path, range: { min: -60, max: 0, unit: 'dB' } },
    { id: id('mute'), name: 'Mute', path, kind: 'switch' },
    { id: id('solo'), name: 'Solo', path, kind: 'switch' },
    { id: id('arm'), name: 'Record arm', path, kind: 'switch' },
  ]
}

const action = (name: string, path: string): ParameterInput => ({
  id: slug(name),
  name,
  path: [path],
  kind: 'action',
})

const parameters: ParameterInput[] = [
  ...TRACKS.flatMap(perTrack),
  { id: 'master-volume', name: 'Volume', path: ['Master'], range: { min: -60, max: 6, unit: 'dB' } },
  {
    id: 'expression',
    name: 'Expression',
    path: ['Master'],
    range: { min: 0, max: 100, unit: '%' },
    meaning: 11,
  },
  { id: 'tempo', name: 'Tempo', path: ['Transport'], range: { min: 40, max: 200, unit: 'bpm' } },
  action('Play', 'Transport'),
  action('Stop', 'Transport'),
  action('Record', 'Transport'),
  action('Loop on', 'Transport'),
  action('Mark', 'Transport'),
  action('Next mark', 'Transport'),
  action('Tap tempo', 'Transport'),
  action('Selected track up', 'Selection'),
  {
    id: 'selected-volume',
    name: 'Volume of the selected track',
    path: ['Selection'],
    kind: 'relative',
    standsFor: 'Volume',
    range: { min: -60, max: 6, unit: 'dB' },
  },
  {
    id: 'scene-size',
    name: 'Scene length',
    path: ['Scenes'],
    kind: 'choice',
    choices: ['1 bar', '2 bars', '4 bars', '8 bars'],
    steps: 4,
  },
  ...run(1, 3).map((number) => action(`Scene ${number}`, 'Scenes')),
  action('Stop all clips', 'Scenes'),
  ...run(1, 22).map((number) => action(`Clip ${number}`, 'Clips')),
  ...run(1, 8).map((number) => action(`Cue ${number}`, 'Cues')),
  ...['Hold', 'Freeze', 'Swell', 'Back', 'Tape', 'Dark'].map((name) => action(name, 'Show')),
  ...MOVEMENTS.map((movement): ParameterInput => ({
    ...action(`Go to ${movement}`, 'Show'),
    switchesTo: slug(movement),
  })),
  ...run(1, 8).map((number): ParameterInput => ({
    id: `macro-${number}`,
    name: `Macro ${number}`,
    path: ['Macros'],
    range: { min: 0, max: 127, unit: '' },
    steps: 128,
  })),
]

const PORTS = [
  { id: 'in-syzra', name: 'Syzra', opens: 'usb-syzra' },
  { id: 'in-pelluna', name: 'Pelluna', opens: 'usb-pelluna' },
  { id: 'in-merrod', name: 'Merrod', opens: 'usb-merrod' },
  { id: 'in-din', name: 'Interface', opens: 'din' },
] as const

export const loomwright: DestinationInput = {
  id: 'loomwright',
  name: 'Loomwright',
  kind: 'daw',
  ports: [
    ...PORTS.map(({ id, name, opens }) => ({
      id,
      name,
      direction: 'in' as const,
      opens: { computer: 'laptop', port: opens },
    })),
    { id: 'thru', name: 'Through to Kettlow', direction: 'thru' },
  ],
  hears: { playing: {}, learning: {} },
  claims: [
    {
      id: 'transport-notes',
      function: 'its own transport',
      kind: 'note',
      channel: 14,
      low: 96,
      high: 127,
      serves: ['play', 'stop', 'record'],
    },
    {
      id: 'transport-numbers',
      function: 'its own transport',
      kind: 'cc',
      channel: 15,
      low: 110,
      high: 117,
      serves: ['play', 'stop', 'record', 'loop-on', 'mark', 'next-mark'],
    },
  ],
  scopes: MOVEMENTS.map((name) => ({ id: slug(name), name })),
  parameters,
  learns: ['cc', 'cc14', 'note', 'program', 'pitchBend', 'channelPressure'],
  feedback: true,
}
