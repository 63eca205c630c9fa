import { assignmentsOf, type Id, type Rig } from '#core/rig'

/** The names of controllers among some whose templates send SysEx: MMC is SysEx too. */
export const sentSysexBy = (rig: Rig, among: ReadonlySet<Id>): string[] =>
  rig.controllers.flatMap((controller) =>
    among.has(controller.id) &&
    [...assignmentsOf(controller)].some(({ assignment }) =>
      assignment.messages.some(({ kind }) => kind === 'sysex' || kind === 'mmc'),
    )
      ? [controller.name]
      : [],
  )
