import { lossWords } from '#core/conflicts'
import { lessonOf, mappingParameter, mappingState, outrankedBy, resolveMappings } from '#core/mappings'
import { noteName, printTag } from '#core/midi'
import {
  assignmentsAt,
  findGesture,
  freshMessage,
  parameterName,
  placeKey,
  TAKEOVER_WORDS,
  withAddress,
  type Mapping,
  type Place,
  type Rig,
  type RigEdit,
} from '#core/rig'

/** A change that is offered beside a mapping. */
export interface RowOffer {
  label: string
  /** For the history of edits. */
  about: string
  edit: RigEdit
}

/** A mapping as it stands in the sentence of its control. */
export interface MappingRowFacts {
  /** Destination and parameter. */
  name: string
  /** Where it counts, and how it is taken over. */
  manner: string
  state: string
  /** Where its parameter listens, in writing. */
  listensAt: string | null
  isTrouble: boolean
  /** What would bring control and parameter together. */
  offer: RowOffer | null
}

function stateWords(rig: Rig, mapping: Mapping, isFixed: boolean): { text: string; isTrouble: boolean } {
  const { agreement, loss } = mappingState(rig, mapping)
  switch (agreement) {
    case 'agrees':
      return { text: isFixed ? 'listens at' : 'taught', isTrouble: false }
    case 'differs':
      return { text: isFixed ? 'listens elsewhere, at' : 'teach again: still at', isTrouble: true }
    case 'lost': {
      const controller = mapping.gesture ? findGesture(rig, mapping.gesture)?.controller.id : undefined
      const why = loss && controller ? `: ${lossWords(rig, controller, mapping.destination, loss)}` : ''
      return { text: `does not arrive${why}; listens at`, isTrouble: true }
    }
    case 'silent':
      return { text: 'its control sends nothing; listens at', isTrouble: true }
    case 'put-away':
      return { text: 'its controller is put away; listens at', isTrouble: true }
    case 'no-control':
      return { text: 'its control is gone; listens at', isTrouble: true }
    case 'not-taught':
      return { text: 'not yet taught', isTrouble: false }
  }
}

function scopeWords(rig: Rig, mapping: Mapping): string {
  const scopes = mappingParameter(rig, mapping)?.destination.scopes ?? []
  const nameOf = (id: string | null): string | null => scopes.find((each) => each.id === id)?.name ?? null
  const own = nameOf(mapping.scope)
  if (own !== null) return `only in ${own}`
  const others = new Set(outrankedBy(rig, mapping).flatMap(({ scope }) => nameOf(scope) ?? []))
  return others.size === 0 ? 'everywhere' : `everywhere but in ${[...others].join(', ')}`
}

/** Teach the destination what arrives of a control at a place, or let the control send what a chart says. */
function offerFor(
  rig: Rig,
  mapping: Mapping,
  place: Place | null,
  isFixed: boolean,
  name: string,
): RowOffer | null {
  const [resolved] = resolveMappings(rig, [mapping])
  if (!resolved || resolved.meeting.length > 0 || !place) return null
  const { listening, destination } = resolved
  if (isFixed) {
    const found = mapping.gesture ? findGesture(rig, mapping.gesture) : null
    if (!found || !listening) return null
    const now =
      assignmentsAt(found.controller, place)?.[place.gesture]?.messages[0] ??
      freshMessage('off', found.control.kind, found.gesture)
    const message = withAddress(now, listening.address, found.control.kind, found.gesture)
    const tag = printTag(listening.address)
    return {
      label: `Send ${tag} instead`,
      about: `${found.control.label} sends ${tag}`,
      edit: { type: 'message', at: place, index: 0, message },
    }
  }
  const here = resolved.senders.filter((sender) => placeKey(sender.place) === placeKey(place))
  const [learnedAt] = here.flatMap((sender) => lessonOf(rig, sender, destination.id, mapping.key) ?? [])
  if (!learnedAt) return null
  const tag = printTag(learnedAt)
  return {
    label: `Taught it ${tag}`,
    about: `${name} learned ${tag}`,
    edit: { type: 'mapping-set', mapping: mapping.id, set: { learnedAt } },
  }
}

/** What a mapping's row says, and what it offers, while a place of its control is shown. */
export function mappingRow(rig: Rig, mapping: Mapping, place: Place | null): MappingRowFacts | null {
  const target = mappingParameter(rig, mapping)
  if (!target) return null
  const name = `${target.destination.name} · ${parameterName(target.parameter)}`
  const isFixed = target.parameter.fixed !== null
  const { listening } = mappingState(rig, mapping)
  const { text, isTrouble } = stateWords(rig, mapping, isFixed)
  return {
    name,
    manner: `${mapping.key === null ? '' : `by ${noteName(mapping.key, rig.middleC)} alone, `}${scopeWords(rig, mapping)}${mapping.inverted ? ', inverted' : ''}, taken over ${TAKEOVER_WORDS[mapping.takeover]}`,
    state: text,
    listensAt: listening ? printTag(listening) : null,
    isTrouble,
    offer: offerFor(rig, mapping, place, isFixed, name),
  }
}
