import { grid, run, type ModelInput } from '../kit'

const COLOURS = 48

/** A colour of the wheel as `#rrggbb`; `turn` 0–1, `light` 0–1. */
function wheel(turn: number, light: number): string {
  const channel = (offset: number): string => {
    const distance = Math.abs(((((turn + offset) % 1) + 1) % 1) - 0.5) * 2
    const level = Math.max(0, Math.min(1, distance * 3 - 1)) * light
    return Math.round(level * 255)
      .toString(16)
      .padStart(2, '0')
  }
  return `#${channel(0)}${channel(1 / 3)}${channel(2 / 3)}`
}

const SHADES = [
  { name: 'dim', light: 0.35 },
  { name: 'even', light: 0.7 },
  { name: 'bright', light: 1 },
] as const

const palette = run(0, COLOURS).map((index) => {
  const shade = SHADES[index % SHADES.length] ?? SHADES[0]
  const hue = Math.floor(index / SHADES.length)
  return {
    index,
    name: `Hue ${hue + 1} ${shade.name}`,
    colour: wheel(hue / (COLOURS / SHADES.length), shade.light),
  }
})

export const DRUM_LABELS = [
  'Deep kick',
  'Thud',
  'Rim',
  'Snare',
  'Clap',
  'Low tom',
  'Tick',
  'Mid tom',
  'Hat shut',
  'Hi tom',
  'Hat open',
  'Bell',
  'Gong',
  'Rain',
] as const

export const pelluna: ModelInput = {
  id: 'pelluna-36',
  name: 'Pelluna 36',
  abilities: {
    connection: 'usb',
    slots: 5,
    stacks: 2,
    layersAStack: 6,
    lights: {
      levels: { pad: 'palette', button: 'on-off' },
      setBy: { kind: 'cc-value', channel: 16 },
      palette,
    },
  },
  surface: {
    width: 276,
    height: 166,
    blocks: [
      { id: 'pads', label: 'Pads', rows: 6, columns: 6 },
      { id: 'slim', label: 'Slim buttons', rows: 6, columns: 1 },
    ],
    controls: [
      ...grid({
        id: 'pad',
        kind: 'pad',
        gestures: ['strike', 'pressure'],
        block: 'pads',
        x: 8,
        y: 8,
        columns: 6,
        pitch: { x: 38, y: 26 },
        size: { w: 34, h: 22 },
        labels: [...DRUM_LABELS, ...run(1, 22).map((number) => `Clip ${number}`)],
        firstLight: 0,
      }),
      ...grid({
        id: 'slim',
        kind: 'button',
        gestures: ['press'],
        block: 'slim',
        x: 242,
        y: 10,
        columns: 1,
        pitch: { x: 0, y: 26 },
        size: { w: 24, h: 6 },
        labels: ['Page 1', 'Page 2', 'Scene 1', 'Scene 2', 'Scene 3', 'All off'],
        firstLight: 36,
      }),
    ],
  },
}
