import type { Passing } from '#core/bench'
import type { SittingLine } from '#core/bench/teach'
import { parameterName, parameterOf, rigIndex, type Rig } from '#core/rig'
import { valueText } from '#core/values'

/** What a destination did with what was sent to it, as a sentence. */
export function moveOf(
  rig: Rig,
  { destination: { id }, line }: SittingLine,
  passed: readonly Passing[],
): string {
  const destination = rigIndex(rig).destinations.get(id)
  const effects = passed.flatMap(({ arrived }) =>
    arrived.filter((each) => each.destination === id).flatMap((each) => each.effects),
  )
  const own = effects.flatMap((effect) =>
    (effect.kind === 'moves' || effect.kind === 'acts') && effect.mapping === line.mapping.id ? [effect] : [],
  )
  const [first] = own
  const parameter = destination && first ? parameterOf(destination, first.parameter) : null
  if (!first || !parameter) return 'Nothing moved.'
  const name = parameterName(parameter)
  const values = own.flatMap((effect) => (effect.kind === 'moves' ? [effect.to] : []))
  if (values.length === 0) return `${name} was set off.`
  const [low, high] = [Math.min(...values), Math.max(...values)]
  return low === high
    ? `${name} went to ${valueText(parameter, low)}.`
    : `${name} went from ${valueText(parameter, low)} to ${valueText(parameter, high)}.`
}
