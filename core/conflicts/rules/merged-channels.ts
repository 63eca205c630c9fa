import { allButOne } from '../finding'
import type { Rule } from '../rule'
import { cellTags, destinationWords, senderWords } from '../words'

/** Two gestures that differ only by channel meet where a destination takes all channels for one. */
export const mergedChannels: Rule = {
  id: 'merged-channels',
  title: 'Channels taken for one',
  reach: 'cells',
  find: ({ rig, meetings }) =>
    meetings['merged-channels'].map((meeting) => {
      const tags = cellTags(meeting.cells)
      return {
        severity: 'error',
        message: `${destinationWords(rig, meeting.destinations)} takes all channels for one, so ${senderWords(rig, meeting.senders)} meet at ${tags.join(', ')}.`,
        senders: meeting.senders,
        addresses: tags,
        destinations: meeting.destinations,
        cures: {
          moves: allButOne(meeting.senders),
          share: true,
          narrow: meeting.destinations,
        },
      }
    }),
}
