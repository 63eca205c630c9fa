import type { DestinationStarter, Started } from '#core/rig'

const controls = (count: number): string => (count === 1 ? '1 control sends' : `${count} controls send`)

/** How something new is joined, or what is missing for that, as a sentence. */
function joinedWords({ joined, ways }: Started, nothing: string): string {
  if (joined !== null) return `It is cabled ${joined}.`
  return ways > 1 ? 'There are several ways to cable it: choose one in the rig.' : nothing
}

/** What has come of adding a controller, in sentences. */
export function controllerStarted(started: Started & { given: number; left: number }): string {
  const { name, given, left } = started
  const sends = given > 0 ? ` ${controls(given)} at once.` : ''
  const rest = left > 0 ? ` ${left} found no free number.` : ''
  return `${name} is there.${sends}${rest} ${joinedWords(started, 'There is nothing to cable it to yet.')}`
}

/** The same of a destination. */
export const destinationStarted = (started: Started): string =>
  `${started.name} is there. ${joinedWords(started, 'It hears nothing yet: there is no controller to cable it to.')}`

const SHOWN_GROUPS = 40

/** What a starter brings, by group, for a look before it is added. */
export function groupsOf(
  starter: DestinationStarter,
  sizes: Readonly<Record<string, number>>,
): Array<{ name: string; parameters: string }> {
  const groups = new Map<string, string[]>()
  for (const { path, name } of starter.make(sizes).parameters ?? []) {
    const group = path.join(' · ')
    groups.set(group, [...(groups.get(group) ?? []), name])
  }
  return [...groups]
    .slice(0, SHOWN_GROUPS)
    .map(([name, parameters]) => ({ name, parameters: parameters.join(', ') }))
}
