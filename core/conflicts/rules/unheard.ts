import type { Loss, Sender } from '../../addresses'
import { changedBy, outgoing } from '../../addresses'
import { distinctAddresses, printTag, sameTarget } from '../../midi'
import {
  landedOf,
  lossAt,
  mappingName,
  mappingParameter,
  resolveMappings,
  sentFor,
  teachable,
  type ResolvedMapping,
} from '../../mappings'
import { rigIndex, type Mapping, type Rig } from '../../rig'
import type { CheckContext } from '../context'
import type { Draft, Fix } from '../finding'
import { followFixes, teachFixes } from '../fixes/mappings'
import type { Rule } from '../rule'
import {
  cableWords,
  destinationWords,
  placeCount,
  lossWords,
  moverWords,
  senderWords,
  shortAddressWords,
  shortListed,
  verb,
} from '../words'

/** What a loss is, as a text that is the same for all that are lost at one place. */
function lossKey(loss: Loss): string {
  switch (loss.kind) {
    case 'no-cable':
      return 'no cable'
    case 'stopped':
      return `cable ${loss.cable.id}`
    case 'port-held':
      return `port ${loss.computer} ${loss.port}`
    case 'not-heard':
      return `channel ${loss.channel} ${loss.by.id}`
    case 'kept':
      return `claim ${loss.by.id} ${loss.claim.id}`
  }
}

const base = ({ mapping, destination }: ResolvedMapping, senders: readonly Sender[]) => ({
  senders,
  destinations: [destination.id],
  about: mapping.id,
})

/** Nothing of what is sent is heard at the destination. */
function lost(
  { rig }: CheckContext,
  resolved: ResolvedMapping,
  senders: readonly Sender[],
  loss: Loss,
): Draft {
  const [first] = senders
  const controller = first?.place.controller ?? ''
  const { mapping, destination } = resolved
  const sent = distinctAddresses(senders.flatMap((sender) => sentFor(sender, mapping) ?? []))
  return {
    ...base(resolved, senders),
    severity: 'error',
    message: `${moverWords(rig, mapping, senders)} ${verb(placeCount(senders), 'sends', 'send')} ${shortAddressWords(sent)} for ${mappingName(rig, mapping)}, but it does not arrive: ${lossWords(rig, controller, destination.id, loss)}.`,
    addresses: sent,
    cause: `lost ${controller} ${destination.id} ${lossKey(loss)}`,
  }
}

/** "which arrives as 1:cc20 through the cable A · Out → D · In": empty where it arrives as it was sent. */
function changedWords(rig: Rig, senders: readonly Sender[], { destination, key }: Mapping): string {
  for (const sender of senders) {
    const owner = rigIndex(rig).controllers.get(sender.place.controller)
    const cable = owner ? changedBy(rig, owner, outgoing(sender), destination) : null
    if (cable)
      return `, which arrives as ${shortAddressWords(landedOf(rig, sender, destination, key))} through the cable ${cableWords(rig, cable)},`
  }
  return ','
}

/** The home channel that would bring all back: what arrives differs from what was learned in the home channel only. */
function homeCause(senders: readonly Sender[], { mapping, listening }: ResolvedMapping): string | null {
  const [sender] = senders
  const address = listening?.address
  if (!sender || senders.length > 1 || address?.scope !== 'channel' || !('channel' in sender.message))
    return null
  const sent = sender.address
  const isHomeOnly =
    sender.message.channel === 'home' &&
    sent?.scope === 'channel' &&
    typeof address.channel === 'number' &&
    sent.channel !== address.channel &&
    sameTarget(sent.target, address.target)
  return isHomeOnly ? `home ${sender.place.controller} ${mapping.destination} ${address.channel}` : null
}

/** What arrives is another address than the parameter takes, or it has not been taught. */
function elsewhere(
  context: CheckContext,
  resolved: ResolvedMapping,
  senders: readonly Sender[],
): Draft | null {
  const { rig } = context
  const { mapping, listening } = resolved
  const name = mappingName(rig, mapping)
  const who = moverWords(rig, mapping, senders)
  const sends = verb(placeCount(senders), 'sends', 'send')
  const sent = distinctAddresses(senders.flatMap((sender) => sentFor(sender, mapping) ?? []))
  if (sent.length === 0)
    return {
      ...base(resolved, senders),
      severity: 'error',
      message: `${name} is to be moved by ${who}, but there is no such key: choose one that is there.`,
      addresses: [],
    }
  const cures = (): Fix[] => [...teachFixes(context, [resolved]), ...followFixes(context, resolved)]
  if (!listening) {
    const found = teachable(rig, resolved)
    return {
      ...base(resolved, senders),
      severity: 'advice',
      message: found
        ? `${name} has not been taught yet: teach it ${printTag(found.address)} with ${who}.`
        : `${name} has not been taught yet, and there is more than one address in what ${who} ${sends}: let it send a single one.`,
      addresses: sent.slice(0, 1),
      cures,
    }
  }
  const tag = printTag(listening.address)
  const isCharted = listening.by === 'chart'
  const change = changedWords(rig, senders, mapping)
  const cause = isCharted ? null : homeCause(senders, resolved)
  return {
    ...base(resolved, senders),
    severity: isCharted ? 'error' : 'warning',
    message: isCharted
      ? `${who} ${sends} ${shortAddressWords(sent)}${change} but ${name} takes only ${tag}.`
      : `${who} ${sends} ${shortAddressWords(sent)}${change} but ${name} learned ${tag}: ${teachable(rig, resolved) ? 'teach it again' : 'there is more than one address in it to teach, so let it send a single one'}.`,
    addresses: [listening.address],
    ...(cause === null ? {} : { cause }),
    cures,
  }
}

/** It arrives, but a 7-bit number stands where a pair was expected. */
function coarser({ rig }: CheckContext, resolved: ResolvedMapping): Draft | null {
  const { mapping, listening, meeting, coarse } = resolved
  const address = listening?.address
  if (address?.scope !== 'channel' || address.target.kind !== 'cc14') return null
  if (meeting.length === 0 || coarse.length < meeting.length) return null
  return {
    ...base(resolved, coarse),
    severity: 'advice',
    message: `${senderWords(rig, coarse)} ${verb(placeCount(coarse), 'sends', 'send')} ${shortAddressWords(coarse.flatMap(({ address: sent }) => sent ?? []))} with 7 bits, and ${mappingName(rig, mapping)} takes the pair ${printTag(address)}: it moves, in coarser steps.`,
    addresses: [address],
  }
}

function draftOf(context: CheckContext, resolved: ResolvedMapping): Draft | null {
  const { rig } = context
  const { mapping, meeting, destination } = resolved
  const senders = resolved.senders.filter(({ address }) => address !== null)
  if (senders.length === 0) return null
  if (meeting.length > 0) return coarser(context, resolved)
  const losses = senders.map((sender) => ({ sender, loss: lossAt(rig, sender, destination.id) }))
  const arriving = losses.flatMap(({ sender, loss }) => (loss === null ? [sender] : []))
  if (arriving.length > 0) return elsewhere(context, resolved, arriving)
  const loss = losses[0]?.loss
  return loss && mapping.gesture !== null ? lost(context, resolved, senders, loss) : null
}

/** Set the home channel to where the destination learned everything. */
function homeFix(context: CheckContext, resolved: readonly ResolvedMapping[]): Fix[] {
  const { rig } = context
  const address = resolved[0]?.listening?.address
  const owner = rigIndex(rig).controllers.get(resolved[0]?.senders[0]?.place.controller ?? '')
  if (!owner || address?.scope !== 'channel' || typeof address.channel !== 'number') return []
  return [
    {
      id: 'home',
      kind: 'home',
      label: `Set the home channel of ${owner.name} to ${address.channel}`,
      edits: [{ type: 'controller-set', controller: owner.id, set: { homeChannel: address.channel } }],
    },
  ]
}

function together(context: CheckContext, drafts: readonly Draft[]): Draft {
  const { rig } = context
  const [first] = drafts
  const ids = new Set(drafts.map(({ about }) => about))
  const mappings: Mapping[] = rig.mappings.filter(({ id }) => ids.has(id))
  const senders = [...new Set(drafts.flatMap((draft) => draft.senders))]
  const destinations = first?.destinations ?? []
  const addresses = distinctAddresses(drafts.flatMap((draft) => draft.addresses))
  const names = shortListed(mappings.map((mapping) => parameterWords(rig, mapping)))
  const where = destinationWords(rig, destinations)
  const common = { senders, destinations, addresses, about: first?.cause ?? '' }
  if (first?.severity === 'error') {
    const [sender] = first.senders
    const loss = sender && destinations[0] ? lossAt(rig, sender, destinations[0]) : null
    const why = sender && loss ? lossWords(rig, sender.place.controller, destinations[0] ?? '', loss) : ''
    return {
      ...common,
      severity: 'error',
      message: `${senderWords(rig, senders)} ${verb(placeCount(senders), 'sends', 'send')} for ${mappings.length} things at ${where} (${names}), but nothing arrives: ${why}.`,
    }
  }
  const resolved = resolveMappings(rig, mappings)
  const owner = rigIndex(rig).controllers.get(senders[0]?.place.controller ?? '')
  const learned = addresses[0]?.scope === 'channel' ? addresses[0].channel : null
  return {
    ...common,
    severity: 'warning',
    message: `${owner?.name ?? ''} sends on its home channel ${owner?.homeChannel ?? ''}, but ${where} learned ${mappings.length} things of it on channel ${learned}: ${names}.`,
    cures: () => [...homeFix(context, resolved), ...teachFixes(context, resolved)],
  }
}

const parameterWords = (rig: Rig, mapping: Mapping): string =>
  mappingParameter(rig, mapping)?.parameter.name ?? ''

/** What a mapped control sends does not arrive, or arrives as another address than its parameter takes. */
export const unheard: Rule = {
  id: 'unheard',
  title: 'Not heard',
  topic: 'lessons',
  reach: 'mapping',
  safe: ['teach', 'follow'],
  find: (context) => context.resolved().flatMap((resolved) => draftOf(context, resolved) ?? []),
  together,
}
