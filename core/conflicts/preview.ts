import { printTag } from '../midi'
import { mappingName } from '../mappings'
import {
  assignmentsAt,
  placeName,
  rigIndex,
  sentAddress,
  type Mapping,
  type Message,
  type Place,
  type Rig,
  type RigEdit,
} from '../rig'

function tagOf(rig: Rig, at: Place, message: Message | undefined): string {
  const home = rigIndex(rig).controllers.get(at.controller)?.homeChannel ?? 1
  const address = message ? sentAddress(message, home) : null
  return address ? printTag(address) : message && message.kind !== 'off' ? 'a number' : 'nothing'
}

function messageLine(rig: Rig, { at, index, message }: Extract<RigEdit, { type: 'message' }>): string {
  const controller = rigIndex(rig).controllers.get(at.controller)
  const before = controller && assignmentsAt(controller, at)?.[at.gesture]?.messages[index]
  const { gesture, layer } = placeName(rig, at)
  const [from, to] = [tagOf(rig, at, before), tagOf(rig, at, message)]
  const where = layer === null ? gesture : `${gesture} in ${layer}`
  return from === to ? `${where} sends ${to} otherwise` : `${where}: ${from} → ${to}`
}

const learnedWords = ({ learnedAt }: Mapping): string | null => (learnedAt ? printTag(learnedAt) : null)

/** What an edit that cures would change, in a few words; null where its label says it all. */
export function editLine(rig: Rig, edit: RigEdit): string | null {
  switch (edit.type) {
    case 'message':
      return messageLine(rig, edit)
    case 'mapping-set': {
      const mapping = rig.mappings.find(({ id }) => id === edit.mapping)
      if (!mapping) return null
      const name = mappingName(rig, mapping)
      if (edit.set.learnedAt)
        return `${name} listens at ${learnedWords(mapping) ?? 'nothing'} → ${printTag(edit.set.learnedAt)}`
      return edit.set.takeover ? `${name} waits until the control meets it` : null
    }
    case 'mapping-remove': {
      const mapping = rig.mappings.find(({ id }) => id === edit.mapping)
      return mapping ? `${mappingName(rig, mapping)} forgets ${learnedWords(mapping) ?? 'it'}` : null
    }
    default:
      return null
  }
}
