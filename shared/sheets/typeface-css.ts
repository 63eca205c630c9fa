import type { Drawing } from '#core/sheets/card/drawing'
import { cutsFor } from './fonts'
import { base64 } from './pdf'
import type { SheetTools } from './tools'

/** The typefaces of a drawing as CSS that holds them, so that the drawing looks the same wherever it is opened. */
export async function typefaceCss(
  drawing: Drawing,
  { loadFont }: Pick<SheetTools, 'loadFont'>,
): Promise<string> {
  const sheet = { title: '', subtitle: '', facts: [], sections: [{ heading: '', drawing }] }
  const faces = cutsFor(sheet).flatMap(({ family, regular, bold }) => [
    { family, file: regular, weight: 400 },
    ...(bold === regular ? [] : [{ family, file: bold, weight: 700 }]),
  ])
  const rules = await Promise.all(
    faces.map(async ({ family, file, weight }) => {
      const data = base64(await loadFont(file))
      return `@font-face{font-family:"${family}";font-weight:${weight};src:url(data:font/woff;base64,${data}) format("woff")}`
    }),
  )
  return rules.join('')
}
