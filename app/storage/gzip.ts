/** A text, compressed (gzip, RFC 1952). */
export const gzipped = (text: string): Promise<Blob> =>
  new Response(new Blob([text]).stream().pipeThrough(new CompressionStream('gzip'))).blob()

/**
 * The text of a compressed file; null where it is longer than so many UTF-16 units, of which no more are read. Rejects where it is
 * damaged, or no such file.
 */
export async function gunzipped(file: Blob, most: number): Promise<string | null> {
  const reader = file
    .stream()
    .pipeThrough(new DecompressionStream('gzip'))
    .pipeThrough(new TextDecoderStream('utf-8', { fatal: true }))
    .getReader()
  const pieces: string[] = []
  let length = 0
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    pieces.push(part.value)
    length += part.value.length
    if (length > most) {
      await reader.cancel()
      return null
    }
  }
  return pieces.join('')
}
