import { printTag } from '../core/midi'
import { sentAddress } from '../core/rig'
import { Message as MessageSchema } from '../core/rig/schema'
import { MOVEMENTS, TRACKS, movementIds } from './destinations/loomwright'
import { DRUM_LABELS } from './models/pelluna'
import { run, slug, type ControllerInput, type MappingInput, type DemoState } from './kit'

/** Which parameters Syzra's encoders and knobs move in each movement, as destination and parameter. */
const KNOB_PLAN: ReadonlyArray<{ enc: readonly string[]; knob: readonly string[] }> = [
  {
    enc: [
      'siltglass/source-loop',
      'siltglass/source-start',
      'siltglass/source-rate',
      'ferric-mile/output-echo',
      'ferric-mile/tape-feedback',
      'ferric-mile/tape-wow',
      'ferric-mile/tape-drive',
      'ferric-mile/filter-high-cut',
    ],
    knob: [
      'grains-size',
      'grains-spray',
      'grains-pitch',
      'grains-window',
      'grains-drift',
      'shape-tone',
      'shape-width',
      'shape-blend',
    ].map((id) => `siltglass/${id}`),
  },
  {
    enc: TRACKS.map((_, index) => `loomwright/t${index + 1}-pan`),
    knob: TRACKS.map((_, index) => `loomwright/t${index + 1}-send-echo`),
  },
  {
    enc: TRACKS.map((_, index) => `loomwright/t${index + 1}-send-hall`),
    knob: run(1, 8).map((number) => `loomwright/macro-${number}`),
  },
  {
    enc: [
      'motion-orbit',
      'motion-reach',
      'motion-slew',
      'motion-chance',
      'shape-attack',
      'shape-decay',
      'shape-edge',
      'source-gain',
    ].map((id) => `siltglass/${id}`),
    knob: [
      'tape-time',
      'tape-flutter',
      'tape-hiss',
      'tape-speed',
      'tape-age',
      'heads-head-1',
      'heads-head-2',
      'heads-head-3',
    ].map((id) => `ferric-mile/${id}`),
  },
]

/** A join: the gesture, the layer that teaches it (null: base), destination and parameter, scope. */
type Join = readonly [gesture: string, layer: string | null, target: string, scope?: string]

const joins: readonly Join[] = [
  ...KNOB_PLAN.flatMap(({ enc, knob }, index): Join[] => {
    const layer = movementIds[index] ?? null
    return [
      ...enc.map((target, n): Join => [`syzra/enc-${n + 1}.turn`, layer, target]),
      ...knob.map((target, n): Join => [`syzra/knob-${n + 1}.turn`, layer, target]),
    ]
  }),
  ...TRACKS.map((_, n): Join => [`syzra/fader-${n + 1}.slide`, null, `loomwright/t${n + 1}-volume`]),
  ...TRACKS.map((_, n): Join => [`syzra/enc-${n + 1}.push`, null, `loomwright/t${n + 1}-solo`]),
  ...TRACKS.map((_, n): Join => [`syzra/key-${n + 1}.press`, 'mutes', `loomwright/t${n + 1}-mute`]),
  ...run(1, 8).map((n): Join => [`syzra/key-${n}.press`, 'scenes', `loomwright/cue-${n}`]),
  ['syzra/side-1.press', 'mutes', 'loomwright/hold'],
  ['syzra/side-3.press', 'mutes', 'loomwright/mark'],
  ['syzra/side-4.press', 'mutes', 'loomwright/next-mark'],
  ['syzra/side-5.press', 'mutes', 'loomwright/tap-tempo'],
  ['syzra/side-7.press', 'mutes', 'loomwright/scene-size'],
  ['syzra/side-8.press', 'mutes', 'loomwright/scene-size'],
  ['syzra/run-1.press', null, 'loomwright/play'],
  ['syzra/run-2.press', null, 'loomwright/stop'],
  ['syzra/run-3.press', null, 'loomwright/record'],
  ...DRUM_LABELS.map((label, n): Join => [`pelluna/pad-${n + 1}.strike`, 'drums', `kettlow/${slug(label)}`]),
  ...run(1, 22).map((n): Join => [`pelluna/pad-${n + 14}.strike`, 'drums', `loomwright/clip-${n}`]),
  ...run(1, 3).map((n): Join => [`pelluna/slim-${n + 2}.press`, null, `loomwright/scene-${n}`]),
  ['pelluna/slim-6.press', null, 'loomwright/stop-all-clips'],
  ...MOVEMENTS.flatMap((name, row): Join[] => [
    ['umbrek/foot-1.press', slug(name), `ondrel-vi/program-${row + 1}`],
    ...['freeze', 'swell', 'back', 'tape', 'dark'].map((id, n): Join => [
      `umbrek/foot-${n + 2}.press`,
      slug(name),
      `loomwright/${id}`,
      slug(name),
    ]),
  ]),
  ['umbrek/pedal.press', null, 'loomwright/expression'],
  ['merrod/bend.turn', null, 'ondrel-vi/bend'],
  ['merrod/keys.pressure', null, 'ondrel-vi/aftertouch'],
  ['merrod/mod.turn', null, 'ondrel-vi/play-modulation'],
  ['merrod/ribbon.slide', null, 'ondrel-vi/play-modulation'],
  ['merrod/tilt.tilt', null, 'ondrel-vi/play-swell'],
  ['merrod/xy.x', null, 'ondrel-vi/filter-brightness'],
  ['merrod/xy.y', null, 'ondrel-vi/filter-resonance'],
  ...[
    'envelope-1-attack',
    'envelope-1-decay',
    'envelope-1-sustain',
    'envelope-1-release',
    'vibrato-rate',
    'vibrato-depth',
    'oscillator-1-wave-fold',
    'halo-size',
  ].map((id, n): Join => [`merrod/knob-${n + 1}.turn`, null, `ondrel-vi/${id}`]),
  ...['Ring A', 'Ring B', 'Ring C', 'Ring D', 'Ring E', 'Ring F', 'Gap', 'Moon'].map((name, n): Join => [
    `merrod/pad-${n + 1}.strike`,
    null,
    `siltglass/throw-${slug(name)}`,
  ]),
]

const WOW = 'ferric-mile/tape-wow'

/** The address a gesture sends in a layer, as the destination learned it. */
function learnedTag(
  controllers: readonly ControllerInput[],
  gesture: string,
  layer: string | null,
): string | null {
  const [id = '', key = ''] = gesture.split('/')
  const controller = controllers.find((candidate) => candidate.id === id)
  const template = controller?.templates[0]
  const table =
    layer === null
      ? template?.base
      : template?.stacks?.flatMap((stack) => stack.layers).find((candidate) => candidate.id === layer)
          ?.assignments
  const message = table?.[key]?.messages[0]
  if (!controller || !message) throw new Error(`The demo joins ${gesture}, which sends nothing.`)
  const address = sentAddress(MessageSchema.parse(message), controller.homeChannel)
  return address === null ? null : printTag(address)
}

/** What was left as it came: a fader taught before the home channel changed, clicks read as positions, a knob that jumps. */
function neglected(gesture: string, target: string): Partial<MappingInput> {
  if (target === 'loomwright/t8-volume') return { learnedAt: '3:cc23+55' }
  if (target === 'loomwright/t3-mute') return { feedback: false }
  if (target === WOW) return { expects: { kind: 'absolute' } }
  return gesture === 'syzra/knob-8.turn' && target === 'loomwright/macro-8' ? { takeover: 'at-once' } : {}
}

/** What is joined to what, and what was left of older joins. */
export function mappingsOf(controllers: readonly ControllerInput[], state: DemoState): MappingInput[] {
  const charted = new Set(['ondrel-vi', 'kettlow'])
  const joined = joins.map(([gesture, layer, target, scope], index): MappingInput => {
    const [destination = '', parameter = ''] = target.split('/')
    return {
      id: `map-${index + 1}`,
      gesture,
      destination,
      parameter,
      learnedAt: charted.has(destination) ? null : learnedTag(controllers, gesture, layer),
      scope: scope ?? null,
      ...(target === WOW ? { expects: { kind: 'relative', encoding: 'offset-binary' } } : {}),
      feedback: destination === 'loomwright',
      ...(state === 'as-found' ? neglected(gesture, target) : {}),
    }
  })
  const old = run(1, 8).map((n): MappingInput => {
    const learnedAt = state === 'as-found' && n <= 4 ? `1:cc${101 + n}` : `7:cc${19 + n}`
    return {
      id: `old-${n}`,
      gesture: `corvel/knob-${n}.turn`,
      destination: 'loomwright',
      parameter: `macro-${n}`,
      learnedAt,
      memo: 'From the Corvel, before it was lent.',
    }
  })
  const unplugged: MappingInput = {
    id: 'second-pedal',
    gesture: 'umbrek/socket.press',
    destination: 'loomwright',
    parameter: 'selected-volume',
    learnedAt: '9:cc4',
  }
  const tried: MappingInput[] = [
    {
      id: 'mute-again',
      gesture: 'syzra/side-6.press',
      destination: 'loomwright',
      parameter: 't3-mute',
      learnedAt: learnedTag(controllers, 'syzra/side-6.press', 'mutes'),
    },
  ]
  return [...joined, ...old, ...(state === 'as-found' ? [unplugged, ...tried] : [])]
}
