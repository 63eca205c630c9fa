import type { Step } from '#core/rig'
import type { VersionEntry } from '~/storage/versions'
import type { Point } from './points'
import { shortly } from './times'

/**
 * A point of the history as the player knows it: “Before the tour”, with the time.
 *
 * @param isEnd A point between two edits is named by the one before it, not by the one after.
 */
export function pointName(
  point: Point,
  past: ReadonlyArray<Pick<Step, 'label' | 'at'>>,
  versions: readonly VersionEntry[],
  isEnd = false,
): string {
  switch (point.kind) {
    case 'step': {
      const step = past[isEnd ? point.count - 1 : point.count]
      if (!step) return isEnd ? 'the first edit' : 'the last edit'
      const when = step.at === undefined ? '' : `, ${shortly(step.at)}`
      return `${isEnd ? 'after' : 'before'} “${step.label}”${when}`
    }
    case 'version': {
      const version = versions.find(({ id }) => id === point.id)
      if (!version) return 'a version'
      return `${version.name === null ? 'kept by itself' : `“${version.name}”`}, ${shortly(version.at)}`
    }
    case 'shelf':
    case 'file':
      return `“${point.name}”`
  }
}
