import { formatHex } from 'culori'
import type { ControlKind, LightAbility, PaletteEntry } from '../rig'

export type LightLevels = NonNullable<LightAbility['levels'][ControlKind]>

/** What a light can show where its controller has no palette for it: values as sent, and how they look. */
const LEVELS: Readonly<Record<Exclude<LightLevels, 'palette' | 'rgb'>, readonly PaletteEntry[]>> = {
  none: [],
  'on-off': [
    { index: 0, colour: '#000000', name: 'dark' },
    { index: 127, colour: '#ffffff', name: 'lit' },
  ],
  'dim-bright': [
    { index: 0, colour: '#000000', name: 'dark' },
    { index: 1, colour: '#5a5a5a', name: 'dim' },
    { index: 127, colour: '#ffffff', name: 'bright' },
  ],
  'two-colour': [
    { index: 0, colour: '#000000', name: 'dark' },
    { index: 1, colour: '#e0321f', name: 'red' },
    { index: 2, colour: '#1fae3f', name: 'green' },
  ],
}

/** Hues and brightnesses of a palette for lights that mix any colour: dark, six greys, and 24 hues in five shades. */
function mixed(): PaletteEntry[] {
  const greys = [0.2, 0.35, 0.5, 0.65, 0.8, 1].map((l, step) => ({
    colour: formatHex({ mode: 'rgb', r: l, g: l, b: l }),
    name: `Grey ${step + 1}`,
  }))
  const hues = Array.from({ length: 24 }, (_, hue) =>
    [0.25, 0.4, 0.6, 0.8, 1].map((v, shade) => ({
      colour: formatHex({ mode: 'hsv', h: hue * 15, s: 1, v }),
      name: `Hue ${hue + 1}, shade ${shade + 1}`,
    })),
  ).flat()
  return [{ colour: '#000000', name: 'Dark' }, ...greys, ...hues].map((entry, index) => ({ index, ...entry }))
}
const MIXED = mixed()

/** What a kind of control's light can show: index (the value that is sent), colour and name. Empty where it has none. */
export function entriesFor(lights: LightAbility | null, kind: ControlKind): readonly PaletteEntry[] {
  const levels = lights?.levels[kind] ?? 'none'
  if (!lights) return []
  switch (levels) {
    case 'palette':
      return lights.palette
    case 'rgb':
      return lights.palette.length > 0 ? lights.palette : MIXED
    default:
      return LEVELS[levels]
  }
}

/** Palettes to start from: general ones of our own. */
export const STARTER_PALETTES: ReadonlyArray<{ id: string; name: string; entries: readonly PaletteEntry[] }> =
  [
    { id: 'mixed', name: '127 colours, dark to light', entries: MIXED },
    {
      id: 'hues',
      name: 'Twelve hues, dim and bright',
      entries: [
        { index: 0, colour: '#000000', name: 'Dark' },
        ...Array.from({ length: 12 }, (_, hue) =>
          [0.35, 1].map((v, shade) => ({
            index: 1 + hue * 2 + shade,
            colour: formatHex({ mode: 'hsv', h: hue * 30, s: 1, v }),
            name: `Hue ${hue + 1} ${shade === 0 ? 'dim' : 'bright'}`,
          })),
        ).flat(),
      ],
    },
    {
      id: 'eight',
      name: 'Eight plain colours',
      entries: [
        ['#000000', 'Dark'],
        ['#ff2a1a', 'Red'],
        ['#ff8c00', 'Orange'],
        ['#ffe100', 'Yellow'],
        ['#23c03a', 'Green'],
        ['#00b8d9', 'Cyan'],
        ['#2a5bff', 'Blue'],
        ['#ffffff', 'White'],
      ].map(([colour = '', name = ''], index) => ({ index, colour, name })),
    },
  ]
