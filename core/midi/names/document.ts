/**
 * The names of one instrument, as a MIDI Name Document holds them (MIDI 1.0 XML names). Numbers are as sent:
 * notes and programs 0–127, controllers 0–127, pairs 0–31, RPN and NRPN 0–16383.
 */
export interface NameDocument {
  author: string
  manufacturer: string
  model: string
  controls: readonly NamedControl[]
  notes: readonly NamedValue[]
  banks: readonly NamedBank[]
}

export interface NamedValue {
  number: number
  name: string
}

export const CONTROL_TYPES = ['7bit', '14bit', 'RPN', 'NRPN'] as const

export interface NamedControl extends NamedValue {
  type: (typeof CONTROL_TYPES)[number]
  /** The values it takes, as sent; null where the document says nothing. */
  min: number | null
  max: number | null
  values: readonly NamedValue[]
}

export interface NamedBank {
  name: string
  /** What selects it: controllers 0 and 32; null where it is not selected. */
  select: { msb: number; lsb: number } | null
  /** Its presets; `label` is what the display shows. */
  patches: ReadonlyArray<NamedValue & { label: string }>
}
