import type { Rig } from '#core/rig'

/** How wide a PNG of a card is, in px a mm: as fine as print is looked at. */
const PX_A_MM = 8
/** Browsers refuse larger pictures. */
const MOST_PX = 8000

/** A drawing as a picture, painted by the browser. Rejected where it cannot be painted. */
async function pictureOf(svg: string): Promise<Blob> {
  const image = new Image()
  const url = URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }))
  try {
    await new Promise((resolve, reject) => {
      image.onload = resolve
      image.onerror = () => reject(new Error('The browser could not paint this card.'))
      image.src = url
    })
    const box = /viewBox="\S+ \S+ (\S+) (\S+)"/.exec(svg)
    const [width, height] = [Number(box?.[1] ?? 100), Number(box?.[2] ?? 100)]
    const scale = Math.min(PX_A_MM, MOST_PX / Math.max(width, height))
    const canvas = document.createElement('canvas')
    canvas.width = Math.round(width * scale)
    canvas.height = Math.round(height * scale)
    const context = canvas.getContext('2d')
    if (!context) throw new Error('The browser has no room for a picture of this size.')
    context.fillStyle = '#ffffff'
    context.fillRect(0, 0, canvas.width, canvas.height)
    context.drawImage(image, 0, 0, canvas.width, canvas.height)
    return await new Promise<Blob>((resolve, reject) =>
      canvas.toBlob(
        (blob) => (blob ? resolve(blob) : reject(new Error('The browser could not make the picture.'))),
        'image/png',
      ),
    )
  } finally {
    URL.revokeObjectURL(url)
  }
}

/** Keeping sheets as files. */
export function useSheetFiles() {
  const sheets = useSheetsStore()
  const today = (): string =>
    new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })

  /** Keep the sheet that is looked at, or the book, as a file of a format. */
  async function save(format: string): Promise<void> {
    const name = sheets.isBook ? 'The book' : (sheets.current?.fileName ?? '')
    const written = await sheets.write(format, today())
    if (written)
      saveBlob(fileName(name, written.extension), new Blob([written.bytes], { type: written.mediaType }))
  }

  /** Keep the drawing of one section, as lines or as a picture. */
  async function saveDrawing(section: number, heading: string, as: 'svg' | 'png'): Promise<void> {
    const svg = await sheets.drawing(section)
    if (svg === null) return
    const blob = as === 'svg' ? new Blob([svg], { type: 'image/svg+xml' }) : await pictureOf(svg)
    saveBlob(fileName(`${sheets.current?.fileName ?? ''} ${heading}`, as), blob)
  }
  /** Keep what changed from an earlier rig, which is called so, to a later one, as a file of a format. */
  async function saveChanges(before: Rig, after: Rig, since: string, format: string): Promise<void> {
    const written = await sheets.writeChanges(before, after, since, format, today())
    if (written)
      saveBlob(
        fileName('What changed', written.extension),
        new Blob([written.bytes], { type: written.mediaType }),
      )
  }
  return { save, saveDrawing, saveChanges }
}
