import type { Step } from '#core/rig'
import type { Point } from '~/stores/history'
import type { VersionEntry } from '~/storage/versions'
import { shortly } from './times'

/** A point of the history as the player knows it: “Before the tour”, with the time. */
export function pointName(
  point: Point,
  past: ReadonlyArray<Pick<Step, 'label' | 'at'>>,
  versions: readonly VersionEntry[],
): string {
  switch (point.kind) {
    case 'step': {
      const step = past[point.count - 1]
      if (!step) return 'the first edit that is kept'
      return `“${step.label}”${step.at === undefined ? '' : `, ${shortly(step.at)}`}`
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
