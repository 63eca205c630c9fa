import { allButOne } from '../finding'
import type { Rule } from '../rule'
import { cellTags, destinationWords, senderWords } from '../words'

/** Two gestures that can act at the same time send the same values to the same address. */
export const sameAddress: Rule = {
  id: 'same-address',
  title: 'Same address twice',
  reach: 'cells',
  find: ({ rig, meetings }) => [
    ...meetings['same-address'].map((meeting) => {
      const tags = cellTags(meeting.cells)
      return {
        severity: 'error' as const,
        message: `${senderWords(rig, meeting.senders)} ${meeting.senders.length > 2 ? 'all' : 'both'} send ${tags.join(', ')} to ${destinationWords(rig, meeting.destinations)}.`,
        senders: meeting.senders,
        addresses: tags,
        destinations: meeting.destinations,
        cures: { moves: allButOne(meeting.senders), share: true },
      }
    }),
    ...meetings['channel-wide'].map((meeting) => {
      const tags = cellTags(meeting.cells)
      return {
        severity: 'warning' as const,
        message: `${senderWords(rig, meeting.senders)} both act on the whole channel with ${tags.join(', ')} at ${destinationWords(rig, meeting.destinations)}.`,
        senders: meeting.senders,
        addresses: tags,
        destinations: meeting.destinations,
        cures: { moves: [], share: true },
      }
    }),
  ],
}
