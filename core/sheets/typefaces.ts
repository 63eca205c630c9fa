import type { Face } from './scripts'

/** What each face of words is called in documents. */
export const FAMILIES: Readonly<Record<Face, string>> = {
  latin: 'Atkinson Hyperlegible Next',
  'latin-ext': 'Atkinson Hyperlegible Next Ext',
  greek: 'Noto Sans Greek',
  cyrillic: 'Noto Sans Cyrillic',
  hebrew: 'Noto Sans Hebrew',
  arabic: 'Noto Sans Arabic',
  emoji: 'Noto Emoji',
  korean: 'Noto Sans KR',
  japanese: 'Noto Sans JP',
  simplified: 'Noto Sans SC',
  traditional: 'Noto Sans TC',
  unknown: 'Atkinson Hyperlegible Next',
}

/** What each face of figures is called; scripts without figures of one width take that of words. */
export const MONO_FAMILIES: Readonly<Record<Face, string>> = {
  ...FAMILIES,
  latin: 'Atkinson Hyperlegible Mono',
  'latin-ext': 'Atkinson Hyperlegible Mono Ext',
  unknown: 'Atkinson Hyperlegible Mono',
}
