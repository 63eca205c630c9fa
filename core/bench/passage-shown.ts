import type { Id, Passage, Showing } from '../rig'

/**
 * The passage that is shown: the only one of which every controller shows all that it says. Null where none or several are,
 * or where passages say nothing of controllers.
 */
export function passageShown(
  passages: readonly Passage[],
  showingOf: (controller: Id) => Showing | undefined,
): Passage | null {
  const isShown = ({ showing }: Passage): boolean =>
    showing.length > 0 &&
    showing.every(({ controller, template, layers }) => {
      const now = showingOf(controller)
      return (
        now?.template === template &&
        layers.every(({ stack, layer }) => (now.layers[stack] ?? null) === layer)
      )
    })
  const [only, ...others] = passages.filter(isShown)
  return only && others.length === 0 ? only : null
}
