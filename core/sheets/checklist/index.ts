import type { Rig } from '../../rig'
import { columns, figure, numeral, tickBox, words, type Section, type SheetDocument } from '../document'
import { computerSteps } from './computers'
import { boxSteps, controllerSteps } from './controllers'
import { destinationSteps, lastTest } from './destinations'
import type { StepGroup } from './step'

export type { Step, StepGroup } from './step'

/** Everything to do when a rig is set up, in the order of doing. */
export const setUpSteps = (rig: Rig): StepGroup[] =>
  [
    ...computerSteps(rig),
    ...controllerSteps(rig),
    ...boxSteps(rig),
    ...destinationSteps(rig),
    ...lastTest(rig),
  ].filter(({ steps }) => steps.length > 0)

/** The set-up as a list to tick, with what the player added to each step. */
export function checklist(rig: Rig): SheetDocument {
  const said = new Map(rig.checklist.map((each) => [each.step, each]))
  const groups = setUpSteps(rig)
  const all = groups.flatMap(({ steps }) => steps)
  const done = all.filter(({ id }) => said.get(id)?.done).length
  const sections = groups.map(({ heading, steps }): Section => ({
    heading,
    table: {
      columns: columns({ figures: 'Order' }, 'Done', 'What to do', 'Where', 'Your words'),
      rows: steps.map(({ id, text, at, lead }, index) => ({
        cells: [
          numeral(index + 1),
          tickBox(said.get(id)?.done === true),
          words(text),
          figure(at),
          words(said.get(id)?.memo ?? ''),
        ],
        step: id,
        ...(lead ? { lead } : {}),
      })),
    },
  }))
  return {
    title: 'Set-up checklist',
    subtitle: rig.name,
    facts: all.length === 0 ? [] : [{ label: 'Done', value: `${done} of ${all.length}` }],
    sections:
      sections.length > 0
        ? sections
        : [
            {
              heading: 'Nothing to set up',
              note: 'The rig is empty: add a controller and a destination in Rig.',
            },
          ],
  }
}
