import { emit } from '../../addresses'
import { mappingState, moverName, relearnList } from '../../mappings'
import { printTag } from '../../midi'
import {
  claimWords,
  findGesture,
  hearingWords,
  memoOf,
  parameterName,
  parameterOf,
  rigIndex,
  type Destination,
  type Id,
  type Rig,
} from '../../rig'
import type { Step, StepGroup } from './step'

/** The controllers that each destination hears, by its id. */
const heardBy = memoOf((rig: Rig) => {
  const heard = new Map<Id, Set<Id>>()
  for (const { bus, sender } of emit(rig))
    heard.set(bus.destination, (heard.get(bus.destination) ?? new Set()).add(sender.place.controller))
  return heard
})

const namesOf = (rig: Rig, ids: ReadonlySet<Id> | undefined): string[] =>
  rig.controllers.filter(({ id }) => ids?.has(id)).map(({ name }) => name)

function portSteps(rig: Rig, destination: Destination): Step[] {
  const lead = { kind: 'destination', id: destination.id } as const
  const opened = destination.ports.flatMap(({ opens }) => {
    const computer = opens && rig.computers.find(({ id }) => id === opens.computer)
    const port = computer?.ports.find(({ id }) => id === opens?.port)
    return computer && port ? [{ computer, port }] : []
  })
  const computers = new Set(opened.map(({ computer }) => computer))
  const closed = [...computers].flatMap(({ ports }) =>
    ports.filter((port) => !opened.some((each) => each.port === port)),
  )
  return [
    ...opened.map(({ port }) => ({
      id: `${destination.id}/opens/${port.id}`,
      text: 'Switch this input on',
      at: port.name,
      lead,
    })),
    ...closed.map((port) => ({
      id: `${destination.id}/closed/${port.id}`,
      text: 'Leave this input off',
      at: port.name,
      lead,
    })),
  ]
}

function hearingSteps(destination: Destination): Step[] {
  const { id, hears, ports, kind, unit } = destination
  const lead = { kind: 'destination', id } as const
  const words = hearingWords(hears.playing, ports.length)
  const isHardware = kind === 'synth' || kind === 'drum-machine'
  return [
    ...(hears.settable || isHardware
      ? [{ id: `${id}/hears`, text: `Set what it listens to: it ${words}`, at: '', lead }]
      : []),
    ...(unit
      ? [
          {
            id: `${id}/local`,
            text: unit.localControl
              ? 'Set local control on: its keys sound it directly'
              : 'Set local control off: its keys are to go through the rig only',
            at: '',
            lead,
          },
        ]
      : []),
  ]
}

const claimSteps = ({ id, claims }: Destination): Step[] =>
  claims.map((claim) => ({
    id: `${id}/claim/${claim.id}`,
    text: `Switch on ${claim.function}: it ${claimWords(claim)}`,
    at: '',
    lead: { kind: 'destination', id },
  }))

function routeSteps(rig: Rig, destination: Destination): Step[] {
  const host = destination.inside === null ? undefined : rigIndex(rig).destinations.get(destination.inside)
  const from = namesOf(rig, heardBy(rig).get(destination.id))
  const lead = { kind: 'destination', id: destination.id } as const
  return [
    ...(host
      ? [
          {
            id: `${destination.id}/arm`,
            text: `In ${host.name}, put it on a track that takes MIDI in, and arm or monitor that track`,
            at: '',
            lead,
          },
        ]
      : []),
    {
      id: `${destination.id}/sources`,
      text:
        from.length > 0
          ? `It is to hear ${from.join(', ')} and nothing else`
          : 'It hears no controller of this rig',
      at: '',
      lead,
    },
  ]
}

function scopeSteps(rig: Rig, destination: Destination): Step[] {
  const [first] = rig.passages
  const wanted = first?.scopes.find((each) => each.destination === destination.id)?.scope
  const scope = destination.scopes.find(({ id }) => id === wanted)
  return scope && first
    ? [
        {
          id: `${destination.id}/scope`,
          text: `Open what the show begins with (${first.name})`,
          at: scope.name,
          lead: { kind: 'destination', id: destination.id },
        },
      ]
    : []
}

/** What would be set off by a controller that is put away, were it plugged in. */
function awaySteps(rig: Rig, destination: Destination): Step[] {
  return rig.controllers.flatMap((controller): Step[] => {
    if (controller.inUse) return []
    const count = rig.mappings.filter(
      ({ destination: id, gesture, learnedAt }) =>
        id === destination.id && learnedAt !== null && gesture?.startsWith(`${controller.id}/`),
    ).length
    return count === 0
      ? []
      : [
          {
            id: `${destination.id}/away/${controller.id}`,
            text: `Keep ${controller.name} unplugged: ${count === 1 ? 'one old mapping still answers' : `${count} old mappings still answer`} to it`,
            at: '',
            lead: { kind: 'destination', id: destination.id },
          },
        ]
  })
}

function stepsOf(rig: Rig, destination: Destination, toTeach: ReadonlyMap<Id, number>): Step[] {
  const lead = { kind: 'destination', id: destination.id } as const
  const teach = toTeach.get(destination.id) ?? 0
  return [
    ...portSteps(rig, destination),
    ...hearingSteps(destination),
    ...claimSteps(destination),
    ...routeSteps(rig, destination),
    ...scopeSteps(rig, destination),
    ...awaySteps(rig, destination),
    ...(teach === 0
      ? []
      : [
          {
            id: `${destination.id}/teach`,
            text: `Teach it ${teach} ${teach === 1 ? 'parameter' : 'parameters'}: see the sheet Teach again`,
            at: '',
            lead,
          },
        ]),
    ...(destination.feedback
      ? [
          {
            id: `${destination.id}/feedback`,
            text: 'Let it send back to the controllers, so that their lights follow',
            at: '',
            lead,
          },
        ]
      : []),
  ]
}

/** What to do at each destination: inputs, what it hears, host protocols, routing, scope, what must be off, what to teach. */
export function destinationSteps(rig: Rig): StepGroup[] {
  const toTeach = new Map(relearnList(rig).map(({ destination, lines }) => [destination.id, lines.length]))
  return rig.destinations.map((destination) => ({
    heading: destination.name,
    steps: stepsOf(rig, destination, toTeach),
  }))
}

/** For each controller that moves something at a destination one movement that shows that it arrives. */
export function lastTest(rig: Rig): StepGroup[] {
  const seen = new Set<string>()
  const steps = rig.mappings.flatMap((mapping): Step[] => {
    const found = mapping.gesture === null ? null : findGesture(rig, mapping.gesture)
    const destination = rigIndex(rig).destinations.get(mapping.destination)
    const parameter = destination ? parameterOf(destination, mapping.parameter) : null
    const pair = `${found?.controller.id} ${mapping.destination}`
    if (!found || !destination || !parameter || seen.has(pair)) return []
    const { agreement, meeting } = mappingState(rig, mapping)
    const [address] = meeting
    if (agreement !== 'agrees' || !address) return []
    seen.add(pair)
    return [
      {
        id: `test/${found.controller.id}/${destination.id}`,
        text: `Move ${moverName(rig, mapping) ?? ''} on ${found.controller.name}: ${parameterName(parameter)} of ${destination.name} must move`,
        at: printTag(address),
        lead: { kind: 'parameter', destination: destination.id, parameter: parameter.id },
      },
    ]
  })
  return steps.length === 0 ? [] : [{ heading: 'Last test', steps }]
}
