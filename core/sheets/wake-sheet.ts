import { lightInit, lightInitBytes } from '../lights'
import { hexOf } from '../midi'
import { controlsOf, gestureName, modelOf, powerUpShowing, type Controller, type Rig } from '../rig'
import { columns, figure, numeral, row, words, type Section, type SheetDocument } from './document'

function sectionOf(rig: Rig, controller: Controller): Section[] {
  const model = modelOf(rig, controller)
  if (!model.abilities.lights || !controller.inUse) return []
  const showing = Object.fromEntries(rig.controllers.map((each) => [each.id, powerUpShowing(each)]))
  const { messages, unset } = lightInit(rig, [controller], showing)
  const rows = messages.map((message, index) => {
    const control = controlsOf(model).get(message.control)
    return row(
      [
        numeral(index + 1),
        words(control ? gestureName(control, control.gestures[0] ?? 'press') : ''),
        figure(message.text),
        numeral(message.value),
        figure(hexOf(lightInitBytes(message))),
      ],
      { kind: 'controller', id: controller.id },
    )
  })
  const left = unset.length === 0 ? '' : ` ${unset.length} lights cannot be set from outside.`
  return [
    {
      heading: controller.name,
      note: `As it is when switched on: ${messages.length} messages, ${messages.length * 3} bytes.${left}`,
      table: {
        columns: columns({ figures: 'Order' }, 'Light', 'Message', { figures: 'Value' }, 'Bytes'),
        rows,
      },
    },
  ]
}

/** The messages that set every light when the rig is switched on, controller by controller. */
export function wakeSheet(rig: Rig): SheetDocument {
  const sections = rig.controllers.flatMap((controller) => sectionOf(rig, controller))
  return {
    title: 'Wake sequence',
    subtitle: rig.name,
    facts: [],
    sections:
      sections.length > 0
        ? sections
        : [{ heading: 'No lights', note: 'No controller in use has lights that can be set.' }],
  }
}
