import { it } from 'vitest'
import { nineRingsRig } from '../demo'
import { chooseColours, entriesFor, lightness, STARTER_PALETTES } from '../core/lights'

const ms = (work: () => void): number => {
  const from = performance.now()
  work()
  return performance.now() - from
}

it('colours for 12 roles with 2 states, of 128 colours, on 3 controllers', () => {
  const [mixed, hues] = STARTER_PALETTES.map(({ entries }) => entries)
  const pelluna = nineRingsRig('as-performed').models.find(({ id }) => id === 'pelluna-36')?.abilities.lights
  if (!mixed || !hues || !pelluna) throw new Error('A palette is gone.')
  const colours = [...mixed.map(({ colour }) => colour), '#101010'].sort(
    (a, b) => lightness(a) - lightness(b),
  )
  const palettes = [mixed, entriesFor(pelluna, 'pad'), hues]
  let chosen = { smallest: 0, bound: 0 }
  const took = ms(() => {
    chosen = chooseColours({
      dark: colours.slice(0, 64),
      bright: colours.slice(64),
      darkCount: 12,
      brightCount: 12,
      palettes,
    })
  })
  console.log(
    `Colours for 12 roles × 2 states, ${colours.length} colours, palettes of ${palettes.map(({ length }) => length).join(', ')}: ` +
      `${Math.round(took)} ms, smallest difference ${chosen.smallest.toFixed(4)}, bound ${chosen.bound.toFixed(4)}`,
  )
}, 600_000)
