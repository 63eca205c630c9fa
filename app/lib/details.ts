import type { Message, MessageOf } from '#core/rig'
import type { FieldWord } from './sentence'

type Names = Readonly<Record<string, string>>
const HALVES: Names = {
  both: 'both halves',
  'lsb-while-msb-same': 'the second half alone while the first stays',
  'msb-only': 'the first half only',
}
const YES_NO: Names = { yes: 'yes', no: 'no' }

function choice(
  id: string,
  label: string,
  value: string,
  names: Names,
  set: (value: string) => Message,
): FieldWord {
  return {
    type: 'choice',
    id,
    label,
    text: names[value] ?? value,
    value,
    options: Object.entries(names).map(([key, name]) => ({ value: key, label: name, reason: null })),
    set,
  }
}

const number = (
  id: string,
  label: string,
  value: number,
  low: number,
  high: number,
  set: (value: number) => Message,
): FieldWord => ({ type: 'number', id, label, text: String(value), value, low, high, set })

const yesNo = (id: string, label: string, value: boolean, set: (value: boolean) => Message): FieldWord =>
  choice(id, label, value ? 'yes' : 'no', YES_NO, (answer) => set(answer === 'yes'))

function velocityFields(message: MessageOf<'note'>): FieldWord[] {
  const { velocity } = message
  const kind = choice(
    'velocity',
    'Velocity',
    velocity.kind,
    { sensed: 'as struck', fixed: 'always the same' },
    (value) => ({
      ...message,
      velocity:
        value === 'fixed'
          ? { kind: 'fixed', value: 100 }
          : { kind: 'sensed', curve: 'linear', low: 1, high: 127 },
    }),
  )
  if (velocity.kind === 'fixed') {
    return [
      kind,
      number('velocity-value', 'Velocity value', velocity.value, 1, 127, (value) => ({
        ...message,
        velocity: { kind: 'fixed', value },
      })),
    ]
  }
  return [
    kind,
    choice(
      'velocity-curve',
      'Velocity curve',
      velocity.curve,
      { linear: 'linear', soft: 'soft', hard: 'hard' },
      (value) => ({
        ...message,
        velocity: { ...velocity, curve: value as typeof velocity.curve },
      }),
    ),
    number('velocity-low', 'Softest', velocity.low, 0, 127, (low) => ({
      ...message,
      velocity: { ...velocity, low },
    })),
    number('velocity-high', 'Hardest', velocity.high, 0, 127, (high) => ({
      ...message,
      velocity: { ...velocity, high },
    })),
  ]
}

function releaseFields(message: MessageOf<'note'>): FieldWord[] {
  const { release } = message
  const kind = choice(
    'release',
    'Let go sends',
    release.kind,
    { 'note-off': 'note off', 'velocity-zero': 'the note with velocity 0' },
    (value) => ({
      ...message,
      release: value === 'note-off' ? { kind: 'note-off', velocity: 64 } : { kind: 'velocity-zero' },
    }),
  )
  if (release.kind === 'velocity-zero') return [kind]
  return [
    kind,
    number('release-velocity', 'Release velocity', release.velocity, 0, 127, (velocity) => ({
      ...message,
      release: { kind: 'note-off', velocity },
    })),
  ]
}

const highResolution = (message: MessageOf<'note'>): FieldWord =>
  yesNo('high-resolution', 'High-resolution velocity', message.highResolutionVelocity, (value) => ({
    ...message,
    highResolutionVelocity: value,
  }))

const KEYS: Names = { one: 'one note', span: 'a span of keys', zone: 'a per-note zone' }

function keyFields(message: MessageOf<'note'> | MessageOf<'polyPressure'>): FieldWord[] {
  const { keys } = message
  const kind = choice('keys', 'Keys', keys.kind, KEYS, (value) => {
    const low = keys.kind === 'one' ? (keys.number === 'wanted' ? 36 : keys.number) : keys.low
    const high = keys.kind === 'one' ? Math.min(127, low + 48) : keys.high
    const span = { low, high, transpose: 0, octaveReach: 0 }
    if (value === 'span') return { ...message, keys: { kind: 'span', ...span } }
    if (value === 'zone') return { ...message, keys: { kind: 'zone', ...span, manager: 1, members: 15 } }
    return { ...message, keys: { kind: 'one', number: low } }
  })
  if (keys.kind === 'one') return [kind]
  const fields = [
    kind,
    number('transpose', 'Transpose, semitones', keys.transpose, -60, 60, (transpose) => ({
      ...message,
      keys: { ...keys, transpose },
    })),
    number('octave-reach', 'Octave buttons reach', keys.octaveReach, 0, 5, (octaveReach) => ({
      ...message,
      keys: { ...keys, octaveReach },
    })),
  ]
  if (keys.kind === 'span') return fields
  return [
    ...fields,
    choice('manager', 'Manager channel', String(keys.manager), { 1: '1', 16: '16' }, (value) => ({
      ...message,
      keys: { ...keys, manager: value === '16' ? 16 : 1 },
    })),
    number('members', 'Member channels', keys.members, 1, 15, (members) => ({
      ...message,
      keys: { ...keys, members },
    })),
  ]
}

const threshold = (message: MessageOf<'polyPressure'> | MessageOf<'channelPressure'>): FieldWord =>
  number('threshold', 'Starts at pressure', message.threshold, 0, 127, (value) => ({
    ...message,
    threshold: value,
  }))

function controllerFields(message: MessageOf<'cc'>): FieldWord[] {
  const { behaviour, resolution } = message
  const fields: FieldWord[] = []
  if (behaviour.kind === 'momentary') {
    const value = message.releaseValue ?? message.range.low
    fields.push(
      number('release-value', 'Let go sends', value, 0, 127, (releaseValue) => ({
        ...message,
        releaseValue,
      })),
    )
  }
  if (behaviour.kind === 'relative') {
    fields.push(
      choice(
        'acceleration',
        'Acceleration',
        behaviour.acceleration,
        { none: 'none', gentle: 'gentle', strong: 'strong' },
        (value) => ({
          ...message,
          behaviour: { ...behaviour, acceleration: value as typeof behaviour.acceleration },
        }),
      ),
    )
  }
  if (behaviour.kind === 'absolute') {
    fields.push(
      choice('resolution', 'Resolution', resolution.kind, { full: '7-bit', steps: 'steps' }, (value) => ({
        ...message,
        resolution: value === 'steps' ? { kind: 'steps', count: 8 } : { kind: 'full' },
      })),
    )
    if (resolution.kind === 'steps') {
      fields.push(
        number('steps', 'Steps', resolution.count, 2, 128, (count) => ({
          ...message,
          resolution: { kind: 'steps', count },
        })),
      )
    }
  }
  return fields
}

function parameterFields(message: MessageOf<'nrpn'> | MessageOf<'rpn'>): FieldWord[] {
  return [
    choice(
      'parameter-steps',
      'Sends',
      message.steps,
      { values: 'values', increments: 'steps up and down' },
      (value) => ({
        ...message,
        steps: value as typeof message.steps,
      }),
    ),
    // What is set to null has to be selected again each time.
    ...(message.nullAfter
      ? []
      : [
          yesNo('omit-number', 'Leaves the number out while it stays', message.omitNumber, (omitNumber) => ({
            ...message,
            omitNumber,
          })),
        ]),
    yesNo('second-byte', 'Sends the second data byte', message.sendsLsb, (sendsLsb) => ({
      ...message,
      sendsLsb,
    })),
    yesNo('null-after', 'Sends null afterwards', message.nullAfter, (nullAfter) => ({
      ...message,
      nullAfter,
    })),
  ]
}

function bankFields(message: MessageOf<'program'>): FieldWord[] {
  const { bank } = message
  const has = yesNo('bank', 'Sends a bank', bank !== null, (value) => ({
    ...message,
    bank: value ? { msb: 0, lsb: 0 } : null,
  }))
  if (bank === null) return [has]
  return [
    has,
    number('bank-msb', 'Bank, first part', bank.msb, 0, 127, (msb) => ({
      ...message,
      bank: { ...bank, msb },
    })),
    number('bank-lsb', 'Bank, second part', bank.lsb, 0, 127, (lsb) => ({
      ...message,
      bank: { ...bank, lsb },
    })),
  ]
}

export const MOMENTS: Names = {
  move: 'as it moves',
  press: 'on press',
  release: 'on release',
  'long-press': 'on long press',
  'double-press': 'on double press',
  'layer-shown': 'when its layer shows',
}

/** When a message is sent; null for one that sends nothing. */
export function momentField(message: Message): FieldWord | null {
  if (message.kind === 'off') return null
  return choice(
    'moment',
    'When',
    message.moment,
    MOMENTS,
    (value) => ({ ...message, moment: value }) as Message,
  )
}

const DETAILS: { readonly [K in Message['kind']]?: (message: MessageOf<K>) => FieldWord[] } = {
  note: (message) => [
    ...velocityFields(message),
    ...releaseFields(message),
    ...keyFields(message),
    highResolution(message),
  ],
  polyPressure: (message) => [...keyFields(message), threshold(message)],
  channelPressure: (message) => [threshold(message)],
  cc: controllerFields,
  cc14: (message) => [
    choice('halves', 'Sends', message.halves, HALVES, (value) => ({
      ...message,
      halves: value as typeof message.halves,
    })),
  ],
  nrpn: parameterFields,
  rpn: parameterFields,
  program: bankFields,
  channelMode: (message) => [
    number('mode-value', 'Value', message.value, 0, 127, (value) => ({ ...message, value })),
  ],
}

/**
 * What a message can say beyond its sentence, as fields: release, velocity, halves, thresholds and so on. Kinds that
 * are not in the list say nothing more.
 */
export function detailsOf(message: Message): FieldWord[] {
  const details = DETAILS[message.kind] as ((of: Message) => FieldWord[]) | undefined
  return details?.(message) ?? []
}
