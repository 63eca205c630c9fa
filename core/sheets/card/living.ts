import { controlName, modelOf, plain, type Control, type Controller, type Rig, type Showing } from '../../rig'
import { labelRooms } from '../drawing'
import { cardControls } from './card'
import { fitted, LEADING, type Fitted } from './fit'

/** A control on the screen beside the hardware: what it moves now, and where that is written, in mm on the surface. */
export interface LivingControl {
  control: Control
  /** What it moves, in the words of sheets: “Destination: group · name”. */
  does: readonly string[]
  writing: Fitted
  /** Middle of the writing, the top of its first line, and the base line of the value below it. */
  x: number
  top: number
  valueAt: number
}

/** Heights of type in mm, as large as there is room: it is read from where one plays. */
const SIZES = [6, 5, 4.2, 3.6, 3, 2.5, 2.1]
/** The value stands below in a type of this height, in mm. */
export const VALUE_SIZE = 4
const VALUE_LINE = VALUE_SIZE * LEADING
/** Labels are placed in px; so many px of theirs are 1 mm here. */
const PX_A_MM = 13 / 3

/** “Destination: group · name” as it is read at a glance: the name alone. */
const atAGlance = (does: string): string => does.split(' · ').at(-1)?.split(': ').at(-1) ?? does

/** What every control of a controller moves by what is shown now, set as large as there is room. */
export function livingCard(rig: Rig, controller: Controller, showing: Showing): LivingControl[] {
  const { surface } = modelOf(rig, controller)
  const rooms = labelRooms(surface.controls, PX_A_MM, surface)
  return cardControls(rig, controller, [{ name: '', showing }]).map(
    ({ control, lines }, index): LivingControl => {
      const room = rooms[index]
      const does = [...new Set(lines.flatMap((line) => line.does))]
      const [width, top, height] =
        room?.side === 'below'
          ? [room.width, room.bottom, room.room].map((px) => px / PX_A_MM)
          : [control.place.w, control.place.y, control.place.h]
      const wanted = [
        { text: plain(controlName(control)), face: 'bold' as const },
        ...(does.length === 0
          ? []
          : [{ text: plain(does.map(atAGlance).join(', ')), face: 'plain' as const }]),
      ]
      const writing = fitted(wanted, (width ?? 0) - 1, (height ?? 0) - VALUE_LINE, SIZES)
      const block = writing.lines.length * writing.size * LEADING + VALUE_LINE
      const start = room?.side === 'below' ? (top ?? 0) + 0.8 : (top ?? 0) + ((height ?? 0) - block) / 2
      return {
        control,
        does,
        writing,
        x: control.place.x + control.place.w / 2,
        top: start,
        valueAt: start + block - VALUE_LINE * 0.25,
      }
    },
  )
}
