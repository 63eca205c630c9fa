/** Kinds of message as spreadsheets name them, and how their tags begin. */
export const KIND_WORDS: Readonly<Record<string, string>> = {
  cc: 'cc',
  note: 'note',
  program: 'pc',
  'pitch bend': 'bend',
  nrpn: 'nrpn',
  rpn: 'rpn',
  'control change': 'cc',
  controller: 'cc',
  'note on': 'note',
  'program change': 'pc',
  pc: 'pc',
  bend: 'bend',
  pitchbend: 'bend',
  'channel pressure': 'pressure',
  aftertouch: 'pressure',
  pressure: 'pressure',
}

/** The kind that a number alone means: by what is written before it, by the name of a note, else a controller. */
export function guessedKind(number: string): string {
  if (/^note/i.test(number) || /^[a-g][#b♯♭]?-?\d$/i.test(number)) return 'note'
  return /^pc/i.test(number) ? 'pc' : 'cc'
}
