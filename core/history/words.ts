import { printTag, sentAddress } from '../midi'
import {
  behaviourWords,
  lightWords,
  MESSAGE_KIND_NAME,
  MOMENT_WORDS,
  type Assignment,
  type Controller,
  type Message,
  type Rig,
} from '../rig'

/** Where the messages of an assignment land, as tags; empty where it sends nothing. */
export function tagsOf({ messages }: Pick<Assignment, 'messages'>, homeChannel: number): string {
  return messages
    .flatMap((message) => {
      if (message.kind === 'off') return []
      const address = sentAddress(message, homeChannel)
      return [address ? printTag(address) : `${MESSAGE_KIND_NAME[message.kind]}, number wanted`]
    })
    .join(' and ')
}

const messageDetails = (message: Message): string[] => [
  'moment' in message ? MOMENT_WORDS[message.moment] : '',
  ...behaviourWords(message),
]

/** What an assignment says besides its addresses, thing by thing. */
function detailsOf(rig: Rig, { messages, light, pinned, memo }: Assignment): string[] {
  const details = [
    ...messages.flatMap((message) => messageDetails(message)),
    lightWords(rig.lightRoles, { light }),
    pinned ? 'pinned' : '',
    memo,
  ]
  return details.filter(Boolean)
}

/** An assignment at one time: what it sends, and how. */
export interface AssignmentThen {
  tags: string
  details: string[]
}

/** What an assignment of a controller sends and how, in words. */
export const assignmentThen = (
  rig: Rig,
  { homeChannel }: Pick<Controller, 'homeChannel'>,
  assignment: Assignment,
): AssignmentThen => ({ tags: tagsOf(assignment, homeChannel), details: detailsOf(rig, assignment) })

/** Two times of one thing in words, as far as they differ. */
export function wasAndIs(was: AssignmentThen, is: AssignmentThen): { was: string | null; is: string | null } {
  const words = (own: AssignmentThen, other: AssignmentThen): string => {
    const details = own.details.filter((each) => !other.details.includes(each))
    const tags = own.tags === other.tags && details.length > 0 ? '' : own.tags || 'nothing'
    return [tags, ...new Set(details)].filter(Boolean).join(', ')
  }
  return { was: words(was, is) || null, is: words(is, was) || null }
}
