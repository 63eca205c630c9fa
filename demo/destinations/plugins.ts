import { slug, type DestinationInput, type ParameterInput } from '../kit'

type Row = readonly [name: string, min: number, max: number, unit: string]

const continuous = ([name, min, max, unit]: Row, path: string): ParameterInput => ({
  id: slug(`${path} ${name}`),
  name,
  path: [path],
  range: { min, max, unit },
})

const SILTGLASS: ReadonlyArray<readonly [string, readonly Row[]]> = [
  [
    'Grains',
    [
      ['Size', 5, 500, 'ms'],
      ['Spray', 0, 1000, 'ms'],
      ['Density', 1, 120, '/s'],
      ['Pitch', -24, 24, 'st'],
      ['Window', 0, 100, '%'],
      ['Drift', 0, 100, '%'],
      ['Reverse', 0, 100, '%'],
      ['Jitter', 0, 100, '%'],
    ],
  ],
  [
    'Source',
    [
      ['Position', 0, 100, '%'],
      ['Loop', 0, 100, '%'],
      ['Start', 0, 100, '%'],
      ['Rate', -200, 200, '%'],
      ['Freeze', 0, 1, ''],
      ['Gain', -24, 12, 'dB'],
    ],
  ],
  [
    'Shape',
    [
      ['Tone', 20, 20000, 'Hz'],
      ['Edge', 0, 100, '%'],
      ['Width', 0, 200, '%'],
      ['Blend', 0, 100, '%'],
      ['Attack', 0, 2000, 'ms'],
      ['Decay', 0, 8000, 'ms'],
    ],
  ],
  [
    'Motion',
    [
      ['Orbit', 0, 10, 'Hz'],
      ['Reach', 0, 100, '%'],
      ['Slew', 0, 5000, 'ms'],
      ['Chance', 0, 100, '%'],
    ],
  ],
]

const FERRIC: ReadonlyArray<readonly [string, readonly Row[]]> = [
  [
    'Tape',
    [
      ['Time', 20, 2000, 'ms'],
      ['Feedback', 0, 110, '%'],
      ['Wow', 0, 100, '%'],
      ['Flutter', 0, 100, '%'],
      ['Drive', 0, 24, 'dB'],
      ['Hiss', -80, -20, 'dB'],
      ['Speed', -50, 50, '%'],
      ['Age', 0, 40, 'years'],
    ],
  ],
  [
    'Heads',
    [
      ['Head 1', 0, 100, '%'],
      ['Head 2', 0, 100, '%'],
      ['Head 3', 0, 100, '%'],
      ['Spread', 0, 100, '%'],
    ],
  ],
  [
    'Filter',
    [
      ['Low cut', 20, 2000, 'Hz'],
      ['High cut', 500, 20000, 'Hz'],
      ['Slope', 6, 24, 'dB/oct'],
      ['Duck', 0, 100, '%'],
    ],
  ],
  [
    'Output',
    [
      ['Echo', -60, 6, 'dB'],
      ['Dry', -60, 6, 'dB'],
      ['Width', 0, 200, '%'],
      ['Trim', -12, 12, 'dB'],
    ],
  ],
]

const parametersOf = (groups: ReadonlyArray<readonly [string, readonly Row[]]>): ParameterInput[] =>
  groups.flatMap(([path, rows]) => rows.map((row) => continuous(row, path)))

const plugin = (id: string, name: string, parameters: ParameterInput[]): DestinationInput => ({
  id,
  name,
  kind: 'plugin',
  inside: 'loomwright',
  hears: { playing: {}, learning: {} },
  parameters,
  learns: ['cc', 'note'],
})

export const siltglass: DestinationInput = {
  ...plugin('siltglass', 'Siltglass', [
    ...parametersOf(SILTGLASS),
    ...['Ring A', 'Ring B', 'Ring C', 'Ring D', 'Ring E', 'Ring F', 'Gap', 'Moon'].map(
      (name): ParameterInput => ({
        id: slug(`throw ${name}`),
        name: `Throw ${name}`,
        path: ['Throws'],
        kind: 'action',
      }),
    ),
  ]),
  scopes: [
    { id: 'saturn-dust', name: 'Saturn dust' },
    { id: 'polar-night', name: 'Polar night' },
  ],
}

export const ferricMile: DestinationInput = plugin('ferric-mile', 'Ferric Mile', parametersOf(FERRIC))
