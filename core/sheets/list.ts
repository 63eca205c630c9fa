import type { Rig } from '../rig'
import { destinationMap } from './destination-map'
import type { SheetDocument } from './document'
import { lightKey } from './light-key'
import { relearnSheet } from './relearn-sheet'

/** A sheet as the list of sheets offers it. */
export interface OfferedSheet {
  /** The same as long as what it is about is there. */
  id: string
  /** What it is called in the list. */
  name: string
  /** What its file is called, before the extension. */
  fileName: string
  make: () => SheetDocument
}

/** A kind of sheet: which of its sheets a rig has. */
interface SheetKind {
  id: string
  /** The heading that its sheets stand under. */
  heading: string
  of: (rig: Rig) => OfferedSheet[]
}

const WHOLE = 'Of the whole rig'

/** A sheet of the whole rig. */
const ofWhole = (id: string, name: string, make: (rig: Rig) => SheetDocument): SheetKind => ({
  id,
  heading: WHOLE,
  of: (rig) => [{ id, name, fileName: name, make: () => make(rig) }],
})

const destinationMaps: SheetKind = {
  id: 'map',
  heading: 'Destination maps',
  of: (rig) =>
    rig.destinations.map(({ id, name }) => ({
      id: `map ${id}`,
      name,
      fileName: `${name} map`,
      make: () => destinationMap(rig, id),
    })),
}

/** Every kind of sheet, in the order in which they are offered. To add one: write its file, and a line here. */
export const SHEET_KINDS: readonly SheetKind[] = [
  destinationMaps,
  ofWhole('teach', 'Teach again', relearnSheet),
  ofWhole('lights', 'Light key', lightKey),
]

/** The sheets that a rig has, under their headings; headings without a sheet are left out. */
export function sheetsOf(rig: Rig): Array<{ heading: string; sheets: OfferedSheet[] }> {
  const groups = new Map<string, OfferedSheet[]>()
  for (const { heading, of } of SHEET_KINDS) {
    const sheets = of(rig)
    if (sheets.length > 0) groups.set(heading, [...(groups.get(heading) ?? []), ...sheets])
  }
  return [...groups].map(([heading, sheets]) => ({ heading, sheets }))
}
