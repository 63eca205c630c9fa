import type { LineChecked } from '../../rig'
import type { LineReport } from './check'

const MOST_CAUSES = 64
const MOST_LETTERS = 120
/** What came of something that the hardware no longer has. */
const NO_LONGER_THERE = 'nothing: it is no longer there'

/** What of a line check is kept in the rig, made at a time (ISO 8601, UTC). */
export const lineCheckedOf = ({ lines, causes }: LineReport, at: string): LineChecked => ({
  at,
  lines: lines.flatMap(({ state, place, gesture, came }) =>
    state === 'not-touched'
      ? []
      : [
          {
            template: place.template,
            layer: place.layer,
            gesture,
            came: state === 'gone' ? NO_LONGER_THERE : state === 'differs' ? (came ?? '') : null,
          },
        ],
  ),
  causes: causes.slice(0, MOST_CAUSES).map(({ text }) => shortened(text)),
})

const shortened = (text: string): string =>
  text.length <= MOST_LETTERS ? text : `${text.slice(0, MOST_LETTERS - 1)}…`
