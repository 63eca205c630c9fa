import next400 from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url'
import next700 from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url'
import nextExt400 from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-400-normal.woff?url'
import nextExt700 from '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-700-normal.woff?url'
import mono400 from '@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff?url'
import monoExt400 from '@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-ext-400-normal.woff?url'
import greek from '@fontsource/noto-sans/files/noto-sans-greek-400-normal.woff?url'
import cyrillic from '@fontsource/noto-sans/files/noto-sans-cyrillic-400-normal.woff?url'
import hebrew from '@fontsource/noto-sans-hebrew/files/noto-sans-hebrew-hebrew-400-normal.woff?url'
import arabic from '@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-400-normal.woff?url'
import emoji from '@fontsource/noto-emoji/files/noto-emoji-emoji-400-normal.woff?url'
import korean from '@fontsource/noto-sans-kr/files/noto-sans-kr-korean-400-normal.woff?url'
import japanese from '@fontsource/noto-sans-jp/files/noto-sans-jp-japanese-400-normal.woff?url'
import simplified from '@fontsource/noto-sans-sc/files/noto-sans-sc-chinese-simplified-400-normal.woff?url'
import traditional from '@fontsource/noto-sans-tc/files/noto-sans-tc-chinese-traditional-400-normal.woff?url'
import type { FontFile, LoadFont } from '../../shared/sheets/fonts'

/** Where the application's own server has the files of the typefaces. */
const ADDRESSES: Readonly<Record<FontFile, string>> = {
  'next-400': next400,
  'next-700': next700,
  'next-ext-400': nextExt400,
  'next-ext-700': nextExt700,
  'mono-400': mono400,
  'mono-ext-400': monoExt400,
  greek,
  cyrillic,
  hebrew,
  arabic,
  emoji,
  korean,
  japanese,
  simplified,
  traditional,
}

/** Fetch a typeface from our own server, the first time that a document needs it. */
export const fetchFont: LoadFont = async (file) => {
  const answer = await fetch(ADDRESSES[file])
  if (!answer.ok)
    throw new Error('A typeface of the document could not be loaded. Is the server still running?')
  return new Uint8Array(await answer.arrayBuffer())
}
