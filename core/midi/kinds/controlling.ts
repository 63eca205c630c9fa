import { spanWords } from './shared'
import type { MessageOf } from './types'

/** What a button-like control sends one after the other: pressed, then let go or pressed again. */
const turns = (low: number, high: number, released: number): string =>
  low === high ? `${high}` : `${high}/${released}`

/** What a controller message makes of its control, the longest form first. */
export function controllingWords(
  { range: { low, high }, behaviour }: MessageOf<'cc'> | MessageOf<'cc14'>,
  released: number,
  swept: readonly string[],
): readonly string[] {
  switch (behaviour.kind) {
    case 'absolute':
      return swept
    case 'relative':
      return ['relative', 'rel']
    case 'momentary':
      return [`held ${turns(low, high, released)}`, 'held']
    case 'toggle':
      return [`on/off ${turns(low, high, low)}`, 'on/off']
    case 'trigger':
      return [`once ${high}`, 'once']
    case 'latch':
      return [`stays ${spanWords(low, high)}`, 'stays']
    case 'list':
      return [`${behaviour.values.length} values`, 'list']
  }
}
