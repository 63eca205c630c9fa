import {
  CHANNELS,
  controllerName,
  MMC_NAMES,
  noteName,
  PAIR_DISTANCE,
  printBank,
  REALTIME_NAMES,
} from '#core/midi'
import {
  ENCODING_WORDS,
  fitsNumber,
  isChannelMessage,
  kindReason,
  MESSAGE_KIND_NAME,
  MESSAGE_KINDS,
  numberBounds,
  topOf,
  withChannel,
  withKind,
  withNumber,
  type Abilities,
  type Behaviour,
  type Control,
  type GestureKind,
  type Message,
  type MessageKind,
  type Rig,
} from '#core/rig'

/** One choice of a word; `reason` says why it is not to be had. */
export interface WordOption {
  value: string
  label: string
  reason: string | null
}

interface WordBase {
  id: string
  /** The name of the field, for screen readers and labelled fields. */
  label: string
  /** What the sentence shows. */
  text: string
}

/** A piece of the sentence: plain words, a word to choose, or a number to type. */
export type Word<T = Message> =
  | { type: 'plain'; text: string }
  | (WordBase & {
      type: 'choice'
      value: string
      options: readonly WordOption[]
      set: (value: string) => T
    })
  | (WordBase & {
      type: 'number'
      value: number | null
      low: number
      high: number
      set: (value: number) => T
    })

export type FieldWord<T = Message> = Exclude<Word<T>, { type: 'plain' }>
export type ChoiceWord<T = Message> = Extract<Word<T>, { type: 'choice' }>
export type NumberWord<T = Message> = Extract<Word<T>, { type: 'number' }>

export interface SentenceContext {
  message: Message
  control: Control
  gesture: GestureKind
  homeChannel: number
  abilities: Abilities
  rig: Pick<Rig, 'middleC' | 'programsFrom'>
}

const VERBS: Readonly<Record<GestureKind, string>> = {
  turn: 'Turn',
  push: 'Push',
  touch: 'Touch',
  strike: 'Strike',
  pressure: 'Pressure',
  slide: 'Slide',
  x: 'Left–right',
  y: 'Up–down',
  press: 'Press',
  tilt: 'Tilt',
}
/** The word with which the sentence of a gesture begins. */
export const gestureVerb = (gesture: GestureKind): string => VERBS[gesture]

const plain = (text: string): Word => ({ type: 'plain', text })

// Options are made once for all messages they are offered for: thousands may be selected at a time.
const kindOptions = new WeakMap<Abilities, Map<string, readonly WordOption[]>>()
function kindOptionsOf(abilities: Abilities, control: Control): readonly WordOption[] {
  const known = kindOptions.get(abilities) ?? new Map<string, readonly WordOption[]>()
  kindOptions.set(abilities, known)
  const options =
    known.get(control.kind) ??
    MESSAGE_KINDS.map((kind) => ({
      value: kind,
      label: MESSAGE_KIND_NAME[kind],
      reason: kindReason(abilities, control, kind),
    }))
  known.set(control.kind, options)
  return options
}

function kindWord({ message, control, gesture, abilities }: SentenceContext): Word {
  return {
    type: 'choice',
    id: 'kind',
    label: 'Message',
    text: MESSAGE_KIND_NAME[message.kind],
    value: message.kind,
    options: kindOptionsOf(abilities, control),
    set: (kind) => withKind(message, kind as MessageKind, control.kind, gesture),
  }
}

const channelText = (channel: string | number, homeChannel: number): string =>
  channel === 'home' ? `home (${homeChannel})` : `channel ${channel}`
/** Offered where each of the 16 channels is home. */
const CHANNEL_OPTIONS: ReadonlyArray<readonly WordOption[]> = CHANNELS.map((homeChannel) =>
  ['home', ...CHANNELS].map((channel) => ({
    value: String(channel),
    label: channelText(channel, homeChannel),
    reason: null,
  })),
)

function channelWords({ message, homeChannel }: SentenceContext): Word[] {
  if (!isChannelMessage(message)) return []
  return [
    plain('on'),
    {
      type: 'choice',
      id: 'channel',
      label: 'Channel',
      text: channelText(message.channel, homeChannel),
      value: String(message.channel),
      options: CHANNEL_OPTIONS[homeChannel - 1] ?? [],
      set: (channel) => withChannel(message, channel === 'home' ? 'home' : Number(channel)),
    },
  ]
}

/** A remark after a number: the other half of a pair, a note's name, a standard meaning. */
function remark({ message, rig }: SentenceContext, number: number): string {
  switch (message.kind) {
    case 'cc14':
      return `with ${number + PAIR_DISTANCE}`
    case 'note':
    case 'polyPressure':
      return noteName(number, rig.middleC)
    case 'cc':
    case 'channelMode':
      return controllerName(number)?.toLowerCase() ?? ''
    default:
      return ''
  }
}

function numberWords(context: SentenceContext): Word[] {
  const { message, rig } = context
  const bounds = numberBounds(message.kind)
  if (bounds === null) return []
  if ('keys' in message && message.keys.kind !== 'one') return keyWords(message, rig)
  const shift = message.kind === 'program' ? rig.programsFrom : 0
  const number =
    'keys' in message
      ? message.keys.kind === 'one'
        ? message.keys.number
        : 'wanted'
      : 'number' in message
        ? message.number
        : 'wanted'
  const note = number === 'wanted' ? '' : remark(context, number)
  const word: Word = {
    type: 'number',
    id: 'number',
    label: message.kind === 'program' ? `Program, counted from ${rig.programsFrom}` : 'Number',
    text: number === 'wanted' ? 'any free' : String(number + shift),
    value: number === 'wanted' ? null : number + shift,
    low: bounds.low + shift,
    high: bounds.high + shift,
    set: (value) => {
      if (!fitsNumber(message.kind, value - shift)) throw new RangeError(refusal(message.kind, value))
      return withNumber(message, value - shift)
    },
  }
  return note === '' ? [word] : [word, plain(`(${note})`)]
}

const refusal = (kind: MessageKind, value: number): string =>
  kind === 'cc14'
    ? `${value} cannot start a 14-bit pair: use 1 to 31, but not 6.`
    : `${value} is out of range.`

function keyWords(message: Extract<Message, { keys: unknown }>, rig: SentenceContext['rig']): Word[] {
  const { keys } = message
  if (keys.kind === 'one') return []
  const end = (id: 'low' | 'high', label: string): Word => ({
    type: 'number',
    id: `keys-${id}`,
    label,
    text: `${keys[id]}`,
    value: keys[id],
    low: 0,
    high: 127,
    set: (value) => {
      const next = { ...keys, [id]: value }
      if (next.low > next.high) throw new RangeError('The lowest key must not be above the highest.')
      return { ...message, keys: next } as Message
    },
  })
  return [
    end('low', 'Lowest key'),
    plain(`(${noteName(keys.low, rig.middleC)}) to`),
    end('high', 'Highest key'),
    plain(`(${noteName(keys.high, rig.middleC)})`),
  ]
}

function rangeWords({ message }: SentenceContext): Word[] {
  if (!('range' in message)) return []
  const top = topOf(message) ?? 0
  const end = (id: 'low' | 'high', label: string): Word => ({
    type: 'number',
    id,
    label,
    text: String(message.range[id]),
    value: message.range[id],
    low: 0,
    high: top,
    set: (value) => ({ ...message, range: { ...message.range, [id]: value } }) as Message,
  })
  return [plain(', from'), end('low', 'From'), plain('to'), end('high', 'To')]
}

const BEHAVIOUR_NAMES: Readonly<Record<string, string>> = {
  absolute: 'absolute',
  'relative:twos-complement': `relative, ${ENCODING_WORDS['twos-complement']}`,
  'relative:offset-binary': `relative, ${ENCODING_WORDS['offset-binary']}`,
  'relative:sign-magnitude': `relative, ${ENCODING_WORDS['sign-magnitude']}`,
  momentary: 'while held',
  toggle: 'on and off in turn',
  trigger: 'once a press',
  latch: 'staying where let go',
  list: 'through a list',
}

const behaviourValue = (behaviour: Behaviour): string =>
  behaviour.kind === 'relative' ? `relative:${behaviour.encoding}` : behaviour.kind

function behaviourOf(value: string): Behaviour {
  const [kind, encoding] = value.split(':')
  if (kind === 'relative') {
    return {
      kind,
      encoding: encoding as 'twos-complement' | 'offset-binary' | 'sign-magnitude',
      acceleration: 'none',
    }
  }
  if (kind === 'momentary' || kind === 'toggle' || kind === 'trigger' || kind === 'latch') return { kind }
  return kind === 'list' ? { kind, values: [0, 127] } : { kind: 'absolute', turns: null }
}

/** The behaviours that make sense for a gesture: presses, endless turns, or plain movement. */
function behaviourChoices(control: Control, gesture: GestureKind): string[] {
  if (['press', 'push', 'touch', 'strike'].includes(gesture) && control.kind !== 'pedal') {
    return ['momentary', 'toggle', 'trigger', 'list']
  }
  if (control.kind === 'encoder') {
    return ['absolute', 'relative:twos-complement', 'relative:offset-binary', 'relative:sign-magnitude']
  }
  return control.kind === 'ribbon' || control.kind === 'tilt' ? ['absolute', 'latch'] : ['absolute']
}

const behaviourOptions = new WeakMap<Abilities, Map<string, readonly WordOption[]>>()
function behaviourOptionsOf(abilities: Abilities, choices: readonly string[]): readonly WordOption[] {
  const known = behaviourOptions.get(abilities) ?? new Map<string, readonly WordOption[]>()
  behaviourOptions.set(abilities, known)
  const key = choices.join(' ')
  const options =
    known.get(key) ??
    choices.map((choice) => {
      const encoding = choice.startsWith('relative:') ? choice.slice(9) : null
      const isSpoken =
        encoding === null || abilities.relativeEncodings.some((candidate) => candidate === encoding)
      return {
        value: choice,
        label: BEHAVIOUR_NAMES[choice] ?? choice,
        reason: isSpoken ? null : 'this hardware does not speak it',
      }
    })
  known.set(key, options)
  return options
}

function behaviourWords({ message, control, gesture, abilities }: SentenceContext): Word[] {
  if (!('behaviour' in message)) return []
  const value = behaviourValue(message.behaviour)
  const choices = [...new Set([...behaviourChoices(control, gesture), value])]
  const name = (choice: string): string => BEHAVIOUR_NAMES[choice] ?? choice
  if (choices.length === 1) return [plain(`, ${name(value)}`)]
  return [
    plain(','),
    {
      type: 'choice',
      id: 'behaviour',
      label: 'Behaviour',
      text: name(value),
      value,
      options: behaviourOptionsOf(abilities, choices),
      set: (choice) => ({ ...message, behaviour: behaviourOf(choice) }) as Message,
    },
  ]
}

function commandWords(message: Message): Word[] {
  if (message.kind !== 'mmc' && message.kind !== 'realtime') return []
  const names: readonly string[] = message.kind === 'mmc' ? MMC_NAMES : REALTIME_NAMES
  const shown = (name: string): string => name.replaceAll('-', ' ')
  return [
    {
      type: 'choice',
      id: 'command',
      label: 'Command',
      text: shown(message.command),
      value: message.command,
      options: names.map((name) => ({ value: name, label: shown(name), reason: null })),
      set: (command) => ({ ...message, command }) as Message,
    },
  ]
}

function extraWords(message: Message): Word[] {
  if (message.kind === 'program' && message.bank) {
    return [plain(`, bank ${printBank(message.bank)}`)]
  }
  return message.kind === 'sysex' ? [plain(`of ${message.bytes.length} bytes`)] : []
}

/** A message as a sentence whose words are its fields: "Turn sends CC 74 on channel 5, from 0 to 127." */
export function sentenceOf(context: SentenceContext): Word[] {
  const { message, gesture } = context
  return [
    plain(`${gestureVerb(gesture)} sends`),
    kindWord(context),
    ...numberWords(context),
    ...commandWords(message),
    ...channelWords(context),
    ...extraWords(message),
    ...rangeWords(context),
    ...behaviourWords(context),
    plain('.'),
  ]
}

/** Does a piece stand close to the word before it, as a comma or a full stop does? */
export const isClose = (word: Word<unknown>): boolean => word.type === 'plain' && /^[.,]/.test(word.text)
