import { allButOne } from '../finding'
import type { Rule } from '../rule'
import { cellTags, destinationWords, senderWords } from '../words'

/** Two gestures send different values to one address: meant as a step up and down, or an oversight. */
export const splitValue: Rule = {
  id: 'split-value',
  title: 'One address, different values',
  reach: 'cells',
  find: ({ rig, meetings }) =>
    meetings['split-value'].map((meeting) => {
      const tags = cellTags(meeting.cells)
      return {
        severity: 'warning',
        message: `${senderWords(rig, meeting.senders)} send different values to one address, ${tags.join(', ')}, at ${destinationWords(rig, meeting.destinations)}.`,
        senders: meeting.senders,
        addresses: tags,
        destinations: meeting.destinations,
        cures: { moves: allButOne(meeting.senders), share: true },
      }
    }),
}
