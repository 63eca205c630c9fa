/** The files of the typefaces, each under the name by which it is asked for. */
export const FONT_FILES = {
  'next-400': '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff',
  'next-700': '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff',
  'next-ext-400':
    '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-normal.woff',
  'next-ext-700':
    '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff',
  'mono-400': '@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff',
  'mono-ext-400':
    '@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-ext-400-normal.woff',
  greek: '@fontsource/noto-sans/files/noto-sans-greek-400-normal.woff',
  cyrillic: '@fontsource/noto-sans/files/noto-sans-cyrillic-400-normal.woff',
  hebrew: '@fontsource/noto-sans-hebrew/files/noto-sans-hebrew-hebrew-400-normal.woff',
  arabic: '@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-400-normal.woff',
  emoji: '@fontsource/noto-emoji/files/noto-emoji-emoji-400-normal.woff',
  korean: '@fontsource/noto-sans-kr/files/noto-sans-kr-korean-400-normal.woff',
  japanese: '@fontsource/noto-sans-jp/files/noto-sans-jp-japanese-400-normal.woff',
  simplified: '@fontsource/noto-sans-sc/files/noto-sans-sc-chinese-simplified-400-normal.woff',
  traditional: '@fontsource/noto-sans-tc/files/noto-sans-tc-chinese-traditional-400-normal.woff',
} as const
